"""Test plans: making one, the next point, capturing it. A point's set-up is the plan's, with what its series and place
change."""

from dataclasses import asdict, dataclass, field
from datetime import datetime
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.plan import LIFT, OPENING, Measured, PlanKind, Stop, axis_of, check_places, stops_of
from elvarn.core.errors import CoreError
from elvarn.core.path.tree import ElementKind
from elvarn.given import Moment, given
from elvarn.service.bench.asking import Beside, ask
from elvarn.service.bench.reading import reading_of
from elvarn.service.bench.setups import add_setup, derived
from elvarn.service.bench.taken import Taken, check_pulled, figure_of
from elvarn.service.job.strikes import NewStrike, strike_out
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.checks import load_checks
from elvarn.service.record.setup import changed, items_of
from elvarn.service.record.stated import at_reference
from elvarn.store import queries
from elvarn.store.models import FlowReading, Job, PartState, Plan, ProbeReading, Setup
from elvarn.typed import ClockHours, read

TITLES = {
    PlanKind.CONFIGURATION: "Configurations",
    PlanKind.OPENING: "Opening sweep",
    PlanKind.LIFT: "Flow against valve lift",
    PlanKind.COPY: "Copy vs original",
    PlanKind.PITOT: "Velocity around the port",
    PlanKind.SWIRL: "Swirl",
}
PROBES: dict[Measured, tuple[units.Quantity, str]] = {
    Measured.PITOT: ("depression", "inH2O"),
    Measured.SWIRL: ("speed", "rpm"),
}
MOST_PRESSURE = 20_000.0  # Pa, of a pitot tube on a bench; common practice, no source
MOST_TURNS = 30_000.0  # per minute, of a paddle wheel in a bore; common practice, no source
MOST_AT_REST = 0.05  # of the most that a probe can show; common practice, no source


@given
class NewSeries:
    """One of the things that a test compares: its name, the state of the part it is flowed in, and what it changes of
    the plan's set-up."""

    label: str
    part_state_id: UUID
    changes: dict[str, Any] = field(default_factory=dict)


@given
class NewPlan:
    """A test: its kind, what is flowed (a runner by its number, or another element), the series, the places (openings
    in percent; valve lifts in millimetres on a runner or head) and the clock positions [h] of a velocity map. `bore` is
    that of the swirl meter, for a lift curve the valve's seat; typed with its unit. With it a copy's swirl is read."""

    person_id: UUID
    job_id: UUID
    kind: str
    setup_id: UUID
    element_kind: str
    series: list[NewSeries]
    cylinder: int | None = None
    places: list[float | str] = field(default_factory=list)
    clocks: list[ClockHours] = field(default_factory=list)
    title: str = ""
    bore: str = ""


@given
class NewPoint:
    """The figure of a point, typed or as the bench sent it. A point that was read already is asked about."""

    person_id: UUID
    plan_id: UUID
    point: int
    typed: str
    taken_at: Moment
    default_unit: str = ""
    taken: Taken | None = None
    replaces: list[UUID] = field(default_factory=list)
    accepted: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class _PointFigure:
    """A point as a flow reading sees it."""

    person_id: UUID
    job_id: UUID | None
    setup_id: UUID
    part_state_id: UUID
    cylinder: int | None
    taken_at: datetime


def add_plan(session: Session, identifier: UUID, new: NewPlan) -> Plan:
    """Make a test. Raises Invalid for one that can't be flowed, naming what."""
    kind = _kind(new.kind)
    find(session, Job, new.job_id, "job")
    setup = find(session, Setup, new.setup_id, "set-up")
    if setup.job_id != new.job_id:
        raise Invalid("The set-up is of another job.", path="setup_id")
    target = _target(new)
    bore = _bore(new, kind)
    places = _places(kind, target, new.places)
    stops = _stops(kind, target, places, new, bore is not None)
    for number, series in enumerate(new.series):
        find(session, PartState, series.part_state_id, "part state")
        if not series.label.strip():
            raise Invalid("Name the series.", path=f"series.{number}.label")
        changed(items_of(setup), series.changes)

    def make(digest: str) -> Plan:
        return Plan(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            kind=kind.value,
            title=new.title.strip() or TITLES[kind],
            setup_id=new.setup_id,
            element_kind=new.element_kind,
            cylinder=new.cylinder,
            series=[{**asdict(one), "part_state_id": str(one.part_state_id)} for one in new.series],
            places=places,
            clocks=[float(clock) for clock in new.clocks],
            points=[asdict(stop) for stop in stops],
            bore_m=bore,
        )

    return write_once(session, Plan, identifier, new, make)


