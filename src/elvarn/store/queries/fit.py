"""What is fitted on a job."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import BoltMap


def bolt_maps_of(session: Session, job_id: UUID) -> Sequence[BoltMap]:
    """The bolt maps of a job, as they were made."""
    return session.scalars(select(BoltMap).where(BoltMap.job_id == job_id).order_by(BoltMap.created_at)).all()
