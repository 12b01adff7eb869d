"""A job handed over, or opened again; and the sheets that went out with it."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core import METHOD_VERSION
from elvarn.given import given
from elvarn.service.checkin.engine import next_version
from elvarn.service.fit.signing import not_signed_off
from elvarn.service.kernel.errors import NotFound, Offer, Question
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.service.shop.known import names_of_people
from elvarn.store import queries
from elvarn.store.models import HandedSheet, Job, Person

NOT_SIGNED_OFF = "not_signed_off"


@given
class Closing:
    version: int
    closed: bool
    person_id: UUID | None = None
    accepted: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class HandedView:
    """A sheet that went out: when, by whom, and its headlines where they are not those of today. In other units than
    it went out in nothing is said: figures that are rounded otherwise are not other figures."""

    id: UUID
    on: datetime
    person: str
    said: list[str]


def close_job(session: Session, identifier: UUID, closing: Closing) -> Job:
    """Hand a job over, or open it again: its engine is then another version, as it is now. Raises Question where its
    swap is not signed off."""
    job = find_for_edit(session, Job, identifier, "job")
    unsigned = not_signed_off(session, identifier) if closing.closed else ""
    if unsigned and NOT_SIGNED_OFF not in closing.accepted:
        keep = Offer("Hand over all the same, said on the sheet", {"accepted": [*closing.accepted, NOT_SIGNED_OFF]})
        raise Question(NOT_SIGNED_OFF, unsigned, [keep], path="closed")
    if closing.person_id is not None:
        find(session, Person, closing.person_id, "person")
    opened_again = job.closed_at is not None and not closing.closed
    edit(job, closing.version, {"closed_at": datetime.now(UTC) if closing.closed else None}, "job")
    session.flush()
    if opened_again:
        next_version(session, job)
    return job


def keep_handed(
    session: Session, files: FileStore, closing: Closing, job: Job, headlines: list[str], page: bytes,
    preset: units.Preset,
) -> None:  # fmt: skip
    """Keep the sheet that goes out with a job, as it is now."""
    digest = files.keep(session, f"{job.title}.pdf", page)
    session.add(
        HandedSheet(
            id=uuid4(),
            job_id=job.id,
            person_id=closing.person_id,
            file_digest=digest,
            headlines=headlines,
            units=preset,
            method_version=METHOD_VERSION,
            handed_at=job.closed_at,
        )
    )


def handed_of(session: Session, job_id: UUID, headlines: Sequence[str], preset: units.Preset) -> list[HandedView]:
    """Sheets that went out, the latest first."""
    sheets = queries.handed_sheets(session, job_id)
    people = names_of_people(session) if sheets else {}
    return [
        HandedView(
            sheet.id,
            sheet.handed_at,
            people[sheet.person_id] if sheet.person_id else "",
            [] if sheet.units != preset or sheet.headlines == list(headlines) else sheet.headlines,
        )
        for sheet in sheets
    ]


def handed_page(session: Session, files: FileStore, job_id: UUID, sheet_id: UUID) -> bytes:
    """A sheet as it went out. Raises NotFound."""
    sheet = find(session, HandedSheet, sheet_id, "sheet")
    if sheet.job_id != job_id:
        raise NotFound("That sheet is not of this job.")
    return files.read(sheet.file_digest)
