"""Jobs put away from the board, or taken away where nothing rests on them."""

from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.sentences import what_rests
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.store import queries
from elvarn.store.models import Job


@given
class JobAway:
    """Whether a job is put away from the board, on the version that was seen."""

    version: int
    archived: bool


def put_job_away(session: Session, job_id: UUID, change: JobAway) -> Job:
    """Put a job away from the board, or back on it; nothing of it changes. Raises Stale where it was changed
    meanwhile."""
    job = find_for_edit(session, Job, job_id, "job")
    edit(job, change.version, {"archived_at": datetime.now(UTC) if change.archived else None}, "job")
    session.flush()
    return job


def delete_job(session: Session, job_id: UUID, version: int) -> None:
    """Take a job away. Raises Invalid where something rests on it; Stale where it was changed meanwhile."""
    job = find_for_edit(session, Job, job_id, "job")
    edit(job, version, {}, "job")
    resting = queries.rests_on_job(session, job_id)
    if resting:
        raise Invalid(f"{what_rests(resting)} this job. Put it away instead: nothing measured is lost.", path="job")
    session.flush()
    queries.drop_job(session, job)
