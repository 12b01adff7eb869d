"""Dyno files: which column is which, the rows in SI, and a file that imports again unchanged."""

import re
from dataclasses import dataclass
from itertools import product
from typing import Literal

import numpy as np

from elvarn import units
from elvarn.core.arrays import Array
from elvarn.core.dyno.correction import power_from_torque, torque_from_power
from elvarn.core.dyno.pull import contradictions
from elvarn.exchange.table import Table, TableError, write_table
from elvarn.given import given

Role = Literal["speed", "torque", "power", "other"]
Trust = Literal["check", "torque", "power"]

ROLE_WORDS: tuple[tuple[Role, str], ...] = (
    ("speed", r"rpm|engine.?speed|speed.*engine|drehzahl|rev|n_eng"),
    ("torque", r"torque|tq|moment|drehm|couple"),
    ("power", r"power|leistung|puissance|\bpwr\b|\bhp\b|\bkw\b|\bps\b"),
)
TORQUE_UNITS = ("lbf·ft", "N·m")
POWER_UNITS = ("hp", "kW", "PS")
DEFAULT_UNITS = {"speed": "rpm", "torque": "N·m", "power": "kW"}


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
    """Which columns hold what: `power_column` may be empty, or torque's where only power was logged."""

    speed_column: int
    torque_column: int | None
    torque_unit: str
    power_column: int | None
    power_unit: str


@dataclass(frozen=True)
class PullRows:
    """The rows of a file in SI, shape (n,), NaN where a cell was empty."""

    engine_speed_rpm: Array
    torque: Array


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
    """What each column of a table seems to be; the first that fits a role takes it."""
    taken: set[Role] = set()
    guesses = []
    for index, column in enumerate(table.columns):
        role, unit = _guess(column.heading, column.unit)
        if role in taken:
            role = "other"
        if role != "other":
            taken.add(role)
        middle = len(column.cells) // 2
        sample = [column.cells[0], column.cells[middle], column.cells[-1]]
        guesses.append(ColumnGuess(index, column.heading or f"column {index + 1}", column.unit, role, unit, sample))
    return guesses


def guess_map(guesses: list[ColumnGuess]) -> ColumnMap | None:
    """The mapping that the guesses add up to, or None where there is no speed, or neither torque nor power."""
    by_role = {guess.role: guess for guess in guesses}
    speed, torque, power = by_role.get("speed"), by_role.get("torque"), by_role.get("power")
    if speed is None or (torque is None and power is None):
        return None
    return ColumnMap(
        speed.index,
        torque.index if torque else None,
        (torque.unit if torque else None) or DEFAULT_UNITS["torque"],
        power.index if power else None,
        (power.unit if power else None) or DEFAULT_UNITS["power"],
    )


def extract_pull(table: Table, mapping: ColumnMap, *, trust: Trust = "check") -> PullRows:
    """The rows of a mapped file in SI.

    Raises TableError for a column that is not there or holds no figures; Contradiction where torque and power disagree
    by over 2 % and neither is trusted.
    """
    speed = _figures(table, mapping.speed_column, "engine speed")
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


def _guess(heading: str, unit_written: str) -> tuple[Role, str | None]:
    for quantity, role in (("speed", "speed"), ("torque", "torque"), ("power", "power")):
        unit = units.recognise_unit(unit_written or heading, quantity)  # type: ignore[arg-type]
        if unit:
            return role, unit  # type: ignore[return-value]
    if unit_written and units.recognise_any_unit(unit_written):
        return "other", None
    for named, words in ROLE_WORDS:
        if re.search(words, heading.lower()):
            return named, _unit_in_words(heading, named)
    for named, _ in ROLE_WORDS:
        unit = _unit_in_words(heading, named)
        if unit:
            return named, unit
    return "other", None


def _unit_in_words(heading: str, role: Role) -> str | None:
    if role == "other":
        return None
    for word in re.split(r"[\s_,:]+", heading):
        unit = units.recognise_unit(word, role)
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
