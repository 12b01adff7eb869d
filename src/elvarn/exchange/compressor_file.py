"""A compressor's map as a table: corrected flow, pressure ratio and efficiency, a point a row."""

from dataclasses import dataclass

import numpy as np

from elvarn.exchange.table import Column, Table, TableError, read_table

MOST_POINTS = 600
FLOW_UNITS = {"kg/s": 1.0, "g/s": 0.001, "kg/min": 1 / 60, "kg/h": 1 / 3600, "lb/min": 0.45359237 / 60}
WORDS = {"flow": ("flow", "mass flow", "corrected flow"), "ratio": ("ratio", "pressure ratio", "pr"),
         "efficiency": ("efficiency", "eta", "eff")}  # fmt: skip
PERCENT = 1.5  # an efficiency above is in per cent


@dataclass(frozen=True)
class MapRow:
    """A point: corrected flow [kg/s], pressure ratio [-], efficiency [%]."""

    flow_kg_s: float
    ratio: float
    efficiency_percent: float


def read_map(data: bytes) -> list[MapRow]:
    """The points of a map. Raises TableError naming the column, the row and the value."""
    table = read_table(data)
    flow, ratio, efficiency = (_column(table, name) for name in WORDS)
    factor = _factor(table.columns[flow])
    columns = (table.numbers(index) for index in (flow, ratio, efficiency))
    rows = []
    for index, values in enumerate(zip(*columns, strict=True), start=1):
        if any(np.isnan(values)):
            continue
        rows.append(_row(index, values[0] * factor, values[1], values[2]))
    if len(rows) > MOST_POINTS:
        raise TableError(f"The map holds {len(rows)} points; {MOST_POINTS} can be. Thin it out.")
    return rows


def _column(table: Table, name: str) -> int:
    for index, column in enumerate(table.columns):
        if column.heading.strip().lower().replace("_", " ") in WORDS[name]:
            return index
    known = ", ".join(f"'{words[0]}'" for words in WORDS.values())
    raise TableError(f"There is no column '{WORDS[name][0]}'. A map has {known}, the flow with its unit.")


def _factor(flow: Column) -> float:
    unit = flow.unit.strip().lower()
    if unit not in FLOW_UNITS:
        said = f"'{flow.unit}' is no unit of a map's flow" if unit else "The flow has no unit"
        raise TableError(f"{said}. Write it into the heading: {', '.join(FLOW_UNITS)}.")
    return FLOW_UNITS[unit]


def _row(index: int, flow: float, ratio: float, efficiency: float) -> MapRow:
    percent = efficiency if efficiency > PERCENT else 100 * efficiency
    if not 0 < flow < 10:
        raise TableError(f"Point {index}: a flow of {flow:g} kg/s can't be. Check its unit.")
    if not 1 <= ratio <= 10:
        raise TableError(f"Point {index}: a pressure ratio of {ratio:g} can't be: 1 to 10 can.")
    if not 20 <= percent <= 100:
        raise TableError(f"Point {index}: an efficiency of {percent:g} % can't be: 20 to 100 % can.")
    return MapRow(flow, ratio, round(percent, 3))
