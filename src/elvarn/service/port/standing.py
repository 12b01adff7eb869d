"""How a job stands at port work: whether it was cut, and to which stage."""

from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """Port work is done once the part that was read before has a later state."""
    after = record.after_state
    if after is None:
        return Standing(done=False, status="", todo=(Todo("Cut, then note the stage"),))
    return Standing(done=True, status="cut" if after.stage is None else f"stage {after.stage}")
