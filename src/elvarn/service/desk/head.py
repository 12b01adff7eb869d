"""What every screen of a job shows of it."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.engine.geometry import engine_displacement
from elvarn.service.desk.rail import RailStep, rail_of
from elvarn.service.desk.story import Event, story_of
from elvarn.service.job.drawn_path import PathNode, air_path
from elvarn.service.record.job import JobRecord, load_job
from elvarn.store.models import Build


@dataclass(frozen=True)
class EngineView:
    name: str
    layout: str
    cylinder_count: int
    bank_count: int
    bore: units.Shown | None
    stroke: units.Shown | None
    displacement_l: float | None
    limit_rpm: int | None
    boosted: bool


@dataclass(frozen=True)
class StateView:
    id: UUID
    sequence: int
    label: str
    stage: int | None


@dataclass(frozen=True)
class PartView:
    id: UUID
    kind: str
    name: str
    maker: str | None
    number: str | None
    states: list[StateView]


@dataclass(frozen=True)
class BuildView:
    id: UUID
    version: int
    name: str
    is_stock: bool
    copied_from_id: UUID | None
    path: PathNode


@dataclass(frozen=True)
class JobView:
    """A job's head: words, rail, builds with their air paths, parts. `version` is what an edit is made on."""

    id: UUID
    version: int
    title: str
    customer: str | None
    kind: str
    kind_title: str
    use: str | None
    band_low_rpm: int | None
    band_high_rpm: int | None
    received_on: date | None
    due_on: date | None
    standard: str
    note: str
    closed: bool
    archived: bool
    engine: EngineView | None
    rail: list[RailStep]
    step: str
    next: str
    builds: list[BuildView]
    parts: list[PartView]
    cylinder_count: int
    flow_basis: str
    story: list[Event]


def job_view(session: Session, identifier: UUID, preset: units.Preset) -> JobView:
    """What every screen of a job shows of it."""
    record = load_job(session, identifier)
    job, rail = record.job, rail_of(record)
    return JobView(
        id=job.id,
        version=job.version,
        title=job.title,
        customer=job.customer,
        kind=job.kind_code,
        kind_title=job.kind.title,
        use=job.use,
        band_low_rpm=job.band_low_rpm,
        band_high_rpm=job.band_high_rpm,
        received_on=job.received_on,
        due_on=job.due_on,
        standard=job.standard,
        note=job.note,
        closed=job.closed_at is not None,
        archived=job.archived_at is not None,
        engine=_engine(record, preset),
        rail=list(rail.steps),
        step=rail.here,
        next=rail.next,
        builds=[_build(record, build, preset) for build in record.builds],
        parts=[
            PartView(
                part.id,
                part.kind,
                part.name,
                part.maker,
                part.number,
                [StateView(s.id, s.sequence, s.label, s.stage) for s in part.states],
            )
            for part in record.parts
        ],
        cylinder_count=record.cylinder_count,
        flow_basis=units.flow_basis(preset),
        story=story_of(record),
    )


def _build(record: JobRecord, build: Build, preset: units.Preset) -> BuildView:
    return BuildView(
        build.id, build.version, build.name, build.is_stock, build.copied_from_id, air_path(record, build, preset)
    )


def _engine(record: JobRecord, preset: units.Preset) -> EngineView | None:
    engine = record.job.engine
    if engine is None:
        return None
    displacement = None
    if engine.bore_mm and engine.stroke_mm:
        cubic_metres = engine_displacement(engine.bore_mm / 1000, engine.stroke_mm / 1000, engine.cylinder_count)
        displacement = cubic_metres * 1000
    return EngineView(
        engine.name,
        engine.layout,
        engine.cylinder_count,
        engine.bank_count,
        units.show(engine.bore_mm / 1000, "length", preset) if engine.bore_mm else None,
        units.show(engine.stroke_mm / 1000, "length", preset) if engine.stroke_mm else None,
        displacement,
        engine.limit_rpm,
        engine.boosted,
    )
