"""Builds."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from elvarn.store.models import Build, BuildNode, Job, PartState


def builds_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[Build]:
    """Builds of jobs in the order in which they were made, with their nodes."""
    wanted = select(Build).where(Build.job_id.in_(job_ids)).order_by(Build.sequence)
    return session.scalars(wanted.options(joinedload(Build.nodes))).unique().all()


def builds_with_parts(session: Session, job_id: UUID) -> Sequence[Build]:
    """Builds of a job in the order in which they were made, with what stands at their nodes."""
    at_nodes = joinedload(Build.nodes).joinedload(BuildNode.part_state).joinedload(PartState.part)
    wanted = select(Build).where(Build.job_id == job_id).order_by(Build.sequence)
    return session.scalars(wanted.options(at_nodes)).unique().all()


def next_build_sequence(session: Session, job_id: UUID) -> int:
    """Number of the job's next build. The job is held until this is kept: two builds never share one."""
    session.execute(select(Job.id).where(Job.id == job_id).with_for_update())
    return (session.scalar(select(func.max(Build.sequence)).where(Build.job_id == job_id)) or 0) + 1
