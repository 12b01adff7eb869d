"""Parts that are wanted, ordered and here."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import ColumnElement, func, select
from sqlalchemy.orm import Session

from elvarn.store.models import Job, Part, WantedPart, WantState

OPEN = (WantState.WANTED, WantState.ORDERED, WantState.HERE)


@dataclass(frozen=True)
class WantedCount:
    """So many of a part that are at a state, for jobs or for the shelf."""

    part_id: UUID
    for_job: bool
    state: str
    count: int


def wanted_counts(session: Session, part_ids: Sequence[UUID] | None = None) -> list[WantedCount]:
    """What is wanted of these parts and neither fitted nor dropped; of every part where none are named."""
    for_job = WantedPart.job_id.is_not(None)
    wanted = select(WantedPart.part_id, for_job, WantedPart.state, func.sum(WantedPart.count))
    wanted = wanted.where(WantedPart.state.in_(OPEN), _of_open_jobs()).group_by(
        WantedPart.part_id, for_job, WantedPart.state
    )
    if part_ids is not None:
        wanted = wanted.where(WantedPart.part_id.in_(part_ids))
    return [WantedCount(*row) for row in session.execute(wanted)]


def _of_open_jobs() -> ColumnElement[bool]:
    """Of a job that was put away nothing is wanted, until it is taken out again."""
    away = select(Job.id).where(Job.archived_at.is_not(None))
    return WantedPart.job_id.is_(None) | WantedPart.job_id.not_in(away)


def open_wants(session: Session) -> Sequence[WantedPart]:
    """What is wanted over all jobs and neither fitted nor dropped, the oldest first; not what came for the shelf."""
    done = (WantedPart.state == WantState.HERE) & WantedPart.job_id.is_(None)
    wanted = select(WantedPart).where(WantedPart.state.in_(OPEN), ~done, _of_open_jobs())
    return session.scalars(wanted.order_by(WantedPart.created_at, WantedPart.id)).all()


def parts_by_id(session: Session, part_ids: Sequence[UUID]) -> dict[UUID, Part]:
    """Parts by their ids, without their states."""
    return {part.id: part for part in session.scalars(select(Part).where(Part.id.in_(part_ids)))}
