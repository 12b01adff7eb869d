"""The take-in screen: the engine with what follows from it, what came in, pictures, and what is still to be said."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.errors import CoreError
from elvarn.core.finding import Grade
from elvarn.service.engine_edit import NewEngine, checked
from elvarn.service.engines import Following, following
from elvarn.service.features import Surroundings, read
from elvarn.service.margin import Sentence, listed, sentence
from elvarn.service.photos import PhotoView, photos_of_job
from elvarn.service.received import Item, items_of
from elvarn.service.record import JobRecord, load_job
from elvarn.store.models import Engine

CAME = {
    "missing": ("Did not come", "Tell the customer before anything is cut."),
    "broken": ("Came broken", "Tell the customer before anything is cut."),
    "worked_on": ("Worked on before", "A gain here starts from that, not from stock."),
}


@dataclass(frozen=True)
class EngineSheet:
    """An engine as it can be edited; version 0 where the job has none yet."""

    version: int
    cylinder_count: int
    engine: NewEngine | None
    following: list[Following]


@dataclass(frozen=True)
class TakeInSheet:
    job_id: UUID
    engine: EngineSheet
    items: list[Item]
    photos: list[PhotoView]
    surroundings: Surroundings
    power_wanted: units.Shown | None
    budget: float | None
    copied_from: str | None
    margin: list[Sentence]


def takein_sheet(session: Session, job_id: UUID, preset: units.Preset) -> TakeInSheet:
    """What the take-in screen shows beyond the job's head."""
    record = load_job(session, job_id)
    job, items = record.job, items_of(session, job_id)
    photos = photos_of_job(session, job_id)
    from_job = load_job(session, job.copied_from_id).job.title if job.copied_from_id else None
    wanted = units.show(job.power_wanted_kw * 1000, "power", preset) if job.power_wanted_kw else None
    return TakeInSheet(
        job_id,
        EngineSheet(
            job.engine.version if job.engine else 0,
            record.cylinder_count,
            _described(job.engine) if job.engine else None,
            following(job.engine, preset) if job.engine else [],
        ),
        items,
        photos,
        read(Surroundings, job.surroundings),
        wanted,
        job.budget,
        from_job,
        list(_margin(record, items, photos)),
    )


def following_of(new: NewEngine, cylinder_count: int, preset: units.Preset) -> list[Following]:
    """What would follow from an engine as it is being typed. Raises Invalid for what can't be."""
    values = checked(new, cylinder_count)
    try:
        return following(Engine(cylinder_count=cylinder_count, **values), preset)
    except CoreError as error:
        return [Following("Not yet", str(error), doubt=True)]


def _described(engine: Engine) -> NewEngine:
    values = {name: getattr(engine, name) for name in NewEngine.__dataclass_fields__}
    return NewEngine(**{**values, "firing_order": list(engine.firing_order)})


def _margin(record: JobRecord, items: list[Item], photos: list[PhotoView]) -> list[Sentence]:
    said, job = [], record.job
    for state, (words, then) in CAME.items():
        names = [item.words for item in items if item.condition == state and item.returned_on is None]
        if names:
            said.append(sentence(f"{words}: {listed(names[:4])}. {then}", Grade.MEASURED, "doubt"))
    stock = record.stock_build
    if "dyno" in job.kind.rail and stock is not None and not record.valid_pulls(stock):
        text = "No stock pull yet: once something comes off there is no stock to compare with."
        said.append(sentence(text, Grade.RULE, "doubt"))
    waiting = [item.words for item in items if item.returned_on is None and item.condition != "missing"]
    if job.closed_at is not None and waiting:
        said.append(sentence(f"{listed(waiting[:4])} still here: the job is closed.", Grade.MEASURED, "doubt"))
    said.append(sentence(_next(record, items, photos), Grade.RULE, "next"))
    return said


def _next(record: JobRecord, items: list[Item], photos: list[PhotoView]) -> str:
    engine, rail = record.job.engine, record.job.kind.rail
    if not photos:
        return "Take a picture of what came, before it is cleaned."
    if not items:
        return "List what came, so that all of it goes back."
    if "path" in rail and (engine is None or not engine.bore_mm):
        return "Enter the engine's bore and stroke: the air path needs them."
    if "path" in rail and engine is not None and engine.inlet_opens_deg is None:
        return "Enter the cam's events: they decide what the runners lose."
    return "Go on to the next step of the rail."
