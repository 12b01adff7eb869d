"""Pulls against stock: curves on one plate, the difference, and the verdict."""

from dataclasses import dataclass
from datetime import datetime
from math import sqrt
from uuid import UUID

import numpy as np
from numpy.typing import NDArray
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.compare import ASSUMED_REPEATABILITY, Comparison, QuantityComparison, compare
from elvarn.core.dyno.correction import Standard, correct
from elvarn.core.dyno.pull import Array, Curve, clean_pull, mean_pull
from elvarn.core.errors import CoreError
from elvarn.core.finding import Finding
from elvarn.service.air import weather_of
from elvarn.service.bench import StruckView
from elvarn.service.dyno_margin import DynoFacts, dyno_margin
from elvarn.service.margin import Sentence
from elvarn.service.record import JobRecord, load_job
from elvarn.store.models import Build, Dyno, PullReading

MOST_POINTS_SHOWN = 400
STANDARD_WORDS = {"observed": "observed", "sae_j1349": "SAE J1349", "iso_1585": "ISO 1585"}


@dataclass(frozen=True)
class PullView:
    """A pull in the list: whose build, when, by whom, and how it was brought to the standard."""

    id: UUID
    build_id: UUID
    build: str
    is_stock: bool
    label: str
    taken_at: datetime
    person: str
    dyno: str
    measures: str
    basis: str
    row_count: int
    struck: StruckView | None


@dataclass(frozen=True)
class PeakView:
    value: units.Shown
    engine_speed_rpm: float


@dataclass(frozen=True)
class CrossingView:
    engine_speed_rpm: float
    clear: bool


@dataclass(frozen=True)
class TraceView:
    """Torque or power of stock and the other over speed, in the display unit; `noise` is by how much repeats differ."""

    unit: str
    engine_speed_rpm: list[float]
    stock: list[float]
    other: list[float]
    difference: list[float]
    noise: list[float]
    stock_peak: PeakView
    other_peak: PeakView
    stock_mean: units.Shown
    other_mean: units.Shown
    mean_difference: units.Shown
    mean_percent: str
    half_width: units.Shown
    real: bool
    crossings: list[CrossingView]


@dataclass(frozen=True)
class DesignView:
    """A build that was pulled, to choose from."""

    build_id: UUID
    name: str
    is_stock: bool
    pulls: int


@dataclass(frozen=True)
class DynoSheet:
    """The dyno screen of a job. Without two pulls to compare, the traces are empty and the margin says what is next."""

    pulls: list[PullView]
    designs: list[DesignView]
    stock: DesignView | None
    other: DesignView | None
    standard: str
    standard_words: str
    low_rpm: float | None
    high_rpm: float | None
    full_low_rpm: float | None
    full_high_rpm: float | None
    torque: TraceView | None
    power: TraceView | None
    margin: list[Sentence]


@dataclass(frozen=True)
class Based:
    """A build's mean pull on one basis, with what is to be said of it."""

    curve: Curve
    basis: str
    findings: list[Finding]


def dyno_sheet(
    session: Session,
    job_id: UUID,
    preset: units.Preset,
    *,
    other_id: UUID | None = None,
    band: tuple[float, float] | None = None,
) -> DynoSheet:
    """The dyno screen: the chosen or latest other design against stock, over a band or the job's."""
    record = load_job(session, job_id)
    dynos = {pull.dyno_id: session.get_one(Dyno, pull.dyno_id) for pull in record.pulls}
    designs = [_design(record, build) for build in record.builds]
    stock = _reference(record)
    other = _other(record, stock, other_id)
    facts, full = _facts(record, stock, other, dynos, band)
    comparison = facts.comparison
    return DynoSheet(
        pulls=[_pull_view(record, pull, dynos) for pull in record.pulls],
        designs=designs,
        stock=_design(record, stock) if stock else None,
        other=_design(record, other) if other else None,
        standard=record.job.standard,
        standard_words=STANDARD_WORDS[record.job.standard],
        low_rpm=comparison.low if comparison else None,
        high_rpm=comparison.high if comparison else None,
        full_low_rpm=full.low if full else None,
        full_high_rpm=full.high if full else None,
        torque=_trace(full.torque, comparison.torque, "torque", preset) if full and comparison else None,
        power=_trace(full.power, comparison.power, "power", preset) if full and comparison else None,
        margin=dyno_margin(facts, preset),
    )


def _facts(
    record: JobRecord,
    stock: Build | None,
    other: Build | None,
    dynos: dict[UUID, Dyno],
    band: tuple[float, float] | None,
) -> tuple[DynoFacts, Comparison | None]:
    chosen = [record.valid_pulls(stock), record.valid_pulls(other)]
    repeatability = _repeatability([p for side in chosen for p in side], dynos)
    learned = any(dynos[p.dyno_id].repeatability_percent for side in chosen for p in side)
    comparison = full = None
    bases: list[Based] = []
    failure = None
    wanted = band or _job_band(record)
    if all(chosen):
        noise = repeatability * sqrt((1 / len(chosen[0]) + 1 / len(chosen[1])) / 2)
        try:
            bases = [_based(side, record) for side in chosen]
            full = compare(bases[0].curve, bases[1].curve, None, noise)
            comparison = compare(bases[0].curve, bases[1].curve, wanted, noise)
        except CoreError as error:
            failure = str(error)
            comparison = full
    facts = DynoFacts(
        stock=stock.name if stock else None,
        other=other.name if other else None,
        stock_pulls=len(chosen[0]),
        other_pulls=len(chosen[1]),
        use=record.job.use,
        comparison=comparison,
        full=full,
        repeatability=repeatability,
        learned=learned,
        bases=[based.basis for based in bases],
        findings=[finding for based in bases for finding in based.findings],
        measures=sorted({p.measures for side in chosen for p in side}),
        marks=sorted({mark for side in chosen for p in side for mark in p.marks}),
        failure=failure,
        flow_gain=_flow_gain(record),
    )
    return facts, full


