"""What of a job waits for somebody to decide."""

from elvarn.service.kernel.sentences import listed
from elvarn.service.record.job import JobRecord
from elvarn.service.record.said import no_figure


def waits_for(record: JobRecord) -> str:
    """The first thing that waits for a decision, in words; nothing where none does."""
    if record.job.closed_at is not None:
        return ""
    if not record.pairs.alike and no_figure(record.pairs):
        return "decide which figures count"
    waiting = [task.title for task in record.tasks if task.state == "waiting"]
    if waiting:
        return f"waiting: {waiting[0]}"
    thought = _thought_of(record)
    return f"choose: {listed(thought)}" if len(thought) > 1 else ""


def _thought_of(record: JobRecord) -> list[str]:
    """Builds that are alternatives still: nothing was cut, and none of them was pulled."""
    others = [build for build in record.builds if not build.is_stock]
    if record.after_state is not None or any(record.valid_pulls(build) for build in others):
        return []
    return [build.name for build in others]
