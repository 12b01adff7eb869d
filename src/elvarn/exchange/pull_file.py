"""Dyno files: which column is which, the rows in SI, and a file that imports again unchanged."""

import re
from dataclasses import dataclass, replace
from itertools import product, zip_longest
from typing import Literal

import numpy as np

from elvarn import units
from elvarn.core.arrays import Array
from elvarn.core.dyno.correction import power_from_torque, torque_from_power
from elvarn.core.dyno.detect import sweeps
from elvarn.core.dyno.pull import contradictions
from elvarn.exchange.table import Column, Table, TableError, write_table
from elvarn.given import given

Role = Literal["speed", "road", "torque", "power", "other"]
Trust = Literal["check", "torque", "power"]

ROLE_WORDS: tuple[tuple[Role, str], ...] = (
    ("speed", r"rpm|engine.?speed|speed.*engine|drehzahl|rev|n_eng"),
    ("torque", r"torque|tq|moment|drehm|couple"),
    ("power", r"power|leistung|puissance|\bpwr\b|\bhp\b|\bkw\b|\bps\b"),
)
SPEED_UNITS = ("rpm", "km/h", "mph")
TORQUE_UNITS = ("lbf·ft", "N·m", "kgf·m")
POWER_UNITS = ("hp", "kW", "PS", "W")
ROAD_SPEED = {"km/h": "km/h", "kmh": "km/h", "kph": "km/h", "mph": "mph"}
NOT_ENGINE = re.compile(r"road|vehicle|wheel|drum|roller|car\b|gps", re.I)


@dataclass(frozen=True)
class ColumnGuess:
    """A column as shown before it is mapped: what it seems to be, in which unit, and a few figures."""

    index: int
    heading: str
    unit_written: str
    role: Role
    unit: str | None
    sample: list[str]


@given
class ColumnMap:
    """Which columns hold what: `power_column` may be empty, or torque's where only power was logged. A unit that the
    file does not say is empty until it is chosen. Road speed becomes engine speed by `rpm_at_100`, the engine speed at
    100 of its unit."""

    speed_column: int
    torque_column: int | None
    torque_unit: str
    power_column: int | None
    power_unit: str
    speed_unit: str = "rpm"
    rpm_at_100: float | None = None


@dataclass(frozen=True)
class Run:
    """A sweep of a file: its columns, its rows, and the speeds that it reaches."""

    mapping: ColumnMap
    first_row: int
    last_row: int
    low: float
    high: float


@dataclass(frozen=True)
class PullRows:
    """The rows of a file in SI, shape (n,), NaN where a cell was empty."""

    engine_speed_rpm: Array
    torque: Array


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


def guess_columns(table: Table) -> list[ColumnGuess]:
    """What each column of a table seems to be."""
    guesses = []
    for index, column in enumerate(table.columns):
        role, unit = _guess(column.heading, column.unit)
        middle = len(column.cells) // 2
        sample = [column.cells[0], column.cells[middle], column.cells[-1]]
        guesses.append(ColumnGuess(index, column.heading or f"column {index + 1}", column.unit, role, unit, sample))
    return guesses


def guess_map(guesses: list[ColumnGuess]) -> ColumnMap | None:
    """The mapping that the guesses add up to, or None where there is no speed, or neither torque nor power."""
    by_role = {guess.role: guess for guess in reversed(guesses)}
    speed = by_role.get("speed") or by_role.get("road")
    torque, power = by_role.get("torque"), by_role.get("power")
    if speed is None or (torque is None and power is None):
        return None
    return ColumnMap(
        speed.index,
        torque.index if torque else None,
        (torque.unit if torque else None) or "",
        power.index if power else None,
        (power.unit if power else None) or "",
        speed.unit or "rpm",
    )


def guess_maps(guesses: list[ColumnGuess]) -> list[ColumnMap]:
    """A mapping for each run that stands beside the others; one alone as a rule."""
    starts = [guess.index for guess in guesses if guess.role == "speed"]
    if len(starts) < 2:
        found = guess_map(guesses)
        return [found] if found else []
    ends = [*starts[1:], len(guesses)]
    maps = [guess_map([g for g in guesses if a <= g.index < b]) for a, b in zip(starts, ends, strict=True)]
    whole = [one for one in maps if one is not None]
    alike = {(m.torque_unit, m.power_unit, m.torque_column is None, m.power_column is None) for m in whole}
    if len(whole) == len(starts) and len(alike) == 1:
        return whole
    first = guess_map(guesses)
    return [first] if first else []


