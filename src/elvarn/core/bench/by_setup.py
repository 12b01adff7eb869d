"""Gains of what was read in several set-ups: one figure for all of them only where they agree."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

from elvarn.core.bench.gain import mean_difference
from elvarn.core.bench.pairs import Pairs, Refit, pairs_of
from elvarn.core.difference import Known, difference
from elvarn.core.likeness import Signature, item_differences
from elvarn.core.verdict import Verdict, decide

Side = Mapping[int, Sequence[Refit]]


@dataclass(frozen=True)
class SetupGain:
    """The gain of what was read in one set-up: what was declared of it, its pairs, and the verdict on the mean as a
    fraction."""

    declared: Mapping[str, str]
    pairs: Pairs
    verdict: Verdict


def gains_by_setup(before: Side, after: Side, known: Known) -> tuple[SetupGain, ...]:
    """The gain of each set-up that both sides were read in, where no figure can stand for all of them.

    Arguments: before, after: cylinder number to its refits; known of the bench.
    Returns: the gains, in the order in which the set-ups were read first; none where there is one set-up, or where
    their gains do not differ by a real amount.
    Raises: OutOfRange for a flow that is not above zero.
    Source: `difference` between the mean gains of two set-ups over the runners that both have, every two of them judged
    together.
    """
    signatures = {refit.signature: refit.declared for rows in after.values() for refit in rows}
    each = [(declared, _of(signature, before, after)) for signature, declared in signatures.items()]
    read = [(declared, pairs) for declared, pairs in each if pairs.alike]
    compared = list(combinations([pairs for _, pairs in read], 2))
    if not any(_disagree(first, second, known, len(compared)) for first, second in compared):
        return ()
    return tuple(
        SetupGain(declared, pairs, decide(mean_difference(pairs, known), known, 1.0)) for declared, pairs in read
    )


def items_between(gains: Sequence[SetupGain]) -> tuple[str, ...]:
    """The items in which set-ups differ.

    Arguments: gains by set-up.
    Returns: each item that two of them differ in, once.
    Raises: nothing.
    Source: definition.
    """
    found = (one.item for a, b in combinations(gains, 2) for one in item_differences(a.declared, b.declared))
    return tuple(dict.fromkeys(found))


def _of(signature: Signature, before: Side, after: Side) -> Pairs:
    sides = (
        {number: [refit for refit in rows if refit.signature == signature] for number, rows in side.items()}
        for side in (before, after)
    )
    return pairs_of(*sides)


def _disagree(first: Pairs, second: Pairs, known: Known, judged: int) -> bool:
    """Whether the gains of two set-ups differ by a real amount, over the runners that both have."""
    both = {pair.runner for pair in first.alike} & {pair.runner for pair in second.alike}
    if not both:
        return False
    terms, value = [], 0.0
    for pairs, sign in ((first, 1.0), (second, -1.0)):
        shared = Pairs(tuple(pair for pair in pairs.alike if pair.runner in both), {})
        total = sum(pair.before for pair in shared.alike)
        value += sign * mean_difference(shared, known).value
        terms += [
            replace(term, coefficient=sign * term.coefficient * pair.before / total)
            for pair in shared.alike
            for term in pair.terms
        ]
    found = difference(terms, known, value)
    return abs(found.value) > found.half_width(judged)
