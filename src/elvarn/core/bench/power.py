"""How often something has to be read so that a gain of a given size would be seen."""

from math import ceil, sqrt

from scipy.special import nctdtr, ndtri

from elvarn.core.bench.gain import BenchQuality
from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.statistics.normal import TWO_SIDED_95
from elvarn.core.statistics.student import student_quantile
from elvarn.core.validity import Range

POWER = Range("power", "chance to see a gain", 0.5, 1, "", "definition", above=True, below=True)
USUAL_POWER = 0.8  # chance to see a gain that is there; common practice, no source
MOST_REFITS = 99


def refits_needed(gain: float, quality: BenchQuality, power: float = USUAL_POWER) -> int | None:
    """Set-ups on each side after which a gain of one runner would be seen, on a bench whose repeatability is known.

    Arguments: gain [-] as a fraction of the reading; quality; power [-]: chance to see it.
    Returns: set-ups [-], or None where more than 99 or none at all would do: a session shift does not shrink.
    Raises: OutOfRange for a gain not above zero or a power outside 0.5 to 1.
    Source: normal distribution: (gain/(z(0.975) + z(power)))² = 2 s_r²/m + 2 s_session².
    """
    require_positive(gain=gain)
    POWER.check(power)
    room = (gain / (TWO_SIDED_95 + float(ndtri(power)))) ** 2 - 2 * quality.shift**2
    if room <= 0:
        return None
    needed = max(ceil(2 * quality.repeatability**2 / room), 1)
    return needed if needed <= MOST_REFITS else None


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
