"""Gain per runner and over these runners, of what was set up alike, and which of it is real."""

from collections.abc import Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from math import log
from statistics import fmean

from elvarn.core.bench.assumed import BENCH_REPEATABILITY, PLATE_REPEATABILITY, SESSION_SHIFT
from elvarn.core.bench.likeness import Signature, item_differences, signature_of
from elvarn.core.difference import Difference, Known, Term, difference, log_percent, with_more
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
class Refit:
    """What one set-up of a runner passed [m³/s]; the session in which it was read, and what was declared of it."""

    flow: float
    session: Hashable = None
    declared: Mapping[str, str] = field(default_factory=dict)

    @cached_property
    def signature(self) -> Signature:
        """What set-ups that are alike have in common."""
        return signature_of(self.declared)


@dataclass(frozen=True)
class Pair:
    """A runner before and after, of what was set up alike: means [m³/s], the terms of their difference, and how many
    refits were left out because the other side has none that is set up like them."""

    runner: int
    before: float
    after: float
    terms: tuple[Term, ...]
    left_out: int


@dataclass(frozen=True)
class Pairs:
    """Runners read before and after alike; and those that were read on both sides, but never alike, with the items in
    which their last set-ups differ."""

    alike: tuple[Pair, ...]
    unlike: Mapping[int, tuple[str, ...]]

    @property
    def differing(self) -> tuple[str, ...]:
        """Every item in which a runner's two sides differ."""
        return tuple(dict.fromkeys(item for items in self.unlike.values() for item in items))

    def without(self, runner: int) -> "Pairs":
        """The same without one runner."""
        return Pairs(tuple(pair for pair in self.alike if pair.runner != runner), {})

    @property
    def before(self) -> float:
        return fmean(pair.before for pair in self.alike)

    @property
    def after(self) -> float:
        return fmean(pair.after for pair in self.alike)

    @property
    def fraction(self) -> float:
        """Mean gain over the runners, as a fraction: the ratio of the means, less one."""
        return self.after / self.before - 1


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


def pairs_of(before: Mapping[int, Sequence[Refit]], after: Mapping[int, Sequence[Refit]]) -> Pairs:
    """Runners read before and after, each by what was set up alike on both sides.

    Arguments: before, after: cylinder number to its refits.
    Returns: the pairs, by cylinder number.
    Raises: OutOfRange for a flow that is not above zero.
    Source: definition; set-ups weighted with n1 n2/(n1 + n2), as in the variance of a mean.
    """
    alike, unlike = [], {}
    for number in sorted(n for n in before if before[n] and after.get(n)):
        for refit in (*before[number], *after[number]):
            require_positive(flow=refit.flow)
        pair = _pair(number, before[number], after[number])
        if pair is not None:
            alike.append(pair)
        else:
            sides = before[number][-1].declared, after[number][-1].declared
            unlike[number] = tuple(one.item for one in item_differences(*sides))
    return Pairs(tuple(alike), unlike)


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
    against = difference(_against_the_others(pairs, carrying[0]), known)
    return carrying[0].runner if _is_real(against, len(pairs.alike)) else None


def _against_the_others(pairs: Pairs, one: Pair) -> list[Term]:
    """One runner's gain against the mean gain of the others."""
    shares = {pair.runner: -1 / (len(pairs.alike) - 1) for pair in pairs.alike} | {one.runner: 1.0}
    return [
        replace(term, coefficient=term.coefficient * shares[pair.runner]) for pair in pairs.alike for term in pair.terms
    ]


def alike_with_last(refits: Sequence[Refit]) -> float:
    """Mean flow of the refits that were set up as the last one was.

    Arguments: refits, one at least, as they were read.
    Returns: flow [m³/s].
    Raises: nothing.
    Source: definition.
    """
    last = refits[-1].signature
    return fmean(refit.flow for refit in refits if refit.signature == last)


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


def _pair(runner: int, before: Sequence[Refit], after: Sequence[Refit]) -> Pair | None:
    sides = (_by_signature(before), _by_signature(after))
    shared = [signature for signature in sides[0] if signature in sides[1]]
    if not shared:
        return None
    weights = {s: len(sides[0][s]) * len(sides[1][s]) / (len(sides[0][s]) + len(sides[1][s])) for s in shared}
    shares = {signature: weight / sum(weights.values()) for signature, weight in weights.items()}
    means = [sum(share * fmean(r.flow for r in side[s]) for s, share in shares.items()) for side in sides]
    terms = tuple(
        term
        for signature, share in shares.items()
        for side, sign in ((0, -1), (1, 1))
        for term in _terms((runner, side, signature), sides[side][signature], sign * share)
    )
    return Pair(runner, means[0], means[1], terms, len(before) + len(after) - len(terms))


def _terms(cell: Hashable, refits: Sequence[Refit], share: float) -> Iterator[Term]:
    for place, refit in enumerate(refits):
        yield Term(log_percent(refit.flow), share / len(refits), cell, (cell, place), refit.session)


def _by_signature(refits: Sequence[Refit]) -> dict[Signature, list[Refit]]:
    found: dict[Signature, list[Refit]] = {}
    for refit in refits:
        found.setdefault(refit.signature, []).append(refit)
    return found
