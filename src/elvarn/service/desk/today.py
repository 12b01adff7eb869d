"""Who does what today, and what is outside until when."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.service.shop.known import names_of_people
from elvarn.store import queries
from elvarn.store.models import Task

MOST = 40


@dataclass(frozen=True)
class AtWork:
    """Something that is to be done today or is being done: by whom, of which job, what; `since` is the day for which it
    was planned, where that has gone by."""

    person: str
    job_id: UUID
    job: str
    says: str
    step: str
    running: bool
    since: date | None


def at_work(session: Session, today: date) -> list[AtWork]:
    """What runs, then what is planned up to today, by person."""
    people = names_of_people(session)
    running = [
        AtWork(
            people.get(row.person_id, ""), row.job_id, title, f"{row.round}, runner {row.cylinder}", "port", True, None
        )
        for row, title in queries.running_passes(session, MOST)
    ]
    planned = [
        AtWork(
            people.get(row.assigned_to_id, "") if row.assigned_to_id else "",
            row.job_id,
            title,
            row.title,
            row.rail_step,
            False,
            row.planned_on if row.planned_on and row.planned_on < today else None,
        )
        for row, title in queries.tasks_planned(session, today, MOST)
    ]
    return sorted([*running, *planned], key=lambda one: (one.person == "", one.person, not one.running))


def outside(tasks: Sequence[Task]) -> list[Task]:
    """What is outside and not back, the first due first."""
    out = [task for task in tasks if task.outside and task.state != "done"]
    return sorted(out, key=lambda task: (task.due_back_on is None, task.due_back_on or date.max))


def day_text(day: date) -> str:
    """A day as it is read: 24 Nov."""
    return f"{day.day} {day:%b}"
