"""Clearance that is short: how much comes off which part, so that no wall and no groove gives."""

from collections.abc import Sequence
from dataclasses import dataclass

from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive


@dataclass(frozen=True)
class Side:
    """A part that may give room: what it is called, its wall there [m], and what has to stay [m]."""

    name: str
    wall: float
    least: float

    def __post_init__(self) -> None:
        require_positive(wall=self.wall, least=self.least)

    @property
    def room(self) -> float:
        """What may come off [m]."""
        return max(self.wall - self.least, 0.0)


def shared_relief(short: float, sides: Sequence[Side]) -> list[float]:
    """How much comes off each of the parts that meet.

    Arguments: short [m]: what the clearance lacks; sides: the parts, shape (sides,).
    Returns: depths [m], shape (sides,): in proportion to what each has in hand.
    Raises: OutOfRange for a lack below zero; NotEnoughData where the walls together don't have it.
    Source: derivation; the least walls are the caller's.
    """
    if short < 0:
        raise OutOfRange("short", f"A lack of {short * 1000:g} mm is none.", "Enter what is missing.")
    rooms = [side.room for side in sides]
    if short > sum(rooms) + 1e-12:
        had = ", ".join(f"{side.name} {1000 * side.room:.1f} mm" for side in sides) or "no part"
        text = f"{1000 * short:.1f} mm are missing; in hand: {had}."
        raise NotEnoughData("short", text, "Raise it with a plate, or move what it meets.")
    total = sum(rooms)
    return [short * room / total if total else 0.0 for room in rooms]
