"""Sheets that were handed over."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import HandedSheet


def handed_sheets(session: Session, job_id: UUID) -> Sequence[HandedSheet]:
    """Sheets of a job as they were handed over, the latest first."""
    wanted = select(HandedSheet).where(HandedSheet.job_id == job_id).order_by(HandedSheet.handed_at.desc())
    return session.scalars(wanted).all()
