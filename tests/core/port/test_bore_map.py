"""The bore map: areas and gaps against a geometry library, the seat against points of a tilted disc, worth by hand."""

from math import cos, degrees, pi, radians, sin, sqrt

import numpy as np
import pytest
from shapely.affinity import scale
from shapely.geometry import Point

from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.path.passage import Geometry, estimated
from elvarn.core.path.throttle import left_open, open_fraction, wide_open_fraction
from elvarn.core.port.bore_map import (
    LEAST_LAND,
    Barrel,
    Change,
    barrel_loss,
    changes_of,
    closed_gap,
    hidden_from,
    mean_bore,
    most_bore,
    narrow_at,
    out_of_round,
    seals_at,
    seat_of,
    wanted_bores,
)

MAP = Barrel((0.0, 0.02, 0.045), (0.0735, 0.0735, 0.0735), 0.002, 0.02, 0.009, 0.003)


def ellipse(along: float, across: float, count: int) -> list[float]:
    """Diameters of an ellipse in `count` directions evenly round it [m]."""
    angles = [pi * n / count for n in range(count)]
    return [along * across / sqrt((across * cos(a)) ** 2 + (along * sin(a)) ** 2) for a in angles]


@pytest.mark.parametrize("count", [2, 4, 8])
def test_a_bore_out_of_round_has_the_area_of_its_ellipse(count):
    across = ellipse(0.0736, 0.0732, count)
    exact = scale(Point(0, 0).buffer(0.5, quad_segs=512), 0.0736, 0.0732).area
    assert pi / 4 * mean_bore(across) ** 2 == pytest.approx(exact, rel=2e-5)
    assert out_of_round(across) == pytest.approx(0.0004, rel=1e-6)


def test_a_closed_plate_leaves_what_lies_between_it_and_the_bore():
    oval = scale(Point(0, 0).buffer(0.5, quad_segs=512), 0.0736, 0.0732)
    plate = Point(0, 0).buffer(0.0366, quad_segs=512)
    assert closed_gap(ellipse(0.0736, 0.0732, 4)) == pytest.approx(oval.difference(plate).area, rel=0.01)
    assert closed_gap([0.07, 0.07]) == pytest.approx(0, abs=1e-12)


def test_nothing_gauged_has_no_mean():
    with pytest.raises(NotEnoughData):
        mean_bore([])
    with pytest.raises(NotEnoughData):
        out_of_round([])
    with pytest.raises(OutOfRange):
        mean_bore([0.07, 0.0])


def test_the_seat_is_where_a_tilted_disc_touches_the_bore():
    """Points of both faces of a plate that fills its bore, turned by the closed angle, against the axis."""
    bore, plate, tilt = 0.07, 0.003, radians(7)
    faces = [(sign * plate / 2, y) for sign in (1, -1) for y in np.linspace(-1, 1, 2001)]
    touching = []
    for face, y in faces:
        along = y * bore / 2 / cos(tilt)  # the plate's own long axis reaches the wall
        depth, height = along * sin(tilt) + face * cos(tilt), along * cos(tilt) - face * sin(tilt)
        if abs(height) >= bore / 2 - plate * sin(tilt):
            touching.append(depth)
    low, high = seat_of(0.02, bore, plate, 7)
    assert low <= 0.02 + min(touching) + 1e-5
    assert high >= 0.02 + max(touching) - 1e-5
    assert high - low == pytest.approx(max(touching) - min(touching), rel=0.02)


def test_beyond_an_angle_the_shaft_hides_the_plate():
    angle = hidden_from(0.06, 0.009, 6)
    assert degrees(np.arccos(0.15 * np.cos(np.radians(6)))) == pytest.approx(angle)
    assert open_fraction(0.06, 0.009, angle + 0.01, 6) == wide_open_fraction(0.06, 0.009)
    assert open_fraction(0.06, 0.009, angle - 1, 6) < wide_open_fraction(0.06, 0.009)
    with pytest.raises(OutOfRange):
        hidden_from(0.06, 0.07)


def test_what_is_left_open_is_the_least_of_stop_shaft_and_plate():
    assert left_open(0.06, 0.009, 0.003, 90, 6) == pytest.approx(0.8097327, rel=1e-6)  # checks.csv T10-12
    assert left_open(0.06, 0.003, 0.003, 90, 6) == pytest.approx(0.9363646, rel=1e-6)  # T10-14
    assert left_open(0.06, None, None, 90, 6) == pytest.approx(wide_open_fraction(0.06, 0.14 * 0.06))
    assert left_open(0.06, None, 0.003, 90, 6) == left_open(0.06, None, None, 90, 6)  # the usual shaft is thicker
    assert Barrel((0.0,), (0.06,), throttle=True).open_fraction == left_open(0.06, None, None, 90, 7)
    assert left_open(0.06, 0.009, 0.003, 75, 6) == pytest.approx(0.7292972, rel=1e-6)  # T10-09
    assert left_open(0.06, 0.009, 0.003, 93, 6) == left_open(0.06, 0.009, 0.003, 87, 6)
    assert left_open(0.06, 0.003, 0.003, 84, 6) < left_open(0.06, 0.003, 0.003, 90, 6)


def test_the_path_knows_the_stop_and_the_plate():
    open_wide = estimated("throttle", Geometry(0.06, shaft=0.009))
    short = estimated("throttle", Geometry(0.06, shaft=0.009, wide_open_deg=75.0, closed_deg=6.0))
    assert short.area / open_wide.area == pytest.approx(0.7292972 / 0.8097327, rel=1e-6)
    thick = estimated("throttle", Geometry(0.06, shaft=0.003, plate=0.009))
    assert thick.area == pytest.approx(open_wide.area)


