"""Rounds of a flange: by hand, in steps, and once round at the end; which bolt is next."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2

from elvarn.core.fit.tightening import STEPS, tightening_order
from elvarn.store.models import BoltMap

AGAIN = "round again"


@dataclass(frozen=True)
class Round:
    """A round: its name, its part of the torque [-], 0 by hand; the order of its bolts and those that are tight."""

    name: str
    part: float
    order: tuple[int, ...]
    ticked: tuple[int, ...]


def rounds_of(row: BoltMap) -> list[Round]:
    """The rounds of a flange as they stand: crosswise in steps, at last once round."""
    places = [(one["x_mm"] / 1000, one["y_mm"] / 1000) for one in row.places]
    crosswise = tightening_order(places).bolts
    middle = [sum(axis) / len(places) for axis in zip(*places, strict=True)]
    circle = tuple(sorted(range(len(places)), key=lambda n: atan2(places[n][1] - middle[1], places[n][0] - middle[0])))
    named = [("by hand" if not part else f"{100 * part:.0f} %", part, crosswise) for part in STEPS]
    named.append((AGAIN, 1.0, circle))
    return [
        Round(name, part, order, tuple(one["bolt"] for one in row.ticks if one["round"] == number))
        for number, (name, part, order) in enumerate(named)
    ]


def next_of(rounds: Sequence[Round]) -> tuple[int, int] | None:
    """Round and bolt that are next, None where all is done."""
    for number, one in enumerate(rounds):
        left = [bolt for bolt in one.order if bolt not in one.ticked]
        if left:
            return number, left[0]
    return None
