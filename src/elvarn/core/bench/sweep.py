"""Curves over an opening or a valve lift, and what two of them say against each other."""

import itertools
from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from math import pi, sqrt

from elvarn.core.difference import Known, Term, difference, log_percent
from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.verdict import Verdict, decide

ONE_SESSION = (0, 0, 0, 0)


@dataclass(frozen=True)
class PlaceDifference:
    """Second against first at one place: flows [any flow unit], and the verdict on the fraction."""

    place: float
    first: float
    second: float
    verdict: Verdict


def differences_by_place(
    first: Mapping[float, float], second: Mapping[float, float], known: Known, apart: bool = False
) -> list[PlaceDifference]:
    """Two curves against each other where both were read.

    Arguments: first, second: place to flow [any flow unit], each of one mounting; known of the bench; apart: whether
    they may be of two sessions.
    Returns: the differences, by place, judged together.
    Raises: NotEnoughData where they share no place; OutOfRange for a flow not above zero.
    Source: `decide`.
    """
    both = sorted(place for place in first if place in second)
    if not both:
        raise NotEnoughData("places", "The curves share no place.", "Flow both at the same openings or lifts.")
    return [
        PlaceDifference(place, a, b, _verdict(a, b, known, len(both), apart))
        for place, a, b in ((place, first[place], second[place]) for place in both)
    ]


def figure_differences(first: float, others: Sequence[float], known: Known, apart: bool = False) -> list[Verdict]:
    """Figures against one of the same bench.

    Arguments: first, others [any flow unit]; known of the bench; apart: whether they may be of two sessions.
    Returns: the verdict on each over the first less one [-], judged together.
    Raises: OutOfRange for a flow that is not above zero.
    Source: `decide`.
    """
    return [_verdict(first, other, known, len(others), apart) for other in others]


def mean_over(flows: Mapping[float, float]) -> float:
    """Mean flow over the places, each weighted with the way to its neighbours.

    Arguments: flows: place to flow [any flow unit], two or more.
    Returns: mean flow [same unit].
    Raises: NotEnoughData for fewer than two places.
    Source: trapezoid rule.
    """
    places = sorted(flows)
    if len(places) < 2:
        raise NotEnoughData("places", "A curve needs two places.", "Flow another one.")
    area = sum((flows[a] + flows[b]) / 2 * (b - a) for a, b in itertools.pairwise(places))
    return area / (places[-1] - places[0])


def lift_coefficient(flow: float, lift: float, valve_diameter: float, depression: float) -> float:
    """Discharge coefficient of a valve on its curtain area.

    Arguments: flow [m³/s], lift [m], valve_diameter [m] of the seat's inner edge, depression [Pa]; scalars.
    Returns: coefficient [-].
    Raises: OutOfRange for values not above zero.
    Source: Heywood, Internal Combustion Engine Fundamentals, section 6.3.2: A = pi D L; incompressible jet.
    """
    require_positive(flow=flow, lift=lift, valve_diameter=valve_diameter, depression=depression)
    jet = sqrt(2 * depression / density_ideal(STANDARD_AIR))
    return flow / (pi * valve_diameter * lift * jet)


def cost_of_runner(head: Mapping[float, float], with_runner: Mapping[float, float]) -> dict[float, float]:
    """What a runner takes from its head at each lift.

    Arguments: head, with_runner: lift to flow [any flow unit].
    Returns: lift to lost fraction [-] of the head's flow alone.
    Raises: OutOfRange for a flow not above zero.
    Source: definition.
    """
    shared = [lift for lift in sorted(head) if lift in with_runner]
    for lift in shared:
        require_positive(head=head[lift], with_runner=with_runner[lift])
    return {lift: 1 - with_runner[lift] / head[lift] for lift in shared}


def copy_difference(
    flows: Sequence[float], known: Known, sessions: Sequence[Hashable] = ONE_SESSION, judged: int = 1
) -> Verdict:
    """A copy against its original from A, B, B, A.

    Arguments: flows [any flow unit] in that order; known of the bench; sessions: in which each was mounted; judged [-]:
    openings that are judged together.
    Returns: the verdict on copy over original less one [-].
    Raises: NotEnoughData for other than four; OutOfRange for a flow not above zero.
    Source: `decide`: (B1 + B2 − A1 − A2)/2, in which linear drift cancels.
    """
    if len(flows) != 4:
        raise NotEnoughData("flows", f"{len(flows)} of four figures are read.", "Flow A, B, B, A.")
    order = zip(flows, (-0.5, 0.5, 0.5, -0.5), ("a", "b", "b", "a"), sessions, strict=True)
    terms = [
        Term(log_percent(flow), share, side, place, session) for place, (flow, share, side, session) in enumerate(order)
    ]
    return decide(difference(terms, known), known, 1.0, judged)


