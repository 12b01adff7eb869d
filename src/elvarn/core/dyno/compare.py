"""Two pulls compared over the speeds that both reached."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from elvarn.core.dyno.pull import Array, Curve
from elvarn.core.errors import NotEnoughData, OutOfRange

ASSUMED_REPEATABILITY = 0.01  # repeats of one set-up differ by 0.3 to 1 %; common practice, no source
STILL_CLIMBING_SHARE = 0.03  # of the pull's range of speeds at its end; common practice, no source


@dataclass(frozen=True)
class Peak:
    """Highest value of a curve and its speed [rpm]."""

    value: float
    engine_speed_rpm: float


@dataclass(frozen=True)
class Crossing:
    """A speed [rpm] where the curves cross; `clear` where both sides leave the band in which repeats differ."""

    engine_speed_rpm: float
    clear: bool


@dataclass(frozen=True)
class Stretch:
    """Speeds [rpm] over which one curve lies outside the repeats' band: mean and largest difference, and where."""

    low: float
    high: float
    mean: float
    extreme: float
    extreme_rpm: float


@dataclass(frozen=True)
class QuantityComparison:
    """Torque [N m] or power [W] of two pulls: means over the band, difference with its half-width, shape in speed.

    `grid` [rpm] holds every sample of both inside the band; `stock`, `other` are interpolated to it, shape (n,).
    """

    grid: Array
    stock: Array
    other: Array
    stock_mean: float
    other_mean: float
    half_width: float
    stock_peak: Peak
    other_peak: Peak
    crossings: tuple[Crossing, ...]
    gained: tuple[Stretch, ...]
    lost: tuple[Stretch, ...]

    @property
    def difference(self) -> Array:
        return self.other - self.stock

    @property
    def mean_difference(self) -> float:
        return self.other_mean - self.stock_mean

    @property
    def real(self) -> bool:
        return abs(self.mean_difference) > self.half_width


@dataclass(frozen=True)
class Comparison:
    """Both quantities over one band [rpm], and whether power still climbs where each pull ends."""

    low: float
    high: float
    torque: QuantityComparison
    power: QuantityComparison
    stock_climbs: bool
    other_climbs: bool


def compare(
    stock: Curve, other: Curve, band: tuple[float, float] | None = None, repeatability: float = ASSUMED_REPEATABILITY
) -> Comparison:
    """Compare a pull with stock over a band of speeds.

    Arguments: stock, other; band (low, high) [rpm] or None for all that both reached; repeatability [-]: by how much
    two pulls of one set-up differ.
    Returns: the comparison over the part of the band that both reached.
    Raises: NotEnoughData where the pulls share no speeds; OutOfRange for a band that is empty or outside both.
    Source: means are integrals of the piecewise linear curves divided by the band (exact on the union of both
    grids); crossings are all roots of the piecewise linear difference.
    """
    low, high = common_band(stock, other, band)
    limits = (low, high)
    torque = _compare_quantity(
        (stock.engine_speed_rpm, stock.torque), (other.engine_speed_rpm, other.torque), limits, repeatability
    )
    power = _compare_quantity(
        (stock.engine_speed_rpm, stock.power), (other.engine_speed_rpm, other.power), limits, repeatability
    )
    return Comparison(low, high, torque, power, still_climbing(stock), still_climbing(other))


def common_band(stock: Curve, other: Curve, band: tuple[float, float] | None) -> tuple[float, float]:
    """The part of a band that both pulls reached.

    Arguments: stock, other; band (low, high) [rpm] or None.
    Returns: (low, high) [rpm].
    Raises: NotEnoughData where the pulls share no speeds; OutOfRange for an empty band or one outside both.
    Source: definition.
    """
    low, high = max(stock.lowest, other.lowest), min(stock.highest, other.highest)
    if low >= high:
        message = f"Stock ran {stock.lowest:.0f} to {stock.highest:.0f} rpm, the other {other.lowest:.0f} to "
        raise NotEnoughData("band", message + f"{other.highest:.0f} rpm: they share none.", "Pull both over one band.")
    if band is None:
        return low, high
    if band[0] >= band[1] or band[0] >= high or band[1] <= low:
        raise OutOfRange(
            "band", f"The band {band[0]:.0f} to {band[1]:.0f} rpm holds no speed of both pulls.",
            f"Choose it within {low:.0f} to {high:.0f} rpm.",
        )  # fmt: skip
    return max(low, band[0]), min(high, band[1])


