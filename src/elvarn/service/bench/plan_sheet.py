"""A test as it is shown: its points, its picture, and what it says."""

from dataclasses import dataclass, field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.plan import AXES, PlanKind
from elvarn.core.bench.probe import pitot_velocity, radians_per_second, swirl_coefficient
from elvarn.service.bench.plan_words import ReadPlan, plan_margin
from elvarn.service.bench.plans import TITLES, point_words, readings_by_point
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.job import JobRecord
from elvarn.service.record.stated import at_reference
from elvarn.service.record.trust import learned_of, sessions_of, trust_of
from elvarn.store import queries
from elvarn.store.models import FlowReading, Plan, ProbeReading


@dataclass(frozen=True)
class PointView:
    """A point: what to set up for it, and its figure where it was read."""

    index: int
    series: int
    place: float
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
    """A test in a list."""

    id: UUID
    kind: str
    title: str
    target: str
    read: int
    of: int


@dataclass(frozen=True)
class PlanView:
    """A test: points in the order of work, the next one, curves and differences, and what they say."""

    id: UUID
    kind: str
    title: str
    target: str
    bench_id: UUID
    setup_id: UUID
    axis: str
    axis_unit: str
    unit: str
    unit_code: str
    quantity: str
    points: list[PointView]
    next: int | None
    curves: list[SeriesCurve]
    gains: list[PlaceGain] = field(default_factory=list)
    margin: list[Sentence] = field(default_factory=list)


@dataclass(frozen=True)
class StateChoice:
    id: UUID
    label: str


@dataclass(frozen=True)
class TargetChoice:
    """What a test can be made on: a runner or another element of the job's builds, in the states of its part."""

    label: str
    element_kind: str
    cylinder: int | None
    states: list[StateChoice]


@dataclass(frozen=True)
class KindChoice:
    """A kind of test, with the places it usually has."""

    kind: str
    title: str
    axis: str
    axis_unit: str
    usual: list[float]
    needs_bore: bool


@dataclass(frozen=True)
class PlanChoices:
    targets: list[TargetChoice]
    kinds: list[KindChoice]


def plan_choices(record: JobRecord) -> PlanChoices:
    """What a new test can be."""
    targets: dict[tuple[str, int | None], TargetChoice] = {}
    for build in record.builds:
        for node in build.nodes:
            state = record.state(node.part_state_id) if node.part_state_id else None
            if state is None or node.element_kind in (None, "plenum", "inlet"):
                continue
            states = [StateChoice(s.id, s.label) for s in sorted(state.part.states, key=lambda s: s.sequence)]
            key = (node.element_kind or "", node.cylinder)
            label = f"runner {node.cylinder}" if node.element_kind == "runner" else node.label
            kept = targets.setdefault(key, TargetChoice(label, key[0], node.cylinder, []))
            kept.states.extend(one for one in states if one.id not in {other.id for other in kept.states})
    runners_first = sorted(targets.values(), key=lambda one: (one.element_kind != "runner", one.cylinder or 0))
    return PlanChoices(
        runners_first,
        [
            KindChoice(kind, TITLES[kind], AXES[kind].name, AXES[kind].unit, list(AXES[kind].usual), kind == "swirl")
            for kind in PlanKind
        ],
    )


def plan_cards(session: Session, job_id: UUID) -> list[PlanCard]:
    """The tests of a job."""
    return [
        PlanCard(
            plan.id,
            plan.kind,
            plan.title,
            target_words(plan),
            len(readings_by_point(session, plan)),
            len(plan.points),
        )
        for plan in queries.plans_of(session, job_id)
    ]


def plan_view(session: Session, plan_id: UUID, preset: units.Preset) -> PlanView:
    """A test. Raises NotFound."""
    plan = find(session, Plan, plan_id, "test")
    kind = PlanKind(plan.kind)
    read = readings_by_point(session, plan)
    values = {index: _value(plan, reading) for index, reading in read.items()}
    known = trust_of(plan.setup.bench, learned_of(session, plan.setup.bench), [], []).known
    flows = {index: reading for index, reading in read.items() if isinstance(reading, FlowReading)}
    sessions = sessions_of(list(flows.values()))
    test = ReadPlan(plan, values, preset, known, {index: sessions[one.id] for index, one in flows.items()})
    unit, code, quantity = _unit(kind, preset)
    axis = AXES[kind]
    points = [_point(test, index, read.get(index)) for index in range(len(plan.points))]
    left = [point.index for point in points if point.reading_id is None]
    return PlanView(
        plan.id,
        plan.kind,
        plan.title,
        target_words(plan),
        plan.setup.bench_id,
        plan.setup_id,
        axis.name,
        axis.unit,
        unit,
        code,
        quantity,
        points,
        left[0] if left else None,
        [_curve(test, number) for number in range(len(plan.series))],
        _gains(test),
        list(plan_margin(test, left)),
    )


def target_words(plan: Plan) -> str:
    """What is flowed."""
    return f"runner {plan.cylinder}" if plan.cylinder else plan.element_kind


def _value(plan: Plan, reading: FlowReading | ProbeReading) -> float:
    """A point's figure: flow [m³/s at the reference depression], velocity [m/s] or swirl coefficient [-]."""
    if isinstance(reading, FlowReading):
        return at_reference(reading)
    if reading.quantity == "pitot":
        return pitot_velocity(reading.value_si)
    return swirl_coefficient(radians_per_second(reading.value_si), plan.bore_m or 0.0, plan.setup.depression_pa)


def _unit(kind: PlanKind, preset: units.Preset) -> tuple[str, str, str]:
    """Unit of the picture, the unit that is typed, and what is typed."""
    if kind is PlanKind.PITOT:
        return "m/s", "inH2O", "Pitot pressure"
    if kind is PlanKind.SWIRL:
        return "", "rpm", "Paddle wheel"
    code = units.PRESETS[preset]["flow"]
    return units.LABELS.get(code, code), code, "Flow"


def _shown(kind: PlanKind, value: float, preset: units.Preset) -> units.Shown:
    if kind is PlanKind.PITOT:
        return units.show_in(value, "m/s", 1)
    if kind is PlanKind.SWIRL:
        return units.show_in(value, "", 3)
    return units.show(value, "flow", preset)


def _point(test: ReadPlan, index: int, reading: FlowReading | ProbeReading | None) -> PointView:
    plan, value = test.plan, test.values.get(index)
    series, place = plan.points[index]
    shown = _shown(test.kind, value, test.preset) if value is not None else None
    base = test.curve(0).get(plan.places[place])
    against = units.percent_text(value / base - 1) if value is not None and base and series else ""
    return PointView(
        index,
        series,
        plan.places[place],
        point_words(plan, index),
        reading.id if reading else None,
        reading.typed if reading else "",
        f"{reading.figure:g}" if reading else "",
        shown,
        against,
    )


def _curve(test: ReadPlan, number: int) -> SeriesCurve:
    points = []
    for place, value in test.curve(number).items():
        shown = _shown(test.kind, value, test.preset)
        points.append(PlacePoint(place, shown.value, f"{shown.text} {shown.unit}".strip()))
    return SeriesCurve(test.label(number), points)


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
