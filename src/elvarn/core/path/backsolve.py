"""What one element passes by itself, from what a combination passed with it in."""

from collections.abc import Sequence
from math import sqrt

from elvarn.core.errors import Inconsistent, OutOfRange, require_positive
from elvarn.core.finding import Finding
from elvarn.core.validity import Range

SHARE = Range("limit", "limit of a share", 0, 1, "%", "definition", above=True, below=True)
AGREEMENT = 0.02  # common practice, no source


def combined_flow(flows: Sequence[float]) -> float:
    """What elements in series pass together by the rule that losses add.

    Arguments: flows [m³/s]: of each alone, all at one depression.
    Returns: volume flow [m³/s] at that depression.
    Raises: OutOfRange for a flow not above zero.
    Source: 1/Q² = sum 1/Q_i²: Bernoulli, each jet lost. Usually low; the weakest is the upper bound.
    """
    for flow in flows:
        require_positive(flow=flow)
    return 1 / sqrt(sum(1 / flow**2 for flow in flows))


def back_solved_flow(combination: float, others: Sequence[float]) -> float:
    """What the element not named would pass alone.

    Arguments: combination [m³/s]: what all passed together; others [m³/s]: what the other elements pass alone; all at
    one depression.
    Returns: volume flow [m³/s] at that depression.
    Raises: Inconsistent where the combination passes more than the others allow: then a bench's scale is off, or the
    combination had a radius that the single element had not. OutOfRange for a flow not above zero.
    Source: as `combined_flow`.
    """
    require_positive(combination=combination)
    for flow in others:
        require_positive(flow=flow)
    left = 1 / combination**2 - sum(1 / flow**2 for flow in others)
    if left <= 0:
        raise Inconsistent(
            "combination",
            "Together they read more than the weakest alone.",
            "Re-read both with the same entry.",
        )
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
