"""What is asked of the database more than once."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session, selectinload

from elvarn.store.models import (
    Build,
    BuildNode,
    DimensionReading,
    FlowReading,
    Job,
    Part,
    PartState,
    Person,
    PullReading,
    Setup,
    Step,
)


def open_jobs(session: Session) -> Sequence[Job]:
    """Jobs that are not closed, the longest waiting first."""
    return session.scalars(select(Job).where(Job.closed_at.is_(None)).order_by(Job.due_on, Job.created_at)).all()


def builds_of(session: Session, job_id: UUID) -> Sequence[Build]:
    """Builds of a job in the order in which they were made, with their nodes and part states."""
    nodes = selectinload(Build.nodes).selectinload(BuildNode.part_state).selectinload(PartState.part)
    return session.scalars(select(Build).where(Build.job_id == job_id).order_by(Build.sequence).options(nodes)).all()


def parts_of(session: Session, job_id: UUID) -> Sequence[Part]:
    """Parts of a job with their states, in the order in which they came."""
    wanted = select(Part).where(Part.job_id == job_id).order_by(Part.created_at, Part.name)
    return session.scalars(wanted.options(selectinload(Part.states))).all()


def flow_readings_of(session: Session, job_id: UUID) -> Sequence[FlowReading]:
    """Flow readings of a job as they were taken, struck ones too."""
    wanted = select(FlowReading).where(FlowReading.job_id == job_id)
    return session.scalars(wanted.order_by(FlowReading.taken_at, FlowReading.created_at)).all()


def pulls_of(session: Session, job_id: UUID) -> Sequence[PullReading]:
    """Pulls of a job as they were taken, struck ones too."""
    wanted = select(PullReading).where(PullReading.job_id == job_id)
    return session.scalars(wanted.order_by(PullReading.taken_at, PullReading.created_at)).all()


def dimensions_of(session: Session, state_ids: Sequence[UUID]) -> Sequence[DimensionReading]:
    """Dimension readings of these part states that are not struck out."""
    wanted = select(DimensionReading).where(DimensionReading.part_state_id.in_(state_ids))
    return [row for row in session.scalars(wanted.order_by(DimensionReading.taken_at)) if row.strike is None]


def last_setup(session: Session, job_id: UUID) -> Setup | None:
    """The set-up that was used last on a job."""
    wanted = select(Setup).where(Setup.job_id == job_id).order_by(Setup.created_at.desc()).limit(1)
    return session.scalars(wanted).first()


def steps_of(session: Session, job_id: UUID) -> Sequence[Step]:
    """Steps of a job, in the order of the rail."""
    return session.scalars(select(Step).where(Step.job_id == job_id).order_by(Step.rail_step, Step.position)).all()


def next_state_sequence(session: Session, part_id: UUID) -> int:
    """Number of the state that the next cut makes."""
    return (session.scalar(select(func.max(PartState.sequence)).where(PartState.part_id == part_id)) or 0) + 1


def next_build_sequence(session: Session, job_id: UUID) -> int:
    """Number of the job's next build."""
    return (session.scalar(select(func.max(Build.sequence)).where(Build.job_id == job_id)) or 0) + 1


def names_of_people(session: Session) -> dict[UUID, str]:
    """Everybody's name by id."""
    return {row.id: row.name for row in session.execute(select(Person.id, Person.name))}
