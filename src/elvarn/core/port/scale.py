"""The scale of a picture: known lengths in it, or a rectangle of known sides that is seen from aside."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, NotEnoughData, require_positive
from elvarn.core.port.outline import Outline

TAPPED_WITHIN = 1.0  # dots: an arrow key's care, or a tap's in a picture that is shown dot by dot
EDGE_WITHIN = 0.35  # dots: how far an edge that is found may lie off, and one that was found a little beside
AGREE_WITHIN = 0.005  # share: known lengths that differ by more are not seen straight from above
SHORTEST = 50.0  # dots: a length below it gives no scale


@dataclass(frozen=True)
class KnownLength:
    """Two places in the picture [dots] and how far they are apart [m]."""

    first: tuple[float, float]
    second: tuple[float, float]
    length: float

    @property
    def dots(self) -> float:
        """Distance in the picture [dots]."""
        return hypot(self.second[0] - self.first[0], self.second[1] - self.first[1])


@dataclass(frozen=True)
class Scale:
    """How a picture is measured: a matrix (3, 3) from dots to metres, x right and y up; the share by which a length may
    be off; the share by which two known lengths differ, None where there is one alone."""

    matrix: Array
    within: float
    differ: float | None

    def metres(self, dots: Array) -> Array:
        """Places (n, 2) [m] of places (n, 2) [dots]."""
        raised = np.column_stack([np.asarray(dots, float), np.ones(len(dots))]) @ self.matrix.T
        placed: Array = raised[:, :2] / raised[:, 2:]
        return placed

    def dot(self, at: Array) -> float:
        """What one dot measures [m] beside a place (2,) [dots]."""
        first, second = self.metres(np.array([at, at + np.array([1.0, 0.0])]))
        return float(np.linalg.norm(second - first))


def scale_of(lengths: Sequence[KnownLength], tapped_within: float = TAPPED_WITHIN) -> Scale:
    """The scale of a picture taken straight from above, from known lengths in it.

    Arguments: lengths; tapped_within [dots], how well each end was placed, scalar.
    Returns: the scale.
    Raises: NotEnoughData without one or for one too short to measure; OutOfRange for a length not above zero;
        Inconsistent where they differ by more than 0.5 %: the picture is not straight from above.
    Source: definition; what a length may be off: derivation, from how well its ends can be placed.
    """
    if not lengths:
        raise NotEnoughData("scale", "The picture has no scale.", "Mark two places and say how far they are apart.")
    for one in lengths:
        require_positive(length=one.length)
        if one.dots < SHORTEST:
            text = f"The known length is {one.dots:.0f} dots long in the picture."
            raise NotEnoughData("scale", text, f"Mark places further apart: {SHORTEST:.0f} dots at least.")
    each = np.array([one.length / one.dots for one in lengths])
    differ = float(each.max() / each.min() - 1) if len(each) > 1 else None
    if differ is not None and differ > AGREE_WITHIN:
        text = f"The known lengths differ by {100 * differ:.1f} %: not taken straight from above, or one is wrong."
        raise Inconsistent("scale", text, "Mark the four corners of a rectangle, or take the picture again.")
    longest = max(one.dots for one in lengths)
    size = float(np.average(each, weights=[one.dots for one in lengths]))
    within = max(differ or 0.0, 2 * tapped_within / longest)
    return Scale(np.diag([size, -size, 1.0]), within, differ)


def scale_from_corners(
    corners: Sequence[tuple[float, float]], width: float, height: float, tapped_within: float = TAPPED_WITHIN
) -> Scale:
    """The scale of a picture taken from aside, from the four corners of a rectangle that lies in its plane.

    Arguments: corners: four places [dots], from the upper left clockwise; width, height [m];
        tapped_within [dots], how well each was placed, scalar.
    Returns: the scale.
    Raises: NotEnoughData for another number of corners; OutOfRange for a side not above zero; Inconsistent for corners
        that are not round a rectangle.
    Source: Hartley and Zisserman, Multiple View Geometry (2004), 4.1: the plane's homography from four points.
    """
    require_positive(width=width, height=height)
    if len(corners) != 4:
        raise NotEnoughData("corners", f"{len(corners)} corners are marked.", "Mark all four of the rectangle.")
    seen = np.asarray(corners, float)
    sides = np.linalg.norm(np.roll(seen, -1, axis=0) - seen, axis=1)
    to = np.array([(0, 0), (width, 0), (width, -height), (0, -height)])
    ahead, after = np.roll(seen, -1, axis=0) - seen, np.roll(seen, -2, axis=0) - np.roll(seen, -1, axis=0)
    turns = ahead[:, 0] * after[:, 1] - ahead[:, 1] * after[:, 0]
    if sides.min() < SHORTEST or not (turns > 0).all():
        text = "The four corners are not round a rectangle."
        raise Inconsistent("corners", text, "Mark them from the upper left clockwise.")
    rows = []
    for (x, y), (u, v) in zip(seen, to, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
    solved = np.linalg.solve(np.array(rows), to.reshape(-1))
    return Scale(np.append(solved, 1.0).reshape(3, 3), 2 * tapped_within / float(sides.min()), None)


def edge_within(outline: Outline, scale: Scale, dot: float) -> float:
    """How far the edge of an outline from a picture may lie off. Times perimeter over area, it is its area's share.

    Arguments: outline; scale of its picture; dot [m], what one dot measures there.
    Returns: length [m].
    Raises: nothing.
    Source: derivation: the scale's share of the mean radius 2 A/P, and half a dot, as root of the sum of squares.
    """
    return hypot(scale.within * 2 * outline.area / outline.perimeter, EDGE_WITHIN * dot)
