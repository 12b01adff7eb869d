"""Tasks at a step of the work: what is to be done, who did it, how long it took."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.rail import Step
from elvarn.given import Moment, given
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.shop.known import names_of_people
from elvarn.store import queries
from elvarn.store.models import Job, Task
from elvarn.typed import Minutes


@dataclass(frozen=True)
class TaskView:
    id: UUID
    version: int
    rail_step: str
    position: int
    title: str
    state: str
    minutes: float | None
    result: str | None
    done_at: datetime | None
    done_by: str | None


@dataclass(frozen=True)
class TaskSheet:
    """The tasks at one step of the rail, and the cautions for it."""

    steps: list[TaskView]
    minutes: float
    cautions: list[str]


@given
class NewTask:
    person_id: UUID
    job_id: UUID
    rail_step: str
    title: str


@given
class TaskEdit:
    """A task done, waiting or open again, on the version that was seen. `at` is when, for a done one."""

    version: int
    person_id: UUID
    state: str
    at: Moment
    minutes: Minutes | None = None
    result: str | None = None


def task_sheet(session: Session, job_id: UUID, rail_step: str) -> TaskSheet:
    """What is to be done at one step of the rail, with its cautions."""
    find(session, Job, job_id, "job")
    people = names_of_people(session)
    steps = [_view(step, people) for step in queries.tasks_of(session, [job_id]) if step.rail_step == rail_step]
    return TaskSheet(steps, sum(step.minutes or 0 for step in steps), CAUTIONS.get(rail_step, []))


def add_task(session: Session, identifier: UUID, new: NewTask) -> TaskView:
    """Something to be done."""
    if new.rail_step not in list(Step):
        raise Invalid(f"'{new.rail_step}' is no step of the work.", path="rail_step")
    if not new.title.strip():
        raise Invalid("The step is empty. Type the new step.", path="title")

    def make(digest: str) -> Task:
        earlier = [s.position for s in queries.tasks_of(session, [new.job_id]) if s.rail_step == new.rail_step]
        return Task(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            rail_step=new.rail_step,
            position=max(earlier, default=0) + 1,
            title=new.title.strip(),
            state="open",
        )

    return _view(write_once(session, Task, identifier, new, make), names_of_people(session))


def edit_task(session: Session, identifier: UUID, change: TaskEdit) -> TaskView:
    """Mark a task done, waiting or open. Raises Stale where somebody else changed it meanwhile."""
    step = find_for_edit(session, Task, identifier, "step")
    if change.state not in ("open", "waiting", "done"):
        raise Invalid(f"'{change.state}' is no state: open, waiting or done.", path="state")
    if change.minutes is not None and not 0 <= change.minutes <= 10_000:
        raise Invalid(f"A step can't take {change.minutes:g} minutes. Enter 0 to 10 000.", path="minutes")
    done = change.state == "done"
    changes = {
        "state": change.state,
        "minutes": change.minutes,
        "result": change.result,
        "done_at": change.at if done else None,
        "done_by_id": change.person_id if done else None,
    }
    edit(step, change.version, changes, "step")
    session.flush()
    return _view(step, names_of_people(session))


def _view(step: Task, people: dict[UUID, str]) -> TaskView:
    return TaskView(
        step.id,
        step.version,
        step.rail_step,
        step.position,
        step.title,
        step.state,
        step.minutes,
        step.result,
        step.done_at,
        people.get(step.done_by_id) if step.done_by_id else None,
    )