def capture_point(session: Session, identifier: UUID, new: NewPoint) -> FlowReading | ProbeReading:
    """Keep a point's figure."""
    plan = find(session, Plan, new.plan_id, "test")
    if not 0 <= new.point < len(plan.points):
        raise Invalid(f"There is no point {new.point + 1}; this test has {len(plan.points)}.", path="point")
    existing = session.get(FlowReading, identifier) or session.get(ProbeReading, identifier)
    if existing is None:
        queries.hold_job(session, plan.job_id)
        _ask_where_read(session, plan, new)
    keep = _keep_probe if plan.stops[new.point].measured in PROBES else _keep_flow
    kept = keep(session, identifier, plan, new)
    for old in new.replaces:
        strike_out(session, old, NewStrike(new.person_id, "replaced by another reading", new.taken_at))
    return kept


def readings_by_point(session: Session, plan: Plan) -> dict[int, FlowReading | ProbeReading]:
    """The last valid reading of each point that was read."""
    measured = {stop.measured for stop in plan.stops}
    found: dict[int, FlowReading | ProbeReading] = {}
    if Measured.FLOW in measured:
        found |= {reading.plan_point or 0: reading for reading in queries.flows_of_plan(session, plan.id)}
    if measured - {Measured.FLOW}:
        found |= {reading.plan_point: reading for reading in queries.probes_of_plan(session, plan.id)}
    load_checks(session)
    return found


def point_words(plan: Plan, index: int) -> str:
    """A point in words: its series, what of it is read, and where."""
    stop = plan.stops[index]
    words = [f"{plan.series[stop.series]['label']}{' again' if stop.mount else ''}"]
    if stop.zero:
        return f"{words[0]}, {'wheel' if stop.measured is Measured.SWIRL else 'pitot'} at rest, air off"
    if stop.measured is Measured.SWIRL and plan.kind == PlanKind.COPY:
        words.append("swirl")
    axis = axis_of(PlanKind(plan.kind), ElementKind(plan.element_kind))
    if stop.place is not None and axis is not None:
        words.append(f"{stop.place:g} {axis.unit}")
    if stop.clock is not None:
        words.append(f"{stop.clock:g} o'clock")
    return ", ".join(words)


def _keep_flow(session: Session, identifier: UUID, plan: Plan, new: NewPoint) -> FlowReading:
    figure = figure_of(new.typed, new.default_unit or "cfm", new.taken)
    check_pulled(figure)
    setup = _setup_of(session, plan, new.point, new.person_id)
    state = UUID(plan.series[plan.stops[new.point].series]["part_state_id"])
    about = _PointFigure(new.person_id, plan.job_id, setup.id, state, plan.cylinder, new.taken_at)
    sent_before = session.get(FlowReading, identifier) is not None
    marks = [] if sent_before else ask(new, figure, _beside(session, plan, new, setup))

    def make(digest: str) -> FlowReading:
        row = reading_of(identifier, digest, about, ElementKind(plan.element_kind), figure)
        row.plan_id, row.plan_point, row.marks = plan.id, new.point, marks
        return row

    return write_once(session, FlowReading, identifier, new, make)


def _beside(session: Session, plan: Plan, new: NewPoint, setup: Setup) -> Beside:
    """Beside a point stand the other series at the same place."""
    stops = plan.stops
    place = stops[new.point].place
    others = [
        at_reference(reading)
        for point, reading in readings_by_point(session, plan).items()
        if point != new.point and stops[point].place == place and isinstance(reading, FlowReading)
    ]
    return Beside(
        point_words(plan, new.point),
        others=others,
        others_are="the other series here",
        depression=setup.depression_pa,
        ranges=setup.bench.ranges,
    )


def _keep_probe(session: Session, identifier: UUID, plan: Plan, new: NewPoint) -> ProbeReading:
    stop = plan.stops[new.point]
    parsed, usual = PROBES[stop.measured]
    try:
        typed = units.parse(new.typed, parsed, usual)
    except units.UnitError as error:
        raise Invalid(str(error), path="typed") from error
    _check_probe(stop, typed.si, new.typed)

    def make(digest: str) -> ProbeReading:
        return ProbeReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=plan.job_id,
            taken_at=new.taken_at,
            marks=[],
            plan_id=plan.id,
            plan_point=new.point,
            quantity=stop.measured,
            typed=new.typed,
            figure=typed.figure,
            unit=typed.unit,
            value_si=typed.si,
        )

    return write_once(session, ProbeReading, identifier, new, make)


