"""A pull recorded live: begun, fed, stopped, ended. What was recorded is then a file like any other."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.dyno.abort import AbortLimits
from elvarn.exchange.pull_out import write_recording
from elvarn.given import Moment, given
from elvarn.instruments.dyno_line import FIELDS, DynoLine, sample_pattern
from elvarn.service.dyno.declared import checked as checked_declared
from elvarn.service.dyno.pulls import PullPreview, preview
from elvarn.service.dyno.start_check import ask_about_idle, check_start, is_changed
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import find_for_edit, write_once
from elvarn.service.shop.dynos import line_of
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries
from elvarn.store.models import Build, Dyno, Job, Person, Recording, RecordingPiece
from elvarn.store.models.recording import Row
from elvarn.typed import Celsius, Kilopascals, Percent, Rpm

OFFERED = AbortLimits()


@given
class StopLimits:
    """What stops a pull; empty is not watched. The leanest mixture under load, the most injector duty, ignition taken
    back for knock [°], the hottest coolant and oil, the least oil pressure above 2,000 rpm."""

    leanest: float | None = OFFERED.leanest
    most_duty: Percent | None = OFFERED.most_duty
    most_retard: float | None = OFFERED.most_retard
    hottest_coolant: Celsius | None = OFFERED.hottest_coolant
    hottest_oil: Celsius | None = OFFERED.hottest_oil
    least_oil_pressure: Kilopascals | None = OFFERED.least_oil_pressure


@given
class NewRecording:
    """A pull to be recorded: whose build, on which dyno, what stops it; after a change what was looked at before the
    start, and the idle."""

    person_id: UUID
    job_id: UUID
    build_id: UUID
    dyno_id: UUID
    started_at: Moment
    declared: dict[str, str] = field(default_factory=dict)
    limits: StopLimits = field(default_factory=StopLimits)
    checked: list[str] = field(default_factory=list)
    idle_rpm: Rpm | None = None
    accepted: list[str] = field(default_factory=list)


@given
class RecordingAct:
    """Who does something to a recording."""

    person_id: UUID


@dataclass(frozen=True)
class OpenRecording:
    """A recording that is on its way: its line, what stops it, what came so far, and for how long nothing was kept."""

    id: UUID
    line: DynoLine
    fields: list[str]
    limits: AbortLimits
    pieces: int
    samples: list[Row]
    away_s: float


def begin(session: Session, identifier: UUID, new: NewRecording) -> Recording:
    """Begin to record. Raises Invalid for a dyno without a line or one that records already, or a start that was not
    looked at; Question for a high idle."""
    find(session, Job, new.job_id, "job")
    person = find(session, Person, new.person_id, "person")
    build = find(session, Build, new.build_id, "build")
    dyno = find(session, Dyno, new.dyno_id, "dyno")
    if build.job_id != new.job_id:
        raise Invalid(f"{build.name} belongs to another job. Choose a build of this one.", path="build_id")
    line = line_of(dyno)
    if line is None:
        raise Invalid(f"{dyno.name} has no connection. Type where it answers.", path="dyno_id")
    declared = checked_declared(new.declared)

    def make(digest: str) -> Recording:
        _refuse_second(session, dyno)
        changed = is_changed(
            build.id, declared, queries.pulls_of(session, [new.job_id]), queries.recordings_of(session, new.job_id)
        )
        if changed:
            check_start(new.checked)
        ask_about_idle(new.idle_rpm, path_settings(session).settings.highest_idle_rpm, new.accepted)
        looked = {"items": new.checked, "by": person.name, "idle_rpm": new.idle_rpm} if changed else {}
        return Recording(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            build_id=build.id,
            dyno_id=dyno.id,
            declared=declared,
            limits=asdict(new.limits),
            checked=looked,
            line=asdict(line),
            fields=fields_of(line),
            started_at=new.started_at,
        )

    return write_once(session, Recording, identifier, new, make)


def fields_of(line: DynoLine) -> list[str]:
    """The names of what a line sends, time first: where the dyno sends none, it is when a sample came."""
    named = [name for name in sample_pattern(line.pattern).groupindex if name != "time_s"]
    return ["time_s", *(name for name in FIELDS if name in named)]


def ask_to_stop(session: Session, identifier: UUID, act: RecordingAct) -> Recording:
    """Ask for the end of a recording: the load goes off."""
    find(session, Person, act.person_id, "person")
    found = find_for_edit(session, Recording, identifier, "recording")
    if found.stop_asked_at is None:
        found.stop_asked_at = datetime.now(UTC)
    return found


def drop(session: Session, identifier: UUID, act: RecordingAct) -> Recording:
    """Leave a recording that is over out of the job's pulls; what was recorded stays."""
    find(session, Person, act.person_id, "person")
    found = find_for_edit(session, Recording, identifier, "recording")
    if found.ended_at is None:
        raise Invalid("This pull is still being recorded. Stop it first.", path="recording_id")
    found.dropped_at = found.dropped_at or datetime.now(UTC)
    return found


