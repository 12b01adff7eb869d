"""Test plans: the points of each kind of test, and the order in which they are flowed."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from elvarn.core.errors import OutOfRange
from elvarn.core.path.tree import ElementKind

OPENINGS = (25.0, 50.0, 75.0, 100.0)  # percent; common practice, no source
LIFTS = (2.0, 4.0, 6.0, 8.0, 10.0, 12.0)  # mm; common practice, no source
HOURS = (12.0, 1.5, 3.0, 4.5, 6.0, 7.5, 9.0, 10.5)  # round the opening
MOST_POINTS = 200
AS_IT_IS: tuple[float | None, ...] = (None,)


class PlanKind(StrEnum):
    """The tests there are."""

    CONFIGURATION = "configuration"
    OPENING = "opening"
    LIFT = "lift"
    COPY = "copy"
    PITOT = "pitot"
    SWIRL = "swirl"


class Measured(StrEnum):
    """What is read at a point: flow, the pressure of a pitot tube, the speed of a paddle wheel."""

    FLOW = "flow"
    PITOT = "pitot"
    SWIRL = "swirl"


@dataclass(frozen=True)
class Axis:
    """What the places of a test are: a name, a unit, and what may be on it (above low, up to high)."""

    name: str
    unit: str
    low: float
    high: float
    usual: tuple[float, ...]


@dataclass(frozen=True)
class Stop:
    """A point of a test: the number of its series; how often that was mounted before; what is read; at which opening or
    lift [unit of the axis] and clock position [h], None where it is read as it stands; and whether the probe is read
    at rest, with the air off."""

    series: int
    measured: Measured = Measured.FLOW
    place: float | None = None
    clock: float | None = None
    zero: bool = False
    mount: int = 0


OPENING = Axis("opening", "%", 0.0, 100.0, OPENINGS)
LIFT = Axis("valve lift", "mm", 0.0, 25.0, LIFTS)
CLOCK = Axis("clock position", "h", 0.0, 12.0, HOURS)
ON_A_HEAD = (ElementKind.RUNNER, ElementKind.HEAD)
PLACED = (PlanKind.OPENING, PlanKind.LIFT, PlanKind.SWIRL)  # kinds that make no sense without a place
A_B_B_A = ((0, 0), (1, 0), (1, 1), (0, 1))  # series and how often it was mounted before


def axis_of(kind: PlanKind, target: ElementKind) -> Axis | None:
    """The axis of a test's places: valve lift on a runner or head, opening on what stands before them.

    Arguments: kind; target.
    Returns: the axis; None for configurations, which have no place.
    Raises: nothing.
    Source: definition.
    """
    if kind is PlanKind.CONFIGURATION:
        return None
    if kind is PlanKind.OPENING:
        return OPENING
    return LIFT if kind is PlanKind.LIFT or target in ON_A_HEAD else OPENING


def usual_places(kind: PlanKind, target: ElementKind) -> tuple[float, ...]:
    """The places that a test usually has.

    Arguments: kind; target.
    Returns: places [%] or [mm] by the axis; none where it is usually flowed as it stands.
    Raises: nothing.
    Source: common practice, no source.
    """
    axis = axis_of(kind, target)
    if axis is None or (kind not in PLACED and target is not ElementKind.THROTTLE):
        return ()
    return axis.usual


def check_places(kind: PlanKind, target: ElementKind, places: Sequence[float], clocks: Sequence[float]) -> None:
    """Refuse places or clock positions that a test can't have.

    Arguments: kind; target; places [%] or [mm] by the axis; clocks [h].
    Returns: nothing.
    Raises: OutOfRange for no place where one is needed, one that can't be, or one twice.
    Source: definition.
    """
    axis = axis_of(kind, target)
    if (not places and kind in PLACED) or (not clocks and kind is PlanKind.PITOT):
        quantity = "clocks" if kind is PlanKind.PITOT else "places"
        raise OutOfRange(quantity, "The test has no point.", "Name at least one.")
    if axis is not None:
        _check(places, axis, "places")
    elif places:
        raise OutOfRange("places", "Configurations have no opening and no lift.", "Leave the places out.")
    _check(clocks, CLOCK, "clocks")


def stops_of(kind: PlanKind, series: int, places: Sequence[float], clocks: Sequence[float], swirl: bool) -> list[Stop]:
    """The points of a test, in the order in which they are flowed.

    Arguments: kind; series [-]: how many; places [%] or [mm] by the axis and clocks [h], none where it is read as it
    stands; swirl: whether a copy's swirl is read too.
    Returns: points. A copy is flowed against its original as A, B, B, A, so that linear drift cancels, each mounting
    with all that is read of it; of the others each series is flowed from end to end. A probe is read at rest first.
    Raises: OutOfRange for no series, a copy test that has not two, or too many points.
    Source: section "Is a gain clear?" of docs/figures.md: A-B-B-A, variance s².
    """
    if not series:
        raise OutOfRange("series", "The test compares nothing.", "Name at least one thing.")
    if kind is PlanKind.COPY and series != 2:
        raise OutOfRange("series", f"{series} things can't be flowed as A, B, B, A.", "Name two: original and copy.")
    stops = list(_stops(kind, series, tuple(places) or AS_IT_IS, tuple(clocks), swirl))
    if len(stops) > MOST_POINTS:
        raise OutOfRange("places", "The test has too many points.", f"Up to {MOST_POINTS} can be.")
    return stops


def _stops(
    kind: PlanKind, series: int, places: tuple[float | None, ...], clocks: tuple[float, ...], swirl: bool
) -> Iterator[Stop]:
    if kind is PlanKind.COPY:
        for one, mount in A_B_B_A:
            yield from (Stop(one, Measured.FLOW, place, mount=mount) for place in places)
            if clocks:
                yield from _mapped(one, places[-1:], clocks, mount)
            if swirl:
                yield from _turning(one, places[-1:], mount)
        return
    for one in range(series):
        if kind is PlanKind.PITOT:
            yield from _mapped(one, places, clocks)
        elif kind is PlanKind.SWIRL:
            yield from _turning(one, places)
        else:
            yield from (Stop(one, Measured.FLOW, place) for place in places)


def _mapped(series: int, places: Sequence[float | None], clocks: Sequence[float], mount: int = 0) -> Iterator[Stop]:
    yield Stop(series, Measured.PITOT, zero=True, mount=mount)
    for place in places:
        yield from (Stop(series, Measured.PITOT, place, clock, mount=mount) for clock in clocks)


def _turning(series: int, places: Sequence[float | None], mount: int = 0) -> Iterator[Stop]:
    yield Stop(series, Measured.SWIRL, zero=True, mount=mount)
    yield from (Stop(series, Measured.SWIRL, place, mount=mount) for place in places)


def _check(places: Sequence[float], axis: Axis, quantity: str) -> None:
    for place in places:
        if not axis.low < place <= axis.high:
            allowed = f"Above {axis.low:g}, up to {axis.high:g} {axis.unit} can be."
            raise OutOfRange(quantity, f"{place:g} {axis.unit} is no {axis.name}.", allowed)
    if len(set(places)) < len(places):
        raise OutOfRange(quantity, f"The list repeats a {axis.name}.", "Name each once.")
