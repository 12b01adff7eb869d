"""Builds."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import ColumnElement, delete, func, select, update
from sqlalchemy.orm import Session, joinedload

from elvarn.store.models import (
    Base,
    Build,
    BuildNode,
    DimensionReading,
    FlowReading,
    Job,
    LogReading,
    Part,
    PartState,
    PullCard,
    Recording,
)


def builds_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[Build]:
    """Builds of jobs in the order in which they were made, with their nodes."""
    wanted = select(Build).where(Build.job_id.in_(job_ids)).order_by(Build.sequence)
    return session.scalars(wanted.options(joinedload(Build.nodes))).unique().all()


def builds_with_parts(session: Session, job_id: UUID) -> Sequence[Build]:
    """Builds of a job in the order in which they were made, with what stands at their nodes."""
    at_nodes = joinedload(Build.nodes).joinedload(BuildNode.part_state).joinedload(PartState.part)
    wanted = select(Build).where(Build.job_id == job_id).order_by(Build.sequence)
    return session.scalars(wanted.options(at_nodes)).unique().all()


def rests_on_build(session: Session, build_id: UUID) -> dict[str, int]:
    """What was measured with a build, or of parts as they stand in no other, by its name, and how many of it: struck
    ones too, for nothing measured is lost."""

    def count(kind: type[Base], condition: ColumnElement[bool]) -> int:
        return session.scalar(select(func.count()).select_from(kind).where(condition)) or 0

    here, elsewhere = (
        select(BuildNode.part_state_id).where(where, BuildNode.part_state_id.is_not(None))
        for where in (BuildNode.build_id == build_id, BuildNode.build_id != build_id)
    )
    counts = {
        "pull": count(PullCard, PullCard.build_id == build_id),
        "log": count(LogReading, LogReading.build_id == build_id),
        "recording": count(Recording, Recording.build_id == build_id),
        "reading": sum(
            count(kind, kind.part_state_id.in_(here) & kind.part_state_id.not_in(elsewhere) & ~_on_shelf(kind))
            for kind in (FlowReading, DimensionReading)
        ),
    }
    return {name: count for name, count in counts.items() if count}


def _on_shelf(kind: type[FlowReading] | type[DimensionReading]) -> ColumnElement[bool]:
    """Whether a reading is of a part that belongs to no job: it is seen on the shelf, whatever builds there are."""
    of = select(PartState.id).join(Part, Part.id == PartState.part_id).where(Part.job_id.is_(None))
    return kind.part_state_id.in_(of)


def drop_build(session: Session, build: Build) -> None:
    """Take a build and its nodes away; the job's revision rises with it."""
    session.execute(delete(BuildNode).where(BuildNode.build_id == build.id))
    session.execute(delete(Build).where(Build.id == build.id))
    session.execute(update(Job).where(Job.id == build.job_id).values(title=Job.title))


def next_build_sequence(session: Session, job_id: UUID) -> int:
    """Number of the job's next build. The job is held until this is kept: two builds never share one."""
    session.execute(select(Job.id).where(Job.id == job_id).with_for_update())
    return (session.scalar(select(func.max(Build.sequence)).where(Build.job_id == job_id)) or 0) + 1
