"""The cut that levels the wall, against SciPy's integration and root finding and the closed form of a ring."""

from math import pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import brentq

from elvarn.core.errors import Inconsistent, NotEnoughData, OutOfRange
from elvarn.core.port.level import Gauged, ToCut, level_cuts
from elvarn.core.port.wall import LEAST_WALL, Place

AREA = 1337e-6
HIGH_CORE = (Gauged(12, 0.0032), Gauged(3, 0.0039), Gauged(6, 0.0046), Gauged(9, 0.0039))


def level_cut(area, walls, wanted):
    return level_cuts([ToCut(area, walls, wanted)])[0]


def wall_at(walls, hour):
    at = sorted((one.hour % 12, one.thickness) for one in walls)
    hours, thickness = zip(*at, strict=True)
    return np.interp(hour, hours, thickness, period=12)


def added(walls, level):
    """The area of a cut down to a wall [m²], by quadrature."""
    radius = sqrt(AREA / pi)

    def at(angle):
        depth = max(wall_at(walls, angle * 6 / pi) - level, 0.0)
        return radius * depth + depth**2 / 2

    return quad(at, 0, 2 * pi, limit=400, points=[pi / 2, pi, 3 * pi / 2])[0]


def test_a_core_that_sits_high_is_cut_at_its_floor():
    cut = level_cut(AREA, HIGH_CORE, 62e-6)
    level = brentq(lambda wall: added(HIGH_CORE, wall) - 62e-6, 0.003, 0.0046)
    assert cut.left == pytest.approx(level, abs=2e-6)
    assert cut.depth == pytest.approx(0.0046 - level, abs=2e-6)
    assert cut.hour == 6
    assert (cut.first, cut.last) == (pytest.approx(3.5, abs=0.2), pytest.approx(8.5, abs=0.2))
    assert cut.in_hand == pytest.approx(level - 0.003, abs=2e-6)
    assert cut.depths[0] == 0
    assert cut.depths[12] == cut.depth
    assert cut.depths[9] == pytest.approx(0.00425 - level, abs=2e-6)
    assert cut.area == 62e-6


@given(
    thick=st.lists(st.floats(0.0031, 0.009), min_size=4, max_size=4),
    wanted=st.floats(1e-6, 200e-6),
)
def test_the_area_is_what_was_asked_for_or_all_that_the_walls_give(thick, wanted):
    walls = [Gauged(hour, one) for hour, one in zip((3, 6, 9, 12), thick, strict=True)]
    cut = level_cut(AREA, walls, wanted)
    most = added(walls, 0.003)
    assert cut.area == pytest.approx(min(wanted, most), rel=3e-3)
    assert cut.in_hand >= -1e-9
    assert cut.left >= 0.003 - 1e-9
    assert added(walls, cut.left) == pytest.approx(cut.area, rel=6e-3, abs=2e-7)  # 0.2 mm²


@given(st.floats(1e-6, 300e-6))
def test_an_even_wall_is_opened_as_a_ring(wanted):
    cut = level_cut(AREA, [Gauged(hour, 0.02) for hour in (1, 4, 7, 10)], wanted)
    radius = sqrt(AREA / pi)
    assert cut.depth == pytest.approx(sqrt(radius**2 + wanted / pi) - radius, rel=1e-6)
    assert cut.first == cut.last


def test_water_behind_the_wall_leaves_less_to_take():
    dry = level_cut(AREA, [Gauged(6, 0.0050)], 0.1)
    wet = level_cut(AREA, [Gauged(6, 0.0050, Place.WATER)], 0.1)
    assert (dry.depth, wet.depth) == (pytest.approx(0.002), pytest.approx(0.001))
    assert wet.left == pytest.approx(LEAST_WALL[Place.WATER])
    assert wet.area < dry.area < 1.0


def test_a_shop_that_wants_more_wall_gets_it():
    assert level_cut(AREA, [Gauged(6, 0.005, least_stated=0.0045)], 0.1).depth == pytest.approx(0.0005)
    assert level_cut(AREA, [Gauged(6, 0.005, least_stated=0.001)], 0.1).depth == pytest.approx(0.002)


@pytest.mark.parametrize("wall", [0.003, 0.0021])
def test_nothing_comes_off_a_wall_at_or_below_its_least(wall):
    cut = level_cut(AREA, [Gauged(6, wall)], 50e-6)
    assert (cut.depth, cut.area) == (0, 0)


def test_a_side_that_nobody_gauged_is_not_cut():
    """One wall tells of a quarter of a round at either hand; two opposite ones of all."""
    alone = level_cut(AREA, [Gauged(6, 0.006)], 0.1)
    assert alone.depth == pytest.approx(0.003)
    assert [depth > 0 for depth in alone.depths] == [6 < n < 18 for n in range(24)]
    both = level_cut(AREA, [Gauged(6, 0.006), Gauged(12, 0.006)], 0.1)
    assert min(both.depths) == pytest.approx(0.003)
    corner = level_cut(AREA, [Gauged(12, 0.006), Gauged(3, 0.006)], 0.1)
    assert corner.depths[3] == pytest.approx(0.003)
    assert all(depth == 0 for depth in corner.depths[12:19])


def test_what_cant_be_is_refused():
    with pytest.raises(NotEnoughData, match="No wall was gauged here"):
        level_cut(AREA, [], 50e-6)
    with pytest.raises(OutOfRange, match="-50 mm² can't be added"):
        level_cut(AREA, HIGH_CORE, -50e-6)
    with pytest.raises(Inconsistent, match="Two walls stand at one hour"):
        level_cut(AREA, [Gauged(12, 0.004), Gauged(0, 0.005)], 50e-6)
    with pytest.raises(OutOfRange, match="The wall is 200 mm"):
        Gauged(12, 0.2)
    with pytest.raises(OutOfRange, match="The wall is 0 mm"):
        Gauged(12, 0.0)
    with pytest.raises(OutOfRange, match="bore of the same area"):
        level_cut(1.0, HIGH_CORE, 1e-6)
    with pytest.raises(OutOfRange, match="bore of the same area"):
        level_cut(AREA, HIGH_CORE, 1e200)
    with pytest.raises(OutOfRange, match="place on the clock is 13"):
        Gauged(13, 0.004)
