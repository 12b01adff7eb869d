"""The check-in screen: the engine with what follows from it, what came in, pictures, and what is still to be said."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.service.checkin.engine import NewEngine
from elvarn.service.checkin.engine_card import CamShown, CardSpec, cam_shown
from elvarn.service.checkin.following import Following, following
from elvarn.service.checkin.received import Item, items_of
from elvarn.service.checkin.words import checkin_words
from elvarn.service.job.photos import PhotoView, photos_of_job
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.features import SurroundingsSpec, read
from elvarn.service.record.job import load_job
from elvarn.store import queries
from elvarn.store.models import Engine


@dataclass(frozen=True)
class EngineSheet:
    """An engine as it can be edited; version 0 where the job has none yet. `cam`: its card, from its events;
    `engine_version`: how many it has had, this one with them."""

    version: int
    cylinder_count: int
    engine: NewEngine | None
    following: list[Following]
    typed: dict[str, str]
    cam: CamShown | None
    engine_version: int


@dataclass(frozen=True)
class CheckinSheet:
    job_id: UUID
    engine: EngineSheet
    items: list[Item]
    photos: list[PhotoView]
    surroundings: SurroundingsSpec
    power_wanted: units.Shown | None
    budget: float | None
    copied_from: str | None
    typed: dict[str, str]
    margin: list[Sentence]


def checkin_sheet(session: Session, job_id: UUID, preset: units.Preset) -> CheckinSheet:
    """What the check-in screen shows beyond the job's head."""
    record = load_job(session, job_id)
    job, items = record.job, items_of(session, job_id)
    photos = photos_of_job(session, job_id)
    source = job.copied_from_id
    from_job = queries.titles_of_jobs(session, [source])[source] if source else None
    wanted = units.show(job.power_wanted_kw * 1000, "power", preset) if job.power_wanted_kw else None
    return CheckinSheet(
        job_id,
        EngineSheet(
            job.engine.version if job.engine else 0,
            record.cylinder_count,
            _described(job.engine) if job.engine else None,
            following(job.engine, preset) if job.engine else [],
            dict(job.engine.typed) if job.engine else {},
            cam_shown(job.engine) if job.engine else None,
            len(queries.versions_of_engine(session, job.engine_id)),
        ),
        items,
        photos,
        read(SurroundingsSpec, job.surroundings),
        wanted,
        job.budget,
        from_job,
        dict(job.typed),
        list(checkin_words(record, items, photos)),
    )


def _described(engine: Engine) -> NewEngine:
    values = {name: getattr(engine, name) for name in NewEngine.__dataclass_fields__ if name != "cam"}
    card = read(CardSpec, engine.card)
    return NewEngine(**{**values, "firing_order": list(engine.firing_order), "card": card})
