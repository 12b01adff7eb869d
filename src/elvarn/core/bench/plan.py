"""Test plans: the points of each kind of test, and the order in which they are flowed."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from elvarn.core.errors import OutOfRange

OPENINGS = (25.0, 50.0, 75.0, 100.0)  # percent; common practice, no source
LIFTS = (2.0, 4.0, 6.0, 8.0, 10.0, 12.0)  # mm; common practice, no source
CLOCK = (12.0, 1.5, 3.0, 4.5, 6.0, 7.5, 9.0, 10.5)  # hours round the opening
MOST_POINTS = 200


class PlanKind(StrEnum):
    """The tests there are."""

    CONFIGURATION = "configuration"
    OPENING = "opening"
    LIFT = "lift"
    COPY = "copy"
    PITOT = "pitot"
    SWIRL = "swirl"


@dataclass(frozen=True)
class Axis:
    """What the places of a kind are: a name, a unit, and what may be on it (above low, up to high)."""

    name: str
    unit: str
    low: float
    high: float
    usual: tuple[float, ...]


AXES = {
    PlanKind.CONFIGURATION: Axis("", "", -1.0, 0.0, (0.0,)),
    PlanKind.COPY: Axis("", "", -1.0, 0.0, (0.0,)),
    PlanKind.OPENING: Axis("opening", "%", 0.0, 100.0, OPENINGS),
    PlanKind.LIFT: Axis("valve lift", "mm", 0.0, 25.0, LIFTS),
    PlanKind.PITOT: Axis("clock position", "h", 0.0, 12.0, CLOCK),
    PlanKind.SWIRL: Axis("valve lift", "mm", 0.0, 25.0, LIFTS),
}


def check_places(kind: PlanKind, places: Sequence[float], series: int) -> None:
    """Refuse a list of places that a test can't have.

    Arguments: kind; places in the unit of the kind's axis; series [-]: how many.
    Returns: nothing.
    Raises: OutOfRange for no place, one that can't be, one twice, or too many points.
    Source: definition.
    """
    axis = AXES[kind]
    if not places or not series:
        raise OutOfRange("places", "The test has no point.", "Name at least one.")
    for place in places:
        if not axis.low < place <= axis.high:
            allowed = f"Above {axis.low:g}, up to {axis.high:g} {axis.unit} can be."
            raise OutOfRange("places", f"{place:g} {axis.unit} is no {axis.name}.", allowed)
    if len(set(places)) < len(places):
        raise OutOfRange("places", f"A {axis.name} stands twice in the list.", "Name each once.")
    if len(places) * series * (2 if kind is PlanKind.COPY else 1) > MOST_POINTS:
        raise OutOfRange("places", "The test has too many points.", f"Up to {MOST_POINTS} can be.")


def points_of(kind: PlanKind, places: int, series: int) -> list[tuple[int, int]]:
    """The points of a test as (series, place), in the order in which they are flowed.

    Arguments: kind; places [-] and series [-]: how many.
    Returns: points. A copy is flowed against its original as A, B, B, A, so that linear drift cancels; of the others
    each series is flowed from end to end.
    Raises: OutOfRange for a copy test that has not two series.
    Source: section "Is a gain real?" of docs/figures.md: A-B-B-A, variance s².
    """
    if kind is not PlanKind.COPY:
        return [(one, place) for one in range(series) for place in range(places)]
    if series != 2:
        raise OutOfRange("series", f"{series} things can't be flowed as A, B, B, A.", "Name two: original and copy.")
    return [(0, 0), (1, 0), (1, 0), (0, 0)]
