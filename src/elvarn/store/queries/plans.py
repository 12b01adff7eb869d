"""Test plans."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import FlowReading, Plan, ProbeReading


def plans_of(session: Session, job_id: UUID) -> Sequence[Plan]:
    """Test plans of a job as they were made."""
    return session.scalars(select(Plan).where(Plan.job_id == job_id).order_by(Plan.created_at)).all()


def flows_of_plan(session: Session, plan_id: UUID) -> Sequence[FlowReading]:
    """Valid flow readings of a test plan, as they were taken."""
    wanted = select(FlowReading).where(FlowReading.plan_id == plan_id).order_by(FlowReading.taken_at)
    return [row for row in session.scalars(wanted) if row.strike is None]


def probes_of_plan(session: Session, plan_id: UUID) -> Sequence[ProbeReading]:
    """Valid probe readings of a test plan, as they were taken."""
    wanted = select(ProbeReading).where(ProbeReading.plan_id == plan_id).order_by(ProbeReading.taken_at)
    return [row for row in session.scalars(wanted) if row.strike is None]
