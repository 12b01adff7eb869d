"""Jobs, what came in with them, and their tasks."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from elvarn.store.models import Job, ReceivedItem, Task


def jobs_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[Job]:
    """Jobs by their ids."""
    return session.scalars(select(Job).where(Job.id.in_(job_ids))).all()


def count_open_jobs(session: Session) -> int:
    """How many jobs are not closed."""
    return session.scalar(select(func.count()).select_from(Job).where(Job.closed_at.is_(None))) or 0


def closed_jobs(session: Session, most: int) -> Sequence[Job]:
    """Jobs that were handed over, the latest first."""
    wanted = select(Job).where(Job.closed_at.is_not(None)).order_by(Job.closed_at.desc()).limit(most)
    return session.scalars(wanted).all()


def hold_job(session: Session, job_id: UUID) -> None:
    """Wait for whoever is writing readings of this job, and keep others waiting until the transaction ends."""
    session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(str(job_id), 0))))


def titles_of_jobs(session: Session, job_ids: Sequence[UUID]) -> dict[UUID, str]:
    """Titles by id."""
    return {row.id: row.title for row in session.execute(select(Job.id, Job.title).where(Job.id.in_(job_ids)))}


def items_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[ReceivedItem]:
    """What came in with jobs, as it was noted."""
    wanted = select(ReceivedItem).where(ReceivedItem.job_id.in_(job_ids))
    return session.scalars(wanted.order_by(ReceivedItem.created_at, ReceivedItem.words)).all()


def tasks_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[Task]:
    """Tasks of jobs, in the order of the rail."""
    return session.scalars(select(Task).where(Task.job_id.in_(job_ids)).order_by(Task.rail_step, Task.position)).all()
