"""Curves of designs as they are drawn: all on one plate, repeats thin behind their mean, and the difference beneath."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from elvarn import units
from elvarn.core.arrays import Array
from elvarn.core.dyno.compare import Quantity
from elvarn.core.dyno.curves import common_grid
from elvarn.core.dyno.pull import Curve
from elvarn.core.errors import CoreError
from elvarn.service.dyno.designs import Against, Design, Designs

MOST_POINTS, MOST_POINTS_THIN = 240, 120  # drawn of a curve, and of one behind its mean


@dataclass(frozen=True)
class ThinView:
    """One pull behind its design's mean."""

    pull_id: UUID
    engine_speed_rpm: list[float]
    power: list[float]
    torque: list[float]


@dataclass(frozen=True)
class CurveView:
    """A design's mean curve over the speeds that all its pulls reached, in the display units."""

    build_id: UUID
    name: str
    is_reference: bool
    engine_speed_rpm: list[float]
    power: list[float]
    torque: list[float]
    thin: list[ThinView]


@dataclass(frozen=True)
class CrossingView:
    engine_speed_rpm: float
    low_rpm: float
    high_rpm: float


@dataclass(frozen=True)
class DifferenceView:
    """A design against the reference, and the room in which at each speed nothing can be told."""

    build_id: UUID
    engine_speed_rpm: list[float]
    power: list[float]
    torque: list[float]
    power_room: list[float]
    torque_room: list[float]
    crossings: list[CrossingView]


@dataclass(frozen=True)
class DesignsPlate:
    """All designs on one plate."""

    power_unit: str
    torque_unit: str
    curves: list[CurveView]
    differences: list[DifferenceView]


def plate_of(designs: Designs, preset: units.Preset) -> DesignsPlate:
    """The plate of a job's designs."""
    scale = Scale(preset)
    curves = [_curve(design, design is designs.reference, scale) for design in designs.every]
    differences = [one for one in (_difference(other, scale) for other in designs.others) if one]
    return DesignsPlate(scale.power_unit, scale.torque_unit, curves, differences)


def curves_out(designs: Designs) -> tuple[list[tuple[str, list[float], list[float]]], list[str]]:
    """Every design's mean curve with its name, and what is said of all above them."""
    curves = [(design.name, mean_curve([pull.curve for pull in design.curves])) for design in designs.every]
    out = [(name, curve.engine_speed_rpm.tolist(), curve.torque.tolist()) for name, curve in curves]
    return out, [f"Elvarn designs, {designs.basis or 'on different corrections'}: mean of each design's pulls"]


class Scale:
    """Figures in the display units, rounded for drawing."""

    def __init__(self, preset: units.Preset) -> None:
        power, torque = units.PRESETS[preset]["power"], units.PRESETS[preset]["torque"]
        self._power, self._torque = units.to_si(1.0, power, "power"), units.to_si(1.0, torque, "torque")
        self.power_unit, self.torque_unit = units.LABELS.get(power, power), units.LABELS.get(torque, torque)

    def speeds(self, values: Array) -> list[float]:
        return [*np.round(values, 1).tolist()]

    def power(self, values: Array) -> list[float]:
        return [*np.round(values / self._power, 3).tolist()]

    def torque(self, values: Array) -> list[float]:
        return [*np.round(values / self._torque, 3).tolist()]


def _curve(design: Design, is_reference: bool, scale: Scale) -> CurveView:
    pulls = [pull.curve for pull in design.curves]
    mean = mean_curve(pulls)
    keep = _thinned(len(mean.engine_speed_rpm), MOST_POINTS)
    several = pulls if len(pulls) > 1 else []
    return CurveView(
        design.build_id,
        design.name,
        is_reference,
        scale.speeds(mean.engine_speed_rpm[keep]),
        scale.power(mean.power[keep]),
        scale.torque(mean.torque[keep]),
        [_thin(one.row.id, curve, scale) for one, curve in zip(design.pulls, several, strict=False)],
    )


def _thin(pull_id: UUID, curve: Curve, scale: Scale) -> ThinView:
    keep = _thinned(len(curve.engine_speed_rpm), MOST_POINTS_THIN)
    return ThinView(
        pull_id,
        scale.speeds(curve.engine_speed_rpm[keep]),
        scale.power(curve.power[keep]),
        scale.torque(curve.torque[keep]),
    )


def mean_curve(pulls: Sequence[Curve]) -> Curve:
    """Mean of a design's pulls over the speeds that all reached; the last alone where they share none."""
    if len(pulls) == 1:
        return pulls[0]
    try:
        grid = common_grid(pulls)
    except CoreError:
        return pulls[-1]
    torque = np.mean([np.interp(grid, pull.engine_speed_rpm, pull.torque) for pull in pulls], axis=0)
    return Curve(grid, torque, torque * grid * (2 * np.pi / 60))


def _difference(one: Against, scale: Scale) -> DifferenceView | None:
    found = one.compared.traces if one.compared else None
    if found is None:
        return None
    keep = _thinned(len(found.grid), MOST_POINTS)

    def part(quantity: Quantity) -> tuple[Array, Array]:
        return quantity.difference[keep], quantity.room[keep]

    (power, power_room), (torque, torque_room) = part(found.power), part(found.torque)
    return DifferenceView(
        one.design.build_id,
        scale.speeds(found.grid[keep]),
        scale.power(power),
        scale.torque(torque),
        scale.power(power_room),
        scale.torque(torque_room),
        [CrossingView(c.engine_speed_rpm, c.low, c.high) for c in found.crossings if c.clear],
    )


def _thinned(count: int, most: int) -> NDArray[np.intp]:
    """Which points of a dense grid are drawn; the first and last always are."""
    step = max(1, -(-count // most))
    kept = np.arange(0, count, step)
    return kept if kept[-1] == count - 1 else np.append(kept, count - 1)
