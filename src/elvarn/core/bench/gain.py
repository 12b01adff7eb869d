"""Gain per runner and over these runners, of what was set up alike, and which of it is real."""

from dataclasses import dataclass, replace
from math import log

from elvarn.core.bench.assumed import BENCH_REPEATABILITY, PLATE_REPEATABILITY, SESSION_SHIFT
from elvarn.core.bench.pairs import Pair, Pairs
from elvarn.core.difference import Difference, Known, Term, difference, with_more
from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.statistics.scatter import ASSUMED_WEIGHT, Scatter
from elvarn.core.verdict import POWER, Verdict, decide, power

ASSUMED = Known(
    Scatter(BENCH_REPEATABILITY * 100, ASSUMED_WEIGHT),
    Scatter(SESSION_SHIFT * 100, ASSUMED_WEIGHT),
    Scatter(PLATE_REPEATABILITY * 100, ASSUMED_WEIGHT),
)
LEAST_OTHERS = 2  # runners beside one that carries the gain of all
MOST_REFITS = 99  # set-ups on each side that are worth naming


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
    """All runners read before and after alike: means [m³/s], the verdict on the mean gain [m³/s], and each runner."""

    runners: tuple[RunnerGain, ...]
    before: float
    after: float
    verdict: Verdict

    @property
    def fraction(self) -> float:
        return self.verdict.change / self.before


def gain_over_runners(pairs: Pairs, known: Known) -> GainOverRunners:
    """Gain of every runner that was read before and after alike, and of their mean.

    Arguments: pairs; known of the bench.
    Returns: the gains, by cylinder number.
    Raises: NotEnoughData where no runner was read on both sides alike.
    Source: `decide`: runners are judged together, their mean by itself, as the ratio of the means.
    """
    if not pairs.alike:
        raise NotEnoughData("runners", "No runner was read before and after alike.", "Read the same runner in both.")
    count = len(pairs.alike)
    runners = tuple(
        RunnerGain(p.runner, p.before, p.after, decide(difference(p.terms, known), known, p.before, count))
        for p in pairs.alike
    )
    verdict = decide(mean_difference(pairs, known), known, pairs.before)
    return GainOverRunners(runners, pairs.before, pairs.after, verdict)


def mean_difference(pairs: Pairs, known: Known) -> Difference:
    """The difference of the means over runners.

    Arguments: pairs; known of the bench.
    Returns: the difference, whose value is the logarithm of the ratio of the means.
    Raises: NotEnoughData where there is no pair.
    Source: as `difference`; each runner counts with its share of the flow before.
    """
    total = sum(pair.before for pair in pairs.alike)
    terms = [
        replace(term, coefficient=term.coefficient * pair.before / total) for pair in pairs.alike for term in pair.terms
    ]
    return difference(terms, known, 100 * (log(pairs.after) - log(pairs.before)) if pairs.alike else None)


def carried_by(pairs: Pairs, known: Known) -> int | None:
    """The one runner that carries the gain of all.

    Arguments: pairs; known of the bench.
    Returns: its number [-], where the mean gain is real, that of the others without it is not, and its own clearly
    differs from theirs; else None.
    Raises: nothing.
    Source: `mean_difference`.
    """
    if len(pairs.alike) < LEAST_OTHERS + 1 or not _is_real(mean_difference(pairs, known), 1):
        return None
    carrying = [pair for pair in pairs.alike if not _is_real(mean_difference(pairs.without(pair.runner), known), 1)]
    if len(carrying) != 1:
        return None
    against = against_the_others(pairs, carrying[0], known)
    return carrying[0].runner if _is_real(against, len(pairs.alike)) else None


def against_the_others(pairs: Pairs, one: Pair, known: Known) -> Difference:
    """One runner's gain against the mean gain of the others.

    Arguments: pairs, two at least; one of them; known of the bench.
    Returns: the difference.
    Raises: NotEnoughData where there is no other.
    Source: as `difference`.
    """
    others = len(pairs.alike) - 1
    shares = {pair.runner: -1 / others for pair in pairs.alike if others} | {one.runner: 1.0}
    terms = (replace(t, coefficient=t.coefficient * shares[pair.runner]) for pair in pairs.alike for t in pair.terms)
    return difference(list(terms), known)


def smallest_gain_shown(known: Known, near: bool, setups: int = 1) -> float:
    """The smallest gain of one runner, judged alone, that this bench can show.

    Arguments: known of the bench; near: whether both sides share a session; setups [-] on each side.
    Returns: gain [-] as a fraction.
    Raises: OutOfRange for a number of set-ups that is not above zero.
    Source: `difference`: the half-width where nothing changed.
    """
    require_positive(setups=setups)
    return with_more(_planned(0.0, known, near), setups - 1).half_width(1) / 100


def refits_needed(gain: float, known: Known, near: bool) -> int | None:
    """Set-ups on each side after which a gain of one runner would be seen four times in five.

    Arguments: gain [-] as a fraction of the reading; known of the bench; near: whether both sides share a session.
    Returns: set-ups [-], or None where more than 99 or none at all would do: a session shift does not shrink.
    Raises: OutOfRange for a gain not above zero.
    Source: `power`.
    """
    require_positive(gain=gain)
    planned = _planned(gain, known, near)
    shown = (n for n in range(1, MOST_REFITS + 1) if power(with_more(planned, n - 1)) >= POWER)
    return next(shown, None)


def _is_real(found: Difference, judged: int) -> bool:
    return abs(found.value) > found.half_width(judged)


def _planned(gain: float, known: Known, near: bool) -> Difference:
    """One runner read once on each side, with this gain."""
    sides = ((0.0, -1.0), (100 * log(1 + gain), 1.0))
    sessions = list(known.plates)[:2] if len(known.plates) > 1 else [0, 1]
    terms = [Term(y, a, a, a, sessions[0 if near or a < 0 else 1]) for y, a in sides]
    return difference(terms, known)
