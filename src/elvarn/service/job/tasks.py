"""Tasks at a step of the work: what is to be done, who did it, how long it took."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.port.order import Work, in_order, lacking, too_early
from elvarn.core.rail import Step
from elvarn.given import Day, Moment, given
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.kernel.errors import Invalid, Offer, Question, Stale
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import first_up, listed
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.shop.known import names_of_people
from elvarn.store import queries
from elvarn.store.models import Job, Person, Task
from elvarn.typed import Minutes

TOO_EARLY = "too_early"


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
    work: str | None
    waits_for: str
    assigned_to_id: UUID | None
    assigned_to: str | None
    planned_on: date | None
    outside: str
    due_back_on: date | None
    doubts: list[str]


@dataclass(frozen=True)
class LackingWork:
    """What the work on the list asks for besides: "leak test the plenum", for "weld"."""

    work: str
    because: str


@dataclass(frozen=True)
class TaskSheet:
    """The tasks at one step of the rail, and the cautions for it; of port work which kinds of work have an order, what
    is lacking, and an order of what is open that keeps every rule."""

    steps: list[TaskView]
    minutes: float
    cautions: list[str]
    works: list[str]
    lacking: list[LackingWork]
    in_order: list[str]


@given
class NewTask:
    """Something to be done: in words, or a kind of work that has an order."""

    person_id: UUID
    job_id: UUID
    rail_step: str
    title: str = ""
    work: str | None = None


@given
class TaskEdit:
    """A task done, waiting or open again, on the version that was seen. `at` is when, for a done one."""

    version: int
    person_id: UUID
    state: str
    at: Moment
    minutes: Minutes | None = None
    result: str | None = None
    accepted: list[str] = field(default_factory=list)


@given
class TaskPlan:
    """Who is to do a task and when, with whom it is outside and when it is due back, on the version that was seen."""

    version: int
    person_id: UUID
    assigned_to_id: UUID | None = None
    planned_on: Day | None = None
    outside: str = ""
    due_back_on: Day | None = None


def task_sheet(session: Session, job_id: UUID, rail_step: str) -> TaskSheet:
    """What is to be done at one step of the rail beside a swap, with its cautions."""
    find(session, Job, job_id, "job")
    people = names_of_people(session)
    rows = [step for step in queries.tasks_of(session, [job_id]) if step.rail_step == rail_step and not step.fit_key]
    still_open = open_works(rows)
    steps = [_view(step, people, still_open) for step in rows]
    lacks = lacking({Work(step.work) for step in rows if step.work})
    return TaskSheet(
        steps,
        sum(step.minutes or 0 for step in steps),
        CAUTIONS.get(rail_step, []),
        list(Work) if rail_step == Step.PORT else [],
        [LackingWork(work, because) for work, because in lacks],
        list(in_order(still_open)),
    )


def open_works(rows: Sequence[Task]) -> set[Work]:
    """Kinds of work on a list that are not done."""
    return {Work(row.work) for row in rows if row.work and row.state != "done"}


def add_task(session: Session, identifier: UUID, new: NewTask) -> TaskView:
    """Something to be done."""
    if new.rail_step not in list(Step):
        raise Invalid(f"'{new.rail_step}' is no step of the work.", path="rail_step")
    if new.work is not None and new.work not in list(Work):
        raise Invalid(f"'{new.work}' is no work that has an order: {', '.join(Work)}.", path="work")
    title = new.title.strip() or first_up(new.work or "")
    if not title:
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
            title=title,
            state="open",
            work=new.work,
        )

    return _view(write_once(session, Task, identifier, new, make), names_of_people(session))


def edit_task(session: Session, identifier: UUID, change: TaskEdit) -> TaskView:
    """Mark a task done, waiting or open. Raises Stale where somebody else changed it meanwhile."""
    step = find_for_edit(session, Task, identifier, "step")
    if step.fit_key is not None:
        raise Invalid("This task belongs to the swap sheet, which knows what holds it up. Tick it there.", path="state")
    if change.state not in ("open", "waiting", "done"):
        raise Invalid(f"'{change.state}' is no state: open, waiting or done.", path="state")
    if change.minutes is not None and not 0 <= change.minutes <= 10_000:
        raise Invalid(f"A step can't take {change.minutes:g} minutes. Enter 0 to 10 000.", path="minutes")
    done = change.state == "done"
    doubts = _ask_about_order(session, step, change) if done else []
    changes = {
        "state": change.state,
        "minutes": change.minutes,
        "result": change.result,
        "done_at": change.at if done else None,
        "done_by_id": change.person_id if done else None,
        "doubts": doubts,
    }
    if step.version != change.version:
        there, people = _view(step, names_of_people(session)), names_of_people(session)
        theirs = {name: getattr(there, name) for name in ("state", "minutes", "result", "done_by", "version")}
        yours = {name: getattr(change, name) for name in ("state", "minutes", "result", "version")}
        raise Stale("step", theirs, {**yours, "done_by": people.get(change.person_id) if done else None})
    edit(step, change.version, changes, "step")
    session.flush()
    return _view(step, names_of_people(session))


def plan_task(session: Session, identifier: UUID, plan: TaskPlan) -> TaskView:
    """Say who does a task and when, or where it is. Raises Invalid for a day back of what is not outside, or before it
    is planned; Stale where somebody else changed it meanwhile."""
    step = find_for_edit(session, Task, identifier, "step")
    outside = " ".join(plan.outside.split())
    if plan.assigned_to_id is not None:
        find(session, Person, plan.assigned_to_id, "person")
    if plan.due_back_on and not outside:
        raise Invalid("Say with whom it is outside, then when it is due back.", path="outside")
    if plan.due_back_on and plan.planned_on and plan.due_back_on < plan.planned_on:
        text = f"It would be back on {plan.due_back_on}, before it goes out on {plan.planned_on}."
        raise Invalid(f"{text} Check both days.", path="due_back_on")
    changes = {
        "assigned_to_id": plan.assigned_to_id,
        "planned_on": plan.planned_on,
        "outside": outside,
        "due_back_on": plan.due_back_on,
    }
    edit(step, plan.version, changes, "step")
    session.flush()
    return _view(step, names_of_people(session))


def _ask_about_order(session: Session, step: Task, change: TaskEdit) -> list[str]:
    """The doubts under which a task is done. Raises Question where it comes before what it needs."""
    if not step.work:
        return []
    rows = [one for one in queries.tasks_of(session, [step.job_id]) if one.rail_step == step.rail_step]
    broken = too_early(Work(step.work), open_works([one for one in rows if one.id != step.id]))
    if broken and TOO_EARLY not in change.accepted:
        rule = broken[0]
        text = f"{first_up(step.work)} comes after: {listed([one.first for one in broken])}, not done yet. "
        text += f"{first_up(rule.why)}."
        keep = Offer("Done all the same, flagged", {"accepted": [*change.accepted, TOO_EARLY]})
        raise Question(TOO_EARLY, text, [keep], path="state")
    return [f"before: {listed([one.first for one in broken])}"] if broken else []


def _view(step: Task, people: dict[UUID, str], still_open: Collection[Work] = ()) -> TaskView:
    waits = too_early(Work(step.work), still_open) if step.work and step.state != "done" else []
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
        step.work,
        listed([one.first for one in waits]) if waits else "",
        step.assigned_to_id,
        people.get(step.assigned_to_id) if step.assigned_to_id else None,
        step.planned_on,
        step.outside,
        step.due_back_on,
        step.doubts,
    )
