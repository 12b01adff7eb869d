"""A job handed over, or opened again."""

from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.store.models import Job


@given
class Closing:
    version: int
    closed: bool


def close_job(session: Session, identifier: UUID, closing: Closing) -> Job:
    """Hand a job over, or open it again."""
    job = find_for_edit(session, Job, identifier, "job")
    edit(job, closing.version, {"closed_at": datetime.now(UTC) if closing.closed else None}, "job")
    session.flush()
    return job
