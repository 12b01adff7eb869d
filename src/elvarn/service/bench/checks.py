"""What a bench shows of itself: zero, leak, reference plate, and two looks at the part as it stands."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.gas.air import Weather
from elvarn.given import Moment, given
from elvarn.service.bench.taken import Taken, TakenFigure, figure_of, still_figure_of
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.checks import PlateReading
from elvarn.service.record.marks import MARKS
from elvarn.service.record.plates import beside, correction_at, plates_for, plates_of
from elvarn.store.models import Bench, CheckReading, Setup
from elvarn.store.models.reading.check import CHECKS
from elvarn.typed import Percent

KINDS = {
    "zero": "zero, nothing flows",
    "leak": "leak, everything blanked",
    "plate": "reference plate",
    "low": "same runner at low depression, nothing touched",
    "held": "same runner, blade held fully open by hand",
}


@given
class NewCheck:
    """A check, typed or as the bench sent it. All but a plate belong to a set-up. A plate has a name; where its flow is
    known ("183.4 CFM", at the reference depression, with its uncertainty) it calibrates the bench."""

    person_id: UUID
    kind: str
    bench_id: UUID
    typed: str
    taken_at: Moment
    setup_id: UUID | None = None
    default_unit: str = "cfm"
    taken: Taken | None = None
    depression: str = ""
    plate: str = ""
    plate_flow: str = ""
    plate_uncertainty_percent: Percent | None = None


@dataclass(frozen=True)
class CheckView:
    """A check as it is listed; of a plate, whether it counts for what was read last."""

    id: UUID
    kind: str
    kind_words: str
    words: str
    at: datetime
    struck: bool
    counts: str


@dataclass(frozen=True)
class PlateView:
    """A reading of the reference plate: what it showed, what it is known to flow, and what the figures of its session
    are multiplied by."""

    id: UUID
    at: datetime
    plate: str
    shown: units.Shown
    known: units.Shown | None
    uncertainty_percent: float | None
    correction: str
    struck: bool


def add_check(session: Session, identifier: UUID, new: NewCheck) -> CheckReading:
    """Keep a check. Raises Invalid for one that can't be, naming what."""
    if new.kind not in CHECKS:
        raise Invalid(f"'{new.kind}' is no check. Known: {', '.join(CHECKS)}.", path="kind")
    find(session, Bench, new.bench_id, "bench")
    setup = find(session, Setup, new.setup_id, "set-up") if new.setup_id else None
    _check_place(new, setup)
    figure = _figure(new)
    depression = figure.depression or _depression(new, setup)
    plate_flow = _plate_flow(new)

    def make(digest: str) -> CheckReading:
        return CheckReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=setup.job_id if setup else None,
            taken_at=new.taken_at,
            marks=[mark for mark in figure.marks if mark == "not_settled"],
            bench_id=new.bench_id,
            setup_id=new.setup_id,
            check_kind=new.kind,
            typed=figure.words,
            figure=figure.figure,
            unit=figure.unit,
            flow_m3_s=figure.flow,
            depression_pa=depression,
            samples=list(figure.samples),
            plate=new.plate.strip(),
            plate_flow_m3_s=plate_flow,
            plate_uncertainty_percent=new.plate_uncertainty_percent,
        )

    return write_once(session, CheckReading, identifier, new, make)


def check_view(check: CheckReading, preset: units.Preset, counts: str = "") -> CheckView:
    """A check as it is listed."""
    shown = units.show(check.flow_m3_s, "flow", preset, 2 if check.check_kind in ("zero", "leak") else None)
    words = f"{shown.text} {shown.unit}"
    if check.check_kind != "zero":
        depression = units.show(check.depression_pa, "depression", preset)
        words += f" at {depression.text} {depression.unit}"
    if check.plate:
        words += f", {check.plate}"
    if check.plate_flow_m3_s is not None:
        known = units.show(check.plate_flow_m3_s, "flow", preset)
        words += f", known {known.text} {known.unit}"
    words += "".join(f", {MARKS[mark]}" for mark in check.marks if mark in MARKS)
    return CheckView(
        check.id, check.check_kind, KINDS[check.check_kind], words, check.taken_at, not check.valid, counts
    )


def plate_counts(bench: Bench, plate: PlateReading, at: datetime, air: Weather | None) -> str:
    """Whether a plate counts for what was read at a time, and how old it was then."""
    if not plate.check.valid:
        return ""
    days = abs(at - plate.taken_at).days
    apart = "" if beside(plate, at) else f"{days or 1} day{'s' if days > 1 else ''} apart from the last reading: "
    if plate in plates_for(bench, at):
        return f"{apart}counts, readings × {correction_at(bench, at, air):.4f}"
    return f"{apart or 'another plate is nearer: '}does not count"


def plate_views(session: Session, bench_id: UUID, preset: units.Preset) -> list[PlateView]:
    """A bench's reference plates as they were read, the latest first. Raises NotFound."""
    bench = find(session, Bench, bench_id, "bench")
    return [_plate_view(bench, plate, preset) for plate in reversed(plates_of(bench))]


def _plate_view(bench: Bench, plate: PlateReading, preset: units.Preset) -> PlateView:
    return PlateView(
        plate.check.id,
        plate.taken_at,
        plate.name,
        units.show(plate.flow(), "flow", preset),
        units.show(plate.known, "flow", preset) if plate.known is not None else None,
        plate.check.plate_uncertainty_percent,
        f"{correction_at(bench, plate.taken_at, plate.weather):.4f}" if plate.check.valid else "",
        not plate.check.valid,
    )


def _check_place(new: NewCheck, setup: Setup | None) -> None:
    if new.kind == "plate":
        if not new.plate.strip():
            raise Invalid("Name the plate so you can use it again.", path="plate")
        return
    if setup is None:
        raise Invalid("Save the set-up first; this check belongs to it.", path="setup_id")
    if setup.bench_id != new.bench_id:
        raise Invalid("That set-up belongs to another bench.", path="bench_id")


def _figure(new: NewCheck) -> TakenFigure:
    if new.kind in ("zero", "leak"):
        figure = still_figure_of(new.typed, new.default_unit, new.taken)
        if new.kind == "leak" and figure.flow < 0:
            raise Invalid("The leak reads below 0. Take a zero first.", path="typed")
        return figure
    return figure_of(new.typed, new.default_unit, new.taken)


def _depression(new: NewCheck, setup: Setup | None) -> float:
    if new.depression.strip():
        try:
            return units.parse(new.depression, "depression", "inH2O").si
        except units.UnitError as error:
            raise Invalid(str(error), path="depression") from error
    if new.kind == "low":
        raise Invalid("Enter the low depression, e.g. 12 inH2O.", path="depression")
    return setup.depression_pa if setup else REFERENCE_DEPRESSION


def _plate_flow(new: NewCheck) -> float | None:
    if not new.plate_flow.strip():
        return None
    try:
        flow = units.parse(new.plate_flow, "flow", new.default_unit).si
    except units.UnitError as error:
        raise Invalid(str(error), path="plate_flow") from error
    if flow <= 0:
        raise Invalid("The plate's known flow must be above 0.", path="plate_flow")
    uncertainty = new.plate_uncertainty_percent
    if uncertainty is not None and not 0 < uncertainty <= 20:
        raise Invalid(f"±{uncertainty:g} % can't be. Enter above 0, up to 20 %.", path="plate_uncertainty_percent")
    return flow
