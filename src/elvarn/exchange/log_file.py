"""Files of the engine computer, which log no torque: where they were at full throttle, and their channels."""

from dataclasses import dataclass, field

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.dyno.detect import Sweep
from elvarn.core.dyno.engine_log import at_rest, full_throttle
from elvarn.exchange.pull_channels import channel_columns, values_of
from elvarn.exchange.pull_columns import ColumnGuess
from elvarn.exchange.table import Table, TableError

# One of these makes a log of a file without torque: it says something of the intake.
TELLING = ("manifold_kpa", "boost_kpa", "air_kg_h", "mixture_lambda", "duty_percent")


@dataclass(frozen=True)
class LogFound:
    """A file as a log: its column of engine speed, its stretches at full throttle, the pressure outside and where that
    is from (logged, at_rest, or empty), and the names of its channels."""

    speed_column: int
    stretches: list[Sweep]
    outside_kpa: float | None
    outside_from: str
    channels: list[str]


@dataclass(frozen=True)
class LogRows:
    """The rows of a log's stretches: engine speed [rpm] and channels by name, shape (n,)."""

    engine_speed_rpm: Array
    channels: dict[str, Array] = field(default_factory=dict)


def log_in(table: Table, guesses: list[ColumnGuess]) -> LogFound | None:
    """A file as a log; None where it has torque or power, no engine speed, or nothing to tell."""
    by_role = {guess.role: guess for guess in reversed(guesses)}
    speed = by_role.get("speed")
    if speed is None or speed.unit != "rpm" or any(role in by_role for role in ("torque", "power", "drum")):
        return None
    channels = _channels(table, speed.index)
    if not any(name in channels for name in TELLING):
        return None
    speeds = np.array(table.numbers(speed.index))
    manifold = channels.get("manifold_kpa")
    stretches = full_throttle(speeds, channels.get("throttle_percent"), manifold)
    outside, said = _outside(speeds, channels)
    return LogFound(speed.index, stretches, outside, said, list(channels))


def rows_of_log(table: Table, speed_column: int, stretches: list[tuple[int, int]]) -> LogRows:
    """The rows of a log's stretches, first and last row of each. Raises TableError for rows that are not there, or a
    column without figures."""
    if not 0 <= speed_column < len(table.columns):
        raise TableError(f"The file has no column {speed_column + 1}. Drop it again.")
    for first, last in stretches:
        if not 0 <= first < last < table.row_count:
            raise TableError(f"Rows {first + 1} to {last + 1} are not in the file; it has {table.row_count}.")
    kept = np.unique(np.concatenate([np.arange(first, last + 1) for first, last in stretches]))
    speeds = np.array(table.numbers(speed_column))[kept]
    channels = {name: values[kept] for name, values in _channels(table, speed_column).items()}
    known = np.isfinite(speeds)
    return LogRows(speeds[known], {name: values[known] for name, values in channels.items()})


def _channels(table: Table, speed_column: int) -> dict[str, Array]:
    return {one.name: values_of(table, one) for one in channel_columns(table, {speed_column})}


def _outside(speeds: Array, channels: dict[str, Array]) -> tuple[float | None, str]:
    """What the manifold read at rest comes first: its sensor's error is in it, and cancels."""
    rest = at_rest(speeds, channels.get("manifold_kpa"))
    if rest is not None:
        return rest.pressure, "at_rest"
    logged = channels.get("outside_kpa")
    if logged is not None and np.isfinite(logged).any():
        return float(np.nanmedian(logged)), "logged"
    return None, ""
