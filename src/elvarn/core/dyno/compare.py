"""Two pulls compared over the speeds that both reached."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from elvarn.core.arrays import Array
from elvarn.core.dyno.assumed import PULL_REPEATABILITY
from elvarn.core.dyno.pull import Curve
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.verdict import Verdict, within

NARROWEST_STRETCH_SHARE = 0.01  # of the common speeds: narrower ones are noise; common practice, no source
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
    """Torque [N m] or power [W] of two pulls on the comparison's grid, shape (n,), and where they differ."""

    stock: Array
    other: Array
    crossings: tuple[Crossing, ...]
    gained: tuple[Stretch, ...]
    lost: tuple[Stretch, ...]

    @property
    def difference(self) -> Array:
        return self.other - self.stock


@dataclass(frozen=True)
class Comparison:
    """Both quantities over all speeds that both pulls reached: `grid` [rpm] holds every sample of both, shape (n,).

    `repeatability` [-] is by how much two pulls of one set-up differ; `stock_climbs` and `other_climbs` tell whether
    power still rises where each pull ends.
    """

    grid: Array
    torque: QuantityComparison
    power: QuantityComparison
    repeatability: float
    stock_climbs: bool
    other_climbs: bool


@dataclass(frozen=True)
class BandFigures:
    """Means over a band, the verdict on their difference, and the peaks in the band, in the unit of the quantity."""

    stock_mean: float
    other_mean: float
    verdict: Verdict
    stock_peak: Peak
    other_peak: Peak

    @property
    def fraction(self) -> float:
        return self.verdict.change / self.stock_mean


@dataclass(frozen=True)
class BandComparison:
    """Both quantities over the band `low` to `high` [rpm]."""

    low: float
    high: float
    torque: BandFigures
    power: BandFigures


def compare(stock: Curve, other: Curve, repeatability: float = PULL_REPEATABILITY) -> Comparison:
    """Compare a pull with stock over all speeds that both reached.

    Arguments: stock, other; repeatability [-]: by how much two pulls of one set-up differ.
    Returns: the comparison.
    Raises: NotEnoughData where the pulls share no speeds.
    Source: trapezoid rule on the union of both grids, linear between samples; crossings are all roots of the piecewise
    linear difference.
    """
    grid = _union(stock, other)

    def quantity(a: Array, b: Array) -> QuantityComparison:
        first = np.interp(grid, stock.engine_speed_rpm, a)
        second = np.interp(grid, other.engine_speed_rpm, b)
        difference, noise = second - first, repeatability * np.abs(first)
        crossings = tuple(_crossings(grid, difference, noise))
        gained = tuple(_stretches(grid, difference, difference > noise))
        return QuantityComparison(
            first, second, crossings, gained, tuple(_stretches(grid, difference, difference < -noise))
        )

    torque, power = quantity(stock.torque, other.torque), quantity(stock.power, other.power)
    return Comparison(grid, torque, power, repeatability, still_climbing(stock), still_climbing(other))


def over_band(comparison: Comparison, band: tuple[float, float] | None = None) -> BandComparison:
    """Means and peaks over a band of a comparison.

    Arguments: comparison; band (low, high) [rpm] or None for all of it.
    Returns: figures over the part of the band that both pulls reached.
    Raises: OutOfRange for a band that is empty or outside the comparison.
    Source: mean value theorem; trapezoid rule, exact for piecewise linear curves.
    """
    low, high = _band_within(comparison.grid, band)

    def figures(quantity: QuantityComparison) -> BandFigures:
        speeds, stock = _cut(comparison.grid, quantity.stock, low, high)
        _, other = _cut(comparison.grid, quantity.other, low, high)
        means = [_mean(speeds, values) for values in (stock, other)]
        verdict = within(means[1] - means[0], comparison.repeatability * means[0])
        return BandFigures(means[0], means[1], verdict, peak(speeds, stock), peak(speeds, other))

    return BandComparison(low, high, figures(comparison.torque), figures(comparison.power))


def band_mean(engine_speed_rpm: Array, values: Array, low: float, high: float) -> float:
    """Mean of a piecewise linear curve over a band: its integral divided by the band's width.

    Arguments: engine_speed_rpm [rpm] rising, shape (n,), values [any unit], shape (n,); low [rpm], high [rpm] inside
    them.
    Returns: mean [as the values].
    Raises: OutOfRange for an empty band or one that the curve does not reach.
    Source: mean value theorem; trapezoid rule, exact for piecewise linear curves.
    """
    if not engine_speed_rpm[0] <= low < high <= engine_speed_rpm[-1]:
        raise OutOfRange("band", f"The curve does not reach from {low:.0f} to {high:.0f} rpm.", "Narrow the band.")
    return _mean(*_cut(engine_speed_rpm, values, low, high))


