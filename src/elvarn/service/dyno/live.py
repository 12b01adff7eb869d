"""A pull as it forms: what the dyno shows now, how near each limit is, and the sweep over stock's curve."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from math import pi
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.dyno.channels import CHANNELS
from elvarn.core.dyno.correction import Standard, correct
from elvarn.core.errors import CoreError
from elvarn.core.gas.air import Weather
from elvarn.service.dyno.live_words import LIMIT_OF, written
from elvarn.service.dyno.plate import Scale
from elvarn.service.kernel.find import find
from elvarn.service.record.air import HUMIDITY_ASSUMED
from elvarn.store import queries
from elvarn.store.models import Job, Recording

QUIET_S = 2.0
NEAR = 0.95  # of a limit: marked before it is reached; choice, no source
SHORT = {
    "mixture_lambda": "mixture, lambda",
    "retard_deg": "knock retard",
    "coolant_c": "coolant",
    "oil_c": "oil",
    "manifold_kpa": "manifold",
    "air_c": "inlet air",
}
SHOWN = ("manifold_kpa", "boost_kpa", "air_c")  # beside those that have a limit


@dataclass(frozen=True)
class GaugeView:
    """A channel now, and its limit; `near` from 95 % of it on."""

    name: str
    label: str
    text: str
    limit: str
    near: bool
    broken: bool


@dataclass(frozen=True)
class LivePull:
    """A pull while it is recorded, or as it ended. `points` are the new samples of the sweep: speed [rpm], power and
    torque in the display units. `piece` is the last piece that they are of; `standard` names the basis on which they
    stand, as the plate's does."""

    ended: bool
    ended_how: str
    words: str
    count: int
    piece: int
    speed: units.Shown | None
    power: units.Shown | None
    torque: units.Shown | None
    basis: str
    standard: str
    gauges: list[GaugeView]
    points: list[list[float]]


Sample = Mapping[str, float]


def live_pull(session: Session, identifier: UUID, preset: units.Preset, after: int, before: int) -> LivePull:
    """A recording now, with the samples after a piece; `before` is how many came until then."""
    found = find(session, Recording, identifier, "recording")
    pieces = queries.pieces_of(session, identifier, after)
    samples = [_named(found.fields, row) for piece in pieces for row in piece.samples]
    job = find(session, Job, found.job_id, "job")
    standard = Standard.of(job.standard)
    last = samples[-1] if samples else None
    heard = pieces[-1].received_at if pieces else None
    scale = Scale(preset)
    factor, basis = _basis(standard, last) if last else (1.0, "")
    corrected = last is not None and _factor(standard, last) is not None
    return LivePull(
        ended=found.ended_at is not None,
        ended_how=found.ended_how,
        words=found.ended_words or _waiting(found, heard, before + len(samples)),
        count=before + len(samples),
        piece=pieces[-1].number if pieces else after,
        speed=units.show(last["speed"], "speed", preset, 0) if last else None,
        power=units.show(_power(last) * factor, "power", preset) if last else None,
        torque=units.show(last["torque"] * factor, "torque", preset) if last else None,
        basis=basis,
        standard=(standard if corrected else Standard.OBSERVED).label if last else "",
        gauges=_gauges(found, last) if last else [],
        points=_points(samples, standard, scale),
    )


def _named(fields: Sequence[str], row: Sequence[float | None]) -> Sample:
    return {name: value for name, value in zip(fields, row, strict=True) if value is not None}


def _waiting(found: Recording, heard: datetime | None, count: int) -> str:
    """What is said while nothing ended: that nothing comes, where nothing does."""
    quiet = (datetime.now(UTC) - (heard or found.created_at)).total_seconds() > QUIET_S
    if heard is None and count:
        return ""
    return f"Nothing comes from {found.line['device'] or _address(found)}. Trying again." if quiet else ""


def _address(found: Recording) -> str:
    return f"{found.line['host']}:{found.line['port']}"


def _power(sample: Sample) -> float:
    return sample["torque"] * sample["speed"] * 2 * pi / 60


def _basis(standard: Standard, sample: Sample) -> tuple[float, str]:
    """The factor of the job's standard in the air of a sample, and what it is called."""
    factor = _factor(standard, sample)
    if factor is None:
        return 1.0, "as observed: the dyno sends no air"
    if "humidity_percent" not in sample:
        return factor, f"{standard.label}, factor {factor:.3f}, humidity not known"
    return factor, f"{standard.label}, factor {factor:.3f}" if standard is not Standard.OBSERVED else standard.label


def _factor(standard: Standard, sample: Sample) -> float | None:
    if "air_c" not in sample or "outside_kpa" not in sample:
        return 1.0 if standard is Standard.OBSERVED else None
    humidity = sample.get("humidity_percent", HUMIDITY_ASSUMED) / 100
    try:
        return correct(standard, Weather(sample["air_c"] + ZERO_CELSIUS, sample["outside_kpa"] * 1000, humidity)).factor
    except CoreError:
        return None


def _gauges(found: Recording, sample: Sample) -> list[GaugeView]:
    gauges = []
    for name in (*LIMIT_OF, *SHOWN):
        if name not in sample:
            continue
        limit = found.limits.get(LIMIT_OF.get(name, ""))
        value = sample[name]
        near, broken = _against(name, value, limit)
        bound = "" if limit is None else f"{'min' if name == 'oil_kpa' else 'max'} {_figure(name, limit)}"
        gauges.append(GaugeView(name, SHORT.get(name, CHANNELS[name].label), _figure(name, value), bound, near, broken))
    return gauges


def _figure(name: str, value: float) -> str:
    """A value with its unit, but for lambda, whose name says it."""
    return written(name, value).removesuffix(" lambda")


def _against(name: str, value: float, limit: float | None) -> tuple[bool, bool]:
    """Whether a value is near its limit, and beyond it."""
    if limit is None:
        return False, False
    if name == "oil_kpa":
        return value < limit / NEAR, value < limit
    return value > limit * NEAR, value > limit


def _points(samples: Sequence[Sample], standard: Standard, scale: Scale) -> list[list[float]]:
    """Samples under load, as they are drawn."""
    driven = [sample for sample in samples if sample["torque"] > 0]
    if not driven:
        return []
    factors = np.array([_factor(standard, sample) or 1.0 for sample in driven])
    speeds = np.array([sample["speed"] for sample in driven])
    torques = np.array([sample["torque"] for sample in driven]) * factors
    drawn = zip(scale.speeds(speeds), scale.power(torques * speeds * 2 * pi / 60), scale.torque(torques), strict=True)
    return [list(point) for point in drawn]
