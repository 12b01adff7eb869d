"""Dyno files once their columns are known: the sweeps in them, and their rows in SI."""

from dataclasses import dataclass, field
from itertools import product
from typing import Literal

import numpy as np

from elvarn import units
from elvarn.core.arrays import Array
from elvarn.core.dyno.correction import power_from_torque, torque_from_power
from elvarn.core.dyno.detect import Sweep, driven, sweeps
from elvarn.core.dyno.inertia import drum_torque
from elvarn.core.dyno.pull import contradictions
from elvarn.exchange.pull_channels import channel_columns, values_of
from elvarn.exchange.pull_columns import DRUM_RPM, GEARED, POWER_UNITS, TORQUE_UNITS, ColumnMap, Drum
from elvarn.exchange.table import Table, TableError

MOST_DRAWN = 400  # rows of a trace
Trust = Literal["check", "torque", "power"]


@dataclass(frozen=True)
class Run:
    """A sweep of a file: its columns, its rows, and the speeds that it reaches."""

    mapping: ColumnMap
    first_row: int
    last_row: int
    low: float
    high: float


@dataclass(frozen=True)
class Trace:
    """A column of speeds as it was logged, thinned for drawing: rows from 0, and speeds in the file's unit."""

    column: int
    rows: list[int]
    speeds: list[float]


@dataclass(frozen=True)
class PullRows:
    """The rows of a file in SI, and its channels in their own units, shape (n,), NaN where a cell was empty."""

    engine_speed_rpm: Array
    torque: Array
    channels: dict[str, Array] = field(default_factory=dict)


class UnitAsked(ValueError):
    """A file does not say the unit of its speed, torque or power; `fitting` are those in which torque and power
    agree."""

    def __init__(self, quantity: str, fitting: list[str]) -> None:
        super().__init__(quantity, fitting)
        self.quantity, self.fitting = quantity, fitting

    def __str__(self) -> str:
        return f"The file doesn't say the unit of its {self.quantity}. Choose it."


class Contradiction(ValueError):
    """Torque and power of a file disagree; `fitting` names a pair of units in which they would agree, if any."""

    def __init__(self, engine_speed_rpm: float, disagreement: float, fitting: tuple[str, str] | None) -> None:
        super().__init__(engine_speed_rpm, disagreement, fitting)  # as it crosses from one process to another
        self.engine_speed_rpm, self.disagreement, self.fitting = engine_speed_rpm, disagreement, fitting

    def __str__(self) -> str:
        return (
            f"At {self.engine_speed_rpm:,.0f} rpm power is {self.disagreement * 100:+.0f} % off what torque gives. "
            "Check the units, or say which of the two counts."
        )


def runs_of(table: Table, mapping: ColumnMap) -> list[Run]:
    """The sweeps of a mapped file. One that holds no long rise is one run of all its rows.

    Raises TableError for a column that is not there or holds no figures.
    """
    speed = _figures(table, mapping.speed_column, "engine speed")
    throttle = channels_in(table, mapping, only="throttle_percent").get("throttle_percent")
    found = [driven(sweep, speed, throttle) or sweep for sweep in sweeps(speed)]
    rows = np.flatnonzero(np.isfinite(speed))
    whole = Sweep(int(rows[0]), int(rows[-1]), float(np.nanmin(speed)), float(np.nanmax(speed)))
    return [Run(mapping, one.first, one.last, one.low, one.high) for one in found or [whole]]


