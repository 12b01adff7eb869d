"""How far two readings of the same thing lie apart (ISO 5725)."""

from collections.abc import Sequence
from math import sqrt
from statistics import variance

from elvarn.core.errors import NotEnoughData

REPEATABILITY_LIMIT_FACTOR = 2.8  # ISO 5725-6: 1.96 sqrt(2), rounded


def pooled_repeatability(groups: Sequence[Sequence[float]]) -> float:
    """Repeatability standard deviation from repeats of several pieces.

    Arguments: groups [any unit]: each the repeats of one piece, at least two somewhere.
    Returns: standard deviation [same unit].
    Raises: NotEnoughData where no group has two readings.
    Source: ISO 5725-2, 7.4.5.1, pooled within-cell variance.
    """
    repeated = [group for group in groups if len(group) > 1]
    if not repeated:
        raise NotEnoughData("groups", "No piece was read twice.", "Take it off, put it on and read again.")
    freedom = sum(len(group) - 1 for group in repeated)
    return sqrt(sum(variance(group) * (len(group) - 1) for group in repeated) / freedom)


def repeatability_limit(repeatability: float) -> float:
    """Difference of two single readings that repeats stay below, 95 in 100.

    Arguments: repeatability [any unit]: standard deviation, scalar.
    Returns: limit [same unit].
    Raises: nothing.
    Source: ISO 5725-6, r = 2.8 s_r.
    """
    return REPEATABILITY_LIMIT_FACTOR * repeatability


def standard_error(standard_deviation: float, count: int) -> float:
    """Standard deviation of a mean of independent set-ups.

    Arguments: standard_deviation (any unit), count [-] of refits.
    Returns: standard deviation of the mean [same unit].
    Raises: NotEnoughData for a count below 1.
    Source: variance of a mean, s/sqrt(n), for parts taken off and refitted, not for samples of one set-up.
    """
    if count < 1:
        raise NotEnoughData("count", "There is no reading.", "Take one.")
    return standard_deviation / sqrt(count)
