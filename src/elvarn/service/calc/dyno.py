"""Calculations on pulls."""

import numpy as np
from pydantic import Field

from elvarn.core.dyno import claim, correction
from elvarn.core.dyno.compare import compare, over_band
from elvarn.core.dyno.curves import Stretch
from elvarn.core.dyno.learned import learned_dyno
from elvarn.core.dyno.pairing import Pull as Pulled
from elvarn.core.dyno.pull import Curve, clean_pull
from elvarn.service.calc.fields import Air, Fields, texts


class CorrectionIn(Fields):
    standard: correction.Standard = correction.Standard.SAE_J1349
    air: Air
    boosted: bool = False


class CorrectionOut(Fields):
    factor: float
    findings: list[str]


def correction_factor(given: CorrectionIn) -> CorrectionOut:
    result = correction.correct(given.standard, given.air.weather(), given.boosted)
    return CorrectionOut(factor=result.factor, findings=texts(result.findings))


class TorqueIn(Fields):
    engine_speed_rpm: float
    torque_n_m: float


class TorqueOut(Fields):
    power_kw: float


def power_of_torque(given: TorqueIn) -> TorqueOut:
    return TorqueOut(power_kw=correction.power_from_torque(given.torque_n_m, given.engine_speed_rpm) / 1000)


class Pull(Fields):
    engine_speed_rpm: list[float]
    torque_n_m: list[float]

    def curve(self) -> Curve:
        return clean_pull(np.array(self.engine_speed_rpm), np.array(self.torque_n_m))


class CompareIn(Fields):
    stock: Pull
    other: Pull
    band_rpm: tuple[float, float] | None = None
    repeatability_percent: float = Field(1.0, gt=0, description="what two pulls of one mount differ by at most, %")


class StretchOut(Fields):
    low_rpm: float
    high_rpm: float
    mean_n_m: float
    extreme_n_m: float
    extreme_rpm: float


class CompareOut(Fields):
    band_rpm: tuple[float, float]
    stock_mean_power_kw: float
    other_mean_power_kw: float
    mean_power_difference_kw: float
    half_width_kw: float
    real: bool
    stock_mean_torque_n_m: float
    other_mean_torque_n_m: float
    stock_peak_power_kw: float
    stock_peak_power_rpm: float
    other_peak_power_kw: float
    other_peak_power_rpm: float
    crossings_rpm: list[float]
    gained: list[StretchOut]
    lost: list[StretchOut]
    stock_still_climbs: bool
    other_still_climbs: bool
    findings: list[str]


def compare_pulls(given: CompareIn) -> CompareOut:
    stock, other = given.stock.curve(), given.other.curve()
    known = learned_dyno(limit_percent=given.repeatability_percent)
    result = compare([Pulled(stock, "one day")], [Pulled(other, "one day", 1)], known)
    assert result.traces is not None
    band = over_band(result, given.band_rpm)
    power, traces = band.power, result.traces
    return CompareOut(
        band_rpm=(band.low, band.high),
        stock_mean_power_kw=power.stock_mean / 1000,
        other_mean_power_kw=power.other_mean / 1000,
        mean_power_difference_kw=power.verdict.change / 1000,
        half_width_kw=power.verdict.half_width / 1000,
        real=power.verdict.real,
        stock_mean_torque_n_m=band.torque.stock_mean,
        other_mean_torque_n_m=band.torque.other_mean,
        stock_peak_power_kw=power.stock_peak.value / 1000,
        stock_peak_power_rpm=power.stock_peak.engine_speed_rpm,
        other_peak_power_kw=power.other_peak.value / 1000,
        other_peak_power_rpm=power.other_peak.engine_speed_rpm,
        crossings_rpm=[crossing.engine_speed_rpm for crossing in traces.crossings],
        gained=[_stretch(stretch) for stretch in traces.torque.gained],
        lost=[_stretch(stretch) for stretch in traces.torque.lost],
        stock_still_climbs=traces.stock_climbs,
        other_still_climbs=traces.other_climbs,
        findings=texts([*stock.findings, *other.findings]),
    )


def _stretch(stretch: Stretch) -> StretchOut:
    return StretchOut(
        low_rpm=stretch.low,
        high_rpm=stretch.high,
        mean_n_m=stretch.mean,
        extreme_n_m=stretch.extreme,
        extreme_rpm=stretch.extreme_rpm,
    )


class ClaimIn(Fields):
    band_rpm: tuple[float, float]
    stock_mean_power_kw: float
    stock_mean_torque_n_m: float
    other_mean_power_kw: float
    other_mean_torque_n_m: float
    claimed_gain_kw: float | None = None
    parts_kw: list[float] = Field(default_factory=list, description="what each part of it is claimed to give")


class ClaimOut(Fields):
    stock_implied_rpm: float
    other_implied_rpm: float
    gain_of_means_kw: float
    findings: list[str]


def claim_sums(given: ClaimIn) -> ClaimOut:
    sides = [
        (given.stock_mean_power_kw * 1000, given.stock_mean_torque_n_m),
        (given.other_mean_power_kw * 1000, given.other_mean_torque_n_m),
    ]
    gain = sides[1][0] - sides[0][0]
    found = [finding for power, torque in sides for finding in claim.means_findings(power, torque, *given.band_rpm)]
    if given.claimed_gain_kw is not None:
        found += claim.gain_findings(given.claimed_gain_kw * 1000, gain)
        parts = [part * 1000 for part in given.parts_kw]
        found += claim.sum_findings(given.claimed_gain_kw * 1000, parts) if parts else []
    return ClaimOut(
        stock_implied_rpm=claim.implied_engine_speed(*sides[0]),
        other_implied_rpm=claim.implied_engine_speed(*sides[1]),
        gain_of_means_kw=gain / 1000,
        findings=texts(found),
    )
