"""The wall round a runner: what a cut leaves of it, and how far it may go."""

from dataclasses import dataclass
from enum import StrEnum

from elvarn.core.errors import OutOfRange, require_positive


class Material(StrEnum):
    """What is cut."""

    ALUMINIUM = "aluminium"
    MAGNESIUM = "magnesium"
    IRON = "iron"
    COMPOSITE = "composite"


class Place(StrEnum):
    """What a wall has to hold: air, for a spot or all along, or water."""

    WALL = "wall"
    SPOT = "spot"
    WATER = "water"


# Least wall [m]; aluminium common practice, no source, the others not below it. A composite is not ground to a wall.
LEAST_WALL = {Place.WALL: 0.003, Place.SPOT: 0.002, Place.WATER: 0.004}


@dataclass(frozen=True)
class Room:
    """How far a wall may be cut: `depth` [m] that is left to take, 0 where there is none; `least` [m] that has to
    stay."""

    depth: float
    least: float


def wall_left(wall: float, before: float, after: float, core_shift: float = 0.0) -> float:
    """Wall that a bore opened about its middle leaves where the core stood off most.

    Arguments: wall [m] as it was gauged on the mean, before [m], after [m]: the bore; core_shift [m] towards the wall.
    Returns: wall [m]; below zero where it would be through.
    Raises: OutOfRange for values not above zero, or a shift below it.
    Source: geometry, t − (D2 − D1)/2 − shift.
    """
    require_positive(wall=wall, before=before, after=after)
    if core_shift < 0:
        raise OutOfRange("core_shift", f"A core shift of {core_shift * 1000:g} mm can't be.", "Enter how far it is.")
    return wall - (after - before) / 2 - core_shift


def room(gauged: float, material: Material, place: Place = Place.WALL, done: float = 0.0) -> Room:
    """How far may still be cut where a wall was gauged.

    Arguments: gauged [m]: the wall there, as it was measured; material; place: what it holds; done [m]: what was cut
    there since.
    Returns: room.
    Raises: OutOfRange for a wall not above zero, a cut below zero or a composite, which is not ground by its wall.
    Source: common practice, no source (cast aluminium; magnesium and iron not below it).
    """
    require_positive(gauged=gauged)
    if done < 0:
        raise OutOfRange("done", f"A cut of {done * 1000:g} mm can't be.", "Enter what was taken off.")
    if material is Material.COMPOSITE:
        raise OutOfRange("material", "A moulded wall is not ground to a limit.", "Smooth its seams only.")
    least = LEAST_WALL[place]
    return Room(max(gauged - done - least, 0.0), least)
