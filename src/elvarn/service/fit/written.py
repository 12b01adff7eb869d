"""The tasks of a plan as rows: written once, kept while the builds change, marked where what they were done for did."""

from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.core.rail import Step
from elvarn.service.fit.state import LETTERS, PlanState, seen_of
from elvarn.store import queries
from elvarn.store.models import Task


def write_tasks(session: Session, state: PlanState, person_id: UUID) -> None:
    """A row for each task of a plan; those that are no longer asked for go unless somebody worked on them. A task whose
    strand changed after it was done is marked."""
    plan, rows = state.plan, dict(state.rows)
    seen = {one["key"]: one for one in plan.seen}
    for key, row in rows.items():
        if key not in state.tasks and row.state == "open" and not row.readings:
            session.delete(row)
    session.flush()
    _mark_changed(state, seen)
    taken = [row.position for row in queries.tasks_of(session, [plan.job_id]) if row.rail_step == Step.FIT]
    position = max(taken, default=0)
    for key, task in state.tasks.items():
        if key in rows:
            rows[key].title = task.title
            continue
        position += 1
        session.add(
            Task(
                id=uuid5(plan.id, key), content_digest=plan.content_digest, person_id=person_id, job_id=plan.job_id,
                rail_step=Step.FIT, position=position, title=task.title, state="open", fit_plan_id=plan.id, fit_key=key,
            )
        )  # fmt: skip
    plan.seen = [seen_of(one) for one in state.strands]
    plan.codes = _codes(state)


def _mark_changed(state: PlanState, seen: dict[str, dict[str, str]]) -> None:
    for key, row in state.rows.items():
        task = state.tasks.get(key)
        was = seen.get(task.strand) if task else None
        now = next((one for one in state.strands if task and one.key == task.strand), None)
        if row.state != "done" or was is None or now is None or was == seen_of(now):
            continue
        before = was["off"] if key.startswith("off ") else was["goes_on"]
        after = now.off if key.startswith("off ") else now.goes_on
        if before != after:
            row.doubts = [*row.doubts, f"for {before or 'nothing'}; now {after or 'nothing'}: look again"]
            row.version += 1


def _codes(state: PlanState) -> dict[str, str]:
    """Short codes of the labels: a letter for what goes through it and a number; one that was given stays."""
    codes = dict(state.plan.codes)
    for one in state.strands:
        if one.part or not one.off or one.key in codes:
            continue
        letter = LETTERS.get(one.medium.value if one.medium else "", "U")
        numbers = [int(code[1:]) for code in codes.values() if code[0] == letter]
        codes[one.key] = f"{letter}{max(numbers, default=0) + 1}"
    return codes
