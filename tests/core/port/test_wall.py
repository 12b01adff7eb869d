"""What wall a cut leaves, and how far it may go."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import OutOfRange
from elvarn.core.port.wall import LEAST_WALL, Material, Place, room, wall_left


def test_a_bore_opened_by_two_millimetres_takes_one_off_each_side():
    assert wall_left(0.005, 0.040, 0.042) == pytest.approx(0.004)
    assert wall_left(0.005, 0.040, 0.042, core_shift=0.0015) == pytest.approx(0.0025)
    assert wall_left(0.002, 0.040, 0.046) < 0


@given(st.floats(0.001, 0.02), st.sampled_from(list(Place)), st.floats(0, 0.01))
def test_what_may_be_cut_never_leaves_less_than_the_least(gauged, place, done):
    found = room(gauged, Material.ALUMINIUM, place, done)
    assert found.depth >= 0
    assert found.least == LEAST_WALL[place]
    if found.depth > 0:
        assert gauged - done - found.depth == pytest.approx(found.least)


def test_water_needs_more_than_a_wall_and_a_spot_less():
    depths = [room(0.006, Material.IRON, place).depth for place in (Place.SPOT, Place.WALL, Place.WATER)]
    assert depths == sorted(depths, reverse=True)
    assert len(set(depths)) == 3


@pytest.mark.parametrize(
    "ask",
    [
        lambda: room(0.004, Material.COMPOSITE),
        lambda: room(0.0, Material.ALUMINIUM),
        lambda: room(0.004, Material.ALUMINIUM, done=-0.001),
        lambda: wall_left(0.004, 0.04, 0.042, core_shift=-0.001),
    ],
)
def test_what_can_not_be_is_refused(ask):
    with pytest.raises(OutOfRange):
        ask()
