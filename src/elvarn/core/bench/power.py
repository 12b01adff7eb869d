"""How often something has to be read whose scatter has to come from the readings themselves."""

from math import isnan, sqrt

from scipy.special import nctdtr

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.statistics.student import student_quantile
from elvarn.core.validity import Range
from elvarn.core.verdict import POWER as USUAL_POWER

POWER = Range("power", "chance to see a gain", 0.5, 1, "", "definition", above=True, below=True)


def smallest_paired_effect(pairs: int, power: float = USUAL_POWER) -> float:
    """The smallest mean difference that so many pairs would show.

    Arguments: pairs [-], two or more; power [-].
    Returns: difference over the standard deviation of the differences [-].
    Raises: OutOfRange for fewer than two pairs, or a power outside 0.5 to 1.
    Source: power of Student's two-sided paired t test at 0.05 by the noncentral t distribution.
    """
    if pairs < 2:
        raise OutOfRange("pairs", f"{pairs} pairs show nothing.", "Two at least.")
    POWER.check(power)
    freedom, limit = pairs - 1, student_quantile(pairs - 1)

    def short_of(effect: float) -> float:
        shift = effect * sqrt(pairs)
        lower = float(nctdtr(freedom, shift, -limit))  # far out it is no number: nothing
        return 1 - float(nctdtr(freedom, shift, limit)) + (0.0 if isnan(lower) else lower) - power

    from scipy.optimize import brentq  # when it is first needed: it is heavy

    return float(brentq(short_of, 0.01 / sqrt(pairs), 3 * (limit + 2) / sqrt(pairs)))


def runs_per_arm(effect: float, power: float = USUAL_POWER) -> int:
    """Readings on each side after which a difference would be seen whose scatter has to come from them too.

    Arguments: effect [-]: difference over the standard deviation of one reading; power [-].
    Returns: readings on each side [-], two at least.
    Raises: OutOfRange for an effect not above zero, one that needs more than 100,000, or a power outside 0.5 to 1.
    Source: power of Student's two-sided t test of two samples at 0.05 by the noncentral t distribution.
    """
    require_positive(effect=effect)
    POWER.check(power)
    for count in range(2, 100_000):
        freedom = 2 * count - 2
        limit, shift = student_quantile(freedom), effect * sqrt(count / 2)
        seen = 1 - float(nctdtr(freedom, shift, limit)) + float(nctdtr(freedom, shift, -limit))
        if seen >= power:
            return count
    raise OutOfRange("effect", f"An effect of {effect:g} can't be shown.", "Look for a larger one.")
