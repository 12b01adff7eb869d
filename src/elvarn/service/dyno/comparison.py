"""One build's pulls against another's: the curves on one basis, the difference over a band, and what it says."""

from dataclasses import dataclass
from math import sqrt
from uuid import UUID

import numpy as np
from numpy.typing import NDArray
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.arrays import Array
from elvarn.core.dyno.assumed import PULL_REPEATABILITY
from elvarn.core.dyno.compare import BandComparison, BandFigures, Comparison, QuantityComparison, compare, over_band
from elvarn.core.dyno.correction import Standard, correct
from elvarn.core.dyno.pull import Curve, mean_pull
from elvarn.core.errors import CoreError
from elvarn.core.finding import Finding
from elvarn.service.dyno.words import ComparedPulls, about_comparison, about_trust
from elvarn.service.kernel.errors import NotFound
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.air import weather_of
from elvarn.service.record.curves import CurveShelf
from elvarn.store import queries
from elvarn.store.queries import PulledBuild

MOST_POINTS_SHOWN = 320
MIXED = "not corrected alike"


@dataclass(frozen=True)
class PeakView:
    value: units.Shown
    engine_speed_rpm: float


@dataclass(frozen=True)
class CrossingView:
    engine_speed_rpm: float


@dataclass(frozen=True)
class TraceView:
    """Torque or power of stock and the other over all speeds that both reached, in the display unit.

    `noise` is by how much repeats differ; crossings are the clear ones.
    """

    unit: str
    engine_speed_rpm: list[float]
    stock: list[float]
    other: list[float]
    difference: list[float]
    noise: list[float]
    crossings: list[CrossingView]


@dataclass(frozen=True)
class BandFiguresView:
    """Means and peaks of torque or power over a band."""

    unit: str
    stock_peak: PeakView
    other_peak: PeakView
    stock_mean: units.Shown
    other_mean: units.Shown
    mean_difference: units.Shown
    mean_percent: str
    half_width: units.Shown
    real: bool


@dataclass(frozen=True)
class BandView:
    """What a band says: its figures, the verdict and the shape. Curves are the same in every band."""

    low_rpm: float
    high_rpm: float
    torque: BandFiguresView
    power: BandFiguresView
    power_fraction: float


@dataclass(frozen=True)
class BandAnswer:
    """Another band of a comparison; without figures where it can't be made, and `said` tells why."""

    band: BandView | None
    said: list[Sentence]


@dataclass(frozen=True)
class ComparisonView:
    """The comparison as shown; without curves where it can't be made, and `said` tells why."""

    stock: str
    other: str
    basis: str
    torque: TraceView | None
    power: TraceView | None
    band: BandView | None
    said: list[Sentence]
    trust: list[Sentence]


@dataclass(frozen=True)
class _Based:
    """A build's pulls on one basis: each curve with its correction factor, and what is to be said of them."""

    pulls: list[UUID]
    curves: list[Curve]
    factors: list[float]
    basis: str
    findings: list[Finding]

    @property
    def key(self) -> tuple[tuple[UUID, float], ...]:
        return tuple(zip(self.pulls, self.factors, strict=True))

    def curve(self) -> Curve:
        return mean_pull([curve.times(factor) for curve, factor in zip(self.curves, self.factors, strict=True)])


def compare_builds(
    session: Session, shelf: CurveShelf, stock_id: UUID, other_id: UUID, preset: units.Preset
) -> ComparisonView:
    """Compare the valid pulls of two builds over the job's band. Raises NotFound for a build without a pull."""
    compared = _compared(session, shelf, stock_id, other_id, None)
    comparison = compared.comparison
    return ComparisonView(
        stock=compared.stock,
        other=compared.other,
        basis=Standard.of(compared.bases[0]).label if len(set(compared.bases)) == 1 else MIXED,
        torque=_trace(comparison, comparison.torque, "torque", preset) if comparison else None,
        power=_trace(comparison, comparison.power, "power", preset) if comparison else None,
        band=_band_view(compared.band, preset),
        said=about_comparison(compared, preset),
        trust=about_trust(compared),
    )


def compare_band(
    session: Session,
    shelf: CurveShelf,
    stock_id: UUID,
    other_id: UUID,
    preset: units.Preset,
    band: tuple[float, float],
) -> BandAnswer:
    """Another band of the same comparison: asked for while it is chosen. Raises NotFound as above."""
    compared = _compared(session, shelf, stock_id, other_id, band)
    return BandAnswer(_band_view(compared.band, preset), about_comparison(compared, preset))


