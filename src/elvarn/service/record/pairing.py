"""The runners that were read before and after, of what was set up alike; and gains that depend on the set-up."""

from collections.abc import Sequence

from sqlalchemy.orm import Session

from elvarn.core.bench.by_setup import SetupGain, Side, gains_by_setup, items_between
from elvarn.core.bench.pairs import Pairs, pairs_of
from elvarn.service.record.trust import learned_of, trust_of
from elvarn.store.models import FlowReading


def gains_of_setups(
    session: Session, sides: Sequence[Side], before: Sequence[FlowReading], after: Sequence[FlowReading]
) -> tuple[SetupGain, ...]:
    """The gain of each set-up, where no figure can stand for all of them. The readings are those of the sides."""
    if len({refit.signature for refits in sides[1].values() for refit in refits}) < 2 or not before:
        return ()
    bench = after[-1].setup.bench
    return gains_by_setup(sides[0], sides[1], trust_of(bench, learned_of(session, bench), before, after).known)


def pairs_or_apart(sides: Sequence[Side], by_setup: Sequence[SetupGain]) -> Pairs:
    """The pairs of two sides; none where the gains of their set-ups are apart."""
    return Pairs((), {}, items_between(by_setup)) if by_setup else pairs_of(sides[0], sides[1])
