"""Geometry of curves over engine speed: means over a band, peaks, crossings, stretches of one sign."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from elvarn.core.arrays import Array
from elvarn.core.dyno.pull import Curve
from elvarn.core.errors import NotEnoughData, OutOfRange

STILL_CLIMBING_SHARE = 0.03  # of the pull's range of speeds at its end; common practice, no source
MOST_POINTS = 2000  # of a common grid: where the samples are more, it is even; choice, no source


@dataclass(frozen=True)
class Peak:
    """Highest value of a curve and its speed [rpm]."""

    value: float
    engine_speed_rpm: float


@dataclass(frozen=True)
class Crossing:
    """A speed [rpm] where a difference crosses zero, and between which speeds around it the difference stays inside the
    room in which nothing can be told; `clear` where it leaves the room on both sides."""

    engine_speed_rpm: float
    low: float
    high: float
    clear: bool


@dataclass(frozen=True)
class Stretch:
    """Speeds [rpm] over which a difference lies outside the room: its mean and largest value, and where."""

    low: float
    high: float
    mean: float
    extreme: float
    extreme_rpm: float


def common_speeds(curves: Sequence[Curve]) -> tuple[float, float]:
    """The speeds that all curves reach.

    Arguments: curves, one or more.
    Returns: lowest and highest [rpm].
    Raises: NotEnoughData where they share none.
    Source: definition.
    """
    low, high = max(curve.lowest for curve in curves), min(curve.highest for curve in curves)
    if low >= high:
        spans = ", ".join(f"{curve.lowest:.0f} to {curve.highest:.0f}" for curve in curves[:4])
        raise NotEnoughData("band", f"The pulls ran {spans} rpm: they share none.", "Pull all over one band.")
    return low, high


def common_grid(curves: Sequence[Curve]) -> Array:
    """Speeds at which curves are compared: every sample of all inside the speeds that all reach, ends included, or even
    steps where those are more than 2,000.

    Arguments: curves, one or more.
    Returns: speeds [rpm] rising, shape (n,).
    Raises: NotEnoughData where they share no speeds.
    Source: definition; on the union the difference of piecewise linear curves is exact.
    """
    low, high = common_speeds(curves)
    inside = [c.engine_speed_rpm[(c.engine_speed_rpm > low) & (c.engine_speed_rpm < high)] for c in curves]
    if sum(len(one) for one in inside) > MOST_POINTS:
        return np.linspace(low, high, MOST_POINTS)
    return np.unique(np.concatenate((*inside, [low, high])))


def mean_over(speeds: Array, values: Array, low: float, high: float) -> float:
    """`band_mean` of a band that is known to lie inside the speeds.

    Arguments: speeds [rpm] rising, shape (n,), values [any unit], shape (n,); low, high [rpm], scalars.
    Returns: mean [as the values].
    Raises: nothing.
    Source: as `band_mean`.
    """
    grid, cut = cut_to(speeds, values, low, high)
    return float(np.trapezoid(cut, grid) / (high - low))


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
    return mean_over(engine_speed_rpm, values, low, high)


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


def crossings(grid: Array, difference: Array, room: Array) -> list[Crossing]:
    """Where a difference crosses zero, and how sure that is.

    Arguments: grid [rpm] rising, difference and room [any unit, one for both], shape (n,).
    Returns: crossings, rising.
    Raises: nothing.
    Source: as `crossing_speeds`; its speeds are uncertain by where the difference leaves the room.
    """
    roots, before = _roots(grid, difference)
    if not len(roots):
        return []
    outside = np.flatnonzero(np.abs(difference) > room)
    parts = np.concatenate(([0], before + 1))
    leaves = np.logical_or.reduceat(np.abs(difference) > room, parts)
    found = []
    for root, left, one, other in zip(roots, before, leaves[:-1], leaves[1:], strict=True):
        below, above = outside[outside <= left], outside[outside > left]
        low = grid[below[-1]] if len(below) else grid[0]
        high = grid[above[0]] if len(above) else grid[-1]
        found.append(Crossing(float(root), float(low), float(high), bool(one and other)))
    return found


def stretches(grid: Array, difference: Array, room: Array, sign: int) -> list[Stretch]:
    """Speeds over which a difference lies above (sign +1) or below (−1) the room.

    Arguments: grid [rpm] rising, shape (n,), difference and room [any unit, one for both], shape (n,); sign [-].
    Returns: stretches, rising; their ends are where the difference meets the room.
    Raises: nothing.
    Source: definition, roots of a linear interpolant.
    """
    beyond = sign * difference - room
    edges = np.flatnonzero(np.diff(np.concatenate(([False], beyond > 0, [False])).astype(np.int8)))
    return [_stretch(grid, difference, beyond, a, b - 1) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def cut_to(speeds: Array, values: Array, low: float, high: float) -> tuple[Array, Array]:
    """The samples inside a band and the curve's values at its ends.

    Arguments: speeds [rpm] rising, shape (n,), values [any unit], shape (n,); low, high [rpm] inside them, scalars.
    Returns: speeds [rpm] and values [any unit] of the part, shape (m,).
    Raises: nothing.
    Source: definition, linear between samples.
    """
    first, end = int(np.searchsorted(speeds, low, side="right")), int(np.searchsorted(speeds, high))
    ends = np.interp((low, high), speeds, values)
    grid = np.concatenate(([low], speeds[first:end], [high]))
    return grid, np.concatenate((ends[:1], values[first:end], ends[1:]))


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


def _stretch(grid: Array, difference: Array, beyond: Array, first: int, last: int) -> Stretch:
    low = _meets(grid, beyond, first - 1) if first else float(grid[0])
    high = _meets(grid, beyond, last) if last < len(grid) - 1 else float(grid[-1])
    extreme = first + int(np.abs(difference[first : last + 1]).argmax())
    mean = mean_over(grid, difference, low, high) if high > low else float(difference[extreme])
    return Stretch(low, high, mean, float(difference[extreme]), float(grid[extreme]))


def _meets(grid: Array, beyond: Array, left: int) -> float:
    share = beyond[left] / (beyond[left] - beyond[left + 1])
    return float(grid[left] + share * (grid[left + 1] - grid[left]))
