"""Parts wanted for a job or for the shelf, and how far each is: ordered, here, fitted."""

from datetime import date, timedelta
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import Day, given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.record.lead import lead_of
from elvarn.service.record.stock import stocks_of
from elvarn.store.models import Job, Part, Person, WantedPart, WantState
from elvarn.typed import Count

MOST = 1000
# What each step does to the number that lies here, by one that is wanted; each can be taken back.
STEPS = {
    (WantState.WANTED, WantState.ORDERED): 0,
    (WantState.ORDERED, WantState.HERE): 1,
    (WantState.WANTED, WantState.HERE): 0,
    (WantState.HERE, WantState.FITTED): -1,
    (WantState.WANTED, WantState.DROPPED): 0,
    (WantState.ORDERED, WantState.DROPPED): 0,
    (WantState.HERE, WantState.DROPPED): 0,
}
STEPS |= {(after, before): -by for (before, after), by in STEPS.items()}


@given
class NewWant:
    person_id: UUID
    part_id: UUID
    job_id: UUID | None = None
    count: Count = 1


@given
class WantStep:
    """How far a wanted part is now, on the version that was seen; `expected_on` of what is ordered, else by its lead
    time."""

    version: int
    state: WantState
    expected_on: Day | None = None


def want(session: Session, identifier: UUID, new: NewWant) -> WantedPart:
    """Want so many of a part."""
    find(session, Person, new.person_id, "person")
    find(session, Part, new.part_id, "part")
    if new.job_id is not None:
        find(session, Job, new.job_id, "job")
    if not 1 <= new.count <= MOST:
        raise Invalid(f"{new.count} can't be wanted. Enter 1 to {MOST}.", path="count")

    def make(digest: str) -> WantedPart:
        return WantedPart(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            part_id=new.part_id,
            count=new.count,
        )

    return write_once(session, WantedPart, identifier, new, make)


def take_step(session: Session, identifier: UUID, step: WantStep, today: date) -> WantedPart:
    """Move a wanted part on, or back. Raises Invalid for a step that can't be, or where too few lie here; Stale where
    somebody else moved it meanwhile."""
    wanted = find_for_edit(session, WantedPart, identifier, "wanted part")
    part = find_for_edit(session, Part, wanted.part_id, "part")
    before = WantState(wanted.state)
    if before == step.state:
        return wanted
    if (before, step.state) not in STEPS:
        raise Invalid(f"What is {before} can't be {step.state} at once. Take it step by step.", path="state")
    _check_here(session, part, wanted, step.state)
    changes = {"state": step.state, **_dates(session, wanted, part, step, today)}
    edit(wanted, step.version, changes, "wanted part")
    part.on_hand += STEPS[before, step.state] * wanted.count
    session.flush()
    return wanted


def _check_here(session: Session, part: Part, wanted: WantedPart, state: WantState) -> None:
    """Enough have to lie here for what is taken from the shelf, and for what is fitted."""
    after = part.on_hand + STEPS[WantState(wanted.state), state] * wanted.count
    if after < 0:
        raise Invalid(f"Only {part.on_hand} of '{part.name}' lie here. Count them on the part first.", path="state")
    if (wanted.state, state) == (WantState.WANTED, WantState.HERE):
        free = part.on_hand - stocks_of(session, [part])[part.id].set_aside
        if free < wanted.count:
            text = f"Of {part.on_hand} of '{part.name}' here, {max(free, 0)} are not set aside. Order it."
            raise Invalid(text, path="state")


def _dates(session: Session, wanted: WantedPart, part: Part, step: WantStep, today: date) -> dict[str, date | None]:
    if step.state is WantState.ORDERED and wanted.state == WantState.WANTED:
        days = lead_of(part, stocks_of(session, [part])[part.id].ordered, today).days
        usual = None if days is None else today + timedelta(days=days)
        return {"ordered_on": today, "expected_on": step.expected_on or usual}
    if step.state is WantState.WANTED:
        return {"ordered_on": None, "expected_on": None}
    return {}
