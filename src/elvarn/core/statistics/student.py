"""Student's t: quantile, paired difference, Welch."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import copysign, inf, sqrt
from statistics import fmean, variance

import numpy as np
from scipy.special import stdtr, stdtrit

from elvarn.core.errors import NotEnoughData, require_positive


@dataclass(frozen=True)
class PairedDifference:
    """Mean of the differences, their standard deviation, t and half-width of the 95 % interval (same unit)."""

    mean: float
    standard_deviation: float
    t: float
    half_width: float


def paired_difference(before: Sequence[float], after: Sequence[float]) -> PairedDifference:
    """Mean difference of pairs: would this casting gain this on average?

    Arguments: before, after [any unit, one for both]: two or more each, as many, in the same order.
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
    t = mean / error if error > 0 else copysign(inf, mean) if mean else 0.0
    return PairedDifference(mean, deviation, t, student_quantile(len(differences) - 1) * error)


def welch(first: Sequence[float], second: Sequence[float]) -> tuple[float, float]:
    """Welch's t and degrees of freedom of two unpaired sets.

    Arguments: first, second [any unit, one for both]: two or more values each.
    Returns: (t [-], degrees of freedom [-]).
    Raises: NotEnoughData for fewer than two values, or where neither side scatters.
    Source: Welch–Satterthwaite.
    """
    if min(len(first), len(second)) < 2:
        raise NotEnoughData("values", "Fewer than two values on one side.", "Two at least.")
    a, b = variance(first) / len(first), variance(second) / len(second)
    if a + b == 0:
        raise NotEnoughData("scatter", "No value differs from its side's others.", "Read more finely, or more often.")
    freedom = (a + b) ** 2 / (a**2 / (len(first) - 1) + b**2 / (len(second) - 1))
    return (fmean(second) - fmean(first)) / sqrt(a + b), freedom


def two_sided_probability(t: float, freedom: float) -> float:
    """Chance that a difference of nothing gives so large a t, of either sign: of a paired difference with n − 1 degrees
    of freedom, or of `welch` with its own.

    Arguments: t [-], freedom [-]; scalars.
    Returns: probability [-].
    Raises: OutOfRange for degrees of freedom not above zero.
    Source: Student's paired t, n − 1 degrees of freedom; by the special functions of SciPy.
    """
    require_positive(freedom=freedom)
    return float(2 * stdtr(freedom, -abs(t)))


def student_quantile(freedom: float, probability: float = 0.975) -> float:
    """Quantile of Student's t.

    Arguments: freedom [-], probability [-].
    Returns: quantile [-].
    Raises: nothing.
    Source: Student, by the special functions of SciPy.
    """
    return float(stdtrit(freedom, probability))
