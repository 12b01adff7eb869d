"""What one declared item of a set-up does: set-ups that differ in it alone."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from elvarn.core.bench.gain import mean_difference
from elvarn.core.bench.pairs import Refit, pairs_of
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData
from elvarn.core.verdict import Verdict, decide


@dataclass(frozen=True)
class Effect:
    """The verdict on the second against the first, as a fraction, over how many ports, and their mean flows [m³/s]."""

    verdict: Verdict
    ports: int
    first: float
    second: float


def effect_between(first: Mapping[int, Sequence[Refit]], second: Mapping[int, Sequence[Refit]], known: Known) -> Effect:
    """What the second set-up does to the flow against the first.

    Arguments: first, second: port number to its refits, whatever was declared of them; known of the bench.
    Returns: the effect, over the ports that both have.
    Raises: NotEnoughData where no port was read in both; OutOfRange for a flow not above zero.
    Source: `decide`, on the mean over the ports.
    """
    pairs = pairs_of(*({port: [replace(r, declared={}) for r in refits] for port, refits in side.items()}
                       for side in (first, second)))  # fmt: skip
    if not pairs.alike:
        raise NotEnoughData("ports", "No port was read in both set-ups.", "Read the same one in each.")
    verdict = decide(mean_difference(pairs, known), known, 1.0)
    return Effect(verdict, len(pairs.alike), pairs.before, pairs.after)
