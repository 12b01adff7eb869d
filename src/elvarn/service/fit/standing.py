"""How a job stands at fitting: how many of its tasks are done."""

from elvarn.core.rail import Step
from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """Fitting is done once every task that was noted is done."""
    tasks = [task for task in record.tasks if task.rail_step == Step.FIT]
    done = sum(task.state == "done" for task in tasks)
    todo = (Todo(f"{len(tasks) - done} fitting steps are open"),) if done < len(tasks) else ()
    return Standing(bool(tasks) and done == len(tasks), f"{done} of {len(tasks)}" if tasks else "", todo)
