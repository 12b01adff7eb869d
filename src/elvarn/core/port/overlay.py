"""Two openings laid over each other where they meet: what stands in the stream, what steps back, what it costs."""

from dataclasses import dataclass
from math import atan2

import numpy as np
import shapely
from scipy.optimize import brentq
from scipy.spatial import cKDTree

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.path.losses import Loss, sudden_contraction, sudden_expansion
from elvarn.core.port.outline import Outline, hours_of, outline_of, turned

CLOCK = 96  # figures round the clock: every seven and a half minutes of its face
MOST_GROWN = 3.0  # times: nobody opens a port further by a scribed line
BEHIND_POINTS, FRONT_POINTS = 192, 480  # at which the distance of one edge from the other is taken
NOWHERE = 1e-18  # m²: of a piece without length
SAME_HOLES = 0.0005  # m: marks that lie further apart are of other holes, or of a wrong scale; choice, no source
SEEN = 0.0001  # m: what no finger feels is no lip


@dataclass(frozen=True)
class Lip:
    """Where the opening behind stands in the stream: how deep at most [m], at which hour, from and to which."""

    depth: float
    hour: float
    first: float
    last: float

    @property
    def all_round(self) -> bool:
        """Whether it goes round the whole clock."""
        return (self.first, self.last) == (0.0, 12.0)


@dataclass(frozen=True)
class Overlay:
    """The opening in front laid on the one behind it: their areas, what both leave open, what stands in the stream and
    what steps back [m²]; how far the edge behind lies outside the edge in front [m] every seven and a half minutes of
    the clock, below nought where it stands in the stream; the lip, and the loss on the velocity in front."""

    front: float
    behind: float
    open: float
    clock: Array
    lip: Lip | None
    loss: Loss

    @property
    def in_stream(self) -> float:
        """Area that stands in the stream [m²]."""
        return max(self.front - self.open, 0.0)

    @property
    def steps_back(self) -> float:
        """Area by which the opening behind steps back [m²]."""
        return max(self.behind - self.open, 0.0)


@dataclass(frozen=True)
class Laid:
    """An outline laid on another, and how well their marks met [m]; None where they were laid centre on centre."""

    outline: Outline
    apart: float | None


def overlay(front: Outline, behind: Outline) -> Overlay:
    """Two openings that meet, in the order in which the air passes them.

    Arguments: front, behind: outlines in one frame.
    Returns: the overlay.
    Raises: Inconsistent where they have nothing in common.
    Source: geometry, by the geometry library; the loss as a sudden contraction to what is open, then an expansion.
    """
    both = float(shapely.intersection(front.polygon, behind.polygon).area)
    if both <= 0:
        raise Inconsistent("outline", "The two openings don't overlap.", "Lay them on each other first.")
    edge = _dense(behind.points, BEHIND_POINTS)
    out = _outside(edge, _dense(front.points, FRONT_POINTS))
    hours = hours_of(edge, front.centroid)
    clock = _round_the_clock(hours, out)
    both = min(both, front.area, behind.area)
    loss = sudden_contraction(front.area, both).times((front.area / both) ** 2)
    loss += sudden_expansion(both, behind.area).times((front.area / both) ** 2)
    return Overlay(front.area, behind.area, both, clock, _lip(hours, out), loss)


def grown_to(outline: Outline, area: float) -> Outline:
    """The outline moved outwards evenly all round, until it holds an area: the line to scribe.

    Arguments: outline; area [m²], no less than it holds.
    Returns: the larger outline.
    Raises: Inconsistent for an area below the outline's, or three times it and more.
    Source: geometry: parallel line by the geometry library, its distance by bisection (Brent 1973).
    """
    if not outline.area <= area <= MOST_GROWN * outline.area:
        text = f"The target is {1e6 * area:.0f} mm², the outline {1e6 * outline.area:.0f} mm²."
        raise Inconsistent("area", text, "A line to scribe lies outside what is there, by less than three times.")
    reach = 2 * float(np.sqrt(area))
    by = brentq(lambda depth: outline.polygon.buffer(depth).area - area, 0.0, reach, xtol=1e-9)
    return outline_of(np.asarray(outline.polygon.buffer(by).exterior.coords)[:-1])


