"""Builds."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from elvarn.store.models import Build, Job


def builds_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[Build]:
    """Builds of jobs in the order in which they were made, with their nodes."""
    wanted = select(Build).where(Build.job_id.in_(job_ids)).order_by(Build.sequence)
    return session.scalars(wanted.options(joinedload(Build.nodes))).unique().all()


def next_build_sequence(session: Session, job_id: UUID) -> int:
    """Number of the job's next build. The job is held until this is kept: two builds never share one."""
    session.execute(select(Job.id).where(Job.id == job_id).with_for_update())
    return (session.scalar(select(func.max(Build.sequence)).where(Build.job_id == job_id)) or 0) + 1
