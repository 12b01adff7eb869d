"""Openings laid over each other, against circles whose overlap has a closed form."""

from math import acos, pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.port.outline import shape_outline, turned
from elvarn.core.port.overlay import grown_to, laid_on, overlay
from elvarn.core.port.section import Ellipse, Oval, Round


def lens(r1, r2, d):
    """Area that two circles share (closed form, Weisstein: circle-circle intersection)."""
    a = r1**2 * acos((d**2 + r1**2 - r2**2) / (2 * d * r1))
    b = r2**2 * acos((d**2 + r2**2 - r1**2) / (2 * d * r2))
    return a + b - sqrt((-d + r1 + r2) * (d + r1 - r2) * (d - r1 + r2) * (d + r1 + r2)) / 2


@pytest.mark.independent
def test_a_shifted_circle_stands_in_the_stream_by_its_shift_at_its_hour():
    front, behind = shape_outline(Round(0.040)), shape_outline(Round(0.042)).moved([-0.003, 0])
    found = overlay(front, behind)
    assert found.open == pytest.approx(lens(0.020, 0.021, 0.003), rel=2e-5)
    assert found.in_stream == pytest.approx(pi * 0.020**2 - lens(0.020, 0.021, 0.003), rel=1e-3)
    # At three o'clock the larger circle ends at 18 mm: 2 mm inside the other.
    assert found.lip.depth == pytest.approx(0.002, abs=2e-6)
    assert found.lip.hour == pytest.approx(3.0, abs=0.02)
    # Its edge leaves the stream where the circles cross.
    crossing = acos((0.020**2 - 0.021**2 + 0.003**2) / (2 * 0.020 * 0.003))
    up = acos(-np.cos(crossing)) / (2 * pi) * 12
    assert (found.lip.first, found.lip.last) == pytest.approx((3 - up, 3 + up), abs=0.15)


@pytest.mark.independent
def test_circles_in_one_middle_step_back_evenly_and_lose_as_borda_and_carnot_say():
    found = overlay(shape_outline(Round(0.040)), shape_outline(Round(0.042)))
    assert found.lip is None
    assert found.clock == pytest.approx(np.full(96, 0.001), abs=2e-6)
    assert found.loss.value == pytest.approx((1 - (40 / 42) ** 2) ** 2, rel=1e-3)
    assert found.steps_back == pytest.approx(pi / 4 * (0.042**2 - 0.040**2), rel=1e-4)


def test_a_smaller_opening_behind_is_a_lip_all_round_and_costs_more_than_a_larger():
    smaller = overlay(shape_outline(Round(0.042)), shape_outline(Round(0.040)))
    assert (smaller.lip.first, smaller.lip.last) == (0, 12)
    assert smaller.lip.depth == pytest.approx(0.001, abs=2e-6)
    assert smaller.loss.low > overlay(shape_outline(Round(0.040)), shape_outline(Round(0.042))).loss.high


def test_a_lip_across_twelve_o_clock_is_told_as_one():
    found = overlay(shape_outline(Round(0.040)), shape_outline(Round(0.040)).moved([0, -0.001]))
    assert found.lip.first > 8
    assert found.lip.last < 4
    assert min(found.lip.hour, 12 - found.lip.hour) < 0.05


def test_openings_beside_each_other_are_not_laid():
    with pytest.raises(Inconsistent, match="don't overlap"):
        overlay(shape_outline(Round(0.040)), shape_outline(Round(0.040)).moved([0.1, 0]))


@pytest.mark.independent
@given(st.floats(-1.5, 1.5), st.floats(-0.1, 0.1), st.floats(-0.1, 0.1))
def test_an_outline_moved_with_its_bolt_holes_comes_back_by_them(turn, x, y):
    front = shape_outline(Oval(0.035, 0.045))
    marks = np.array([(-0.030, 0.025), (0.031, 0.024)])
    behind = front.moved([x, y], turn)
    laid = laid_on(behind, turned(marks, turn) + np.array([x, y]), front, marks)
    assert laid.apart == pytest.approx(0, abs=1e-9)
    assert laid.outline.points == pytest.approx(front.points, abs=1e-9)


def test_bolt_holes_in_the_other_order_turn_nothing_over():
    front = shape_outline(Round(0.040))
    marks = np.array([(-0.030, 0.025), (0.031, 0.024)])
    behind = shape_outline(Round(0.042)).moved([0.001, 0])
    laid = laid_on(behind, marks[::-1], front, marks)
    assert laid.apart == pytest.approx(0, abs=1e-12)
    assert laid.outline.centroid == pytest.approx([0.001, 0], abs=1e-9)


def test_other_holes_or_another_scale_lay_nothing():
    front = shape_outline(Round(0.040))
    marks = np.array([(-0.030, 0.0), (0.030, 0.0)])
    with pytest.raises(Inconsistent, match=r"lie 1\.5 mm beside each other"):
        laid_on(front, marks * 1.05, front, marks)


def test_bolt_holes_that_are_further_apart_say_by_how_much():
    front = shape_outline(Round(0.040))
    marks = np.array([(-0.030, 0.0), (0.030, 0.0)])
    assert laid_on(front, marks * 1.01, front, marks).apart == pytest.approx(0.0003)


def test_without_bolt_holes_it_lies_centre_on_centre_and_says_so():
    front = shape_outline(Round(0.040)).moved([0.5, 0.2])
    laid = laid_on(shape_outline(Round(0.042)), np.empty((0, 2)), front, np.empty((0, 2)))
    assert laid.apart is None
    assert laid.outline.centroid == pytest.approx(front.centroid)


@pytest.mark.parametrize(
    ("own", "other", "error"),
    [
        ([(0, 0), (1, 0)], [(0, 0)], NotEnoughData),
        ([(0, 0)], [(0, 0)], NotEnoughData),
        ([(0, 0), (0, 0)], [(0, 0), (0.05, 0)], Inconsistent),
    ],
)
def test_marks_that_lay_nothing_are_refused(own, other, error):
    circle = shape_outline(Round(0.040))
    with pytest.raises(error):
        laid_on(circle, np.array(own, float), circle, np.array(other, float))


@pytest.mark.independent
def test_a_circle_grown_to_an_area_is_the_circle_of_that_area():
    grown = grown_to(shape_outline(Round(0.040)), pi / 4 * 0.043**2)
    assert grown.area == pytest.approx(pi / 4 * 0.043**2, rel=1e-6)
    out = np.linalg.norm(grown.points, axis=1)
    assert (out.min(), out.max()) == pytest.approx((0.0215, 0.0215), abs=3e-6)


@pytest.mark.parametrize("area", [1.2e-3, 5e-3])
def test_no_line_is_scribed_inside_or_far_outside(area):
    with pytest.raises(Inconsistent, match="outside what is there"):
        grown_to(shape_outline(Ellipse(0.040, 0.044)), area)
