"""A cut that takes the thick side first: metal comes off where the wall holds most of it, down to one level."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import pi

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, NotEnoughData, OutOfRange, require_positive
from elvarn.core.port.section import equal_diameter
from elvarn.core.port.wall import LEAST_WALL, Place
from elvarn.core.validity import Range

HOURS = 12.0
HALF_HOURS = 24
STEPS = 120  # places round the clock at which a cut is reckoned
CLOCKWISE = np.arange(STEPS) * HOURS / STEPS
CLOCK = Range("hour", "place on the clock", 0, 12, "", "definition")
THICKNESS = Range("thickness", "wall", 0, 0.1, "mm", "what a gauge reads; choice, no source", above=True)
AREA = Range("area", "bore of the same area", 0, 0.5, "mm", "no runner is wider; choice, no source", above=True)
QUARTER, CLOSE = 3.0, 1e-9  # h
NOTHING = 1e-6  # m: a cut that is no deeper takes nothing


@dataclass(frozen=True)
class Gauged:
    """A wall as it was gauged: where on the clock, seen from the entry; its thickness [m]; what it holds; and the least
    [m] that has to stay there, where the shop says more than is usual."""

    hour: float
    thickness: float
    place: Place = Place.WALL
    least_stated: float = 0.0

    def __post_init__(self) -> None:
        CLOCK.check(self.hour)
        THICKNESS.check(self.thickness)

    @property
    def least(self) -> float:
        return max(LEAST_WALL[self.place], self.least_stated)


@dataclass(frozen=True)
class LevelCut:
    """A cut at one station: deepest `depth` [m] at `hour` of the clock, more than half as deep from `first` to `last`
    (the same hour where it goes all round evenly); `area` [m²] that it adds; `left` [m]: the wall there afterwards;
    `in_hand` [m]: how much more could come off before the least wall; `depths` [m] clockwise from 12,
    every half hour."""

    depth: float
    hour: float
    first: float
    last: float
    area: float
    left: float
    in_hand: float
    depths: tuple[float, ...]


@dataclass(frozen=True)
class ToCut:
    """A station where metal is to come off: area [m²] of its section, taken as a circle for the way round it; the walls
    gauged there, at least one; and the area [m²] wanted in addition."""

    area: float
    walls: Sequence[Gauged]
    wanted: float

    def __post_init__(self) -> None:
        require_positive(area=self.area)
        AREA.check(equal_diameter(self.area))
        if self.wanted < 0:
            text = f"{1e6 * self.wanted:.0f} mm² can't be added by cutting."
            raise OutOfRange("wanted", text, "Fill or weld instead.")
        AREA.check(equal_diameter(self.area + self.wanted))


def level_cuts(stations: Sequence[ToCut]) -> list[LevelCut]:
    """The cuts that add an area with the least loss of wall: from the thickest side, until what remains above the least
    wall is level all round; no more than the walls allow.

    Arguments: stations.
    Returns: a cut for each; it adds less than wanted where the walls end it.
    Raises: NotEnoughData without a wall; Inconsistent for two walls at one hour.
    Source: geometry: ΔA = ∫ (r δ + δ²/2) dφ; between gauged places the wall is taken as straight, and over more than
    half a round without any it may not be cut.
    """
    if not stations:
        return []
    radius = np.sqrt(np.array([one.area for one in stations]) / pi)
    clocks = [_round_the_clock(one.walls) for one in stations]
    margins, thickness = (np.array(side) for side in zip(*clocks, strict=True))
    rooms = np.maximum(margins, 0)
    wanted = np.minimum([one.wanted for one in stations], _added(radius, rooms))
    depths = np.maximum(rooms - _level(radius, rooms, wanted)[:, None], 0)
    return [_cut(*one) for one in zip(depths, margins, thickness, wanted, strict=True)]


def _round_the_clock(walls: Sequence[Gauged]) -> tuple[Array, Array]:
    """What may come off clockwise [m], and the wall there [m]."""
    if not walls:
        raise NotEnoughData("walls", "No wall was gauged here: how deep a cut may go is not known.", "Gauge it.")
    given = sorted(walls, key=lambda one: one.hour % HOURS)
    at = [one.hour % HOURS for one in given]
    if len(set(at)) < len(at):
        raise Inconsistent("hour", "Two walls stand at one hour of the clock.", "Strike one out.")
    rows = [(hour, one.thickness, one.least) for hour, one in zip(at, given, strict=True)]
    rows = _with_unknown([(at[-1] - HOURS, *rows[-1][1:]), *rows, (at[0] + HOURS, *rows[0][1:])])
    hours, thick, least = zip(*rows, strict=True)
    thickness = np.interp(CLOCKWISE, hours, thick)
    return thickness - np.interp(CLOCKWISE, hours, least), thickness


def _with_unknown(rows: Sequence[tuple[float, float, float]]) -> list[tuple[float, float, float]]:
    """Hours with wall and least wall; where over half a round nothing was gauged, nothing may come off: room ends a
    quarter of a round from what was gauged."""
    found = [rows[0]]
    for first, second in pairwise(rows):
        if second[0] - first[0] > HOURS / 2 + CLOSE:
            found += [(first[0] + QUARTER, first[2], first[2]), (second[0] - QUARTER, second[2], second[2])]
        found.append(second)
    return found


def _level(radius: Array, rooms: Array, wanted: Array) -> Array:
    """The room that is left all round by cuts of these areas. With the k places of most room cut, the area is a square
    function of the level: k is found first, then the level by its root."""
    rising = np.sort(rooms, axis=1)[:, ::-1]
    count = np.arange(1, STEPS + 1)
    sums, squares = rising.cumsum(axis=1), (rising**2).cumsum(axis=1)
    share = 2 * pi / STEPS
    at_each = radius[:, None] * (sums - count * rising) + (squares - 2 * rising * sums + count * rising**2) / 2
    k = np.maximum((share * at_each < wanted[:, None]).sum(axis=1), 1)
    of_k = np.arange(len(radius)), k - 1
    # k/2 w² − (k r + Σm) w + r Σm + Σm²/2 − wanted/share = 0, its smaller root
    half_b = (k * radius + sums[of_k]) / 2
    rest = radius * sums[of_k] + squares[of_k] / 2 - wanted / share
    level: Array = (half_b - np.sqrt(np.maximum(half_b**2 - k / 2 * rest, 0))) / (k / 2)
    return level


def _added(radius: Array, depths: Array) -> Array:
    areas: Array = np.mean(radius[:, None] * depths + depths**2 / 2, axis=1) * 2 * pi
    return areas


def _cut(depths: Array, margins: Array, thickness: Array, area: float) -> LevelCut:
    deepest = int(depths.argmax())
    depth = float(depths[deepest]) if depths[deepest] > NOTHING else 0.0
    first, last = _half_as_deep((depths >= depths[deepest] / 2).tolist(), deepest)
    return LevelCut(
        depth=depth,
        hour=float(CLOCKWISE[deepest]),
        first=float(CLOCKWISE[first]),
        last=float(CLOCKWISE[last]),
        area=float(area) if depth else 0.0,
        left=float(thickness[deepest] - depth),
        in_hand=float(margins[deepest] - depth),
        depths=tuple(depths[:: STEPS // HALF_HOURS].tolist()),
    )


def _half_as_deep(deep: Sequence[bool], deepest: int) -> tuple[int, int]:
    """From where to where, clockwise, it is at least half as deep as where it is deepest."""
    if all(deep):
        return deepest, deepest
    first = last = deepest
    while deep[first - 1]:
        first -= 1
    while deep[(last + 1) % STEPS]:
        last += 1
    return first % STEPS, last % STEPS
