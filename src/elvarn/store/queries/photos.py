"""Pictures."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import Photo


def photo_of_digest(session: Session, digest: str) -> Photo | None:
    """A picture by its content."""
    return session.scalars(select(Photo).where(Photo.file_digest == digest).limit(1)).first()


def photos_of_jobs(session: Session, job_ids: Sequence[UUID]) -> Sequence[Photo]:
    """Pictures of jobs, as they came."""
    return session.scalars(select(Photo).where(Photo.job_id.in_(job_ids)).order_by(Photo.created_at)).all()


def photos_of_parts(session: Session, part_ids: Sequence[UUID]) -> Sequence[Photo]:
    """Pictures of parts, as they came."""
    return session.scalars(select(Photo).where(Photo.part_id.in_(part_ids)).order_by(Photo.created_at)).all()
