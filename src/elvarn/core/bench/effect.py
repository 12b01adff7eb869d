"""What one declared item of a set-up does: set-ups that differ in it alone."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean

from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.verdict import Verdict, judge


@dataclass(frozen=True)
class ItemDifference:
    """An item in which two set-ups differ, and what it was in each."""

    item: str
    first: str
    second: str


@dataclass(frozen=True)
class Effect:
    """The verdict on the second against the first, as a fraction, and over how many ports."""

    verdict: Verdict
    ports: int


def item_differences(first: Mapping[str, str], second: Mapping[str, str]) -> list[ItemDifference]:
    """In which declared items two set-ups differ.

    Arguments: first, second: item to its words. Words parted by commas are compared without their
    order.
    Returns: the differences in the order of the items; an item that one does not declare counts as empty.
    Raises: nothing.
    Source: definition.
    """
    items = [*first, *(item for item in second if item not in first)]
    return [
        ItemDifference(item, first.get(item, ""), second.get(item, ""))
        for item in items
        if _words(first.get(item, "")) != _words(second.get(item, ""))
    ]


def effect_between(
    first: Mapping[int, Sequence[float]], second: Mapping[int, Sequence[float]], repeatability: float, shift: float
) -> Effect:
    """What the second set-up does to the flow against the first.

    Arguments: first, second: port number to its readings [any flow unit], one for each refit; repeatability [-] of a
    reading; shift [-] of a session, 0 where both are of one session.
    Returns: mean of the ports' ratios less one, with its half-width.
    Raises: NotEnoughData where no port was read in both; OutOfRange for a flow not above zero.
    Source: section "Is a gain real?" of docs/figures.md, for a ratio.
    """
    both = sorted(port for port in first if first[port] and second.get(port))
    if not both:
        raise NotEnoughData("ports", "No port was read in both set-ups.", "Read the same one in each.")
    for port in both:
        for flow in (*first[port], *second[port]):
            require_positive(flow=flow)
    ratios = [fmean(second[port]) / fmean(first[port]) for port in both]
    own = sum(1 / len(first[port]) + 1 / len(second[port]) for port in both) / len(both) ** 2
    deviation = sqrt(own * repeatability**2 + 2 * shift**2)
    mean = fmean(ratios)
    return Effect(judge(mean - 1, deviation * mean), len(both))


def _words(text: str) -> frozenset[str]:
    return frozenset(" ".join(word.split()).casefold() for word in text.split(",") if word.strip())
