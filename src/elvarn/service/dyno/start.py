"""What the dyno screen says of recording: what is looked at before a start, what is on its way, what waits to be
kept."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from elvarn.service.dyno.recording import StopLimits
from elvarn.service.dyno.start_check import ITEMS, StartItem, is_changed
from elvarn.service.record.job import JobRecord
from elvarn.store import queries
from elvarn.store.models import Recording


@dataclass(frozen=True)
class RecordingView:
    """A recording that is on its way, or over and neither kept nor left out."""

    id: UUID
    build_id: UUID
    build: str
    dyno_id: UUID
    dyno: str
    person: str
    started_at: datetime
    declared: dict[str, str]
    open: bool
    ended_how: str
    ended_words: str
    file_digest: str | None


@dataclass(frozen=True)
class StartView:
    """What a pull on this job starts with: the limits of the last one, the items to look at, and of which builds the
    engine was changed since it ran last, as far as is known."""

    items: list[StartItem]
    limits: StopLimits
    changed: list[UUID]
    recordings: list[RecordingView]


def start_of(record: JobRecord) -> StartView:
    """What a recorded pull of a job starts with."""
    made = list(queries.recordings_of(record.session, record.job.id))
    pulls = [pull for pull in record.pulls if pull.strike is None]
    declared = pulls[-1].card.declared if pulls else {}
    changed = [build.id for build in record.builds if is_changed(build.id, declared, pulls, made)]
    kept = {pull.file_digest for pull in record.pulls}
    waiting = [
        one for one in made if one.dropped_at is None and (one.file_digest is None or one.file_digest not in kept)
    ]
    limits = StopLimits(**made[-1].limits) if made else StopLimits()
    return StartView(ITEMS, limits, changed, [_view(record, one) for one in waiting])


def _view(record: JobRecord, one: Recording) -> RecordingView:
    dyno = next(dyno for dyno in queries.dynos(record.session) if dyno.id == one.dyno_id)
    return RecordingView(
        one.id,
        one.build_id,
        record.build_name(one.build_id),
        dyno.id,
        dyno.name,
        record.people[one.person_id],
        one.started_at,
        one.declared,
        one.ended_at is None,
        one.ended_how,
        one.ended_words,
        one.file_digest,
    )
