"""A cam as its card tells it: by durations with separation and advance or centreline, or by its events. One truth, two
ways in."""

from dataclasses import dataclass

from elvarn.core.engine.geometry import CamEvents, check_cam_events
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.validity import Range

SEPARATION = Range("separation", "lobe separation", 80, 130, "°", "common practice, no source")
ADVANCE = Range("advance", "advance", -20, 20, "°", "common practice, no source")
CENTRELINE = Range("centreline", "inlet centreline", 80, 140, "°", "common practice, no source")
SAME = 1.0  # °: what two ways of saying it may differ by, as cards round; choice, no source


@dataclass(frozen=True)
class CamCard:
    """Durations [crank °] at the lift of the card, the angle between the lobes' centres [cam °], and by how much the
    cam is advanced [crank °]: the inlet's centreline stands so much nearer to top than the separation."""

    inlet_duration: float
    separation: float | None = None
    advance: float | None = None
    exhaust_duration: float | None = None

    @property
    def inlet_centreline(self) -> float | None:
        """Crank degrees after top at which the inlet's lobe stands highest."""
        return None if self.separation is None else self.separation - (self.advance or 0.0)


def events_of(
    inlet_duration: float,
    separation: float | None = None,
    advance: float | None = None,
    centreline: float | None = None,
    exhaust_duration: float | None = None,
) -> CamEvents:
    """The events of a cam that its card tells by durations.

    Arguments: inlet_duration, exhaust_duration [°] of the crank; separation [°] of the cam; advance, centreline [°] of
    the inlet, after top, of the crank: one of them, or both where they agree; scalars.
    Returns: events, the exhaust's only where its duration and the separation are known.
    Raises: NotEnoughData where nothing places the inlet's lobe; OutOfRange for angles that no cam has; Inconsistent
    where separation, advance and centreline contradict each other.
    Source: definition of lobe separation as half the crank angle between the centrelines; the lobes are taken to be
    symmetrical, half the duration to each side.
    """
    middle = _centreline(separation, advance, centreline)
    opens, closes = inlet_duration / 2 - middle, inlet_duration / 2 + middle - 180
    found = CamEvents(opens, closes)
    if exhaust_duration is not None:
        if separation is None:
            raise NotEnoughData("separation", "The exhaust's lobe is not placed.", "Enter the lobe separation.")
        other = 2 * separation - middle
        found = CamEvents(opens, closes, exhaust_duration / 2 + other - 180, exhaust_duration / 2 - other)
    check_cam_events(found)
    return found


def card_of(events: CamEvents) -> CamCard:
    """A cam's card, from its events.

    Arguments: events.
    Returns: the card; separation and advance where the exhaust's events are known.
    Raises: nothing.
    Source: definition, as `events_of`.
    """
    opens, closes = events.inlet_opens_before_top, events.inlet_closes_after_bottom
    exhaust_opens, exhaust_closes = events.exhaust_opens_before_bottom, events.exhaust_closes_after_top
    if exhaust_opens is None or exhaust_closes is None:
        return CamCard(events.inlet_duration)
    inlet = (closes + 180 - opens) / 2
    exhaust = (exhaust_opens + 180 - exhaust_closes) / 2
    return CamCard(
        events.inlet_duration, (inlet + exhaust) / 2, (exhaust - inlet) / 2, exhaust_opens + 180 + exhaust_closes
    )


def same_events(one: CamEvents, other: CamEvents) -> bool:
    """Whether two ways of telling a cam say the same, as far as cards round.

    Arguments: one, other: the events.
    Returns: whether no event that both know differs by more than a degree.
    Raises: nothing.
    Source: definition.
    """
    pairs = (
        (one.inlet_opens_before_top, other.inlet_opens_before_top),
        (one.inlet_closes_after_bottom, other.inlet_closes_after_bottom),
        (one.exhaust_opens_before_bottom, other.exhaust_opens_before_bottom),
        (one.exhaust_closes_after_top, other.exhaust_closes_after_top),
    )
    return all(a is None or b is None or abs(a - b) <= SAME for a, b in pairs)


def _centreline(separation: float | None, advance: float | None, centreline: float | None) -> float:
    told = None
    if separation is not None:
        SEPARATION.check(separation)
        ADVANCE.check(advance or 0.0)
        told = separation - (advance or 0.0)
    if centreline is None:
        if told is None:
            raise NotEnoughData("centreline", "The inlet's lobe is not placed.", "Enter separation or centreline.")
        return told
    CENTRELINE.check(centreline)
    if told is not None and advance is not None and abs(told - centreline) > SAME:
        text = f"A separation of {separation:g}° advanced by {advance:g}° stands at {told:g}°, not at {centreline:g}°."
        raise Inconsistent("centreline", text, "Enter advance or centreline, not both.")
    return centreline