def _based(pulls: list[PullReading], record: JobRecord) -> Based:
    """Pulls of one build on the job's basis, as far as their weather allows."""
    standard = Standard(record.job.standard)
    boosted = bool(record.job.engine and record.job.engine.boosted)
    curves, bases, findings = [], [], []
    for pull in pulls:
        curve = clean_pull(np.array(pull.engine_speed_rpm), np.array(pull.torque_n_m))
        factor, basis, said = _correction(pull, standard, boosted)
        curves.append(curve.times(factor))
        bases.append(basis)
        findings += [*said, *curve.findings]
    basis = bases[0] if len(set(bases)) == 1 else "mixed"
    return Based(mean_pull(curves), basis, list(dict.fromkeys(findings)))


def _correction(pull: PullReading, standard: Standard, boosted: bool) -> tuple[float, str, list[Finding]]:
    """Factor to the standard, the basis reached, and what is to be said of it."""
    if pull.standard_in_file != Standard.OBSERVED or standard is Standard.OBSERVED:
        return 1.0, pull.standard_in_file, []
    weather = weather_of(pull)
    if weather is None:
        return 1.0, Standard.OBSERVED.value, []
    correction = correct(standard, weather, boosted)
    return correction.factor, standard.value, list(correction.findings)


def _repeatability(pulls: list[PullReading], dynos: dict[UUID, Dyno]) -> float:
    learned = [dynos[p.dyno_id].repeatability_percent for p in pulls]
    known = [percent for percent in learned if percent]
    return max(known) / 100 if known and len(known) == len(learned) else ASSUMED_REPEATABILITY


def _job_band(record: JobRecord) -> tuple[float, float] | None:
    low, high = record.job.band_low_rpm, record.job.band_high_rpm
    return (float(low), float(high)) if low and high else None


def _reference(record: JobRecord) -> Build | None:
    """The stock build, or, where a job has none, the first."""
    return record.stock_build or (record.builds[0] if record.builds else None)


def _other(record: JobRecord, stock: Build | None, wanted: UUID | None) -> Build | None:
    others = [build for build in record.builds if stock is None or build.id != stock.id]
    chosen = next((build for build in others if build.id == wanted), None)
    pulled = [build for build in others if record.valid_pulls(build)]
    return chosen or (pulled[-1] if pulled else (others[-1] if others else None))


def _flow_gain(record: JobRecord) -> float | None:
    """Mean gain on the bench as a fraction, over runners read before and after."""
    before, after = record.runner_flows(record.before_state), record.runner_flows(record.after_state)
    both = [n for n in before if n in after]
    if not both:
        return None
    first = sum(sum(before[n]) / len(before[n]) for n in both)
    return sum(sum(after[n]) / len(after[n]) for n in both) / first - 1


def _design(record: JobRecord, build: Build) -> DesignView:
    return DesignView(build.id, build.name, build.is_stock, len(record.valid_pulls(build)))


def _pull_view(record: JobRecord, pull: PullReading, dynos: dict[UUID, Dyno]) -> PullView:
    build = next(b for b in record.builds if b.id == pull.build_id)
    strike = pull.strike
    _, basis, _ = _correction(pull, Standard(record.job.standard), boosted=False)
    return PullView(
        pull.id,
        build.id,
        build.name,
        build.is_stock,
        pull.label,
        pull.taken_at,
        record.people[pull.person_id],
        dynos[pull.dyno_id].name,
        pull.measures,
        STANDARD_WORDS[basis],
        len(pull.engine_speed_rpm),
        StruckView(strike.reason, record.people[strike.person_id], strike.struck_at) if strike else None,
    )


def _trace(
    full: QuantityComparison,
    band: QuantityComparison,
    quantity: units.Quantity,
    preset: units.Preset,
) -> TraceView:
    """Curves over all common speeds, means and peaks of the band."""
    unit = units.PRESETS[preset][quantity]
    scale = units.to_si(1.0, unit, quantity)
    keep = _thinned(len(full.grid))
    share = full.half_width / full.stock_mean

    def shown(values: Array) -> list[float]:
        return [round(float(value), 3) for value in values[keep] / scale]

    return TraceView(
        unit=units.LABELS.get(unit, unit),
        engine_speed_rpm=[round(float(value), 1) for value in full.grid[keep]],
        stock=shown(full.stock),
        other=shown(full.other),
        difference=shown(full.difference),
        noise=shown(full.stock * share),
        stock_peak=PeakView(units.show(full.stock_peak.value, quantity, preset), full.stock_peak.engine_speed_rpm),
        other_peak=PeakView(units.show(full.other_peak.value, quantity, preset), full.other_peak.engine_speed_rpm),
        stock_mean=units.show(band.stock_mean, quantity, preset),
        other_mean=units.show(band.other_mean, quantity, preset),
        mean_difference=units.show_difference(band.mean_difference, quantity, preset),
        mean_percent=units.percent_text(band.mean_difference / band.stock_mean),
        half_width=units.show(band.half_width, quantity, preset),
        real=band.real,
        crossings=[CrossingView(c.engine_speed_rpm, c.clear) for c in full.crossings],
    )


def _thinned(count: int) -> NDArray[np.intp]:
    """Which points of a dense grid are drawn; the first and last always are."""
    step = max(1, -(-count // MOST_POINTS_SHOWN))
    kept = np.arange(0, count, step)
    return np.unique(np.append(kept, count - 1))
