"""Curves over an opening or a valve lift, and what two of them say against each other."""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import pi, sqrt

from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.verdict import Verdict, judge


@dataclass(frozen=True)
class PlaceDifference:
    """Second against first at one place: flows [any flow unit], and the verdict on the fraction."""

    place: float
    first: float
    second: float
    verdict: Verdict


def differences_by_place(
    first: Mapping[float, float], second: Mapping[float, float], repeatability: float, shift: float = 0.0
) -> list[PlaceDifference]:
    """Two curves against each other where both were read.

    Arguments: first, second: place to flow [any flow unit]; repeatability [-]; shift [-] of a session.
    Returns: the differences, by place. Each stands for itself: it is drawn as a band point by point.
    Raises: NotEnoughData where they share no place; OutOfRange for a flow not above zero.
    Source: normal distribution, half-width 1.96 sqrt(2 s_r² + 2 s_session²).
    """
    both = sorted(place for place in first if place in second)
    if not both:
        raise NotEnoughData("places", "The curves share no place.", "Flow both at the same openings or lifts.")
    for place in both:
        require_positive(first=first[place], second=second[place])
    deviation = sqrt(2 * repeatability**2 + 2 * shift**2)
    return [_at(place, first[place], second[place], deviation) for place in both]


def figure_difference(first: float, second: float, repeatability: float) -> Verdict:
    """One figure against another of the same bench.

    Arguments: first, second [any flow unit]; repeatability [-].
    Returns: the verdict on second over first less one [-].
    Raises: OutOfRange for a first that is not above zero.
    Source: normal distribution, half-width 1.96 sqrt(2) s_r.
    """
    require_positive(first=first)
    return judge(second / first - 1, repeatability * sqrt(2))


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


def copy_difference(flows: Sequence[float], repeatability: float) -> Verdict:
    """A copy against its original from A, B, B, A.

    Arguments: flows [any flow unit] in that order; repeatability [-].
    Returns: the verdict on copy over original less one [-].
    Raises: NotEnoughData for other than four; OutOfRange for a flow not above zero.
    Source: variance of a mean: (B1 + B2 − A1 − A2)/2 has the variance s², and linear drift cancels.
    """
    if len(flows) != 4:
        raise NotEnoughData("flows", f"{len(flows)} of four figures are read.", "Flow A, B, B, A.")
    for flow in flows:
        require_positive(flow=flow)
    one, other, again, last = flows
    original = (one + last) / 2
    ratio = (other + again) / 2 / original
    if repeatability < 0:
        raise OutOfRange("repeatability", "The repeatability is below 0.", "Enter 0 or more.")
    return judge(ratio - 1, repeatability * ratio)


def _at(place: float, first: float, second: float, deviation: float) -> PlaceDifference:
    ratio = second / first
    return PlaceDifference(place, first, second, judge(ratio - 1, deviation * ratio))
