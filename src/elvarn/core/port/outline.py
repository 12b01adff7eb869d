"""An outline as traced: a closed line round an opening, in metres, as seen from the entry with twelve o'clock up."""

from dataclasses import dataclass
from functools import cached_property
from math import cos, pi, sin

import numpy as np
import shapely

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent
from elvarn.core.port.section import DShape, Ellipse, Oval, Round, RoundedRectangle, Section

ROUND = 720  # points of a shape that is drawn from its sizes
WIDEST = 5.0  # m: what nobody lays on a bench
NEAR = 1e-9  # m: points nearer than that are one


@dataclass(frozen=True, eq=False)
class Outline:
    """A closed line: its points (n, 2) [m], x to the right, y up, anticlockwise, the first not repeated."""

    points: Array

    @cached_property
    def polygon(self) -> shapely.Polygon:
        """The same line as the geometry library has it."""
        return shapely.Polygon(self.points)

    @cached_property
    def area(self) -> float:
        return float(self.polygon.area)

    @cached_property
    def perimeter(self) -> float:
        return float(self.polygon.length)

    @cached_property
    def centroid(self) -> Array:
        """Centre of the area (2,) [m]."""
        middle = self.polygon.centroid
        return np.array([middle.x, middle.y])

    def moved(self, shift: Array, turn: float = 0.0) -> "Outline":
        """The outline turned by an angle [rad], anticlockwise round the origin, then shifted by (2,) [m]."""
        return Outline(turned(self.points, turn) + np.asarray(shift, float))


def outline_of(points: Array) -> Outline:
    """A closed line through points, whichever way round they run.

    Arguments: points [m], shape (n, 2).
    Returns: the outline.
    Raises: Inconsistent for fewer than three points, one that is no place, a line that crosses itself (and where) or
        that holds no area.
    Source: definition.
    """
    given = np.asarray(points, float)
    if given.ndim != 2 or given.shape[1:] != (2,):
        raise Inconsistent("points", "An outline is a list of places, each x and y.", "Trace it again.")
    if not np.isfinite(given).all() or float(np.abs(given).max(initial=0.0)) > WIDEST:
        raise Inconsistent("points", "A point lies nowhere that can be measured.", "Trace it again, with its scale.")
    apart = np.linalg.norm(given - np.roll(given, 1, axis=0), axis=1) > NEAR
    kept = given[apart]
    if len(kept) < 3:
        raise Inconsistent("points", f"{len(kept)} points are no outline.", "Three and more go round an opening.")
    polygon = shapely.Polygon(kept)
    if not polygon.is_valid:
        raise Inconsistent("points", _crossing(polygon), "Pull the points apart there.")
    return Outline(kept if polygon.exterior.is_ccw else kept[::-1].copy())


def turned(points: Array, turn: float) -> Array:
    """Points turned round the origin.

    Arguments: points [m], shape (n, 2); turn [rad], anticlockwise, scalar.
    Returns: points [m], shape (n, 2).
    Raises: nothing.
    Source: geometry.
    """
    matrix = np.array([[cos(turn), -sin(turn)], [sin(turn), cos(turn)]])
    rotated: Array = np.asarray(points, float) @ matrix.T
    return rotated


def hours_of(points: Array, middle: Array) -> Array:
    """Hours of the clock at which points lie, seen from a middle.

    Arguments: points [m], shape (n, 2); middle [m], shape (2,).
    Returns: hours [-], shape (n,), from 0 (twelve o'clock) to below 12, clockwise.
    Raises: nothing.
    Source: definition.
    """
    off = np.asarray(points, float) - middle
    hours: Array = np.arctan2(off[:, 0], off[:, 1]) / (2 * pi) * 12 % 12
    return hours


def shape_outline(section: Section) -> Outline | None:
    """The outline of a section that was measured by its sizes, round the origin.

    Arguments: section.
    Returns: the outline, or None for one of which only the area is known.
    Raises: nothing.
    Source: geometry; curves are drawn by points on them.
    """
    if isinstance(section, Outline):
        return section
    if isinstance(section, Round):
        return _rounded(section.diameter, section.diameter, section.diameter / 2)
    if isinstance(section, Oval):
        return _rounded(section.along, section.across, section.across / 2)
    if isinstance(section, RoundedRectangle):
        return _rounded(section.width, section.height, section.radius)
    if isinstance(section, Ellipse):
        angle = np.linspace(0, 2 * pi, ROUND, endpoint=False)
        return outline_of(np.column_stack([section.across / 2 * np.cos(angle), section.along / 2 * np.sin(angle)]))
    return _d_shape(section) if isinstance(section, DShape) else None


def _rounded(width: float, height: float, radius: float) -> Outline:
    quarter = np.linspace(0, pi / 2, ROUND // 4 + 1)
    x, y = width / 2 - radius, height / 2 - radius
    corners = [(x, y, 0.0), (-x, y, pi / 2), (-x, -y, pi), (x, -y, 3 * pi / 2)]
    points = [
        np.column_stack([a + radius * np.cos(quarter + begin), b + radius * np.sin(quarter + begin)])
        for a, b, begin in corners
    ]
    return outline_of(np.concatenate(points))


def _d_shape(section: DShape) -> Outline:
    """A circle of which everything below the flat is gone; the crown is up."""
    radius = section.diameter / 2
    flat = float(np.arcsin((radius - section.height) / radius))
    angle = np.linspace(flat, pi - flat, ROUND)
    return outline_of(radius * np.column_stack([np.cos(angle), np.sin(angle)]))


def _crossing(polygon: shapely.Polygon) -> str:
    """Where an outline crosses itself, for people."""
    why = shapely.is_valid_reason(polygon)
    if "[" not in why:
        return "The outline holds no area."
    x, y = (1000 * float(one) for one in why.split("[")[1].rstrip("]").split()[:2])
    return f"The outline crosses itself, {x:.1f} mm across and {y:.1f} mm up.".replace("-", "−")
