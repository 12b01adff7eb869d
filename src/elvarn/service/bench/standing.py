"""How a job stands on the bench: which runners were read before and after cutting."""

from elvarn.core.rail import Step
from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """The bench is done once every runner that is to be read was read after cutting."""
    runners = record.runners_to_read
    before, after = record.read_runners(record.before_state), record.read_runners(record.after_state)
    unread_before = [number for number in runners if number not in before]
    unread_after = [number for number in runners if number not in after]
    todo = []
    if unread_before and record.after_state is None:
        todo.append(Todo(f"Flow runner {unread_before[0]} before porting"))
    if unread_after:
        todo.append(Todo(f"Flow runner {unread_after[0]} after porting", after=Step.PORT))
    when, unread = ("after", unread_after) if after else ("before", unread_before)
    status = f"{when}: {len(runners) - len(unread)} of {len(runners)}" if before or after else ""
    return Standing(bool(runners) and not unread_after, status, tuple(todo))
