"""What came in with a job: the receipt, what is missing or broken, and what goes back. A job copied from another."""

from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.service.engine_edit import copied_engine
from elvarn.service.errors import Invalid
from elvarn.service.trees import nodes_of, tree_of
from elvarn.service.writes import edit, find, find_for_edit, write_once
from elvarn.store import queries
from elvarn.store.models import Build, Job, Part, PartState, Person, ReceivedItem

CONDITIONS = {"fine": "fine", "worked_on": "worked on before", "broken": "broken", "missing": "missing"}


@dataclass(frozen=True)
class Item:
    id: UUID
    version: int
    words: str
    condition: str
    note: str
    returned_on: date | None


@dataclass(frozen=True)
class NewItem:
    person_id: UUID
    job_id: UUID
    words: str
    condition: str = "fine"
    note: str = ""


@dataclass(frozen=True)
class ItemEdit:
    version: int
    words: str
    condition: str
    note: str = ""
    returned_on: date | None = None


@dataclass(frozen=True)
class JobCopy:
    """A job like an earlier one: its kind, engine, goal and first build; nothing that was measured."""

    person_id: UUID
    copy_of: UUID
    customer: str | None = None
    title: str | None = None


def items_of(session: Session, job_id: UUID) -> list[Item]:
    """Everything that came in, or should have."""
    return [_view(row) for row in queries.items_of(session, job_id)]


def receipt(session: Session, job_id: UUID) -> dict[str, Any]:
    """Words of the receipt as it is printed."""
    job = find(session, Job, job_id, "job")
    rows = [
        {
            "words": item.words,
            "condition": CONDITIONS[item.condition],
            "note": item.note,
            "returned_on": item.returned_on.isoformat() if item.returned_on else "",
        }
        for item in items_of(session, job_id)
    ]
    return {
        "title": job.title,
        "customer": job.customer or "",
        "received_on": job.received_on.isoformat() if job.received_on else "",
        "rows": rows,
        "basis": "everything that came goes back, or is named here",
    }


def add_item(session: Session, identifier: UUID, new: NewItem) -> Item:
    """Something that came in."""
    find(session, Job, new.job_id, "job")
    _check(new.words, new.condition)

    def make(digest: str) -> ReceivedItem:
        return ReceivedItem(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            words=new.words.strip(),
            condition=new.condition,
            note=new.note.strip(),
        )

    return _view(write_once(session, ReceivedItem, identifier, new, make))


def edit_item(session: Session, identifier: UUID, change: ItemEdit) -> Item:
    """Change what was noted, or note that it went back."""
    row = find_for_edit(session, ReceivedItem, identifier, "line of the receipt")
    _check(change.words, change.condition)
    if change.condition == "missing" and change.returned_on is not None:
        raise Invalid("What is missing can't go back. Say that it came first.", path="returned_on")
    names = ("condition", "note", "returned_on")
    changes = {"words": change.words.strip(), **{name: getattr(change, name) for name in names}}
    edit(row, change.version, changes, "line of the receipt")
    session.flush()
    return _view(row)


def copy_job(session: Session, identifier: UUID, new: JobCopy) -> Job:
    """A new job like an earlier one. Parts are new: another box of the same casting came in."""
    find(session, Person, new.person_id, "person")
    source = find(session, Job, new.copy_of, "job")

    def make(digest: str) -> Job:
        engine = copied_engine(session, identifier, source.engine_id)
        return Job(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            kind_code=source.kind_code,
            title=(new.title or f"{source.title}, again").strip(),
            customer=new.customer,
            engine_id=engine.id if engine else None,
            use=source.use,
            band_low_rpm=source.band_low_rpm,
            band_high_rpm=source.band_high_rpm,
            received_on=datetime.now(UTC).date(),
            standard=source.standard,
            power_wanted_kw=source.power_wanted_kw,
            budget=source.budget,
            surroundings=dict(source.surroundings),
            copied_from_id=source.id,
        )

    job = write_once(session, Job, identifier, new, make)
    if not queries.builds_of(session, identifier):
        _copy_first_build(session, job, source.id, new.person_id)
    return job


def _copy_first_build(session: Session, job: Job, source_id: UUID, person_id: UUID) -> None:
    first = next(iter(queries.builds_of(session, source_id)), None)
    if first is None:
        return
    states: dict[UUID, UUID] = {}
    for part in queries.parts_of(session, source_id):
        copied = _copied_part(session, job, part, person_id)
        states |= {state.id: copied for state in part.states}
    build = Build(
        id=uuid5(job.id, "build 1"),
        content_digest=job.content_digest,
        person_id=person_id,
        job_id=job.id,
        name=first.name,
        is_stock=first.is_stock,
        sequence=1,
        cylinder_count=first.cylinder_count,
    )
    tree, rows = tree_of(first)

    def state_of(element: object) -> UUID | None:
        kept = rows[id(element)].part_state_id
        return states.get(kept, kept) if kept else None

    session.add(build)
    session.flush()
    session.add_all(nodes_of(tree, build.id, first.cylinder_count, state_of))
    session.flush()


def _copied_part(session: Session, job: Job, part: Part, person_id: UUID) -> UUID:
    """The same part come in once more, as received. Returns its state."""
    identifier = uuid5(job.id, str(part.id))
    state = PartState(
        id=uuid5(identifier, "state 1"),
        content_digest=job.content_digest,
        person_id=person_id,
        sequence=1,
        label="as received",
    )
    names = ("kind", "name", "maker", "number", "material", "mass_kg", "advertised", "features")
    values = {name: getattr(part, name) for name in names}
    session.add(
        Part(
            id=identifier,
            content_digest=job.content_digest,
            person_id=person_id,
            job_id=job.id,
            states=[state],
            **values,
        )
    )
    session.flush()
    return state.id


def _check(words: str, condition: str) -> None:
    if not words.strip():
        raise Invalid("The line says nothing. Type what came in.", path="words")
    if condition not in CONDITIONS:
        raise Invalid(f"'{condition}' is no condition. Known: {', '.join(CONDITIONS)}.", path="condition")


def _view(row: ReceivedItem) -> Item:
    return Item(row.id, row.version, row.words, row.condition, row.note, row.returned_on)
