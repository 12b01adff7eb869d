"""How a job stands at fitting: how many of its tasks are done, and whether it was signed off."""

from elvarn.core.rail import Step
from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord


def standing(record: JobRecord) -> Standing:
    """Fitting is done once it was signed off, or every task that was noted is done."""
    tasks = [task for task in record.tasks if task.rail_step == Step.FIT]
    done = sum(task.state == "done" for task in tasks)
    if any(task.fit_key == "sign off" and task.state == "done" for task in tasks):
        return Standing(True, "signed off")
    todo = (Todo(f"{len(tasks) - done} fitting steps are open"),) if done < len(tasks) else ()
    return Standing(bool(tasks) and done == len(tasks), f"{done} of {len(tasks)}" if tasks else "", todo)