def laid_on(outline: Outline, marks: Array, onto: Outline, onto_marks: Array) -> Laid:
    """An outline laid on another: by two marks that both have, else by their centres.

    Arguments: outline, onto; marks [m], shape (n, 2), and onto_marks [m], shape (n, 2): places in the frame of their
        own outline, as bolt holes, in whichever order: that which turns the outline less is meant.
    Returns: the outline in the frame of the other, and how far its marks lie from the other's.
    Raises: NotEnoughData where one has two marks and the other another number; Inconsistent for marks in one place, or
        that lie too far from the other's to be the same holes.
    Source: Kabsch (1976): least squares of a turn and a shift, in the plane.
    """
    own, other = np.asarray(marks, float), np.asarray(onto_marks, float)
    if len(own) == 0 or len(other) == 0:
        return Laid(outline.moved(onto.centroid - outline.centroid), None)
    if len(own) != len(other) or len(own) < 2:
        text = f"One outline has {len(own)} marks, the other {len(other)}."
        raise NotEnoughData("marks", text, "Mark the same two bolt holes on both.")
    own_middle, other_middle = own.mean(axis=0), other.mean(axis=0)
    a, b = own - own_middle, other - other_middle
    if not np.any(np.abs(a) > SEEN) or not np.any(np.abs(b) > SEEN):
        raise Inconsistent("marks", "The marks lie in one place.", "Mark two bolt holes.")
    if np.sum(a * b) < 0:
        own, a = own[::-1], a[::-1]
    turn = atan2(float(np.sum(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0])), float(np.sum(a * b)))
    shift = other_middle - turned(own_middle[None], turn)[0]
    apart = float(np.linalg.norm(turned(own, turn) + shift - other, axis=1).max())
    if apart > SAME_HOLES:
        text = f"The bolt holes of the two lie {1000 * apart:.1f} mm beside each other."
        raise Inconsistent("marks", text, "Mark the same two holes on both, and check both scales.")
    return Laid(outline.moved(shift, turn), apart)


def _dense(points: Array, count: int) -> Array:
    """The same closed line by at least so many points, its own corners among them; of many points every so many."""
    if len(points) >= 2 * count:
        return points[:: len(points) // count]
    ahead = np.roll(points, -1, axis=0) - points
    lengths = np.linalg.norm(ahead, axis=1)
    pieces = np.maximum(1, np.ceil(lengths * count / lengths.sum()).astype(int))
    within = np.arange(pieces.sum()) - np.repeat(np.cumsum(pieces) - pieces, pieces)
    part = within / np.repeat(pieces, pieces)
    dense: Array = np.repeat(points, pieces, axis=0) + part[:, None] * np.repeat(ahead, pieces, axis=0)
    return dense


def _outside(points: Array, line: Array) -> Array:
    """How far points lie outside a closed line that runs anticlockwise [m]; below nought inside. Of the two sides that
    meet in the nearest corner the nearer one counts."""
    nearest = cKDTree(line, leafsize=32, compact_nodes=False, balanced_tree=False).query(points)[1]
    count = len(line)
    first = _from_side(points, line[nearest - 1], line[nearest])
    second = _from_side(points, line[nearest], line[(nearest + 1) % count])
    return np.where(np.abs(first) < np.abs(second), first, second)


def _from_side(points: Array, begin: Array, end: Array) -> Array:
    """Distance of each point from its own piece of line, below nought to the left of it."""
    along, off = end - begin, points - begin
    length = np.maximum(along[:, 0] ** 2 + along[:, 1] ** 2, NOWHERE)
    share = np.clip((off[:, 0] * along[:, 0] + off[:, 1] * along[:, 1]) / length, 0.0, 1.0)
    distance = np.hypot(off[:, 0] - share * along[:, 0], off[:, 1] - share * along[:, 1])
    left = along[:, 0] * off[:, 1] - along[:, 1] * off[:, 0] > 0
    signed: Array = np.where(left, -distance, distance)
    return signed


def _round_the_clock(hours: Array, out: Array) -> Array:
    """The worst figure of each part of the clock, straight between its neighbours where no point lies."""
    part = np.round(hours / 12 * CLOCK).astype(int) % CLOCK
    worst = np.full(CLOCK, np.inf)
    np.minimum.at(worst, part, out)
    known = np.flatnonzero(np.isfinite(worst))
    filled: Array = np.interp(np.arange(CLOCK), known, worst[known], period=CLOCK)
    return filled


def _lip(hours: Array, out: Array) -> Lip | None:
    order = np.argsort(hours)
    hours, out = hours[order], out[order]
    worst = int(out.argmin())
    if out[worst] > -SEEN:
        return None
    clear = np.flatnonzero(out > -SEEN)
    if not len(clear):
        return Lip(-float(out[worst]), float(hours[worst]), 0.0, 12.0)
    before, after = clear[clear < worst], clear[clear > worst]
    first = hours[(before[-1] if len(before) else clear[-1]) + 1 - len(hours)]
    last = hours[(after[0] if len(after) else clear[0]) - 1]
    return Lip(-float(out[worst]), float(hours[worst]), float(first), float(last))
