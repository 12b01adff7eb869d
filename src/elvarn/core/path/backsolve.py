"""What elements pass together, and what one passes by itself, from what a combination passed with it in."""

from collections.abc import Sequence
from math import sqrt

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, OutOfRange, require_positive
from elvarn.core.finding import Finding
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal
from elvarn.core.gas.discharge import effective_area, volume_flow_of
from elvarn.core.path.chain import area_between, chain_flow, pressures_along
from elvarn.core.validity import Range

SHARE = Range("limit", "limit of a share", 0, 1, "%", "definition", above=True, below=True)
AGREEMENT = 0.02  # common practice, no source
SAME_PRESSURE = 1e-9  # rounding of a chain
MORE_THAN_OTHERS, SAME_ENTRY = "Together they read more than the weakest alone.", "Re-read both with the same entry."


def combined_flow(flows: Sequence[float], depression: float, weather: Weather = STANDARD_AIR) -> float:
    """What elements in series pass together, the air expanding from one to the next.

    Arguments: flows [m³/s]: of each alone, in the order of the air; depression [Pa] at which each was read and at which
    they are drawn together; weather in front.
    Returns: volume flow [m³/s] at that depression.
    Raises: OutOfRange for a flow or depression not above zero.
    Source: `chain_flow` over the effective areas, each jet lost. Usually low; the weakest is the upper bound.
    """
    areas = _areas(flows, depression, weather)
    return float(chain_flow(areas, depression, weather)[0]) / density_ideal(weather)


def back_solved_flow(
    combination: float, others: Sequence[float], depression: float, weather: Weather = STANDARD_AIR
) -> float:
    """What the element not named would pass alone: the inverse of `combined_flow`.

    Arguments: combination [m³/s]: what all passed together; others [m³/s]: what the elements in front of it pass alone,
    in the order of the air; depression [Pa] at which all were read; weather in front.
    Returns: volume flow [m³/s] at that depression.
    Raises: Inconsistent where the combination passes as much as the others alone, or more: then a bench's scale is off,
    or the combination had a radius that the single element had not. OutOfRange for a flow or depression not above zero.
    Source: as `combined_flow`: the others' drops come off first, what is left is the element's own.
    """
    require_positive(combination=combination)
    if not others:
        return combination
    mass_flow = combination * density_ideal(weather)
    with np.errstate(over="ignore"):  # more than any chain passes: nothing is left behind it
        behind = float(pressures_along(_areas(others, depression, weather), np.array([[mass_flow]]), weather)[-1, 0])
    end = weather.pressure - depression
    if not behind > end * (1 + SAME_PRESSURE):
        raise Inconsistent("combination", MORE_THAN_OTHERS, SAME_ENTRY)
    return volume_flow_of(area_between(behind, end, mass_flow, weather), depression, weather)


def rule_of_thumb_flow(flows: Sequence[float]) -> float:
    """What elements in series pass together by the rule of thumb that 1/Q² adds up.

    Arguments: flows [m³/s]: of each alone, all at one depression.
    Returns: volume flow [m³/s] at that depression.
    Raises: OutOfRange for a flow not above zero.
    Source: 1/Q² = sum 1/Q_i²: Bernoulli, air of constant density.
    """
    for flow in flows:
        require_positive(flow=flow)
    return 1 / sqrt(sum(1 / flow**2 for flow in flows))


def rule_of_thumb_alone(combination: float, others: Sequence[float]) -> float:
    """What the element not named would pass alone by the rule of thumb.

    Arguments: combination [m³/s]: what all passed together; others [m³/s]: what the other elements pass alone; all at
    one depression.
    Returns: volume flow [m³/s] at that depression.
    Raises: as `back_solved_flow`.
    Source: as `rule_of_thumb_flow`.
    """
    require_positive(combination=combination)
    left = 1 / combination**2 - (1 / rule_of_thumb_flow(others) ** 2 if others else 0.0)
    if left <= 0:
        raise Inconsistent("combination", MORE_THAN_OTHERS, SAME_ENTRY)
    return 1 / sqrt(left)


def agreement(flows: Sequence[float], limit: float = AGREEMENT) -> Finding | None:
    """Whether an element back-solved from several combinations comes out the same.

    Arguments: flows [m³/s]: back-solved; limit [-]: the spread that is let pass.
    Returns: a finding where they differ by more than the limit, else None.
    Raises: OutOfRange for a flow not above zero.
    Source: common practice, no source (2 %).
    """
    for flow in flows:
        require_positive(flow=flow)
    spread = max(flows) / min(flows) - 1
    if spread < limit:
        return None
    text = f"The two results differ by {spread * 100:.1f} %; limit {limit * 100:g} %."
    return Finding("combinations_disagree", text, doubt=True)


def flow_for_share(flows: Sequence[float], index: int, limit: float) -> float:
    """What an element would have to pass for its share of the loss to fall to a limit, the others as they are.

    Arguments: flows [m³/s]: of the elements in series at one depression; index [-]: of the element; limit [-].
    Returns: volume flow [m³/s] at that depression.
    Raises: OutOfRange for a limit outside 0 to 1 or an element alone.
    Source: series rule, share_i = (1/Q_i²)/sum(1/Q²).
    """
    others = sum(1 / flow**2 for place, flow in enumerate(flows) if place != index)
    SHARE.check(limit)
    if not others:
        raise OutOfRange("flows", "The element stands alone: its share is all of it.", "Add the others.")
    return 1 / sqrt(others * limit / (1 - limit))


def _areas(flows: Sequence[float], depression: float, weather: Weather) -> Array:
    return np.array([[effective_area(flow, depression, weather)] for flow in flows])