def _setup_of(session: Session, plan: Plan, index: int, person_id: UUID) -> Setup:
    """The set-up of a point. Points that are set up alike share it."""
    stop = plan.stops[index]
    items = changed(items_of(plan.setup), plan.series[stop.series]["changes"])
    if stop.place is not None:
        axis = axis_of(PlanKind(plan.kind), ElementKind(plan.element_kind))
        items = changed(items, {"opening_percent" if axis is OPENING else "valve_lift_mm": stop.place})
    if items == items_of(plan.setup):
        return plan.setup
    identifier = uuid5(plan.id, f"{stop.series}/{stop.place}")
    existing = session.get(Setup, identifier)
    return existing or add_setup(session, identifier, derived(plan.setup, items, person_id))


def _ask_where_read(session: Session, plan: Plan, new: NewPoint) -> None:
    last = readings_by_point(session, plan).get(new.point)
    if last is None or last.id in new.replaces:
        return
    was = f"{units.number_text(last.figure, 1)} {units.LABELS.get(last.unit, last.unit)}"
    raise Question(
        "already_read",
        f"{point_words(plan, new.point)} already reads {was}.",
        [Offer(f"Replace {was} with the new reading", {"replaces": [str(last.id)]})],
        path="typed",
    )


def _kind(name: str) -> PlanKind:
    try:
        return PlanKind(name)
    except ValueError as error:
        raise Invalid(f"'{name}' is no kind of test. Known: {', '.join(PlanKind)}.", path="kind") from error


def _check_probe(stop: Stop, value: float, typed: str) -> None:
    """Refuse what a probe can't show, at rest or in the air. Raises Invalid."""
    pitot = stop.measured is Measured.PITOT
    most = MOST_PRESSURE if pitot else MOST_TURNS
    if stop.zero and abs(value) > MOST_AT_REST * most:
        thing = "A pitot tube" if pitot else "A paddle wheel"
        raise Invalid(f"{thing} at rest can't show {typed}. Switch the air off, then read it.", path="typed")
    if pitot and not stop.zero and not 0 < value <= most:
        message = f"A pitot tube can't show {typed}. Its pressure is above 0, up to 80 inH2O (20 kPa)."
        raise Invalid(message, path="typed")
    if not pitot and abs(value) > most:
        raise Invalid(f"A paddle wheel can't turn {typed} times a minute. Enter up to {most:.0f}.", path="typed")


def _places(kind: PlanKind, target: ElementKind, typed: list[float | str]) -> list[float]:
    """Openings or lifts in the unit of their axis, a text with whatever unit it has."""
    lift = axis_of(kind, target) is LIFT
    quantity: units.Quantity | None = "length" if lift else None
    unit = "mm" if lift else "%"
    try:
        return [float(read(one, unit, quantity)) if isinstance(one, str) else float(one) for one in typed]
    except units.UnitError as error:
        raise Invalid(str(error), path="places") from error


def _stops(kind: PlanKind, target: ElementKind, places: list[float], new: NewPlan, swirl: bool) -> list[Stop]:
    try:
        check_places(kind, target, places, new.clocks)
        return stops_of(kind, len(new.series), places, new.clocks, swirl)
    except CoreError as error:
        raise Invalid(str(error), path=getattr(error, "quantity", "places")) from error


def _target(new: NewPlan) -> ElementKind:
    try:
        kind = ElementKind(new.element_kind)
    except ValueError as error:
        raise Invalid(f"'{new.element_kind}' is no kind of element.", path="element_kind") from error
    if (kind is ElementKind.RUNNER) != (new.cylinder is not None):
        raise Invalid("A runner's test names its runner, another element's none.", path="cylinder")
    if new.cylinder is not None and not 1 <= new.cylinder <= 16:
        raise Invalid(f"There is no runner {new.cylinder}.", path="cylinder")
    return kind


def _bore(new: NewPlan, kind: PlanKind) -> float | None:
    if not new.bore.strip():
        if kind is PlanKind.SWIRL:
            raise Invalid("Swirl needs the cylinder's bore. Type it, for example 84 mm.", path="bore")
        return None
    try:
        bore = units.parse(new.bore, "length", "mm").si
    except units.UnitError as error:
        raise Invalid(str(error), path="bore") from error
    if not 0.005 <= bore <= 0.5:
        raise Invalid(f"A bore of {new.bore} can't be. Enter 5 to 500 mm.", path="bore")
    return bore
