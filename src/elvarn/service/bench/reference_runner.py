"""One runner read for all of them, or all again."""

from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.store import queries
from elvarn.store.models import Job


@given
class Reference:
    """The runner that stands for the others on the bench; none where all are read."""

    version: int
    runner: int | None


def choose_reference(session: Session, identifier: UUID, chosen: Reference) -> Job:
    """Read one runner for all of them, or all again."""
    job = find_for_edit(session, Job, identifier, "job")
    count = max((build.cylinder_count for build in queries.builds_of(session, [identifier])), default=0)
    if chosen.runner is not None and not 1 <= chosen.runner <= count:
        raise Invalid(f"There is no runner {chosen.runner}; this part has {count}.", path="runner")
    edit(job, chosen.version, {"reference_runner": chosen.runner}, "job")
    session.flush()
    return job
