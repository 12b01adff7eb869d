"""How far two readings of the same thing lie apart, and what that allows to say."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import erfc, sqrt
from statistics import fmean, variance

import numpy as np
from scipy.special import stdtrit

from elvarn.core.errors import NotEnoughData

TWO_SIDED_95 = 1.96  # standard normal
REPEATABILITY_LIMIT_FACTOR = 2.8  # ISO 5725-6: 1.96 sqrt(2), rounded
ASSUMED_REPEATABILITY = 0.005  # of reading, until a bench's own is learned; common practice, no source
ASSUMED_SESSION_SHIFT = 0.005  # of reading, until a shop's own is known; common practice, no source


@dataclass(frozen=True)
class PairedDifference:
    """Mean of the differences, their standard deviation, t and half-width of the 95 % interval (same unit)."""

    mean: float
    standard_deviation: float
    t: float
    half_width: float


def pooled_repeatability(groups: Sequence[Sequence[float]]) -> float:
    """Repeatability standard deviation from repeats of several pieces.

    Arguments: groups, each the repeats of one piece (at least two somewhere), any one unit.
    Returns: standard deviation, same unit.
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

    Arguments: repeatability, standard deviation in any unit.
    Returns: limit, same unit.
    Raises: nothing.
    Source: ISO 5725-6, r = 2.8 s_r.
    """
    return REPEATABILITY_LIMIT_FACTOR * repeatability


def standard_error(standard_deviation: float, count: int) -> float:
    """Standard deviation of a mean of independent set-ups.

    Arguments: standard_deviation (any unit), count [-] of refits.
    Returns: standard deviation of the mean, same unit.
    Raises: NotEnoughData for a count below 1.
    Source: s/sqrt(n), for parts taken off and refitted, not for samples of one set-up.
    """
    if count < 1:
        raise NotEnoughData("count", "There is no reading.", "Take one.")
    return standard_deviation / sqrt(count)


def paired_difference(before: Sequence[float], after: Sequence[float]) -> PairedDifference:
    """Mean difference of pairs: would this casting gain this on average?

    Arguments: before, after: same length n of 2 or more, same unit, same order.
    Returns: the paired difference.
    Raises: NotEnoughData for unlike lengths or fewer than two pairs.
    Source: Student's paired t, n − 1 degrees of freedom.
    """
    if len(before) != len(after) or len(before) < 2:
        raise NotEnoughData("pairs", f"{len(before)} readings before, {len(after)} after.", "Two pairs at least.")
    differences = np.asarray(after, float) - np.asarray(before, float)
    deviation = float(np.std(differences, ddof=1))
    error = deviation / sqrt(len(differences))
    mean = float(differences.mean())
    t = mean / error if error > 0 else float("inf")
    return PairedDifference(mean, deviation, t, student_quantile(len(differences) - 1) * error)


def welch(first: Sequence[float], second: Sequence[float]) -> tuple[float, float]:
    """Welch's t and degrees of freedom of two unpaired sets.

    Arguments: first, second: two or more values each, same unit.
    Returns: (t [-], degrees of freedom [-]).
    Raises: NotEnoughData for fewer than two values.
    Source: Welch–Satterthwaite.
    """
    if min(len(first), len(second)) < 2:
        raise NotEnoughData("values", "Fewer than two values on one side.", "Two at least.")
    a, b = variance(first) / len(first), variance(second) / len(second)
    freedom = (a + b) ** 2 / (a**2 / (len(first) - 1) + b**2 / (len(second) - 1))
    return (fmean(second) - fmean(first)) / sqrt(a + b), freedom


def drift_free_difference(first: float, other: float, again: float) -> float:
    """Difference of B from A with linear drift taken out of the order A, B, A.

    Arguments: first, other, again, same unit.
    Returns: difference, same unit.
    Raises: nothing.
    Source: B − (A1 + A2)/2.
    """
    return other - (first + again) / 2


def drift_free_deviation(standard_deviation: float) -> float:
    """Standard deviation of `drift_free_difference`.

    Arguments: standard_deviation of a single reading, any unit.
    Returns: standard deviation, same unit.
    Raises: nothing.
    Source: variance 1.5 s².
    """
    return standard_deviation * sqrt(1.5)


def student_quantile(freedom: float, probability: float = 0.975) -> float:
    """Quantile of Student's t.

    Arguments: freedom [-], probability [-].
    Returns: quantile [-].
    Raises: nothing.
    Source: SciPy special functions.
    """
    return float(stdtrit(freedom, probability))


def normal_two_sided_probability(deviation: float) -> float:
    """Chance that noise alone gives a deviation at least as large.

    Arguments: deviation [-] in standard deviations.
    Returns: probability [-].
    Raises: nothing.
    Source: standard normal distribution.
    """
    return erfc(abs(deviation) / sqrt(2))


def holm_adjusted(probabilities: Sequence[float]) -> list[float]:
    """Chances corrected for judging several at once.

    Arguments: probabilities [-], shape (n,).
    Returns: adjusted probabilities [-], shape (n,), same order.
    Raises: nothing.
    Source: Holm, Scand. J. Statist. 6 (1979) 65.
    """
    order = sorted(range(len(probabilities)), key=lambda index: probabilities[index])
    adjusted = [0.0] * len(probabilities)
    running = 0.0
    for rank, index in enumerate(order):
        running = max(running, min(1.0, (len(order) - rank) * probabilities[index]))
        adjusted[index] = running
    return adjusted
