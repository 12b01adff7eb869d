"""Logs of the engine computer: kept, shown by engine speed, and held against each other."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from math import isfinite
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.channels import BIN_RPM, Channel
from elvarn.core.finding import Grade
from elvarn.exchange.log_file import LogRows, rows_of_log
from elvarn.exchange.table import TableError, read_table
from elvarn.given import Moment, given
from elvarn.service.dyno.drop_words import what_a_drop_means
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import Sentence, first_up, sentence
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.job import JobRecord
from elvarn.service.record.logs import LoggedCurves
from elvarn.service.record.strikes import StruckView, struck_view
from elvarn.store import queries
from elvarn.store.models import Build, Job, LogReading
from elvarn.typed import Kilopascals

STEP_RPM = 500.0
MOST_ROWS = 12
STEADY_KPA = 1.0  # by which a sensor may read above outside; choice, no source
OUTSIDE = (50.0, 120.0)  # kPa
FROM = {"at_rest": "engine off", "logged": "logged", "typed": "typed", "": "not known"}


@given
class Stretch:
    """First and last row that count, from 0."""

    first_row: int
    last_row: int


@given
class NewLog:
    """A log of a build: its rows at full throttle, and the pressure outside where it was typed."""

    person_id: UUID
    job_id: UUID
    build_id: UUID
    file_digest: str
    speed_column: int
    stretches: list[Stretch]
    taken_at: Moment
    label: str = ""
    outside_kpa: Kilopascals | None = None
    outside_from: str = ""
    accepted: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class LogRow:
    """A log at a speed: drop from outside to the manifold, mixture, injector duty, air; empty where it is not known."""

    engine_speed_rpm: float
    drop: str
    mixture: str
    duty: str
    air: str


@dataclass(frozen=True)
class LogView:
    """A log in the list."""

    id: UUID
    build_id: UUID
    build: str
    label: str
    taken_at: datetime
    person: str
    outside: str
    rows: list[LogRow]
    struck: StruckView | None


def add_log(session: Session, files: FileStore, run: Run, identifier: UUID, new: NewLog) -> LogReading:
    """Keep a log. Raises Invalid for what can't be one, Question for one that was kept before."""
    find(session, Job, new.job_id, "job")
    build = find(session, Build, new.build_id, "build")
    if build.job_id != new.job_id:
        raise Invalid(f"{build.name} belongs to another job. Choose a build of this one.", path="build_id")
    _check_outside(new)

    def make(digest: str) -> LogReading:
        _ask_about_twin(session, new)
        rows = _rows(run, files.read(new.file_digest), new)
        return LogReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            taken_at=new.taken_at,
            marks=list(new.accepted),
            build_id=build.id,
            file_digest=new.file_digest,
            label=new.label.strip(),
            stretches=[[one.first_row, one.last_row] for one in new.stretches],
            outside_kpa=new.outside_kpa,
            outside_from=new.outside_from if new.outside_kpa is not None else "",
            engine_speed_rpm=rows.engine_speed_rpm.tolist(),
            channels={name: _listed(values.tolist()) for name, values in rows.channels.items()},
        )

    return write_once(session, LogReading, identifier, new, make)


def log_views(record: JobRecord, found: Sequence[LoggedCurves]) -> list[LogView]:
    """The logs of a job, by engine speed."""
    return [_view(record, one) for one in found]


def about_logs(record: JobRecord, found: Sequence[LoggedCurves]) -> list[Sentence]:
    """The last log of each build against that of the first build that was logged."""
    last = {one.log.build_id: one for one in found if one.log.strike is None}
    places = {build.id: place for place, build in enumerate(record.builds)}
    ordered = sorted(last.values(), key=lambda one: places.get(one.log.build_id, len(places)))
    return [one for one in (_against(record, ordered[0], other) for other in ordered[1:]) if one]


def rows_in(content: bytes, speed_column: int, stretches: list[tuple[int, int]]) -> LogRows:
    """The rows of a log's file. Raises TableError."""
    return rows_of_log(read_table(content), speed_column, stretches)