def simpson_mean(values: Array) -> float:
    """Mean of a smooth curve over evenly spaced engine speeds.

    Arguments: values [any unit], an odd number of them, shape (n,).
    Returns: mean [as the values].
    Raises: NotEnoughData for an even number, or fewer than three.
    Source: Simpson's rule, exact for cubics; `band_mean` is for uneven samples.
    """
    count = len(values)
    if count < 3 or count % 2 == 0:
        raise NotEnoughData("values", f"{count} values.", "An odd number, three at least; else use the trapezoid mean.")
    return float((values[0] + values[-1] + 4 * values[1:-1:2].sum() + 2 * values[2:-1:2].sum()) / (3 * (count - 1)))


def crossing_speeds(grid: Array, difference: Array) -> list[float]:
    """All roots of a piecewise linear difference; a stretch of zeros counts once, at its middle.

    Arguments: grid [rpm] rising, difference, shape (n,).
    Returns: speeds [rpm], rising. Touching zero without a change of sign is no crossing.
    Raises: nothing.
    Source: definition, root of a linear interpolant.
    """
    return [float(root) for root in _roots(grid, difference)[0]]


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


def _union(stock: Curve, other: Curve) -> Array:
    """Every sample of both inside the speeds that both reached, ends included."""
    low, high = max(stock.lowest, other.lowest), min(stock.highest, other.highest)
    if low >= high:
        message = f"Stock ran {stock.lowest:.0f} to {stock.highest:.0f} rpm, the other {other.lowest:.0f} to "
        raise NotEnoughData("band", message + f"{other.highest:.0f} rpm: they share none.", "Pull both over one band.")
    samples = np.sort(np.concatenate((stock.engine_speed_rpm, other.engine_speed_rpm)), kind="stable")
    samples = samples[np.searchsorted(samples, low) : np.searchsorted(samples, high, side="right")]
    return samples[np.concatenate(([True], np.diff(samples) > 0))]


def _cut(speeds: Array, values: Array, low: float, high: float) -> tuple[Array, Array]:
    """The samples inside a band and the curve's values at its ends."""
    first, end = int(np.searchsorted(speeds, low, side="right")), int(np.searchsorted(speeds, high))
    ends = np.interp((low, high), speeds, values)
    grid = np.concatenate(([low], speeds[first:end], [high]))
    return grid, np.concatenate((ends[:1], values[first:end], ends[1:]))


def _mean(speeds: Array, values: Array) -> float:
    return float(np.trapezoid(values, speeds) / (speeds[-1] - speeds[0]))


def _band_within(grid: Array, band: tuple[float, float] | None) -> tuple[float, float]:
    low, high = float(grid[0]), float(grid[-1])
    if band is None:
        return low, high
    if band[0] >= band[1] or band[0] >= high or band[1] <= low:
        message = f"The band {band[0]:.0f} to {band[1]:.0f} rpm holds no speed of both pulls."
        raise OutOfRange("band", message, f"Choose it within {low:.0f} to {high:.0f} rpm.")
    return max(low, band[0]), min(high, band[1])


def _roots(grid: Array, difference: Array) -> tuple[Array, NDArray[np.intp]]:
    """Roots, and for each the index of the sample before it."""
    away = np.flatnonzero(difference)
    values = difference[away]
    turns = np.flatnonzero((values[1:] > 0) != (values[:-1] > 0))
    left, right = away[turns], away[turns + 1]
    share = difference[left] / (difference[left] - difference[right])
    straight = grid[left] + share * (grid[right] - grid[left])
    middle_of_zeros = (grid[np.minimum(left + 1, len(grid) - 1)] + grid[np.maximum(right - 1, 0)]) / 2
    return np.where(right - left > 1, middle_of_zeros, straight), left


def _crossings(grid: Array, difference: Array, noise: Array) -> list[Crossing]:
    roots, before = _roots(grid, difference)
    if not len(roots):
        return []
    parts = np.concatenate(([0], before + 1))
    outside = np.logical_or.reduceat(np.abs(difference) > noise, parts)
    clear = outside[:-1] & outside[1:]
    return [Crossing(float(root), bool(sure)) for root, sure in zip(roots, clear, strict=True)]


def _stretches(grid: Array, difference: Array, chosen: NDArray[np.bool_]) -> list[Stretch]:
    edges = np.flatnonzero(np.diff(np.concatenate(([False], chosen, [False])).astype(np.int8)))
    starts, ends = edges[::2], edges[1::2]
    narrowest = NARROWEST_STRETCH_SHARE * (grid[-1] - grid[0])
    wide = grid[ends - 1] - grid[starts] >= narrowest
    return [_stretch(grid[a:b], difference[a:b]) for a, b in zip(starts[wide], ends[wide], strict=True)]


def _stretch(speeds: Array, values: Array) -> Stretch:
    extreme = int(np.abs(values).argmax())
    return Stretch(
        float(speeds[0]), float(speeds[-1]), _mean(speeds, values), float(values[extreme]), float(speeds[extreme])
    )
