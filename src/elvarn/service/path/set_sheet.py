"""The best sets of parts for a job, beside leaving all as it is."""

from collections.abc import Hashable
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.service.kernel.memo import Memo
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.path.pool import band_of
from elvarn.service.path.set_views import Reckoner, SetView, set_view
from elvarn.service.path.set_words import sets_margin
from elvarn.service.path.sets import Sets, kept_sets
from elvarn.service.record.curves import CurveShelf


@dataclass(frozen=True)
class PlaceNow:
    """A kind of part that sets exchange, and what is fitted there now."""

    kind: str
    now: str


@dataclass(frozen=True)
class SetSheet:
    """The best sets, and all as it is, in their order; `held` sets were compared."""

    build_id: UUID
    build: str
    band: str
    places: list[PlaceNow]
    sets: list[SetView]
    held: int
    shown_percent: float
    budget: float | None
    due_on: date | None
    currency: str
    margin: list[Sentence]


def set_sheet(
    session: Session,
    curves: CurveShelf,
    kept: Memo[Hashable, Any],
    job_id: UUID,
    build_id: UUID | None,
    today: date,
) -> SetSheet:
    """The best sets for a build of a job."""
    sets = kept_sets(session, curves, kept, job_id, build_id, today)
    reckoner = Reckoner(sets, today)
    views = [set_view(reckoner, row, why) for row, why in reckoner.best().items()]
    first = sets.first
    low, high = band_of(first.path)
    return SetSheet(
        build_id=first.path.build.id,
        build=first.path.build.name,
        band=f"{low} to {high} rpm",
        places=[PlaceNow(pool.place.kind, _name_now(sets, n)) for n, pool in enumerate(sets.pools)],
        sets=views,
        held=len(sets.picks),
        shown_percent=round(100 * first.shown, 2),
        budget=reckoner.budget,
        due_on=reckoner.due_on,
        currency=first.settings.currency,
        margin=sets_margin(sets, reckoner, views),
    )


def _name_now(sets: Sets, group: int) -> str:
    now = sets.pools[group].place.now
    return " ".join(word for word in (now.part.maker, now.part.name) if word) if now else "no part chosen"