def _compared(
    session: Session, shelf: CurveShelf, stock_id: UUID, other_id: UUID, band: tuple[float, float] | None
) -> ComparedPulls:
    found = queries.pulled_builds(session, (stock_id, other_id))
    for identifier in (stock_id, other_id):
        if identifier not in found:
            raise NotFound(f"Build {identifier} has no valid pull to compare. Drop one first.")
    stock, other = found[stock_id], found[other_id]
    repeatability, learned = _repeatability(stock, other)
    noise = repeatability * sqrt((1 / len(stock.pulls) + 1 / len(other.pulls)) / 2)
    bases = [_based(side, session, shelf) for side in (stock, other)]
    comparison = figures = failure = None
    try:
        key = (tuple(based.key for based in bases), noise)
        comparison = shelf.comparisons.get(key, lambda: compare(bases[0].curve(), bases[1].curve(), noise))
        figures = over_band(comparison)
        figures = over_band(comparison, band or _job_band(stock))
    except CoreError as error:  # without common speeds there is nothing; without the band there is all of them
        failure = str(error)
    return ComparedPulls(
        stock=stock.name,
        other=other.name,
        comparison=comparison,
        band=figures,
        repeatability=repeatability,
        learned=learned,
        bases=[based.basis for based in bases],
        findings=[finding for based in bases for finding in based.findings],
        measures=sorted({pull.measures for side in (stock, other) for pull in side.pulls}),
        marks=sorted({mark for side in (stock, other) for pull in side.pulls for mark in pull.marks}),
        failure=failure,
    )


def basis_of(standard_in_file: str, wanted: str, *, has_weather: bool) -> str:
    """On what basis a pull can be shown: the wanted standard, or what its file allows."""
    if standard_in_file != Standard.OBSERVED:
        return standard_in_file
    return wanted if has_weather else Standard.OBSERVED.value


def _band_view(band: BandComparison | None, preset: units.Preset) -> BandView | None:
    if band is None:
        return None
    torque, power = _figures(band.torque, "torque", preset), _figures(band.power, "power", preset)
    return BandView(band.low, band.high, torque, power, band.power.fraction)


def _figures(band: BandFigures, quantity: units.Quantity, preset: units.Preset) -> BandFiguresView:
    unit = units.PRESETS[preset][quantity]
    return BandFiguresView(
        unit=units.LABELS.get(unit, unit),
        stock_peak=PeakView(units.show(band.stock_peak.value, quantity, preset), band.stock_peak.engine_speed_rpm),
        other_peak=PeakView(units.show(band.other_peak.value, quantity, preset), band.other_peak.engine_speed_rpm),
        stock_mean=units.show(band.stock_mean, quantity, preset),
        other_mean=units.show(band.other_mean, quantity, preset),
        mean_difference=units.show_difference(band.verdict.change, quantity, preset),
        mean_percent=units.percent_text(band.fraction),
        half_width=units.show(band.verdict.half_width, quantity, preset),
        real=band.verdict.real,
    )


def _based(build: PulledBuild, session: Session, shelf: CurveShelf) -> _Based:
    """Pulls of one build on the job's basis, as far as their weather allows."""
    standard = Standard.of(build.standard)
    identifiers = [pull.id for pull in build.pulls]
    curves = shelf.curves(session, identifiers)
    factors, bases = [], []
    findings: list[Finding] = []
    for pull, curve in zip(build.pulls, curves, strict=True):
        weather = weather_of(pull)
        basis = basis_of(pull.standard_in_file, standard, has_weather=weather is not None)
        factor = 1.0
        if weather is not None and basis == standard and pull.standard_in_file == Standard.OBSERVED:
            correction = correct(standard, weather, build.boosted)
            factor = correction.factor
            findings += correction.findings
        factors.append(factor)
        bases.append(basis)
        findings += curve.findings
    return _Based(identifiers, curves, factors, bases[0] if len(set(bases)) == 1 else "mixed", findings)


def _repeatability(stock: PulledBuild, other: PulledBuild) -> tuple[float, bool]:
    """By how much repeats differ, as a fraction, and whether the dynos' own is known."""
    percents = [pull.repeatability_percent for side in (stock, other) for pull in side.pulls]
    known = [percent for percent in percents if percent]
    if known and len(known) == len(percents):
        return max(known) / 100, True
    return PULL_REPEATABILITY, False


def _job_band(build: PulledBuild) -> tuple[float, float] | None:
    low, high = build.band_low_rpm, build.band_high_rpm
    return (float(low), float(high)) if low and high else None


def _trace(
    comparison: Comparison, compared: QuantityComparison, quantity: units.Quantity, preset: units.Preset
) -> TraceView:
    unit = units.PRESETS[preset][quantity]
    scale = units.to_si(1.0, unit, quantity)
    keep = _thinned(len(comparison.grid))

    def shown(values: Array) -> list[float]:
        return [*np.round(values[keep] / scale, 3).tolist()]

    return TraceView(
        unit=units.LABELS.get(unit, unit),
        engine_speed_rpm=[*np.round(comparison.grid[keep], 1).tolist()],
        stock=shown(compared.stock),
        other=shown(compared.other),
        difference=shown(compared.difference),
        noise=shown(compared.stock * comparison.repeatability),
        crossings=[CrossingView(c.engine_speed_rpm) for c in compared.crossings if c.clear],
    )


def _thinned(count: int) -> NDArray[np.intp]:
    """Which points of a dense grid are drawn; the first and last always are."""
    step = max(1, -(-count // MOST_POINTS_SHOWN))
    kept = np.arange(0, count, step)
    return kept if kept[-1] == count - 1 else np.append(kept, count - 1)
