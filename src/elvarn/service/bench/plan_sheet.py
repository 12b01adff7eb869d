"""A test as it is shown: its points, its picture, and what it says."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.plan import Measured, PlanKind, Stop, axis_of
from elvarn.core.bench.probe import pitot_velocity, radians_per_second, swirl_coefficient
from elvarn.core.path.tree import ElementKind
from elvarn.service.bench.plan_words import ReadPlan, plan_margin
from elvarn.service.bench.plans import PROBES, point_words, readings_by_point
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.stated import at_reference
from elvarn.service.record.trust import learned_of, sessions_of, trust_of
from elvarn.store import queries
from elvarn.store.models import FlowReading, Plan, ProbeReading

QUANTITIES = {Measured.FLOW: "Flow", Measured.PITOT: "Pitot pressure", Measured.SWIRL: "Paddle wheel"}
Readings = Mapping[int, FlowReading | ProbeReading]


@dataclass(frozen=True)
class PointView:
    """A point: what to set up for it, what is read there in which unit, and its figure where it was read. Places and
    clock positions are empty where it is read as it stands."""

    index: int
    series: int
    place: float | None
    clock: float | None
    zero: bool
    quantity: str
    unit_code: str
    words: str
    reading_id: UUID | None
    typed: str
    figure: str
    value: units.Shown | None
    against: str


@dataclass(frozen=True)
class PlacePoint:
    place: float
    value: float
    text: str


@dataclass(frozen=True)
class SeriesCurve:
    """One series of the picture."""

    label: str
    points: list[PlacePoint]


@dataclass(frozen=True)
class PlaceGain:
    """Second series against first at a place, in percent, with its half-width."""

    place: float
    percent: float
    half_width: float
    real: bool
    text: str


@dataclass(frozen=True)
class PlanCard:
    """A test in a list, and when it was read last."""

    id: UUID
    kind: str
    title: str
    target: str
    read: int
    of: int
    made_at: datetime
    read_at: datetime | None


@dataclass(frozen=True)
class PlanView:
    """A test: points in the order of work, the next one, curves and differences over its axis, velocity maps, and what
    they say. The unit is that of the curves."""

    id: UUID
    kind: str
    title: str
    target: str
    bench_id: UUID
    setup_id: UUID
    axis: str
    axis_unit: str
    unit: str
    points: list[PointView]
    next: int | None
    curves: list[SeriesCurve]
    gains: list[PlaceGain] = field(default_factory=list)
    maps: list[SeriesCurve] = field(default_factory=list)
    margin: list[Sentence] = field(default_factory=list)


def plan_cards(session: Session, job_id: UUID) -> list[PlanCard]:
    """The tests of a job."""
    return [_card(plan, readings_by_point(session, plan)) for plan in queries.plans_of(session, job_id)]


def _card(plan: Plan, read: Readings) -> PlanCard:
    last = max((reading.taken_at for reading in read.values()), default=None)
    return PlanCard(
        plan.id, plan.kind, plan.title, target_words(plan), len(read), len(plan.points), plan.created_at, last
    )


def plan_view(session: Session, plan_id: UUID, preset: units.Preset) -> PlanView:
    """A test. Raises NotFound."""
    plan = find(session, Plan, plan_id, "test")
    kind = PlanKind(plan.kind)
    read = readings_by_point(session, plan)
    values = _values(plan, read)
    known = trust_of(plan.setup.bench, learned_of(session, plan.setup.bench), [], []).known
    flows = {index: reading for index, reading in read.items() if isinstance(reading, FlowReading)}
    sessions = sessions_of(list(flows.values()))
    test = ReadPlan(plan, values, read.keys(), preset, known, {index: sessions[one.id] for index, one in flows.items()})
    axis = axis_of(kind, ElementKind(plan.element_kind))
    points = [_point(test, index, read.get(index)) for index in range(len(plan.points))]
    left = [point.index for point in points if point.reading_id is None]
    return PlanView(
        plan.id,
        plan.kind,
        plan.title,
        target_words(plan),
        plan.setup.bench_id,
        plan.setup_id,
        axis.name if axis else "",
        axis.unit if axis else "",
        _unit(_main(kind), preset),
        points,
        left[0] if left else None,
        [_curve(test, number) for number in range(len(plan.series))],
        _gains(test),
        list(_maps(test)),
        list(plan_margin(test, left)),
    )


def target_words(plan: Plan) -> str:
    """What is flowed."""
    return f"runner {plan.cylinder}" if plan.cylinder else plan.element_kind


def _values(plan: Plan, read: Readings) -> dict[int, float]:
    """Each point's figure: flow [m³/s at the reference depression], velocity [m/s] or swirl coefficient [-], each probe
    less what it shows at rest in that mounting. A probe at rest, or one that shows no more, has none."""
    stops = plan.stops
    rest = {
        (stops[index].series, stops[index].mount, stops[index].measured): reading.value_si
        for index, reading in read.items()
        if stops[index].zero and isinstance(reading, ProbeReading)
    }
    found: dict[int, float] = {}
    for index, reading in read.items():
        stop = stops[index]
        zero = rest.get((stop.series, stop.mount, stop.measured), 0.0)
        value = None if stop.zero else _value(plan, stop, reading, zero)
        if value is not None:
            found[index] = value
    return found


def _value(plan: Plan, stop: Stop, reading: FlowReading | ProbeReading, zero: float) -> float | None:
    if isinstance(reading, FlowReading):
        return at_reference(reading)
    shown = reading.value_si - zero
    if stop.measured is Measured.PITOT:
        return pitot_velocity(shown) if shown > 0 else None
    return swirl_coefficient(radians_per_second(shown), plan.bore_m or 0.0, plan.setup.depression_pa)


def _main(kind: PlanKind) -> Measured:
    """What the curves of a test are of."""
    return Measured(kind) if kind in (PlanKind.PITOT, PlanKind.SWIRL) else Measured.FLOW


def _unit(measured: Measured, preset: units.Preset) -> str:
    """Unit in which a figure is shown."""
    if measured is Measured.FLOW:
        code = units.PRESETS[preset]["flow"]
        return units.LABELS.get(code, code)
    return "m/s" if measured is Measured.PITOT else ""


def _shown(measured: Measured, value: float, preset: units.Preset) -> units.Shown:
    if measured is Measured.FLOW:
        return units.show(value, "flow", preset)
    return units.show_in(value, "m/s", 1) if measured is Measured.PITOT else units.show_in(value, "", 3)


def _point(test: ReadPlan, index: int, reading: FlowReading | ProbeReading | None) -> PointView:
    stop, value = test.stops[index], test.values.get(index)
    shown = _shown(stop.measured, value, test.preset) if value is not None else None
    base = test.curve(0, stop.measured, stop.clock).get(stop.place)
    against = units.percent_text(value / base - 1) if value is not None and base and stop.series else ""
    code = PROBES[stop.measured][1] if stop.measured in PROBES else units.PRESETS[test.preset]["flow"]
    return PointView(
        index,
        stop.series,
        stop.place,
        stop.clock,
        stop.zero,
        QUANTITIES[stop.measured],
        code,
        point_words(test.plan, index),
        reading.id if reading else None,
        reading.typed if reading else "",
        f"{reading.figure:g}" if reading else "",
        shown,
        against,
    )


def _curve(test: ReadPlan, number: int) -> SeriesCurve:
    """A series over openings or lifts; a velocity map has none."""
    main = _main(test.kind)
    if main is Measured.PITOT:
        return SeriesCurve(test.label(number), [])
    curve = test.curve(number, main)
    points = [_place_point(place, value, main, test.preset) for place, value in curve.items() if place is not None]
    return SeriesCurve(test.label(number), points)


def _maps(test: ReadPlan) -> Iterator[SeriesCurve]:
    """Velocity round the opening, of each series at each opening or lift at which it was read."""
    stations = list(dict.fromkeys(stop.place for stop in test.stops if stop.clock is not None))
    for number in range(len(test.plan.series)):
        for place in stations:
            around = test.around(number, place)
            at = f", {place:g} {test.axis_unit}" if place is not None and len(stations) > 1 else ""
            points = [_place_point(clock, value, Measured.PITOT, test.preset) for clock, value in around.items()]
            yield SeriesCurve(f"{test.label(number)}{at}", points)


def _place_point(place: float, value: float, measured: Measured, preset: units.Preset) -> PlacePoint:
    shown = _shown(measured, value, preset)
    return PlacePoint(place, shown.value, f"{shown.text} {shown.unit}".strip())


def _gains(test: ReadPlan) -> list[PlaceGain]:
    return [
        PlaceGain(
            one.place,
            one.verdict.change * 100,
            one.verdict.half_width * 100,
            one.verdict.real,
            units.percent_text(one.verdict.change),
        )
        for one in test.differences()
    ]
