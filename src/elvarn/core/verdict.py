"""Whether a difference is real: decided here, for gains, effects, curves, copies and pulls alike."""

from collections.abc import Sequence
from dataclasses import dataclass

from elvarn.core.statistics.holm import holm_adjusted
from elvarn.core.statistics.normal import TWO_SIDED_95, normal_two_sided_probability

SIGNIFICANCE = 0.05


@dataclass(frozen=True)
class Verdict:
    """A change with its half-width at 95 %, both in one unit, and whether it is real.

    `refits` is how many set-ups on each side would show a change of this size: 0 where it is already real, None where
    no sensible number would, or nobody asked.
    """

    change: float
    half_width: float
    real: bool
    refits: int | None = None


def within(change: float, half_width: float) -> Verdict:
    """A change against the room in which nothing has to have happened.

    Arguments: change, half_width [any unit, one for both].
    Returns: the verdict: real where the change is larger than the room.
    Raises: nothing.
    Source: definition of a confidence interval.
    """
    return Verdict(change, half_width, abs(change) > half_width)


def judge(change: float, deviation: float) -> Verdict:
    """A change that is judged alone.

    Arguments: change, deviation [any unit, one for both]: its standard uncertainty.
    Returns: the verdict, with the half-width at 95 %.
    Raises: nothing.
    Source: standard normal distribution.
    """
    return within(change, TWO_SIDED_95 * deviation)


def judge_together(changes: Sequence[float], deviations: Sequence[float]) -> list[Verdict]:
    """Several changes at once: what is called real among them is so at 95 % for all of them together.

    Arguments: changes, deviations [any unit, one for all]: their standard uncertainties, as many, in the same order.
    Returns: verdicts, n, in that order; each half-width is that of the change by itself.
    Raises: ValueError for unlike lengths.
    Source: Holm, Scand. J. Statist. 6 (1979) 65.
    """
    pairs = list(zip(changes, deviations, strict=True))
    chances = holm_adjusted([normal_two_sided_probability(change / deviation) for change, deviation in pairs])
    return [
        Verdict(change, TWO_SIDED_95 * deviation, chance < SIGNIFICANCE)
        for (change, deviation), chance in zip(pairs, chances, strict=True)
    ]
