"""What stands beside the pulls of a job: recordings, what a live pull starts with, and logs without torque."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.service.dyno.logs import LogView, about_logs, log_views
from elvarn.service.dyno.start import StartView, start_of
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.job import load_job
from elvarn.service.record.logs import curves_of
from elvarn.store import queries


@dataclass(frozen=True)
class BesideView:
    """What stands beside the pulls; `said` is what the logs say."""

    start: StartView
    logs: list[LogView]
    said: list[Sentence]


def beside_pulls(session: Session, job_id: UUID) -> BesideView:
    """What stands beside the pulls of a job. Raises NotFound."""
    record = load_job(session, job_id)
    found = [curves_of(session, log) for log in queries.logs_of(session, job_id)]
    return BesideView(start_of(record), log_views(record, found), about_logs(record, found))
