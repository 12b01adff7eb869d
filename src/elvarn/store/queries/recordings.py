"""Recordings of pulls, and the samples that came."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import Recording, RecordingPiece


def recordings_of(session: Session, job_id: UUID) -> Sequence[Recording]:
    """Recordings of a job in the order in which they were begun."""
    return session.scalars(select(Recording).where(Recording.job_id == job_id).order_by(Recording.started_at)).all()


def open_recordings(session: Session) -> list[UUID]:
    """Recordings that are on their way."""
    return list(session.scalars(select(Recording.id).where(Recording.ended_at.is_(None))))


def open_on_dyno(session: Session, dyno_id: UUID) -> bool:
    """Whether a dyno is recording."""
    wanted = select(Recording.id).where(Recording.dyno_id == dyno_id, Recording.ended_at.is_(None))
    return session.scalar(wanted) is not None


def pieces_of(session: Session, recording_id: UUID, after: int) -> Sequence[RecordingPiece]:
    """Pieces of a recording after a number, in order."""
    wanted = select(RecordingPiece).where(RecordingPiece.recording_id == recording_id, RecordingPiece.number > after)
    return session.scalars(wanted.order_by(RecordingPiece.number)).all()
