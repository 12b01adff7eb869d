"""What is said of an engine, checked: what can't be is refused with the figure and the way on."""

from collections.abc import Callable
from dataclasses import field
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.core.engine.geometry import CamEvents, check_cam_events
from elvarn.core.engine.injector import FUELS
from elvarn.core.engine.strokes import check_firing_order
from elvarn.core.errors import CoreError
from elvarn.given import given
from elvarn.service.checkin.engine_card import CamCardSpec, CardSpec, with_cards
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.store import queries
from elvarn.store.models import Engine, Job
from elvarn.typed import Count, Degrees, Injection, Kilopascals, Millimetres, Number, Rpm, TypedFigure, typed_texts

CARDS = ("cam", "card")
LAYOUTS = ("single", "inline", "vee", "flat")
# mm, from a model engine's to a ship's auxiliary; common practice, no source
DIMENSIONS = {"bore_mm": (30.0, 200.0), "stroke_mm": (25.0, 250.0), "inlet_valve_mm": (10.0, 80.0)}
FIGURES = {
    "limit_rpm": (1000, 20000), "compression_ratio": (5.0, 20.0), "boost_kpa": (0.0, 500.0), "cam_lift_mm": (0.0, 5.0),
    "injector_cc_min": (50.0, 5000.0), "injector_rated_kpa": (100.0, 1000.0), "rail_kpa": (100.0, 1500.0),
    "inlet_valve_count": (1, 4),
}  # fmt: skip
WORDS = {"limit_rpm": "limit", "cam_lift_mm": "lift at which the cam was timed", "rail_kpa": "rail pressure"}


@given
class NewEngine:
    """An engine as it is described. Lengths as typed ("83", "3.27 in"); cam events in crank degrees as on a cam card:
    inlet opens before top and closes after bottom, exhaust opens before bottom and closes after top; or `cam` by its
    durations. `card`: what else the engine's card says."""

    name: str
    layout: str = "inline"
    bank_count: Count = 1
    bore_mm: Millimetres | None = None
    stroke_mm: Millimetres | None = None
    limit_rpm: Rpm | None = None
    boosted: bool = False
    boost_kpa: Kilopascals | None = None
    compression_ratio: Number | None = None
    inlet_valve_count: Count | None = None
    inlet_valve_mm: Millimetres | None = None
    fuel: str = "petrol"
    firing_order: list[Count] = field(default_factory=list)
    inlet_opens_deg: Degrees | None = None
    inlet_closes_deg: Degrees | None = None
    exhaust_opens_deg: Degrees | None = None
    exhaust_closes_deg: Degrees | None = None
    cam_lift_mm: Millimetres | None = None
    injector_cc_min: Injection | None = None
    injector_rated_kpa: Kilopascals | None = None
    rail_kpa: Kilopascals | None = None
    cam: CamCardSpec | None = None
    card: CardSpec = field(default_factory=CardSpec)


@given
class EngineEdit:
    """An engine of a job, on the version that was seen; 0 where the job has none yet."""

    version: int
    engine: NewEngine


def add_engine(session: Session, job_id: UUID, new: NewEngine | None, cylinder_count: int) -> Engine | None:
    """The engine of a job that is taken in."""
    if new is None:
        return None
    values = checked(new, cylinder_count)
    engine = Engine(id=uuid5(job_id, "engine"), content_digest="", cylinder_count=cylinder_count, **values)
    session.add(engine)
    session.flush()
    return engine


def edit_engine(session: Session, job_id: UUID, change: EngineEdit) -> Engine:
    """Change a job's engine, or name the first. Raises Stale where somebody else changed it meanwhile."""
    job = find_for_edit(session, Job, job_id, "job")
    if job.engine_id is None:
        builds = queries.builds_of(session, [job_id])
        engine = add_engine(session, job_id, change.engine, builds[0].cylinder_count if builds else 1)
        assert engine is not None
        job.engine_id = engine.id
        session.flush()
        return engine
    engine = find_for_edit(session, Engine, job.engine_id, "engine")
    edit(engine, change.version, checked(change.engine, engine.cylinder_count), "engine")
    session.flush()
    return engine


def copied_engine(session: Session, job_id: UUID, source_id: UUID | None) -> Engine | None:
    """An engine of a job like that of another."""
    if source_id is None:
        return None
    source = find(session, Engine, source_id, "engine")
    engine = _like(source, uuid5(job_id, "engine"), None)
    session.add(engine)
    session.flush()
    return engine


def next_version(session: Session, job: Job, identifier: UUID | None = None) -> Engine | None:
    """The next version of a job's engine, as it is now: what was pulled and printed before keeps its own. None where
    the job has no engine."""
    if job.engine_id is None:
        return None
    now = find(session, Engine, job.engine_id, "engine")
    engine = _like(now, identifier or uuid5(now.id, "next"), now.id)
    session.add(engine)
    session.flush()
    job.engine_id = engine.id
    session.flush()
    return engine


