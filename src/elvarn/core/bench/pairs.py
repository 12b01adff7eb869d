"""Runners before and after, of what was set up alike."""

from collections.abc import Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from statistics import fmean

from elvarn.core.difference import Term, log_percent
from elvarn.core.errors import require_positive
from elvarn.core.likeness import Signature, item_differences, signature_of


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
    which their last set-ups differ. `depends_on` names the items in which set-ups differ whose gains do, too: then
    there is no figure for all of them, and no runner stands among those read alike."""

    alike: tuple[Pair, ...]
    unlike: Mapping[int, tuple[str, ...]]
    depends_on: tuple[str, ...] = ()

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


def alike_with_last(refits: Sequence[Refit]) -> float:
    """Mean flow of the refits that were set up as the last one was.

    Arguments: refits, one at least, as they were read.
    Returns: flow [m³/s].
    Raises: nothing.
    Source: definition.
    """
    last = refits[-1].signature
    return fmean(refit.flow for refit in refits if refit.signature == last)


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
