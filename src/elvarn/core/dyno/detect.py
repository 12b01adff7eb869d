"""Sweeps found in what was logged: rising speed, without the roll-in before it and the coast-down after it."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from elvarn.core.arrays import Array

FALL_SHARE = 0.08  # of the range of speeds: a fall below it is no end of a sweep; common practice, no source
LEAST_RISE_SHARE = 0.35  # of the range: a rise below it is no sweep; common practice, no source
ROLL_IN_SHARE = 0.02  # of the range: so near to its lowest speed nothing has begun; common practice, no source
LEAST_ROWS = 5
FULL_THROTTLE = 0.9  # of the widest within a sweep; common practice, no source


@dataclass(frozen=True)
class Sweep:
    """A stretch of rising speed: its first and last row, and its speeds [rpm]."""

    first: int
    last: int
    low: float
    high: float


def sweeps(engine_speed: Array) -> list[Sweep]:
    """Sweeps in a column of speeds, in the order in which they were logged.

    Arguments: engine_speed [rpm] (or any speed), shape (n,), NaN where a cell was empty.
    Returns: the sweeps; none where the speed does not rise in long stretches, as where steady points are listed.
    Raises: nothing.
    Source: common practice, no source: a sweep ends where the speed has fallen by 8 % of its whole range.
    """
    rows = np.flatnonzero(np.isfinite(engine_speed))
    speeds = engine_speed[rows]
    if len(speeds) < LEAST_ROWS:
        return []
    span = float(speeds.max() - speeds.min())
    found = [*_rises(speeds.tolist(), FALL_SHARE * span)]
    wide = [(a, b) for a, b in found if speeds[b] - speeds[a] >= LEAST_RISE_SHARE * span and b - a + 1 >= LEAST_ROWS]
    return [_without_roll_in(rows, speeds, a, b, span) for a, b in wide]


def driven(sweep: Sweep, engine_speed: Array, opened: Array | None) -> Sweep | None:
    """A sweep without what was not at full throttle at its ends.

    Arguments: sweep; engine_speed [rpm] (or any speed), shape (n,); opened [any unit]: throttle or manifold pressure,
    shape (n,), None where neither was logged.
    Returns: the stretch from the first to the last row at 90 % of the widest or more; the sweep itself where nothing
    tells; None where less than five rows are.
    Raises: nothing.
    Source: common practice, no source.
    """
    if opened is None:
        return sweep
    within = opened[sweep.first : sweep.last + 1]
    most = float(np.nanmax(within)) if np.isfinite(within).any() else 0.0
    if most <= 0:
        return sweep
    rows = np.flatnonzero(within >= FULL_THROTTLE * most)
    if len(rows) < LEAST_ROWS:
        return None
    first, last = sweep.first + int(rows[0]), sweep.first + int(rows[-1])
    speeds = engine_speed[first : last + 1]
    return Sweep(first, last, float(np.nanmin(speeds)), float(np.nanmax(speeds)))


def _rises(speeds: list[float], fall: float) -> Iterator[tuple[int, int]]:
    """Places of the bottom and the top of each rise that ends in a fall, and of the last one."""
    bottom = top = 0
    for at, speed in enumerate(speeds):
        if speeds[top] - speed > fall:
            yield bottom, top
            bottom = top = at
        elif speed < speeds[bottom]:
            bottom = top = at
        elif speed > speeds[top]:
            top = at
    yield bottom, top


def _without_roll_in(rows: NDArray[np.intp], speeds: Array, first: int, last: int, span: float) -> Sweep:
    near = np.flatnonzero(speeds[first : last + 1] <= speeds[first] + ROLL_IN_SHARE * span)
    begins = first + (int(near[-1]) if len(near) > LEAST_ROWS else 0)
    return Sweep(int(rows[begins]), int(rows[last]), float(speeds[begins]), float(speeds[last]))