def _rows(run: Run, content: bytes, new: NewLog) -> LogRows:
    if not new.stretches:
        raise Invalid("No stretch at full throttle is chosen. Type its first and last row.", path="stretches")
    try:
        rows = run(rows_in, content, new.speed_column, [(one.first_row, one.last_row) for one in new.stretches])
    except TableError as error:
        raise Invalid(str(error), path="stretches") from error
    if len(rows.engine_speed_rpm) < 5:
        raise Invalid("Less than five rows have an engine speed. Choose a longer stretch.", path="stretches")
    return rows


def _check_outside(new: NewLog) -> None:
    low, high = OUTSIDE
    if new.outside_kpa is not None and not low <= new.outside_kpa <= high:
        text = f"{new.outside_kpa:g} kPa is no pressure outside. Enter {low:.0f} to {high:.0f} kPa."
        raise Invalid(text, path="outside_kpa")
    if new.outside_from not in FROM:
        raise Invalid(f"'{new.outside_from}' is not where a pressure is from.", path="outside_from")


def _ask_about_twin(session: Session, new: NewLog) -> None:
    if "seen_before" in new.accepted:
        return
    twins = [log for log in queries.logs_of(session, new.job_id) if log.file_digest == new.file_digest]
    if any(log.strike is None for log in twins):
        offers = [Offer("Keep it again", {"accepted": [*new.accepted, "seen_before"]})]
        raise Question("seen_before", "This log was kept before in this job.", offers, path="file_digest")


def _listed(values: list[float]) -> list[float | None]:
    return [float(f"{value:.7g}") if isfinite(value) else None for value in values]


def _view(record: JobRecord, found: LoggedCurves) -> LogView:
    log = found.log
    outside = f"outside {log.outside_kpa:.1f} kPa, {FROM[log.outside_from]}" if log.outside_kpa else "outside not known"
    return LogView(
        log.id,
        log.build_id,
        record.build_name(log.build_id),
        log.label,
        log.taken_at,
        record.people[log.person_id],
        outside,
        _log_rows(found),
        struck_view(log, record.people),
    )


def _log_rows(found: LoggedCurves) -> list[LogRow]:
    spans = [channel.engine_speed_rpm for channel in found.channels.values()]
    if not spans:
        return []
    low, high = min(span[0] for span in spans) - BIN_RPM / 2, max(span[-1] for span in spans) + BIN_RPM / 2
    first = -(-low // STEP_RPM) * STEP_RPM
    speeds = [first + STEP_RPM * i for i in range(int((high - first) // STEP_RPM) + 1)][-MOST_ROWS:]
    named = (
        (found.drop if _is_drop(found.drop) else None, 1, " kPa"),
        (found.channels.get("mixture_lambda"), 2, ""),
        (found.channels.get("duty_percent"), 0, " %"),
        (found.channels.get("air_kg_h"), 0, " kg/h"),
    )
    return [
        LogRow(speed, *(_text(channel, speed, places, unit) for channel, places, unit in named)) for speed in speeds
    ]


def _is_drop(drop: Channel | None) -> bool:
    """Whether the manifold stays below outside, as it does without boost."""
    return drop is not None and float(drop.values.min()) > -STEADY_KPA


def _text(channel: Channel | None, speed: float, places: int, unit: str) -> str:
    value = channel.at(speed) if channel else None
    return "" if value is None else f"{units.number_text(value, places)}{unit}"


def _against(record: JobRecord, first: LoggedCurves, other: LoggedCurves) -> Sentence | None:
    """The drop of one log against another's, at the highest speed of both."""
    if first.drop is None or other.drop is None:
        return None
    speed = min(first.drop.engine_speed_rpm[-1], other.drop.engine_speed_rpm[-1])
    one, two = first.drop.at(speed), other.drop.at(speed)
    if one is None or two is None or min(one, two) < 0 or first.log.outside_kpa is None:
        return None  # where boost comes in, a drop says nothing of the intake
    names = [first_up(record.build_name(found.log.build_id)) for found in (first, other)]
    answer = (
        f"In the logs, from outside to the manifold at {units.to_fifty(speed)} rpm: {names[0]} {one:.1f} kPa, "
        f"{names[1]} {two:.1f} kPa."
    )
    reason = what_a_drop_means(one, two, first.log.outside_kpa)
    doubt = {first.log.outside_from, other.log.outside_from} != {"at_rest"}
    action = "Log a few seconds with the engine off: that takes the sensor's own error out." if doubt else ""
    return sentence(answer, Grade.MEASURED, reason=reason, action=action, paper=True)
