"""Outlines: the geometry library's areas and perimeters against closed forms, and what is no outline."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import Inconsistent
from elvarn.core.port.outline import hours_of, outline_of, shape_outline, turned
from elvarn.core.port.section import DShape, Ellipse, Oval, Round, RoundedRectangle, hydraulic_diameter
from elvarn.core.port.stations import integrated_volume

SHAPES = [
    Round(0.042),
    Oval(0.035, 0.045),
    Ellipse(0.050, 0.036),
    RoundedRectangle(0.045, 0.030, 0.008),
    RoundedRectangle(0.045, 0.030, 0.0),
    DShape(0.050, 0.040),
    DShape(0.050, 0.015),
]


@pytest.mark.independent
@pytest.mark.parametrize("section", SHAPES, ids=lambda one: type(one).__name__)
def test_an_outline_drawn_from_sizes_measures_as_the_closed_form(section):
    """Closed forms of `section` against GEOS on the drawn outline; chords lie inside, by 2 in 100,000 at most."""
    outline = shape_outline(section)
    assert outline.area == pytest.approx(section.area, rel=3e-5)
    assert outline.perimeter == pytest.approx(section.perimeter, rel=1e-5)
    assert hydraulic_diameter(outline) == pytest.approx(hydraulic_diameter(section), rel=4e-5)


@pytest.mark.independent
def test_a_volume_between_traced_outlines_is_that_of_the_frustum():
    """A cone of 44 into 40 mm over 310 mm: pi h (R² + R r + r²)/3."""
    places = [0.310 * n / 4 for n in range(5)]
    areas = [shape_outline(Round(0.044 - 0.004 * n / 4)).area for n in range(5)]
    exact = np.pi * 0.310 / 3 * (0.022**2 + 0.022 * 0.020 + 0.020**2)
    assert integrated_volume(places, areas) == pytest.approx(exact, rel=5e-5)


@pytest.mark.independent
@given(st.lists(st.floats(0.010, 0.030), min_size=5, max_size=40), st.floats(-3.1, 3.1), st.booleans())
def test_area_perimeter_and_centre_are_as_by_hand_whichever_way_round(radii, turn, backwards):
    """Shoelace, chords and the centroid's formula, in complex numbers."""
    angle = np.linspace(0, 2 * np.pi, len(radii), endpoint=False)
    points = np.array(radii) * np.exp(1j * (angle + turn)) + (0.1 - 0.05j)
    following = np.roll(points, -1)
    cross = (np.conj(points) * following).imag
    area, chords = cross.sum() / 2, np.abs(following - points).sum()
    centre = ((points + following) * cross).sum() / (6 * area)
    listed = np.column_stack([points.real, points.imag])
    found = outline_of(listed[::-1] if backwards else listed)
    assert found.area == pytest.approx(area, rel=1e-9)
    assert found.perimeter == pytest.approx(chords, rel=1e-9)
    assert found.centroid == pytest.approx([centre.real, centre.imag], abs=1e-9)
    assert shapely.LinearRing(found.points).is_ccw


def test_a_line_that_crosses_itself_is_refused_where_it_does():
    with pytest.raises(Inconsistent, match=r"crosses itself, 20\.0 mm across and 10\.0 mm up"):
        outline_of(np.array([(0, 0), (0.040, 0.020), (0.040, 0), (0, 0.020)]))


@pytest.mark.parametrize(
    ("points", "says"),
    [
        ([(0, 0), (0.04, 0)], "2 points are no outline"),
        ([(0, 0), (0.04, 0), (0.04, 0), (0, 0)], "2 points are no outline"),
        ([(0, 0), (0.04, 0), (0.08, 0)], "holds no area|crosses itself"),
        ([(0, 0), (0.04, 0), (0.04, float("nan"))], "nowhere that can be measured"),
        ([(0, 0), (40, 0), (40, 30)], "nowhere that can be measured"),
        ([0.1, 0.2, 0.3], "a list of places"),
    ],
)
def test_points_that_are_no_outline_are_refused(points, says):
    with pytest.raises(Inconsistent, match=says):
        outline_of(np.array(points))


def test_the_clock_runs_as_it_is_read_from_the_entry():
    points = np.array([(0, 1), (1, 0), (0, -1), (-1, 0), (0.5, 0.8660254)])
    assert hours_of(points, np.zeros(2)) == pytest.approx([0, 3, 6, 9, 1])


def test_turning_is_anticlockwise():
    assert turned(np.array([(1.0, 0.0)]), np.pi / 2) == pytest.approx(np.array([(0.0, 1.0)]))
