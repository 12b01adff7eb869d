"""How a job stands at port work: whether it was cut, and to which stage."""

from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """Port work is done once the part that was read before has a later state that is not in work."""
    after = record.after_state
    if after is None:
        return Standing(done=False, status="", todo=(Todo("Cut, then note the stage"),))
    words = "cut" if after.stage is None else f"stage {after.stage}"
    if after.in_work:
        return Standing(done=False, status=f"{words} in work", todo=(Todo(f"Go on with {after.label}"),))
    return Standing(done=True, status=words)
