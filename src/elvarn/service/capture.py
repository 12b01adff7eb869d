"""Set-ups, flow readings and strike-outs: what is kept, and what is asked first."""

from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.plausible import Doubt, check_flow, flow_doubts
from elvarn.core.bench.reference import check_depression, flow_at_depression
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.errors import OutOfRange
from elvarn.core.path.tree import ElementKind
from elvarn.service.air import weather_of
from elvarn.service.errors import IdReused, Invalid, Offer, Question
from elvarn.service.path import smallest_area
from elvarn.service.record import JobRecord, at_reference, load_job
from elvarn.service.writes import digest_of, find, write_once
from elvarn.store import queries
from elvarn.store.models import Bench, BuildNode, FlowReading, PartState, Reading, Setup, Strike

ENTRY_RADII = {"none": "no radius", "clay": "clay radius", "printed": "printed radius", "own": "its own entry"}
THROTTLES = {"off": "throttle off", "as_sold": "throttle as sold", "ported": "throttle ported"}
SLIPS = {"ten_times": 0.1, "a_tenth": 10.0}
OTHER_UNIT = {"cubic_metres_per_hour": "m3/h", "cubic_feet_per_minute": "cfm"}


@dataclass(frozen=True)
class NewSetup:
    """How a series is flowed. The depression is as typed ("28", "25 inH2O", "7 kPa"). Without a job it is of the
    shelf."""

    person_id: UUID
    job_id: UUID | None
    bench_id: UUID
    depression: str
    depression_unit: str = "inH2O"
    entry_radius: str = "none"
    throttle: str = "off"
    blocked: str = ""
    air_temperature_c: float | None = None
    air_pressure_kpa: float | None = None
    air_humidity_percent: float | None = None


@dataclass(frozen=True)
class NewFlow:
    """A figure of one runner, as typed. `accepted` are doubts under which it is to be kept all the same; `replaces`
    are readings to be struck out for it."""

    person_id: UUID
    job_id: UUID
    setup_id: UUID
    part_state_id: UUID
    cylinder: int
    typed: str
    taken_at: datetime
    default_unit: str = "cfm"
    accepted: list[str] = field(default_factory=list)
    replaces: list[UUID] = field(default_factory=list)


@dataclass(frozen=True)
class NewElementFlow:
    """A figure of a whole element (throttle, tube, filter), or of a runner of a part that belongs to no job."""

    person_id: UUID
    job_id: UUID | None
    setup_id: UUID
    part_state_id: UUID
    element_kind: str
    typed: str
    taken_at: datetime
    default_unit: str = "cfm"
    cylinder: int | None = None


@dataclass(frozen=True)
class NewStrike:
    person_id: UUID
    reason: str
    struck_at: datetime


def add_setup(session: Session, identifier: UUID, new: NewSetup) -> Setup:
    """A set-up, checked: depression, choices, air."""
    find(session, Bench, new.bench_id, "bench")
    typed = _parse(new.depression, "depression", new.depression_unit, path="depression")
    try:
        check_depression(typed.si)
    except OutOfRange as error:
        shown = f"{units.number_text(typed.figure, 1)} {units.LABELS.get(typed.unit, typed.unit)}"
        message = f"A depression of {shown} can't be read on a bench. Enter 0.5 to 80 inH2O (0.125 to 20 kPa)."
        raise Invalid(message, path="depression") from error
    if new.entry_radius not in ENTRY_RADII:
        raise Invalid(f"'{new.entry_radius}' is no entry radius.", path="entry_radius")
    if new.throttle not in THROTTLES:
        raise Invalid(f"'{new.throttle}' says nothing of the throttle.", path="throttle")
    weather_of(new)

    def make(digest: str) -> Setup:
        return Setup(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            bench_id=new.bench_id,
            depression_figure=typed.figure,
            depression_unit=typed.unit,
            depression_pa=typed.si,
            entry_radius=new.entry_radius,
            throttle=new.throttle,
            blocked=new.blocked.strip(),
            air_temperature_c=new.air_temperature_c,
            air_pressure_kpa=new.air_pressure_kpa,
            air_humidity_percent=new.air_humidity_percent,
        )

    return write_once(session, Setup, identifier, new, make)


def capture(session: Session, identifier: UUID, new: NewFlow) -> FlowReading:
    """Keep a runner's figure. Raises Invalid for what can't be, Question for what may be meant otherwise."""
    queries.hold_job(session, new.job_id)
    existing = session.get(FlowReading, identifier)
    if existing is not None:
        return _same(existing, new)
    record = load_job(session, new.job_id)
    setup = find(session, Setup, new.setup_id, "set-up")
    state = record.state(new.part_state_id) or find(session, PartState, new.part_state_id, "part state")
    if not 1 <= new.cylinder <= record.cylinder_count:
        message = f"There is no runner {new.cylinder}; this part has {record.cylinder_count}."
        raise Invalid(message, path="cylinder")
    typed = _typed_flow(new.typed, new.default_unit)
    _ask_where_already_read(record, state, new)
    doubts = _doubts(record, state, setup, new, typed)
    open_doubts = [doubt for doubt in doubts if doubt.code not in new.accepted]
    if open_doubts:
        raise _question(open_doubts[0], new, typed)

    def make(digest: str) -> FlowReading:
        return _reading(identifier, digest, new, ElementKind.RUNNER, new.cylinder, typed, [d.code for d in doubts])

    reading = write_once(session, FlowReading, identifier, new, make)
    for old in new.replaces:
        strike_out(session, old, NewStrike(new.person_id, "replaced by another reading", new.taken_at))
    return reading


