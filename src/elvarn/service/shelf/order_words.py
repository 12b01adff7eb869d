"""What is said of the order list."""

from collections.abc import Iterator, Sequence

from elvarn.core.finding import Grade
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.shelf.order_rows import OrderRow


def order_words(rows: Sequence[OrderRow]) -> list[Sentence]:
    """What is late first, then what has no price, what is to be done last."""
    return [*_about_late(rows), *_about_unpriced(rows), *_next(rows)]


def _about_late(rows: Sequence[OrderRow]) -> Iterator[Sentence]:
    for row in rows:
        if row.overdue and row.order_by is not None:
            text = f"{row.name} had to be ordered by {row.order_by:%d %b} to be here in time."
            yield sentence(text, Grade.COMPUTED, "doubt", action="Tell the customer, or choose another part.")
        for want in row.wants:
            if want.late and want.due_on and want.expected_on:
                text = f"{row.name} is expected on {want.expected_on:%d %b}; {want.job} is due {want.due_on:%d %b}."
                yield sentence(text, Grade.COMPUTED, "doubt")


def _about_unpriced(rows: Sequence[OrderRow]) -> Iterator[Sentence]:
    names = [row.name for row in rows if row.to_order and row.price is None]
    if names:
        yield sentence(f"Not in the sum: {listed(names[:4])} has no price.", Grade.RULE, "doubt")


def _next(rows: Sequence[OrderRow]) -> Iterator[Sentence]:
    if any(row.to_order for row in rows):
        yield sentence("Order what is short, then mark it ordered: O.", Grade.RULE, "next")
    elif rows:
        yield sentence("Nothing is short. Mark what comes in: H, and what is fitted: F.", Grade.RULE, "next")
    else:
        yield sentence("Want a part for a job: on its sets, its candidates, or the part itself.", Grade.RULE, "next")