def band_mean(engine_speed_rpm: Array, values: Array, low: float, high: float) -> float:
    """Mean of a piecewise linear curve over a band: its integral divided by the band's width.

    Arguments: engine_speed_rpm [rpm] rising, values, shape (n,); low, high [rpm] inside them.
    Returns: mean, in the unit of the values.
    Raises: OutOfRange for an empty band or one that the curve does not reach.
    Source: mean value theorem; trapezoid rule, exact for piecewise linear curves.
    """
    if not engine_speed_rpm[0] <= low < high <= engine_speed_rpm[-1]:
        raise OutOfRange("band", f"The curve does not reach from {low:.0f} to {high:.0f} rpm.", "Narrow the band.")
    inside = (engine_speed_rpm > low) & (engine_speed_rpm < high)
    grid = np.concatenate(([low], engine_speed_rpm[inside], [high]))
    return float(np.trapezoid(np.interp(grid, engine_speed_rpm, values), grid) / (high - low))


def crossing_speeds(grid: Array, difference: Array) -> list[float]:
    """All roots of a piecewise linear difference; a stretch of zeros counts once, at its middle.

    Arguments: grid [rpm] rising, difference, shape (n,).
    Returns: speeds [rpm], rising. Touching zero without a change of sign is no crossing.
    Raises: nothing.
    Source: root of a linear interpolant.
    """
    away = np.flatnonzero(difference)
    signs = np.sign(difference[away])
    turns = np.flatnonzero(signs[1:] != signs[:-1])
    return [_root(grid, difference, int(away[k]), int(away[k + 1])) for k in turns]


def peak(engine_speed_rpm: Array, values: Array) -> Peak:
    """Highest sample of a curve.

    Arguments: engine_speed_rpm [rpm], values, shape (n,).
    Returns: the peak. With noise it reads high: decide by band means.
    Raises: nothing.
    Source: definition.
    """
    top = int(values.argmax())
    return Peak(float(values[top]), float(engine_speed_rpm[top]))


def still_climbing(curve: Curve) -> bool:
    """Whether power still rises where the pull ends, so that its peak was not seen.

    Arguments: curve.
    Returns: True where the highest power lies in the last 3 % of the speeds.
    Raises: nothing.
    Source: common practice, no source.
    """
    end = curve.highest - STILL_CLIMBING_SHARE * (curve.highest - curve.lowest)
    return peak(curve.engine_speed_rpm, curve.power).engine_speed_rpm >= end


def _compare_quantity(
    stock: tuple[Array, Array], other: tuple[Array, Array], limits: tuple[float, float], repeatability: float
) -> QuantityComparison:
    low, high = limits
    samples = np.sort(np.concatenate((stock[0], other[0], limits)))
    samples = samples[np.searchsorted(samples, low) : np.searchsorted(samples, high, side="right")]
    grid = samples[np.concatenate(([True], np.diff(samples) > 0))]
    a, b = np.interp(grid, *stock), np.interp(grid, *other)
    difference, noise = b - a, repeatability * np.abs(a)
    stock_mean = float(np.trapezoid(a, grid)) / (high - low)
    other_mean = float(np.trapezoid(b, grid)) / (high - low)
    return QuantityComparison(
        grid, a, b, stock_mean, other_mean, repeatability * stock_mean, peak(grid, a), peak(grid, b),
        tuple(_crossings(grid, difference, noise)),
        tuple(_stretches(grid, difference, difference > noise)),
        tuple(_stretches(grid, difference, difference < -noise)),
    )  # fmt: skip


def _crossings(grid: Array, difference: Array, noise: Array) -> list[Crossing]:
    roots = crossing_speeds(grid, difference)
    edges = [0, *np.searchsorted(grid, roots), len(grid)]
    outside = [bool((np.abs(difference[a:b]) > noise[a:b]).any()) for a, b in pairwise(edges)]
    return [Crossing(root, outside[k] and outside[k + 1]) for k, root in enumerate(roots)]


def _stretches(grid: Array, difference: Array, chosen: NDArray[np.bool_]) -> list[Stretch]:
    edges = np.flatnonzero(np.diff(np.concatenate(([False], chosen, [False])).astype(np.int8)))
    found = []
    for first, end in zip(edges[::2], edges[1::2], strict=True):
        if end - first < 2:
            continue
        part, values = grid[first:end], difference[first:end]
        extreme = int(np.abs(values).argmax())
        mean = float(np.trapezoid(values, part) / (part[-1] - part[0]))
        found.append(Stretch(float(part[0]), float(part[-1]), mean, float(values[extreme]), float(part[extreme])))
    return found


def _root(grid: Array, difference: Array, left: int, right: int) -> float:
    if right - left > 1:
        return float(grid[left + 1] + grid[right - 1]) / 2
    share = difference[left] / (difference[left] - difference[right])
    return float(grid[left] + share * (grid[right] - grid[left]))
