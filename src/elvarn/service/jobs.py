"""The shop board, and what every screen of a job shows of it."""

from dataclasses import dataclass
from datetime import date, datetime
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.takein.engine import engine_displacement
from elvarn.core.takein.progress import LABELS, RailStep
from elvarn.service.path import PathNode, air_path
from elvarn.service.record import JobRecord, load_job
from elvarn.store import queries
from elvarn.store.models import RAIL, Build

MOST_CLOSED_SHOWN = 12


@dataclass(frozen=True)
class Card:
    """A job on the board: who it is for, what is next, and a miniature of its air path."""

    id: UUID
    title: str
    customer: str | None
    kind: str
    step: str
    next: str
    due_on: date | None
    path: PathNode | None
    gain: str | None


@dataclass(frozen=True)
class BoardColumn:
    step: str
    label: str
    jobs: list[Card]


@dataclass(frozen=True)
class ClosedJob:
    id: UUID
    title: str
    customer: str | None
    closed_at: datetime


@dataclass(frozen=True)
class Board:
    """Open jobs by the step they stand at, and the jobs handed over last."""

    columns: list[BoardColumn]
    count: int
    closed: list[ClosedJob]


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
    path: PathNode


@dataclass(frozen=True)
class Event:
    """Something that happened to the job, on a day."""

    day: date
    words: str


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
    engine: EngineView | None
    rail: list[RailStep]
    step: str
    next: str
    builds: list[BuildView]
    parts: list[PartView]
    cylinder_count: int
    flow_basis: str
    story: list[Event]


def board(session: Session, preset: units.Preset) -> Board:
    """All open jobs by the step they stand at."""
    cards = [_card(load_job(session, job.id), preset) for job in queries.open_jobs(session)]
    columns = [BoardColumn(step, LABELS[step], [card for card in cards if card.step == step]) for step in RAIL]
    closed = queries.closed_jobs(session, MOST_CLOSED_SHOWN)
    return Board(
        columns,
        len(cards),
        [ClosedJob(job.id, job.title, job.customer, job.closed_at) for job in closed if job.closed_at],
    )


def job_view(session: Session, identifier: UUID, preset: units.Preset) -> JobView:
    """What every screen of a job shows of it."""
    record = load_job(session, identifier)
    job, standing = record.job, record.standing()
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
        engine=_engine(record, preset),
        rail=list(standing.rail),
        step=standing.step,
        next=standing.next,
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
        flow_basis=flow_basis(preset),
        story=_story(record),
    )


def flow_basis(preset: units.Preset) -> str:
    """What the flows on a screen are: unit and the depression to which they are brought."""
    unit = units.LABELS.get(units.PRESETS[preset]["flow"], units.PRESETS[preset]["flow"])
    depression = "28 inH2O" if preset == "trade" else "6.97 kPa"
    return f"{unit} at {depression}"


def _story(record: JobRecord) -> list[Event]:
    """What was done to the job so far, day by day."""
    told = [Event(record.job.received_on, "came in")] if record.job.received_on else []
    for state, words in ((record.before_state, "before cutting"), (record.after_state, "after cutting")):
        readings = [r for rows in record.runner_readings(state).values() for r in rows]
        days = sorted({r.taken_at.date() for r in readings})
        told += [Event(d, f"flowed {sum(r.taken_at.date() == d for r in readings)} runners {words}") for d in days]
    names = {build.id: build.name for build in record.builds}
    pulled = sorted({(p.taken_at.date(), names[p.build_id]) for p in record.pulls if p.strike is None})
    told += [Event(d, f"pulled {name}") for d, name in pulled]
    cut = sum(step.minutes or 0 for step in record.steps if step.rail_step == "port")
    done = [step.done_at.date() for step in record.steps if step.rail_step == "port" and step.done_at]
    if cut and done:
        told.append(Event(max(done), f"{cut:.0f} minutes of port work noted"))
    return sorted(told, key=lambda event: event.day)


def _build(record: JobRecord, build: Build, preset: units.Preset) -> BuildView:
    return BuildView(build.id, build.version, build.name, build.is_stock, air_path(record, build, preset))


def _card(record: JobRecord, preset: units.Preset) -> Card:
    job, standing = record.job, record.standing()
    latest = record.latest_build
    return Card(
        id=job.id,
        title=job.title,
        customer=job.customer,
        kind=job.kind.title,
        step=standing.step,
        next=standing.next,
        due_on=job.due_on,
        path=air_path(record, latest, preset) if latest else None,
        gain=_gain(record, preset),
    )


def _gain(record: JobRecord, preset: units.Preset) -> str | None:
    """Mean gain so far, for the card: figure first, percent beside it."""
    before, after = record.runner_flows(record.before_state), record.runner_flows(record.after_state)
    fraction = record.flow_gain()
    if fraction is None:
        return None
    first = fmean(fmean(before[n]) for n in before if n in after)
    shown = units.show_difference(first * fraction, "flow", preset)
    return f"{shown.text} {shown.unit} a runner ({units.percent_text(fraction)})"


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
