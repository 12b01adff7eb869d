"""What a dyno file says above its figures, or in columns that stand still: air, and how it was corrected."""

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from statistics import fmean

from elvarn import units
from elvarn.core.dyno.correction import Standard
from elvarn.exchange.table import Table

NUMBER = r"([+-]?\d+(?:[.,]\d+)?)"
UNIT = r"\s*\[?\(?\s*([^\s\d\]\),;:.=]*)"
AIR: tuple[tuple[str, units.Quantity, str], ...] = (
    ("air_temperature_c", "temperature", r"(?:air|intake|inlet|ambient|dry.?bulb|cell)?\W*(?:temp\w*|temperature)"),
    ("air_pressure_kpa", "pressure", r"(?:baro\w*|station|air|ambient|atmos\w*)\W*(?:press\w*)?|pressure"),
    ("air_humidity_percent", "humidity", r"(?:rel\w*\W*)?hum\w*|\brh\b"),
)
NOT_AIR = re.compile(r"oil|coolant|water|fuel|exhaust|egt|manifold|boost|vapou?r", re.I)
STANDARDS = (
    (Standard.SAE_J1349, r"j\W?1349"),
    (Standard.SAE_J607, r"j\W?607|\bstd\b"),
    (Standard.ISO_1585, r"iso\W?1585|\br\W?85\b"),
    (Standard.DIN_70020, r"din\W?70\W?020"),
)
STEADY = 0.02  # of the mean: a column of air that moves more is not the weather; common practice, no source


@dataclass(frozen=True)
class Stated:
    """What a file says besides its figures: air as typed texts by field, and the standard of its correction."""

    air: dict[str, str] = field(default_factory=dict)
    standard: str = ""


def stated_in(table: Table) -> Stated:
    """What a file says of the air and of its correction. What has no unit, or one that is not known, is not taken."""
    found: dict[str, str] = {}
    for name, quantity, words in AIR:
        text = _in_lines(table.comments, words, quantity) or _in_columns(table, words, quantity)
        if text:
            found[name] = text
    return Stated(found, _standard(table))


def _in_lines(lines: Sequence[str], words: str, quantity: units.Quantity) -> str:
    for line in lines:
        for match in re.finditer(rf"(?:{words})[^\d+\-;,]*?{UNIT}[\s:=,;\]\)]*{NUMBER}{UNIT}", line, re.I):
            before, figure, after = match.groups()
            unit = next((u for u in (after, before) if units.recognise_unit(u, quantity)), "")
            if unit and not NOT_AIR.search(line[max(0, match.start() - 12) : match.end()]):
                return f"{figure} {unit}"
    return ""


def _in_columns(table: Table, words: str, quantity: units.Quantity) -> str:
    for index, column in enumerate(table.columns):
        unit = units.recognise_unit(column.unit, quantity) if column.unit else None
        if unit is None or not re.search(words, column.heading, re.I) or NOT_AIR.search(column.heading):
            continue
        figures = [value for value in table.numbers(index) if not math.isnan(value)]
        if figures and max(figures) - min(figures) <= STEADY * max(abs(fmean(figures)), 1.0):
            return f"{fmean(figures):.4g} {column.unit}"
    return ""


def _standard(table: Table) -> str:
    text = " ".join([*table.comments, *(column.heading for column in table.columns)])
    return next((standard.value for standard, words in STANDARDS if re.search(words, text, re.I)), "")
