"""How a job stands at hand-over."""

from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """Hand-over is done once the job is closed."""
    if record.job.closed_at is not None:
        return Standing(done=True, status="handed over")
    return Standing(done=False, status="", todo=(Todo("Print the sheet and hand over"),))
