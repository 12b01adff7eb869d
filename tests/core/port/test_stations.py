"""What a runner holds by its stations, against cones and poured water; how it tapers."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import Inconsistent, NotEnoughData, OutOfRange
from elvarn.core.gas.discharge import round_area
from elvarn.core.port.stations import against_pouring, frustum_volume, integrated_volume, taper_findings, tapers


def cone(places, wide=0.046, narrow=0.040, length=0.31):
    return [round_area(wide + (narrow - wide) * x / length) for x in places]


@given(st.lists(st.floats(0.001, 0.309), max_size=9, unique=True))
def test_a_cone_holds_the_same_wherever_it_is_measured(inside):
    """Frusta are exact for a cone, Simpson's rule too: the area goes with the square of the place."""
    places = sorted({0.0, *(round(x, 4) for x in inside), 0.31})
    expected = frustum_volume(0.31, round_area(0.046), round_area(0.040))
    assert integrated_volume(places, cone(places)) == pytest.approx(expected, rel=1e-9)


def test_evenly_spaced_stations_of_a_bulge_are_taken_by_simpson():
    """Areas that go with the cube of the place are held exactly by the rule, never by frusta."""
    places = np.linspace(0, 0.2, 5)
    areas = 1e-3 + 0.02 * places**2 + 0.1 * places**3
    exact = 1e-3 * 0.2 + 0.02 * 0.2**3 / 3 + 0.1 * 0.2**4 / 4
    assert integrated_volume(places.tolist(), areas.tolist()) == pytest.approx(exact, rel=1e-12)
    uneven = [0, 0.05, 0.1, 0.16, 0.2]
    stacked = integrated_volume(uneven, [1e-3 + 0.02 * x**2 + 0.1 * x**3 for x in uneven])
    assert stacked != pytest.approx(exact, rel=1e-6)
    assert stacked == pytest.approx(exact, rel=0.02)


def test_taper_is_told_between_each_two_stations_and_where_it_is_too_much():
    found = tapers([0, 0.1, 0.2], [round_area(d) for d in (0.046, 0.043, 0.058)])
    assert found == pytest.approx([1.7188, -8.5783], abs=1e-3)
    [finding] = taper_findings(found)
    assert finding.text == "Between stations 2 and 3 it opens by 8.6°; up to 7° is usual."
    assert taper_findings([4.0, -7.0]) == []


def test_poured_and_integrated_volumes_that_part_are_told_with_what_to_check():
    assert against_pouring(232e-6, 230e-6) is None
    finding = against_pouring(242e-6, 230e-6)
    assert "hold 5.2 % more than was poured" in finding.text
    assert "length" in finding.text
    assert "4.3 % less" in against_pouring(220e-6, 230e-6).text


@pytest.mark.parametrize(
    ("places", "areas", "error", "words"),
    [
        ([0.0], [1e-3], NotEnoughData, "One station"),
        ([0.0, 0.1], [1e-3], Inconsistent, "differ in number"),
        ([0.0, 0.12, 0.1], [1e-3] * 3, Inconsistent, "Station 3 stands at 100 mm, the one before it at 120 mm"),
        ([0.0, 0.1], [1e-3, 0.0], OutOfRange, "area"),
    ],
)
def test_stations_that_can_not_be_are_refused(places, areas, error, words):
    for compute in (integrated_volume, tapers):
        with pytest.raises(error, match=words):
            compute(places, areas)