def another_version(session: Session, job_id: UUID, identifier: UUID) -> Engine:
    """Another version of a job's engine; sent twice, it is made once. Raises Invalid where the job has no engine."""
    made = session.get(Engine, identifier)
    job = find_for_edit(session, Job, job_id, "job")
    engine = made or next_version(session, job, identifier)
    if engine is None:
        raise Invalid("The job has no engine yet. Describe it first.", path="engine")
    return engine


def _like(source: Engine, identifier: UUID, follows: UUID | None) -> Engine:
    own = ("id", "content_digest", "created_at", "version", "follows_id")
    values = {c.name: getattr(source, c.name) for c in Engine.__table__.columns if c.name not in own}
    return Engine(id=identifier, content_digest="", follows_id=follows, **values)


def checked(new: NewEngine, cylinder_count: int) -> dict[str, Any]:
    """What is kept of an engine. Raises Invalid naming the figure, what can be, and what may have been meant."""
    if not new.name.strip():
        raise Invalid("Name the engine.", path="engine.name")
    if new.layout not in LAYOUTS:
        raise Invalid(f"'{new.layout}' is no layout. Known: {', '.join(LAYOUTS)}.", path="engine.layout")
    if not 1 <= new.bank_count <= min(4, cylinder_count):
        raise Invalid(no_banks(new.bank_count, cylinder_count), path="engine.bank_count")
    if new.fuel not in FUELS:
        raise Invalid(f"'{new.fuel}' is no fuel known here: {', '.join(FUELS)}.", path="engine.fuel")
    for name, (low, high) in FIGURES.items():
        value = getattr(new, name)
        if value is not None and not low <= value <= high:
            words = WORDS.get(name, name.rsplit("_", 1)[0].replace("_", " "))
            raise Invalid(f"The {words} can't be {value:g}. Enter {low:g} to {high:g}.", path=f"engine.{name}")
    if new.firing_order:
        _refused("firing_order", lambda: check_firing_order(new.firing_order, cylinder_count))
    _refused("inlet_closes_deg", lambda: _check_cam(new))
    plain = {name: getattr(new, name) for name in NewEngine.__dataclass_fields__ if name not in (*DIMENSIONS, *CARDS)}
    lengths = {name: _length(name, getattr(new, name)) for name in DIMENSIONS}
    values = {**plain, **lengths, "name": new.name.strip(), "typed": typed_texts(new)}
    return with_cards(values, new.cam, new.card, cylinder_count)


def no_banks(bank_count: int, cylinder_count: int) -> str:
    """What is said of banks that an engine can't have."""
    return f"{cylinder_count} cylinders can't stand in {bank_count} banks. Enter 1 to {min(4, cylinder_count)}."


def _check_cam(new: NewEngine) -> None:
    if (new.inlet_opens_deg is None) != (new.inlet_closes_deg is None):
        raise Invalid("Enter both intake cam events, or leave both empty.", path="engine.inlet_closes_deg")
    if (new.exhaust_opens_deg is None) != (new.exhaust_closes_deg is None):
        raise Invalid("Enter both exhaust cam events, or leave both empty.", path="engine.exhaust_closes_deg")
    if new.inlet_opens_deg is not None and new.inlet_closes_deg is not None:
        events = (new.inlet_opens_deg, new.inlet_closes_deg, new.exhaust_opens_deg, new.exhaust_closes_deg)
        check_cam_events(CamEvents(*events))


def _refused(name: str, check: Callable[[], object]) -> None:
    try:
        check()
    except CoreError as error:
        raise Invalid(str(error), path=f"engine.{name}") from error


def _length(name: str, millimetres: float | None) -> float | None:
    """A length in mm; one outside what engines have is asked about, with what it would be in another unit."""
    if millimetres is None:
        return None
    low, high = DIMENSIONS[name]
    if low <= millimetres <= high:
        return millimetres
    typed = millimetres if isinstance(millimetres, TypedFigure) else None
    figure, written = (typed.figure, typed.unit) if typed is not None else (millimetres, "mm")
    meant = [
        f"{figure:g} {unit}"
        for unit, factor in (("mm", 1.0), ("cm", 10.0), ("in", 25.4))
        if unit != written and low <= figure * factor <= high
    ]
    words = name.rsplit("_", 1)[0].replace("_", " ")
    way_on = f" Did you mean {' or '.join(meant)}?" if meant else ""
    text = f"{words.capitalize()} {figure:g} {written} is outside {low:g} to {high:g} mm.{way_on}"
    raise Invalid(text, path=f"engine.{name}")