def runs_of(table: Table, mapping: ColumnMap) -> list[Run]:
    """The sweeps of a mapped file. One that holds no long rise is one run of all its rows.

    Raises TableError for a column that is not there or holds no figures.
    """
    speed = _figures(table, mapping.speed_column, "engine speed")
    found = [Run(mapping, one.first, one.last, one.low, one.high) for one in sweeps(speed)]
    rows = np.flatnonzero(np.isfinite(speed))
    return found or [Run(mapping, int(rows[0]), int(rows[-1]), float(np.nanmin(speed)), float(np.nanmax(speed)))]


def extract_pull(
    table: Table, mapping: ColumnMap, *, trust: Trust = "check", rows: tuple[int, int] | None = None
) -> PullRows:
    """The rows of a mapped file in SI, from the first to the last of `rows` where these are given.

    Raises TableError for a column that is not there or holds no figures, or a road speed without gearing; UnitAsked for
    a unit that is not known; Contradiction where torque and power disagree by over 2 % and neither is trusted.
    """
    table = _cut(table, rows)
    speed = _engine_speed(table, mapping)
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
    return PullRows(speed, torque)


def write_pull(engine_speed_rpm: list[float], torque: list[float], comments: list[str]) -> str:
    """A pull as it was stored, every digit kept: it imports again unchanged."""
    rows = [[repr(speed), repr(value)] for speed, value in zip(engine_speed_rpm, torque, strict=True)]
    return write_table(["engine speed", "torque"], ["rpm", "N·m"], rows, comments)


def write_designs(designs: list[tuple[str, list[float], list[float]]], comments: list[str]) -> str:
    """Curves of several designs beside each other, each with its speeds [rpm] and torques [N m]: read again, they are
    as many runs."""
    headings = [f"{what}, {name}" for name, _, _ in designs for what in ("engine speed", "torque")]
    columns = [[f"{value:.6g}" for value in values] for _, speeds, torques in designs for values in (speeds, torques)]
    rows = [list(row) for row in zip_longest(*columns, fillvalue="")]
    return write_table(headings, ["rpm", "N·m"] * len(designs), rows, comments)


def _cut(table: Table, rows: tuple[int, int] | None) -> Table:
    if rows is None:
        return table
    first, last = rows
    if not 0 <= first < last < table.row_count:
        raise TableError(f"Rows {first + 1} to {last + 1} are not in the file; it has {table.row_count}.")
    columns = [Column(c.heading, c.unit, c.cells[first : last + 1]) for c in table.columns]
    return replace(table, columns=columns)


def _engine_speed(table: Table, mapping: ColumnMap) -> Array:
    speed = _figures(table, mapping.speed_column, "engine speed")
    if mapping.speed_unit not in ROAD_SPEED.values():
        return speed
    if not mapping.rpm_at_100:
        raise TableError(f"The file has road speed. Enter the engine's rpm at 100 {mapping.speed_unit}.")
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


def _guess(heading: str, unit_written: str) -> tuple[Role, str | None]:
    written = (unit_written or heading).strip()
    if written.lower() in ROAD_SPEED:
        return "road", ROAD_SPEED[written.lower()]
    for role in ("speed", "torque", "power"):
        unit = units.recognise_unit(written, role)
        if unit:
            return ("other", None) if role == "speed" and _is_no_engine(heading) else (role, unit)
    if unit_written and units.recognise_any_unit(unit_written):
        return "other", None
    return _by_words(heading, bool(unit_written))


def _is_no_engine(heading: str) -> bool:
    """Whether a speed is the car's, a roller's or a drum's."""
    return bool(NOT_ENGINE.search(heading)) and "engine" not in heading.lower()


def _by_words(heading: str, unit_is_strange: bool) -> tuple[Role, str | None]:
    """What a heading's words say. A unit that was written and is not known is none."""
    for named, words in ROLE_WORDS:
        if re.search(words, heading.lower()) and not (named == "speed" and _is_no_engine(heading)):
            return named, None if unit_is_strange else _unit_in_words(heading, named)
    for named, _ in ROLE_WORDS:
        unit = _unit_in_words(heading, named)
        if unit and not (named == "speed" and _is_no_engine(heading)):
            return named, unit
    return "other", None


def _unit_in_words(heading: str, role: Role) -> str | None:
    if role in ("other", "road"):
        return None
    for word in re.split(r"[\s_,:]+", heading):
        unit = units.recognise_unit(word, role)  # type: ignore[arg-type]
        if unit:
            return unit
    return None


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
