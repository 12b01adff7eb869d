"""What is fitted on a job."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import BoltMap, EngineFamily, FitNote, FitPlan, Task


def bolt_maps_of(session: Session, job_id: UUID) -> Sequence[BoltMap]:
    """The bolt maps of a job, as they were made."""
    return session.scalars(select(BoltMap).where(BoltMap.job_id == job_id).order_by(BoltMap.created_at)).all()


def fit_plan_of(session: Session, job_id: UUID) -> FitPlan | None:
    """The plan of a job that counts."""
    wanted = select(FitPlan).where(FitPlan.job_id == job_id, FitPlan.put_away_at.is_(None))
    return session.scalar(wanted.order_by(FitPlan.created_at.desc()).limit(1))


def tasks_of_plan(session: Session, plan_id: UUID) -> dict[str, Task]:
    """Tasks of a plan, by their key."""
    rows = session.scalars(select(Task).where(Task.fit_plan_id == plan_id))
    return {row.fit_key: row for row in rows if row.fit_key}


def fit_notes_of(session: Session, job_id: UUID) -> Sequence[FitNote]:
    """What was noted while fitting, as it was noted."""
    return session.scalars(select(FitNote).where(FitNote.job_id == job_id).order_by(FitNote.created_at)).all()


def families(session: Session) -> Sequence[EngineFamily]:
    """Engine families that the shop knows."""
    return session.scalars(select(EngineFamily).order_by(EngineFamily.name)).all()


def family_named(session: Session, name: str) -> EngineFamily | None:
    """The family of this name."""
    return session.scalar(select(EngineFamily).where(EngineFamily.name == name))
