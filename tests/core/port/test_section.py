"""Sections against their outlines: points round each shape, area by the shoelace, perimeter by the chords."""

from math import pi

import numpy as np
import pytest

from elvarn.core.errors import Inconsistent, OutOfRange
from elvarn.core.port.section import DShape, Ellipse, Oval, Round, RoundedRectangle, equal_diameter, hydraulic_diameter

POINTS = 100_000


def arc(centre, radius, start, end):
    angle = np.linspace(np.radians(start), np.radians(end), POINTS)
    return centre + radius * np.exp(1j * angle)


def measured(*pieces):
    """Area and perimeter of a closed outline [mm², mm]."""
    outline = np.concatenate([np.atleast_1d(piece) for piece in pieces])
    following = np.roll(outline, -1)
    return abs(np.sum((np.conj(outline) * following).imag)) / 2, float(np.sum(np.abs(following - outline)))


def rounded(width, height, radius):
    x, y = width / 2 - radius, height / 2 - radius
    corners = ((x + 1j * y, 0), (-x + 1j * y, 90), (-x - 1j * y, 180), (x - 1j * y, 270))
    return [arc(centre, radius, start, start + 90) for centre, start in corners]


def cut_off(diameter, height):
    """A circle of which everything below the flat is gone."""
    radius = diameter / 2
    angle = np.degrees(np.arcsin((radius - height) / radius))
    return [arc(0, radius, angle, 180 - angle)]


OUTLINES = [
    (Round(0.042), [arc(0, 21, 0, 360)]),
    (Oval(0.035, 0.045), [arc(5j, 17.5, 0, 180), arc(-5j, 17.5, 180, 360)]),
    (RoundedRectangle(0.045, 0.030, 0.008), rounded(45, 30, 8)),
    (DShape(0.050, 0.040), cut_off(50, 40)),
    (DShape(0.050, 0.015), cut_off(50, 15)),
]


@pytest.mark.independent
@pytest.mark.parametrize(("section", "outline"), OUTLINES)
def test_area_and_perimeter_are_those_of_the_outline(section, outline):
    area, perimeter = measured(*outline)
    assert section.area * 1e6 == pytest.approx(area, rel=1e-6)
    assert section.perimeter * 1e3 == pytest.approx(perimeter, rel=1e-6)


def test_an_ellipse_is_the_same_both_ways_and_a_circle_where_its_axes_are_alike():
    angle = np.linspace(0, 2 * pi, POINTS)
    area, perimeter = measured(25 * np.cos(angle) + 18j * np.sin(angle))
    for ellipse in (Ellipse(0.050, 0.036), Ellipse(0.036, 0.050)):
        assert (ellipse.area * 1e6, ellipse.perimeter * 1e3) == pytest.approx((area, perimeter), rel=1e-6)
    assert Ellipse(0.04, 0.04).perimeter == pytest.approx(Round(0.04).perimeter)


def test_shapes_run_into_each_other_at_their_ends():
    circle = Round(0.04)
    for alike in (Oval(0.04, 0.04), RoundedRectangle(0.04, 0.04, 0.02), DShape(0.04, 0.04)):
        assert (alike.area, alike.perimeter) == pytest.approx((circle.area, circle.perimeter), rel=1e-6)
    assert RoundedRectangle(0.03, 0.05, 0.0).area == pytest.approx(0.0015)
    assert DShape(0.04, 0.02).area == pytest.approx(circle.area / 2)


def test_diameters_of_a_circle_are_its_own_and_those_of_a_slot_are_not_alike():
    assert hydraulic_diameter(Round(0.04)) == pytest.approx(0.04)
    assert equal_diameter(Round(0.04).area) == pytest.approx(0.04)
    slot = RoundedRectangle(0.08, 0.01, 0.0)
    assert hydraulic_diameter(slot) < equal_diameter(slot.area)


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: Oval(0.045, 0.035), "45 mm across and only 35 mm along"),
        (lambda: RoundedRectangle(0.045, 0.030, 0.016), "16 mm radius don't fit"),
        (lambda: RoundedRectangle(0.045, 0.030, -0.001), "don't fit"),
        (lambda: DShape(0.04, 0.05), "50 mm high"),
    ],
)
def test_sizes_that_contradict_each_other_are_refused_with_both(make, words):
    with pytest.raises(Inconsistent, match=words):
        make()


@pytest.mark.parametrize("make", [lambda: Round(0), lambda: Ellipse(0.04, -1), lambda: DShape(0.04, 0)])
def test_a_size_of_nothing_is_refused(make):
    with pytest.raises(OutOfRange):
        make()
