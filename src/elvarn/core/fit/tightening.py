"""In which order the bolts of a flange are tightened: from the middle outwards, crosswise, in steps."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import dist

from elvarn.core.errors import Inconsistent, NotEnoughData

STEPS = (0.0, 0.3, 0.6, 1.0)  # of the torque: by hand first; common practice, no source
NEIGHBOURS = 1.25  # of a bolt's shortest distance: what lies so near is its neighbour
SAME_RING = 0.1  # of the way to the furthest: what differs by less lies in one ring; choice, no source
MOST_BOLTS = 40
MOST_TRIES = 20_000  # of the search, before a neighbour in a row is taken

Point = tuple[float, float]


@dataclass(frozen=True)
class Order:
    """Bolts in the order in which they are tightened, as indices from 0; and how often two neighbours follow each other
    because no other order of them was found."""

    bolts: tuple[int, ...]
    in_a_row: int


def neighbours_of(places: Sequence[Point]) -> list[set[int]]:
    """Which bolts lie next to which.

    Arguments: places [m], shape (bolts, 2).
    Returns: indices [-] of each bolt's neighbours, shape (bolts,).
    Raises: Inconsistent for two in one place.
    Source: common practice, no source; within a quarter more than either's shortest distance: choice.
    """
    count = len(places)
    apart = [[dist(a, b) for b in places] for a in places]
    nearest = [min((apart[i][j] for j in range(count) if j != i), default=0.0) for i in range(count)]
    for i in range(count):
        if count > 1 and nearest[i] < 1e-6:
            raise Inconsistent("places", f"Bolt {i + 1} lies where another one is.", "Tap each bolt once.")
    return [
        {j for j in range(count) if j != i and apart[i][j] <= NEIGHBOURS * max(nearest[i], nearest[j])}
        for i in range(count)
    ]


def tightening_order(places: Sequence[Point]) -> Order:
    """The order in which bolts are tightened.

    Arguments: places [m], shape (bolts, 2).
    Returns: order: each bolt once, the middle ones first, on across the flange; no two neighbours in a row where that
    can be had.
    Raises: NotEnoughData for none; Inconsistent for two in one place or more than 40.
    Source: common practice, no source.
    """
    count = len(places)
    if not count:
        raise NotEnoughData("places", "No bolt is there to tighten.", "Tap each bolt once.")
    if count > MOST_BOLTS:
        raise Inconsistent("places", f"{count} bolts are more than a flange has.", f"{MOST_BOLTS} at most.")
    near = neighbours_of(places)
    middle = (sum(x for x, _ in places) / count, sum(y for _, y in places) / count)
    outward = [dist(place, middle) for place in places]
    tried = ((_search(places, near, outward, allowed), allowed) for allowed in range(count))
    return next(Order(tuple(found), allowed) for found, allowed in tried if found is not None)


def _search(
    places: Sequence[Point], near: Sequence[set[int]], outward: Sequence[float], allowed: int
) -> list[int] | None:
    """Depth first, the middle and the far side preferred, with so many neighbours in a row at most."""
    count = len(places)
    ring = _rings(outward)
    tries = 0

    def options(last: int | None, left: set[int]) -> list[int]:
        if last is None:
            return sorted(left, key=lambda n: (ring[n], places[n]))
        return sorted(left, key=lambda n: (ring[n], -round(dist(places[last], places[n]), 9), places[n]))

    def go(order: list[int], left: set[int], spent: int) -> list[int] | None:
        nonlocal tries
        tries += 1
        if not left:
            return order
        if tries > MOST_TRIES:
            return None
        last = order[-1] if order else None
        for n in options(last, left):
            cost = spent + (last is not None and n in near[last])
            if cost <= allowed:
                found = go([*order, n], left - {n}, cost)
                if found is not None:
                    return found
        return None

    return go([], set(range(count)), 0)


def _rings(outward: Sequence[float]) -> list[int]:
    """Bolts that lie about as far from the middle are taken together."""
    order = sorted(range(len(outward)), key=lambda n: outward[n])
    width = SAME_RING * max(outward)
    rings, start, number = [0] * len(outward), outward[order[0]], 0
    for n in order:
        if outward[n] - start > width:
            number, start = number + 1, outward[n]
        rings[n] = number
    return rings


def in_a_row(places: Sequence[Point], bolts: Sequence[int]) -> int:
    """How often two neighbours follow each other in an order.

    Arguments: places [m], shape (bolts, 2); bolts [-]: indices, shape (bolts,).
    Returns: times [-].
    Raises: Inconsistent for a bolt that is missing or named twice.
    Source: `neighbours_of`.
    """
    if sorted(bolts) != list(range(len(places))):
        missing = sorted(set(range(len(places))) - set(bolts))
        text = f"Bolt {missing[0] + 1} is not in the sequence." if missing else "A bolt stands in it twice."
        raise Inconsistent("sequence", text, "Each bolt once.")
    near = neighbours_of(places)
    return sum(second in near[first] for first, second in pairwise(bolts))