def trace_of(table: Table, column: int) -> Trace:
    """A column of speeds for drawing, its first and last row among them. Raises TableError for a column without
    figures."""
    speed = _figures(table, column, "engine speed")
    known = np.flatnonzero(np.isfinite(speed))
    step = max(1, -(-len(known) // MOST_DRAWN))
    kept = np.unique(np.append(known[::step], known[-1]))
    return Trace(column, kept.tolist(), np.round(speed[kept], 1).tolist())


def extract_pull(
    table: Table,
    mapping: ColumnMap,
    *,
    trust: Trust = "check",
    rows: tuple[int, int] | None = None,
    beside: bool = True,
) -> PullRows:
    """The rows of a mapped file in SI, from the first to the last of `rows` where these are given, with what was logged
    beside unless that is not wanted.

    Raises TableError for a column that is not there or holds no figures, or a road speed without gearing; UnitAsked for
    a unit that is not known; Contradiction where torque and power disagree by over 2 % and neither is trusted.
    """
    table = _cut(table, rows)
    speed = _engine_speed(table, mapping)
    if mapping.drum is not None:
        return _from_drum(table, mapping, mapping.drum, speed, beside)
    _ask_for_units(table, mapping, speed)
    torque = _in_si(table, mapping.torque_column, mapping.torque_unit, "torque")
    power = _in_si(table, mapping.power_column, mapping.power_unit, "power")
    if torque is None and power is None:
        raise TableError("Neither torque nor power is mapped. Choose the column of one of them.")
    if torque is not None and power is not None and trust == "check":
        _check(speed, torque, power, mapping)
    if torque is None or (trust == "power" and power is not None):
        assert power is not None
        turning = np.where(speed > 0, speed, np.nan)
        torque = np.array([torque_from_power(p, n) if n > 0 else np.nan for p, n in zip(power, turning, strict=True)])
    return PullRows(speed, torque, channels_in(table, mapping) if beside else {})


def _from_drum(table: Table, mapping: ColumnMap, drum: Drum, speed: Array, beside: bool) -> PullRows:
    """Torque from a drum that is spun up. Raises TableError where its inertia is not known."""
    if not drum.inertia_kg_m2:
        raise TableError("The file has a drum's speed and no torque. Enter the drum's moment of inertia in kg·m².")
    times = next((one for one in channel_columns(table, set()) if one.index == drum.time_column), None)
    if times is None or times.name != "time_s":
        raise TableError("Time has to be in seconds (s) or milliseconds (ms). Name its unit in the heading.")
    turns = 2 * np.pi / 60
    smooth, torque = drum_torque(
        drum.inertia_kg_m2,
        values_of(table, times),
        _figures(table, drum.speed_column, "drum's speed") * turns,
        speed * turns,
        drum.smoothing_s,
    )
    return PullRows(smooth / turns, torque, channels_in(table, mapping) if beside else {})


def channels_in(table: Table, mapping: ColumnMap, only: str = "") -> dict[str, Array]:
    """The channels of a table beside the columns that are mapped, or one of them, by name, each of shape (n,)."""
    taken = {mapping.speed_column, mapping.torque_column, mapping.power_column} - {None}
    found = channel_columns(table, {index for index in taken if index is not None})
    return {one.name: values_of(table, one) for one in found if only in ("", one.name)}


def _cut(table: Table, rows: tuple[int, int] | None) -> Table:
    if rows is None:
        return table
    first, last = rows
    if not 0 <= first < last < table.row_count:
        raise TableError(f"Rows {first + 1} to {last + 1} are not in the file; it has {table.row_count}.")
    return table.within(first, last)


def _engine_speed(table: Table, mapping: ColumnMap) -> Array:
    speed = _figures(table, mapping.speed_column, "engine speed")
    if mapping.speed_unit not in GEARED:
        return speed
    if not mapping.rpm_at_100:
        what = "the drum's speed" if mapping.speed_unit == DRUM_RPM else "road speed"
        raise TableError(f"The file has {what}. Enter the engine's rpm at 100 {mapping.speed_unit}.")
    return speed * mapping.rpm_at_100 / 100


def _ask_for_units(table: Table, mapping: ColumnMap, speed: Array) -> None:
    if not mapping.speed_unit:
        both = _known(table, mapping)
        agree = both is not None and contradictions(speed, *both) is None
        raise UnitAsked("speed", ["rpm"] if agree else [])
    for quantity, column, unit in (
        ("torque", mapping.torque_column, mapping.torque_unit),
        ("power", mapping.power_column, mapping.power_unit),
    ):
        if column is not None and not unit:
            raise UnitAsked(quantity, _agreeing(table, mapping, speed, quantity))


def _known(table: Table, mapping: ColumnMap) -> tuple[Array, Array] | None:
    """Torque and power in SI, where the units of both are known."""
    if not mapping.torque_unit or not mapping.power_unit:
        return None
    torque = _in_si(table, mapping.torque_column, mapping.torque_unit, "torque")
    power = _in_si(table, mapping.power_column, mapping.power_unit, "power")
    return None if torque is None or power is None else (torque, power)


def _agreeing(table: Table, mapping: ColumnMap, speed: Array, quantity: str) -> list[str]:
    """Units of a quantity in which torque and power agree, whatever the other's may be where that is not known."""
    if mapping.torque_column is None or mapping.power_column is None:
        return []
    torque, power = _figures(table, mapping.torque_column, "torque"), _figures(table, mapping.power_column, "power")
    pairs = product(
        [mapping.torque_unit] if mapping.torque_unit else TORQUE_UNITS,
        [mapping.power_unit] if mapping.power_unit else POWER_UNITS,
    )
    found = [
        pair
        for pair in pairs
        if contradictions(speed, torque * units.to_si(1, pair[0], "torque"), power * units.to_si(1, pair[1], "power"))
        is None
    ]
    return list(dict.fromkeys(pair[0 if quantity == "torque" else 1] for pair in found))


def _figures(table: Table, index: int, name: str) -> Array:
    if not 0 <= index < len(table.columns):
        raise TableError(f"The file has no column {index + 1} for {name}. Map the columns again.")
    values = np.array(table.numbers(index))
    if not np.isfinite(values).any():
        heading = table.columns[index].heading or f"column {index + 1}"
        raise TableError(f"'{heading}' holds no figures, so it can't be the {name}. Choose another column.")
    return values


def _in_si(table: Table, index: int | None, unit: str, quantity: Literal["torque", "power"]) -> Array | None:
    if index is None:
        return None
    return _figures(table, index, quantity) * units.to_si(1.0, unit, quantity)


def _check(speed: Array, torque: Array, power: Array, mapping: ColumnMap) -> None:
    found = contradictions(speed, torque, power)
    if found is not None:
        raise Contradiction(*found, _fitting_units(speed, torque, power, mapping))


def _fitting_units(speed: Array, torque: Array, power: Array, mapping: ColumnMap) -> tuple[str, str] | None:
    """Units of torque and power in which the two agree: as few changed as can be, then the best agreement."""
    found = []
    for torque_unit, power_unit in product(TORQUE_UNITS, POWER_UNITS):
        scaled_torque = torque * units.to_si(1, torque_unit, "torque") / units.to_si(1, mapping.torque_unit, "torque")
        scaled_power = power * units.to_si(1, power_unit, "power") / units.to_si(1, mapping.power_unit, "power")
        if contradictions(speed, scaled_torque, scaled_power) is None:
            changed = (torque_unit != mapping.torque_unit) + (power_unit != mapping.power_unit)
            expected = power_from_torque(scaled_torque, speed)
            off = abs(float(np.nanmedian(scaled_power / np.where(expected > 0, expected, np.nan))) - 1)
            found.append((changed, off, (torque_unit, power_unit)))
    return min(found)[2] if found else None