def look_at(session: Session, files: FileStore, run: Run, identifier: UUID) -> PullPreview:
    """A recording that is over, as the file that it is now."""
    found = find(session, Recording, identifier, "recording")
    if found.file_digest is None:
        raise Invalid("Nothing was recorded. Leave it out, and pull again.", path="recording_id")
    return preview(session, files, run, file_name(found), files.read(found.file_digest))


def open_ones(session: Session) -> list[UUID]:
    """Recordings that are on their way."""
    return queries.open_recordings(session)


def taken_up(session: Session, identifier: UUID) -> OpenRecording:
    """A recording that is on its way, with what came so far."""
    found = find(session, Recording, identifier, "recording")
    pieces = queries.pieces_of(session, identifier, -1)
    samples = [sample for piece in pieces for sample in piece.samples]
    limits = AbortLimits(**found.limits)
    heard = pieces[-1].received_at if pieces else found.created_at
    away = (datetime.now(UTC) - heard).total_seconds()
    return OpenRecording(found.id, DynoLine(**found.line), found.fields, limits, len(pieces), samples, away)


def add_piece(session: Session, identifier: UUID, number: int, samples: Sequence[Row]) -> tuple[int, bool]:
    """Keep samples that came, none among them. Returns how many of them are kept, fewer where this piece was kept
    before, and whether somebody asked for the end."""
    asked = find(session, Recording, identifier, "recording").stop_asked_at is not None
    known = session.get(RecordingPiece, (identifier, number)) if samples else None
    if known is not None:
        return len(known.samples), asked
    if samples:
        session.add(RecordingPiece(recording_id=identifier, number=number, samples=list(samples)))
    return len(samples), asked


def end(session: Session, files: FileStore, identifier: UUID, how: str, words: str) -> None:
    """End a recording and make a file of it."""
    found = find_for_edit(session, Recording, identifier, "recording")
    samples = [sample for piece in queries.pieces_of(session, identifier, -1) for sample in piece.samples]
    if samples:
        content = write_recording(found.fields, samples, _comments(session, found, words))
        found.file_digest = files.keep(session, file_name(found), content.encode())
    found.ended_at, found.ended_how, found.ended_words = datetime.now(UTC), how, words


def file_name(found: Recording) -> str:
    return f"live {found.started_at:%Y-%m-%d %H-%M-%S}.csv"


def _comments(session: Session, found: Recording, words: str) -> list[str]:
    build, dyno = find(session, Build, found.build_id, "build"), find(session, Dyno, found.dyno_id, "dyno")
    return [f"recorded live: {build.name} on {dyno.name}, {found.started_at.isoformat()}", words]


def _refuse_second(session: Session, dyno: Dyno) -> None:
    if queries.open_on_dyno(session, dyno.id):
        raise Invalid(f"{dyno.name} is recording a pull already. Stop that one first.", path="dyno_id")
