"""What was set up alike: what was declared of two set-ups, item by item."""

from collections.abc import Mapping
from dataclasses import dataclass

Signature = frozenset[tuple[str, frozenset[str]]]


@dataclass(frozen=True)
class ItemDifference:
    """An item in which two set-ups differ, and what it was in each."""

    item: str
    first: str
    second: str


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


def signature_of(declared: Mapping[str, str]) -> Signature:
    """What two set-ups that are alike have in common.

    Arguments: declared: item to its words.
    Returns: the same for set-ups between which `item_differences` finds none.
    Raises: nothing.
    Source: definition.
    """
    return frozenset((item, _words(text)) for item, text in declared.items() if _words(text))


def _words(text: str) -> frozenset[str]:
    return frozenset(" ".join(word.split()).casefold() for word in text.split(",") if word.strip())
