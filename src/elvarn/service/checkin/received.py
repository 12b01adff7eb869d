"""What came in with a job: the receipt, what is missing or broken, and what goes back."""

from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import Day, given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.store import queries
from elvarn.store.models import Job, ReceivedItem

CONDITIONS = {"fine": "good", "worked_on": "modified before", "broken": "broken", "missing": "missing"}


@dataclass(frozen=True)
class Item:
    id: UUID
    version: int
    words: str
    condition: str
    note: str
    returned_on: date | None


@given
class NewItem:
    person_id: UUID
    job_id: UUID
    words: str
    condition: str = "fine"
    note: str = ""


@given
class ItemEdit:
    version: int
    words: str
    condition: str
    note: str = ""
    returned_on: Day | None = None


def items_of(session: Session, job_id: UUID) -> list[Item]:
    """Everything that came in, or should have."""
    return [_view(row) for row in queries.items_of(session, [job_id])]


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
        raise Invalid("This item is missing, so it can't be returned. Mark it received first.", path="returned_on")
    names = ("condition", "note", "returned_on")
    changes = {"words": change.words.strip(), **{name: getattr(change, name) for name in names}}
    edit(row, change.version, changes, "line of the receipt")
    session.flush()
    return _view(row)


def delete_item(session: Session, identifier: UUID, version: int) -> NewItem:
    """Take a line of the receipt away; what makes it anew is given back. Raises Stale where it was changed
    meanwhile."""
    row = find_for_edit(session, ReceivedItem, identifier, "line of the receipt")
    edit(row, version, {}, "line of the receipt")
    undo = NewItem(row.person_id, row.job_id, row.words, row.condition, row.note)
    session.delete(row)
    session.flush()
    return undo


def _check(words: str, condition: str) -> None:
    if not words.strip():
        raise Invalid("Type what arrived.", path="words")
    if condition not in CONDITIONS:
        raise Invalid(f"'{condition}' is no condition. Known: {', '.join(CONDITIONS)}.", path="condition")


def _view(row: ReceivedItem) -> Item:
    return Item(row.id, row.version, row.words, row.condition, row.note, row.returned_on)
