"""What is noted while fitting: clearances, fault codes, causes looked for, what broke, what the driver felt."""

from dataclasses import asdict
from enum import StrEnum
from typing import Any
from uuid import UUID

from pydantic_core import to_jsonable_python
from sqlalchemy.orm import Session

from elvarn.core.errors import CoreError
from elvarn.core.fit.clearance import Gauge, Meets, lacking
from elvarn.core.fit.trouble import Symptom
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.store.models import FitNote, Job, NoteKind, Photo
from elvarn.typed import Millimetres


class CodeState(StrEnum):
    """How a fault code stands."""

    SEEN = "seen"
    CLEARED = "cleared"
    BACK = "back"
    GONE = "gone"


class Outcome(StrEnum):
    """What came of looking for a cause."""

    NOT_IT = "not it"
    FOUND = "found"


class When(StrEnum):
    """Before or after the swap."""

    BEFORE = "before"
    AFTER = "after"


@given
class WallSpec:
    """A part that may give room: its wall there, and what has to stay."""

    name: str
    wall_mm: Millimetres
    least_mm: Millimetres


@given
class ClearanceNote:
    """Room between two parts: where, how it was measured, how they stand to each other, how far the engine rocks
    nearer, what is needed where its maker says so, and walls that may give room."""

    place: str
    parts: str
    measured_mm: Millimetres
    gauge: Gauge
    meets: Meets
    rocks_mm: Millimetres = 0.0
    needed_mm: Millimetres | None = None
    walls: list[WallSpec] | None = None


@given
class CodeNote:
    """A fault code and how it stands."""

    code: str
    state: CodeState = CodeState.SEEN
    words: str = ""


@given
class CauseNote:
    """A cause that was looked for where it ran badly, and what was found."""

    symptom: Symptom
    cause: str
    outcome: Outcome
    words: str = ""


@given
class BrokenNote:
    """Something broken or bodged on the way: whether it is mended for now only, and since for good."""

    words: str
    for_now: bool = False
    mended: bool = False


@given
class ImpressionNote:
    """What the driver felt: an impression, never a figure."""

    when: When
    words: str


@given
class NoteBody:
    """One note of one kind. `photo_id`: a picture of it."""

    clearance: ClearanceNote | None = None
    code: CodeNote | None = None
    cause: CauseNote | None = None
    broken: BrokenNote | None = None
    impression: ImpressionNote | None = None
    photo_id: UUID | None = None


@given
class NewFitNote:
    person_id: UUID
    job_id: UUID
    note: NoteBody


@given
class FitNoteEdit:
    """A note said anew, of the same kind, on the version that was seen."""

    version: int
    note: NoteBody


def add_note(session: Session, identifier: UUID, new: NewFitNote) -> FitNote:
    """Note something. Raises Invalid for what can't be."""
    find(session, Job, new.job_id, "job")
    kind, said = _said(new.note)
    if new.note.photo_id is not None:
        find(session, Photo, new.note.photo_id, "picture")

    def make(digest: str) -> FitNote:
        return FitNote(
            id=identifier, content_digest=digest, person_id=new.person_id, job_id=new.job_id, kind=kind, said=said,
            photo_id=new.note.photo_id,
        )  # fmt: skip

    return write_once(session, FitNote, identifier, new, make)


def edit_note(session: Session, identifier: UUID, change: FitNoteEdit) -> FitNote:
    """Say a note anew. What a clearance was before stays beside it: a measurement is never overwritten."""
    row = find_for_edit(session, FitNote, identifier, "note")
    kind, said = _said(change.note)
    if kind != row.kind:
        raise Invalid(f"This note is a {row.kind}. Make a new one.", path="note")
    before = {name: value for name, value in row.said.items() if name != "before"}
    if before != said and kind in (NoteKind.CLEARANCE, NoteKind.CODE):
        said["before"] = [*row.said.get("before", []), before]
    elif row.said.get("before"):
        said["before"] = row.said["before"]
    edit(row, change.version, {"said": said, "photo_id": change.note.photo_id or row.photo_id}, "note")
    session.flush()
    return row


def needed_of(note: ClearanceNote, usual: float) -> float:
    """What room is needed [m]: its maker's, else the usual."""
    return note.needed_mm / 1000 if note.needed_mm is not None else usual


def _said(note: NoteBody) -> tuple[str, dict[str, Any]]:
    """The kind of a note and what is kept of it. Raises Invalid naming the field."""
    given_ = {kind: getattr(note, kind) for kind in NoteKind if getattr(note, kind) is not None}
    if len(given_) != 1:
        raise Invalid("Say one thing: a clearance, a code, a cause, something broken or an impression.", path="note")
    [(kind, said)] = given_.items()
    for name in ("place", "code", "cause", "words"):
        if name == "words" and kind in (NoteKind.CODE, NoteKind.CAUSE):
            continue
        if hasattr(said, name) and not str(getattr(said, name)).strip():
            raise Invalid("Nothing is typed here. Say what it is.", path=f"note.{kind}.{name}")
    if isinstance(said, ClearanceNote):
        _check_clearance(said)
    kept: dict[str, Any] = to_jsonable_python(asdict(said))
    if isinstance(said, CodeNote):
        kept["code"] = said.code.strip().upper()
    return kind, kept


def _check_clearance(said: ClearanceNote) -> None:
    needed = said.needed_mm if said.needed_mm is not None else 1.0
    try:
        lacking(said.measured_mm / 1000, needed / 1000, said.gauge, said.rocks_mm / 1000)
    except CoreError as error:
        raise Invalid(str(error), path=f"note.clearance.{error.quantity}_mm") from error
    for n, wall in enumerate(said.walls or []):
        if wall.wall_mm <= 0 or wall.least_mm <= 0:
            raise Invalid(f"A wall of {wall.wall_mm:g} mm with {wall.least_mm:g} mm to stay can't be. Gauge it.",
                          path=f"note.clearance.walls.{n}")  # fmt: skip
