"""What a dyno file or a log holds beside speed, torque and power: its channels, found by heading and unit."""

import re
from dataclasses import dataclass
from math import isfinite
from statistics import median

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.constants import INCH_OF_MERCURY
from elvarn.core.dyno.channels import CHANNELS
from elvarn.exchange.table import Table

PRESSURE = {
    "kpa": 1.0, "mbar": 0.1, "hpa": 0.1, "bar": 100.0, "psi": 6.894757, "psia": 6.894757, "psig": 6.894757,
    "inhg": INCH_OF_MERCURY / 1000, "pa": 0.001, "mmhg": 0.1333224,
}  # fmt: skip
TEMPERATURE = {"°c": 1.0, "c": 1.0, "degc": 1.0, "deg c": 1.0, "°f": 5 / 9, "f": 5 / 9, "degf": 5 / 9, "deg f": 5 / 9}
FAHRENHEIT_ZERO = -160 / 9  # °C
MASS_FLOW = {"kg/h": 1.0, "kg/hr": 1.0, "g/s": 3.6, "lb/h": 0.45359237, "lb/hr": 0.45359237, "lb/min": 27.2155422}
PERCENT = {"%": 1.0, "percent": 1.0}
ANGLE = {"°": 1.0, "deg": 1.0, "degrees": 1.0, "°ca": 1.0, "deg ca": 1.0}
# A ratio is read on the scale of petrol, whatever is burnt: common practice, no source.
MIXTURE = {"lambda": 1.0, "λ": 1.0, "la": 1.0, "afr": 1 / 14.7, "a/f": 1 / 14.7}
LEAST_ABSOLUTE_KPA = 5.0  # in no manifold there is less; common practice, no source
TIME = {"s": 1.0, "sec": 1.0, "ms": 0.001}


@dataclass(frozen=True)
class Heading:
    """How a channel is headed: its words, and its units with their factor to its own."""

    words: str
    units: dict[str, float]


@dataclass(frozen=True)
class ChannelColumn:
    """A column that holds a channel, by its name; `factor` and `offset` bring it to the channel's own unit."""

    index: int
    name: str
    factor: float
    offset: float

    @property
    def words(self) -> str:
        """What it is taken as, with its unit."""
        return f"{CHANNELS[self.name].label}, {CHANNELS[self.name].unit}"


HEADINGS = {
    "time_s": Heading(r"^time|\btime\b|^zeit", TIME),
    "boost_kpa": Heading(r"boost|ladedruck", PRESSURE),
    "manifold_kpa": Heading(r"\bmap\b|manifold.*press|plenum.*press|saugrohr", PRESSURE),
    "mixture_lambda": Heading(r"lambda|λ|\bafr\b|air.?fuel|mixture|wideband", MIXTURE),
    "duty_percent": Heading(r"duty|\bidc\b", PERCENT),
    "retard_deg": Heading(r"knock.*(ret|corr)|retard|taken back for knock", ANGLE),
    "throttle_percent": Heading(r"throttle|\btps\b|pedal", PERCENT),
    "coolant_c": Heading(r"coolant|water.*temp|\bclt\b|\bect\b", TEMPERATURE),
    "oil_c": Heading(r"oil.*temp", TEMPERATURE),
    "oil_kpa": Heading(r"oil.*press", PRESSURE),
    "outside_kpa": Heading(r"baro|(ambient|outside|air).*press", PRESSURE),
    "air_c": Heading(r"(air|intake|inlet|charge|ambient).*temp|\biat\b", TEMPERATURE),
    "humidity_percent": Heading(r"humid|\brh\b", PERCENT),
    "air_kg_h": Heading(r"\bmaf\b|air.*(mass|flow)", MASS_FLOW),
    "fuel_kg_h": Heading(r"fuel.*(mass|flow|cons|rate)", MASS_FLOW),
}


def channel_columns(table: Table, taken: set[int]) -> list[ChannelColumn]:
    """The channels of a table beside the columns that are taken already, each once. What has no unit, or one that is
    not known, is left out; a mixture without one is told by its size."""
    found: dict[str, ChannelColumn] = {}
    for index in range(len(table.columns)):
        column = None if index in taken else _channel_of(table, index)
        if column is not None:
            found.setdefault(column.name, column)
    return list(found.values())


def values_of(table: Table, column: ChannelColumn) -> Array:
    """The values of a channel in its own unit, shape (n,), NaN where a cell is empty."""
    return np.array(table.numbers(column.index)) * column.factor + column.offset


def _channel_of(table: Table, index: int) -> ChannelColumn | None:
    heading, written = table.columns[index].heading.lower().replace("_", " "), table.columns[index].unit.lower().strip()
    name = next((name for name, one in HEADINGS.items() if re.search(one.words, heading)), None)
    if name is None:
        return None
    factors = HEADINGS[name].units
    unit = written or next((word for word in re.split(r"[\s,:;]+", heading)[::-1] if word in factors), "")
    if not unit and name == "mixture_lambda":
        unit = _mixture_by_size(table.numbers(index))
    if unit not in factors:
        return None
    if name == "manifold_kpa" and _is_gauge(unit, table.numbers(index), factors[unit]):
        name = "boost_kpa"
    offset = FAHRENHEIT_ZERO if factors is TEMPERATURE and factors[unit] != 1 else 0.0
    return ChannelColumn(index, name, factors[unit], offset)


def _is_gauge(unit: str, values: list[float], factor: float) -> bool:
    """Whether a manifold's pressure is above outside's: by its unit, or because no engine runs at what it would be."""
    known = [value * factor for value in values if isfinite(value)]
    return unit == "psig" or (bool(known) and min(known) < LEAST_ABSOLUTE_KPA)


def _mixture_by_size(values: list[float]) -> str:
    """Lambda lies about 1, a mass of air for one of fuel about 13: they can't be taken for each other."""
    known = [value for value in values if isfinite(value)]
    middle = median(known) if known else 0.0
    return "lambda" if 0.6 <= middle <= 2 else "afr" if 8 <= middle <= 25 else ""
