"""Sections and walls of runners, and port work on a part."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from elvarn.core.port.meeting import Of
from elvarn.store.models import (
    AnySection,
    Job,
    OutlineReading,
    PortPass,
    PortPlan,
    PortRecipe,
    SectionReading,
    WallReading,
)


def sections_of(session: Session, state_ids: Sequence[UUID]) -> Sequence[AnySection]:
    """Valid sections of the runners of these part states, by their sizes or traced, as they were measured."""
    wanted = select(SectionReading).where(SectionReading.part_state_id.in_(state_ids))
    traced = [row for row in outlines_of(session, state_ids) if row.of == Of.RUNNER]
    sized = [row for row in session.scalars(wanted) if row.strike is None]
    return sorted([*sized, *traced], key=lambda row: row.taken_at)


def outlines_of(session: Session, state_ids: Sequence[UUID]) -> Sequence[OutlineReading]:
    """Valid outlines beside these part states, as they were traced."""
    wanted = select(OutlineReading).where(OutlineReading.part_state_id.in_(state_ids))
    return [row for row in session.scalars(wanted.order_by(OutlineReading.taken_at)) if row.strike is None]


def walls_of(session: Session, state_ids: Sequence[UUID]) -> Sequence[WallReading]:
    """Valid walls of these part states, as they were gauged."""
    wanted = select(WallReading).where(WallReading.part_state_id.in_(state_ids))
    return [row for row in session.scalars(wanted.order_by(WallReading.taken_at)) if row.strike is None]


def port_plan_of(session: Session, job_id: UUID, part_id: UUID) -> PortPlan | None:
    """What a part of a job is to become, where that was said."""
    return session.scalars(select(PortPlan).where(PortPlan.job_id == job_id, PortPlan.part_id == part_id)).first()


def passes_of(session: Session, state_ids: Sequence[UUID]) -> Sequence[PortPass]:
    """Passes over the runners of these part states, as they were begun."""
    wanted = select(PortPass).where(PortPass.part_state_id.in_(state_ids))
    return session.scalars(wanted.order_by(PortPass.created_at)).all()


def latest_recipes(session: Session) -> Sequence[PortRecipe]:
    """The latest version of each of the shop's recipes."""
    rows = session.scalars(select(PortRecipe).order_by(PortRecipe.number))
    return list({row.name.lower(): row for row in rows}.values())


def running_passes(session: Session, most: int) -> Sequence[tuple[PortPass, str]]:
    """Passes whose watch runs, with the titles of their jobs."""
    wanted = select(PortPass, Job.title).join(Job, Job.id == PortPass.job_id).where(PortPass.running_since.is_not(None))
    return [(row[0], row[1]) for row in session.execute(wanted.order_by(PortPass.running_since).limit(most))]


def done_passes(session: Session, rounds: Sequence[str], material: str, job_id: UUID, most: int) -> Sequence[PortPass]:
    """The latest passes of these rounds that were done, on parts of this material or of this job."""
    same = PortPass.job_id.in_(select(PortPlan.job_id).where(PortPlan.material == material))
    wanted = select(PortPass).where(
        PortPass.done_at.is_not(None), PortPass.round.in_(rounds), or_(same, PortPass.job_id == job_id)
    )
    return session.scalars(wanted.order_by(PortPass.done_at.desc()).limit(most)).all()