def capture_element(session: Session, identifier: UUID, new: NewElementFlow) -> FlowReading:
    """Keep the figure of a whole element."""
    find(session, Setup, new.setup_id, "set-up")
    find(session, PartState, new.part_state_id, "part state")
    typed = _typed_flow(new.typed, new.default_unit)
    try:
        kind = ElementKind(new.element_kind)
    except ValueError as error:
        raise Invalid(f"'{new.element_kind}' is no kind of element.", path="element_kind") from error
    if (kind is ElementKind.RUNNER) != (new.cylinder is not None):
        raise Invalid("A runner's figure names its runner, another element's none.", path="cylinder")

    def make(digest: str) -> FlowReading:
        return _reading(identifier, digest, new, kind, new.cylinder, typed, [])

    return write_once(session, FlowReading, identifier, new, make)


def strike_out(session: Session, reading_id: UUID, new: NewStrike) -> Strike:
    """Strike a reading out, with a reason. It stays, and counts no more. Struck twice, the first reason stands."""
    reading = find(session, Reading, reading_id, "reading")
    if not new.reason.strip():
        raise Invalid("A reading is struck out with a reason. Type it in a few words.", path="reason")
    if reading.strike is not None:
        return reading.strike
    reading.strike = Strike(
        reading_id=reading_id, person_id=new.person_id, reason=new.reason.strip(), struck_at=new.struck_at
    )
    session.flush()
    return reading.strike


def _reading(
    identifier: UUID,
    digest: str,
    new: NewFlow | NewElementFlow,
    kind: ElementKind,
    cylinder: int | None,
    typed: units.Typed,
    marks: list[str],
) -> FlowReading:
    return FlowReading(
        id=identifier,
        content_digest=digest,
        person_id=new.person_id,
        job_id=new.job_id,
        taken_at=new.taken_at,
        marks=marks,
        setup_id=new.setup_id,
        part_state_id=new.part_state_id,
        element_kind=kind.value,
        cylinder=cylinder,
        typed=new.typed,
        figure=typed.figure,
        unit=typed.unit,
        flow_m3_s=typed.si,
    )


def _same(existing: FlowReading, new: NewFlow) -> FlowReading:
    if existing.content_digest != digest_of(new):
        raise IdReused(f"The id {existing.id} was used before for another figure. Send it with a new id.")
    return existing


def _typed_flow(text: str, default_unit: str) -> units.Typed:
    typed = _parse(text, "flow", default_unit, path="typed")
    try:
        check_flow(typed.si)
    except OutOfRange as error:
        raise Invalid(
            f"A flow of {text} can't be a reading: it must be above 0. Read it again.", path="typed"
        ) from error
    return typed


def _parse(text: str, quantity: units.Quantity, default_unit: str, path: str) -> units.Typed:
    try:
        return units.parse(text, quantity, default_unit)
    except units.UnitError as error:
        raise Invalid(str(error), path=path) from error


def _ask_where_already_read(record: JobRecord, state: PartState, new: NewFlow) -> None:
    kept = [r for r in record.runner_readings(state)[new.cylinder] if r.id not in new.replaces]
    if not kept or "already_read" in new.accepted:
        return
    last = kept[-1]
    was = f"{units.number_text(last.figure, 1)} {units.LABELS.get(last.unit, last.unit)}"
    raise Question(
        "already_read",
        f"Runner {new.cylinder} already has {was}. Is {new.typed} a repeat, or instead of it?",
        [
            Offer("A repeat: both count", {"accepted": [*new.accepted, "already_read"]}),
            Offer(f"Strike {was} out, keep {new.typed}", {"replaces": [str(r.id) for r in kept]}),
        ],
        path="typed",
    )


def _doubts(record: JobRecord, state: PartState, setup: Setup, new: NewFlow, typed: units.Typed) -> list[Doubt]:
    stated = flow_at_depression(typed.si, setup.depression_pa, REFERENCE_DEPRESSION)
    states = {s.id for s in (state, record.before_state) if s is not None}
    others = [
        at_reference(r)
        for r in record.flows
        if r.strike is None and r.part_state_id in states and r.cylinder is not None and r.id not in new.replaces
    ]
    node = _runner_node(record, state, new.cylinder)
    area = smallest_area(record, node) if node is not None else None
    return flow_doubts(stated, others, area, REFERENCE_DEPRESSION)


def _runner_node(record: JobRecord, state: PartState, cylinder: int) -> BuildNode | None:
    nodes = (node for build in record.builds for node in build.nodes)
    return next((n for n in nodes if n.cylinder == cylinder and n.part_state_id == state.id), None)


def _question(doubt: Doubt, new: NewFlow, typed: units.Typed) -> Question:
    offers = []
    other = OTHER_UNIT.get(doubt.code)
    if other is not None and {typed.unit, other} == {"cfm", "m3/h"}:
        offers.append(Offer(f"It is {typed.figure:g} {units.LABELS[other]}", {"typed": f"{typed.figure!r} {other}"}))
    elif doubt.code in SLIPS:
        meant = typed.figure * SLIPS[doubt.code]
        offers.append(Offer(f"I meant {meant:g}", {"typed": f"{meant:g} {typed.unit}"}))
    offers.append(Offer(f"Keep {new.typed}, marked", {"accepted": [*new.accepted, doubt.code]}))
    return Question(doubt.code, f"Runner {new.cylinder}: {new.typed}. {doubt.text}", offers, path="typed")
