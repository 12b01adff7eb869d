"""Scales of pictures: known lengths, rectangles seen from aside, and pictures that have none."""

import numpy as np
import pytest

from elvarn.core.errors import Inconsistent, NotEnoughData, OutOfRange
from elvarn.core.port.outline import outline_of, shape_outline
from elvarn.core.port.scale import KnownLength, edge_within, scale_from_corners, scale_of
from elvarn.core.port.section import Round

DOTS = 600 / 25.4  # a millimetre at 600 dpi


def known(x1, y1, x2, y2, mm):
    return KnownLength((x1, y1), (x2, y2), mm / 1000)


def test_fifty_millimetres_of_1181_dots_are_600_dpi():
    scale = scale_of([known(100, 200, 1281.1, 200, 50)])
    assert 0.0254 / scale.dot(np.zeros(2)) == pytest.approx(600, abs=0.05)
    assert scale.differ is None
    # y runs down in a picture and up in an outline
    assert scale.metres(np.array([(0, DOTS)]))[0] == pytest.approx([0, -0.001], abs=1e-6)


def test_two_known_lengths_say_by_how_much_they_differ():
    scale = scale_of([known(0, 0, 1000, 0, 50), known(0, 0, 0, 1002, 50)])
    assert scale.differ == pytest.approx(0.002, abs=1e-5)
    assert scale.within >= 0.002


def test_a_picture_from_aside_is_refused_by_its_lengths():
    with pytest.raises(Inconsistent, match=r"differ by 4\.0 %: not taken straight from above"):
        scale_of([known(0, 0, 1000, 0, 50), known(0, 0, 0, 1040, 50)])


@pytest.mark.parametrize(
    ("lengths", "error", "says"),
    [
        ([], NotEnoughData, "no scale"),
        ([known(0, 0, 20, 0, 50)], NotEnoughData, "20 dots long"),
        ([known(0, 0, 500, 0, 0)], OutOfRange, "must be above 0"),
    ],
)
def test_a_scale_that_is_none_is_refused(lengths, error, says):
    with pytest.raises(error, match=says):
        scale_of(lengths)


def seen_from_aside(points):
    """Points of a plane [m, y up] as a camera above its right edge sees them [dots], by its own projection."""
    turn = np.radians(25)
    x, y = points[:, 0], points[:, 1]
    away = 0.4 + x * np.sin(turn)  # m from the camera
    return np.column_stack([2000 + 3000 * x * np.cos(turn) / away, 1500 - 3000 * y / away])


@pytest.mark.independent
def test_a_circle_photographed_from_aside_is_one_again_by_the_corners_of_a_card():
    """The picture is made by projecting from a camera; the homography has to undo it."""
    circle = shape_outline(Round(0.042)).moved([0.02, -0.03])
    card = np.array([(-0.05, 0.04), (0.035, 0.04), (0.035, -0.014), (-0.05, -0.014)])
    corners = [tuple(one) for one in seen_from_aside(card).tolist()]
    scale = scale_from_corners(corners, 0.085, 0.054)
    seen = outline_of(scale.metres(seen_from_aside(circle.points)))
    assert seen.area == pytest.approx(circle.area, rel=1e-6)
    assert seen.perimeter == pytest.approx(circle.perimeter, rel=1e-6)
    # without it the circle would be wrong by more than anybody would take
    straight = scale_of([KnownLength(corners[0], corners[3], 0.054)])
    assert abs(outline_of(straight.metres(seen_from_aside(circle.points))).area / circle.area - 1) > 0.05


@pytest.mark.parametrize(
    ("corners", "error"),
    [
        ([(0, 0), (100, 0), (100, 100)], NotEnoughData),
        ([(0, 0), (100, 0), (0, 100), (100, 100)], Inconsistent),
        ([(0, 0), (0, 100), (100, 100), (100, 0)], Inconsistent),
        ([(0, 0), (10, 0), (10, 10), (0, 10)], Inconsistent),
    ],
)
def test_corners_round_no_rectangle_are_refused(corners, error):
    with pytest.raises(error):
        scale_from_corners(corners, 0.085, 0.054)


def test_how_far_an_edge_may_lie_off_is_its_dots_and_its_scale():
    circle = shape_outline(Round(0.040))
    fine = scale_of([known(0, 0, 2000, 0, 2000 / DOTS)])
    edge = edge_within(circle, fine, 0.001 / DOTS)
    assert edge == pytest.approx(np.hypot(0.001 * 0.020, 0.35 * 0.001 / DOTS), rel=1e-3)
    assert edge * circle.perimeter / circle.area == pytest.approx(0.0025, abs=1e-4)