def test_the_land_ends_the_bore():
    assert most_bore(0.07, 0.0035) == pytest.approx(0.07 + 2 * (0.0035 - LEAST_LAND))
    assert most_bore(0.07, 0.001) == 0.07
    with pytest.raises(OutOfRange):
        most_bore(0.07, 0)


def test_the_loss_of_a_plain_barrel_by_hand():
    """Entry 0.5 (Crane), the whole head at the exit, and a step to the open part and back for the plate."""
    area, f = pi / 4 * 0.06**2, 0.8097327
    low, high = barrel_loss(Barrel((0.0,), (0.06,), None, 0.0, 0.009, 0.003))
    assert low * area**2 == pytest.approx(0.5 + 1 + (1 / f - 1) ** 2, rel=1e-3)
    assert high * area**2 == pytest.approx(0.5 + 1 / f**2, rel=1e-3)
    plain = barrel_loss(Barrel((0.0,), (0.06,)))
    assert plain == (pytest.approx(1.5 / area**2), pytest.approx(1.5 / area**2))


def test_the_best_change_comes_first_and_each_is_worth_what_its_loss_says():
    found = changes_of(MAP)
    assert [one.change for one in found] == [Change.ENTRY, Change.BLADE]
    entry, blade = found
    assert (entry.was, entry.becomes) == (0.002, pytest.approx(0.15 * 0.0735))
    thick = Barrel(MAP.places, MAP.bores, 0.012, 0.02, 0.009, 0.006)
    assert changes_of(thick)[0].becomes == 0.006
    now, then = barrel_loss(MAP), barrel_loss(Barrel(MAP.places, MAP.bores, 0.15 * 0.0735, 0.02, 0.009, 0.003))
    ratios = [sqrt(a / b) - 1 for a, b in zip(now, then, strict=True)]
    assert entry.gain == pytest.approx(sum(ratios) / 2)
    assert entry.half == pytest.approx(entry.gain / 2)  # both readings agree: the least half-range
    assert blade.was == 0.009
    assert blade.becomes == 0.0045  # half of it; the plate is thinner
    assert 0 < blade.low < 0.04 < blade.high < 0.12  # the open part alone would say +11.6 %
    assert blade.half > blade.gain / 2


def test_an_entry_behind_a_tube_is_worth_what_the_step_is():
    """Crane TP-410: a contraction loses 0.5 (1 − A2/A1); behind a tube of the same bore nothing."""
    area = pi / 4 * 0.06**2
    behind = Barrel((0.0,), (0.06,), before=0.07)
    assert barrel_loss(behind)[0] * area**2 == pytest.approx(1 + 0.5 * (1 - (6 / 7) ** 2))
    assert changes_of(Barrel(MAP.places, MAP.bores, 0.002, before=0.0735)) == []
    assert changes_of(Barrel(MAP.places, MAP.bores, 0.002, before=0.0700)) == []
    [stepped] = changes_of(Barrel(MAP.places, MAP.bores, 0.002, before=0.085))
    [open_air] = changes_of(Barrel(MAP.places, MAP.bores, 0.002))
    assert stepped.gain < open_air.gain / 3


def test_a_stop_that_the_shaft_hides_is_worth_nothing():
    short = Barrel(MAP.places, MAP.bores, 0.012, 0.02, 0.009, 0.009, wide_open_deg=85)
    assert changes_of(short) == []
    far = Barrel(MAP.places, MAP.bores, 0.012, 0.02, 0.009, 0.009, wide_open_deg=70)
    [stop] = changes_of(far)
    assert (stop.change, stop.was, stop.becomes) == (Change.STOP, 70, 90)
    assert stop.low > 0


def test_narrow_places_are_opened_but_where_the_plate_seals():
    barrel = Barrel((0.0, 0.02, 0.022, 0.045), (0.0730, 0.0735, 0.0734, 0.0722), 0.012, 0.02, 0.009, 0.009)
    assert [seals_at(barrel, place) for place in barrel.places] == [False, True, True, False]
    assert wanted_bores(barrel) == pytest.approx([0.0735, 0.0735, 0.0734, 0.0735])
    assert narrow_at(barrel) == 3
    [narrow] = changes_of(barrel)
    assert (narrow.change, narrow.was, narrow.becomes) == (Change.NARROW, 0.0722, pytest.approx(0.0735))
    assert 0.005 < narrow.gain < 0.04
    [held] = changes_of(barrel, land_in=0.002, land_out=0.0022)
    assert held.becomes == pytest.approx(0.0722 + 0.0004)  # the land keeps the rest, and the entry as it is
    assert changes_of(barrel, land_in=0.001, land_out=0.001) == []


def test_an_adapter_is_held_against_a_straight_taper():
    adapter = Barrel((0.0, 0.010, 0.020), (0.066, 0.0645, 0.065), 0.01)
    assert adapter.open_fraction == 1
    assert wanted_bores(adapter) == pytest.approx([0.066, 0.0655, 0.065])
    assert narrow_at(adapter) == 1
    assert narrow_at(Barrel((0.0,), (0.066,))) == -1
    assert not seals_at(adapter, 0.01)


def test_an_entry_radius_is_held_by_its_land():
    [entry] = [one for one in changes_of(MAP, land_in=0.006) if one.change is Change.ENTRY]
    assert entry.becomes == pytest.approx(0.004)
    assert not any(one.change is Change.ENTRY for one in changes_of(MAP, land_in=0.003))


def test_a_barrel_has_a_bore():
    with pytest.raises(NotEnoughData):
        Barrel((), ())
    with pytest.raises(OutOfRange):
        Barrel((0.0,), (0.0,))
