"""Gain per runner and over these runners, and which of it is real."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil, sqrt
from statistics import fmean

from elvarn.core.bench.assumed import BENCH_REPEATABILITY, SESSION_SHIFT
from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive
from elvarn.core.statistics.normal import TWO_SIDED_95
from elvarn.core.statistics.uncertainty import rectangular
from elvarn.core.verdict import Verdict, judge, judge_together

MOST_REFITS_WORTH_NAMING = 9


@dataclass(frozen=True)
class BenchQuality:
    """Repeatability and session shift, each as a fraction of the reading, and whether before and after share a session.

    `learned` tells the bench's own repeatability from the assumed one. `conversion` is the half-range by which the
    square-root law may be out between before and after, where they were read at different depressions.
    """

    repeatability: float = BENCH_REPEATABILITY
    session_shift: float = SESSION_SHIFT
    same_session: bool = False
    learned: bool = False
    conversion: float = 0.0

    def __post_init__(self) -> None:
        require_positive(repeatability=self.repeatability)
        if min(self.session_shift, self.conversion) < 0:
            raise OutOfRange("session_shift", "A shift is below 0.", "Enter 0 or more.")

    @property
    def shift(self) -> float:
        """What each side has in common over its runners, as a standard uncertainty: its session, and its half of the
        conversion from one side to the other."""
        session = 0.0 if self.same_session else self.session_shift
        return sqrt(session**2 + rectangular(self.conversion) ** 2 / 2)


@dataclass(frozen=True)
class RunnerGain:
    """One runner: means [m³/s], and the verdict on its gain [m³/s]."""

    cylinder: int
    before: float
    after: float
    verdict: Verdict

    @property
    def fraction(self) -> float:
        return self.verdict.change / self.before


@dataclass(frozen=True)
class GainOverRunners:
    """All runners read before and after: means [m³/s], the verdict on the mean gain [m³/s], and each runner."""

    runners: tuple[RunnerGain, ...]
    before: float
    after: float
    verdict: Verdict

    @property
    def fraction(self) -> float:
        return self.verdict.change / self.before


def gain_over_runners(
    before: Mapping[int, Sequence[float]], after: Mapping[int, Sequence[float]], quality: BenchQuality
) -> GainOverRunners:
    """Gain of every runner that was read before and after, at one depression.

    Arguments: before, after: cylinder number to its readings [m³/s], one for each set-up; quality.
    Returns: the gains, by cylinder number.
    Raises: NotEnoughData where no runner has both; OutOfRange for a reading that is not above zero.
    Source: section "Is a gain real?" of docs/figures.md: independent set-ups add
    s_r² (1/m_before + 1/m_after); the session shift, common to all runners, adds once for each session;
    single runners are judged with Holm's correction.
    """
    both = sorted(number for number in before if before[number] and after.get(number))
    if not both:
        raise NotEnoughData("runners", "No runner was read before and after.", "Read the same runner in both.")
    for number in both:
        for reading in (*before[number], *after[number]):
            require_positive(flow=reading)
    means = [(fmean(before[number]), fmean(after[number])) for number in both]
    own = [_own_variance(before[n], after[n], quality.repeatability) for n in both]
    shifts = [_shift_variance(pair, quality.shift) for pair in means]
    deviations = [sqrt(a + b) for a, b in zip(own, shifts, strict=True)]
    verdicts = judge_together([after - before for before, after in means], deviations)
    runners = tuple(
        RunnerGain(number, a, b, replace(verdict, more=_refits(a, b, quality, verdict.real)))
        for number, (a, b), verdict in zip(both, means, verdicts, strict=True)
    )
    mean_before, mean_after = fmean(a for a, _ in means), fmean(b for _, b in means)
    spread = sum(own) / len(own) ** 2 + _shift_variance((mean_before, mean_after), quality.shift)
    return GainOverRunners(runners, mean_before, mean_after, judge(mean_after - mean_before, sqrt(spread)))


def smallest_gain_shown(level: float, setups: int, quality: BenchQuality) -> float:
    """The smallest gain of one runner, judged alone, that this bench can show.

    Arguments: level [m³/s] of the flow, setups [-] on each side, quality.
    Returns: gain [m³/s].
    Raises: OutOfRange for a level or number of set-ups that is not above zero.
    Source: normal distribution, 1.96 sqrt(2 s_r²/m + 2 s_session²).
    """
    require_positive(level=level, setups=setups)
    return TWO_SIDED_95 * level * sqrt(2 * quality.repeatability**2 / setups + 2 * quality.shift**2)


def _own_variance(before: Sequence[float], after: Sequence[float], repeatability: float) -> float:
    return (repeatability * fmean(before)) ** 2 / len(before) + (repeatability * fmean(after)) ** 2 / len(after)


def _shift_variance(means: tuple[float, float], shift: float) -> float:
    return (shift * means[0]) ** 2 + (shift * means[1]) ** 2


def _refits(before: float, after: float, quality: BenchQuality, real: bool) -> int | None:
    """Set-ups on each side from which a gain of this size, judged alone, would be outside the half-width."""
    if real:
        return 0
    level = before**2 + after**2
    room = ((after - before) / TWO_SIDED_95) ** 2 - level * quality.shift**2
    if room <= 0:
        return None
    wanted = ceil(level * quality.repeatability**2 / room)
    return wanted if 1 < wanted <= MOST_REFITS_WORTH_NAMING else None
