"""The standard normal distribution."""

from math import erfc, sqrt


def normal_two_sided_probability(deviation: float) -> float:
    """Chance that noise alone gives a deviation at least as large.

    Arguments: deviation [-] in standard deviations.
    Returns: probability [-].
    Raises: nothing.
    Source: standard normal distribution.
    """
    return erfc(abs(deviation) / sqrt(2))
