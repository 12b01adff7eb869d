"""Jobs, what came in with them, and their tasks."""

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from elvarn.store.models import Engine, Job, ReceivedItem, Task


def jobs_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[Job]:
    """Jobs by their ids."""
    return session.scalars(select(Job).where(Job.id.in_(job_ids))).all()


def count_open_jobs(session: Session) -> int:
    """How many jobs are neither closed nor archived."""
    return (
        session.scalar(select(func.count()).select_from(Job).where(Job.closed_at.is_(None), Job.archived_at.is_(None)))
        or 0
    )


def closed_jobs(session: Session, most: int) -> Sequence[Job]:
    """Jobs that were handed over, the latest first."""
    handed = select(Job).where(Job.closed_at.is_not(None), Job.archived_at.is_(None))
    return session.scalars(handed.order_by(Job.closed_at.desc()).limit(most)).all()


def archived_jobs(session: Session, most: int) -> Sequence[Job]:
    """Jobs that were put away, the latest first."""
    away = select(Job).where(Job.archived_at.is_not(None))
    return session.scalars(away.order_by(Job.archived_at.desc()).limit(most)).all()


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


def tasks_planned(session: Session, until: date, most: int) -> Sequence[tuple[Task, str]]:
    """Tasks of open jobs that are planned up to a day and not done, with the titles of their jobs."""
    wanted = (
        select(Task, Job.title)
        .join(Job, Job.id == Task.job_id)
        .where(Task.planned_on <= until, Task.state != "done", Job.closed_at.is_(None), Job.archived_at.is_(None))
        .order_by(Task.planned_on, Task.position)
    )
    return [(row[0], row[1]) for row in session.execute(wanted.limit(most))]


def versions_of_engine(session: Session, engine_id: UUID | None) -> list[UUID]:
    """An engine and those before it, the last first."""
    found: list[UUID] = []
    while engine_id is not None:
        found.append(engine_id)
        engine_id = session.scalar(select(Engine.follows_id).where(Engine.id == engine_id))
    return found
