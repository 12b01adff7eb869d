"""How many of a part lie here, are promised to jobs, ordered, and left over."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.store import queries
from elvarn.store.models import Part, WantState
from elvarn.store.queries import WantedCount


@dataclass(frozen=True)
class Stock:
    """Of one part: `here` on the shelf; `promised` to jobs that have not fitted it; `ordered`; `for_the_shelf` wanted
    without a job and not ordered; `set_aside` of what is here, for jobs that have it but have not fitted it."""

    here: int = 0
    promised: int = 0
    ordered: int = 0
    for_the_shelf: int = 0
    set_aside: int = 0

    @property
    def left_over(self) -> int:
        """What nobody has spoken for, of what is here or coming; below 0 what is short."""
        return self.here + self.ordered - self.promised

    @property
    def at_hand(self) -> int:
        """What lies here that nobody has spoken for."""
        return max(0, min(self.here, self.left_over))

    @property
    def to_order(self) -> int:
        return max(0, -self.left_over) + self.for_the_shelf


def stock_of(here: int, counts: Iterable[WantedCount]) -> Stock:
    """The stock of one part, from what is wanted of it."""
    promised = ordered = for_the_shelf = set_aside = 0
    for one in counts:
        promised += one.count if one.for_job else 0
        ordered += one.count if one.state == WantState.ORDERED else 0
        set_aside += one.count if one.for_job and one.state == WantState.HERE else 0
        for_the_shelf += one.count if not one.for_job and one.state == WantState.WANTED else 0
    return Stock(here, promised, ordered, for_the_shelf, set_aside)


def stocks_of(session: Session, parts: Sequence[Part]) -> dict[UUID, Stock]:
    """The stock of each part, by its id."""
    counts: dict[UUID, list[WantedCount]] = {}
    for one in queries.wanted_counts(session, [part.id for part in parts]):
        counts.setdefault(one.part_id, []).append(one)
    return {part.id: stock_of(part.on_hand, counts.get(part.id, ())) for part in parts}