def copy_differences(
    mounts: Sequence[Mapping[float, float]], known: Known, sessions: Sequence[Hashable] = ONE_SESSION
) -> list[PlaceDifference]:
    """A copy against its original at every opening, from four mountings A, B, B, A.

    Arguments: mounts: place to flow [any flow unit], in that order; known of the bench; sessions: of each mounting.
    Returns: the differences where all four were read, by place, judged together; flows are the means of two mountings.
    Raises: NotEnoughData for other than four; OutOfRange for a flow not above zero.
    Source: `copy_difference`.
    """
    if len(mounts) != 4:
        raise NotEnoughData("mounts", f"{len(mounts)} of four mountings are read.", "Flow A, B, B, A.")
    places = [place for place in sorted(mounts[0]) if all(place in mount for mount in mounts)]
    found = []
    for place in places:
        flows = [mount[place] for mount in mounts]
        verdict = copy_difference(flows, known, sessions, len(places))
        found.append(PlaceDifference(place, (flows[0] + flows[3]) / 2, (flows[1] + flows[2]) / 2, verdict))
    return found


def copy_over_curve(
    mounts: Sequence[Mapping[float, float]], known: Known, sessions: Sequence[Hashable] = ONE_SESSION
) -> Verdict:
    """A copy against its original over all openings together, from four mountings A, B, B, A.

    Arguments: mounts: place to flow [any flow unit], in that order; known of the bench; sessions: of each mounting.
    Returns: the verdict on copy over original less one [-], averaged over the places that all four have.
    Raises: NotEnoughData for other than four, or fewer than two places; OutOfRange for a flow not above zero.
    Source: `decide`; trapezoid rule on the logarithms.
    """
    if len(mounts) != 4:
        raise NotEnoughData("mounts", f"{len(mounts)} of four mountings are read.", "Flow A, B, B, A.")
    order = zip(mounts, (-0.5, 0.5, 0.5, -0.5), ("a", "b", "b", "a"), sessions, strict=True)
    return _over_curve([(curve, share, thing, session) for curve, share, thing, session in order], known)


def sweep_over_curve(
    first: Mapping[float, float], second: Mapping[float, float], known: Known, apart: bool = False
) -> Verdict:
    """Two curves against each other over all places together.

    Arguments: first, second: place to flow [any flow unit], each of one mounting; known of the bench; apart: whether
    they may be of two sessions.
    Returns: the verdict on second over first less one [-], averaged over the places that both have.
    Raises: NotEnoughData for fewer than two places; OutOfRange for a flow not above zero.
    Source: `decide`; trapezoid rule on the logarithms.
    """
    return _over_curve([(first, -1.0, "a", 0), (second, 1.0, "b", 1 if apart else 0)], known)


def _over_curve(mounts: Sequence[tuple[Mapping[float, float], float, Hashable, Hashable]], known: Known) -> Verdict:
    shared = sorted(set.intersection(*(set(curve) for curve, *_ in mounts)))
    if len(shared) < 2:
        raise NotEnoughData("places", "The curves share fewer than two places.", "Flow both at the same ones.")
    ends = [shared[0], *shared, shared[-1]]
    weights = {x: (ends[i + 2] - ends[i]) / 2 / (shared[-1] - shared[0]) for i, x in enumerate(shared)}
    terms = [
        Term(log_percent(curve[place]), share * weights[place], thing, mount, session, place)  # repeats share a place
        for mount, (curve, share, thing, session) in enumerate(mounts)
        for place in shared
    ]
    return decide(difference(terms, known), known, 1.0)


def _verdict(first: float, second: float, known: Known, judged: int, apart: bool) -> Verdict:
    terms = [
        Term(log_percent(flow), sign, sign, sign, sign if apart else 0) for flow, sign in ((first, -1.0), (second, 1.0))
    ]
    return decide(difference(terms, known), known, 1.0, judged)
