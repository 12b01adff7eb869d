"""The shelf as a table and as JSON, out and in. A table holds one part a row; JSON holds everything stated of it."""

import csv
import io
import json
from dataclasses import asdict, dataclass, field
from math import isnan
from typing import Any

from pydantic import TypeAdapter, ValidationError

from elvarn.core.path.features import PART_KINDS
from elvarn.exchange.table import TableError, number, text_of, write_table

FORMAT = "elvarn-shelf-1"
MOST_PARTS = 1000  # in one file
MOST_HERE = 10_000  # of one part
TEXTS = ("kind", "name", "maker", "number", "material", "note")
FIGURES = ("mass_kg", "price", "lead_days", "on_hand")
# Dimensions, as advertised and as measured; the element of a part that they are of follows from its kind.
DIMENSIONS = ("bore_mm", "bore_out_mm", "length_mm", "volume_l")
ADVERTISED = tuple(f"advertised_{name}" for name in DIMENSIONS)
MEASURED = tuple(f"measured_{name}" for name in DIMENSIONS)
FEATURES = ("height_mm", "front_length_mm", "boost_kpa", "runners", "port_pitch_mm", "bank_angle_deg")
FEATURE_WORDS = ("head_flange", "casting")
COLUMNS = (*TEXTS, *FIGURES, *ADVERTISED, *MEASURED, "measured_flow_cfm", "at_inh2o", *FEATURES, *FEATURE_WORDS)


@dataclass(frozen=True)
class ShelfRecord:
    """One part as it is written and read. Flow is in CFM at the depression beside it, as it was read."""

    kind: str
    name: str
    maker: str = ""
    number: str = ""
    material: str = ""
    note: str = ""
    mass_kg: float | None = None
    price: float | None = None
    lead_days: float | None = None
    on_hand: float | None = None
    advertised: dict[str, float] = field(default_factory=dict)
    measured: dict[str, float] = field(default_factory=dict)
    flow_cfm: float | None = None
    depression_inh2o: float | None = None
    features: dict[str, Any] = field(default_factory=dict)
    claims: list[dict[str, Any]] = field(default_factory=list)


RECORD = TypeAdapter(ShelfRecord)


def write_shelf_table(records: list[ShelfRecord]) -> str:
    """The shelf as a comma-separated table."""
    rows = []
    for record in records:
        figures = [getattr(record, name) for name in FIGURES]
        figures += [record.advertised.get(name) for name in DIMENSIONS]
        figures += [record.measured.get(name) for name in DIMENSIONS]
        figures += [record.flow_cfm, record.depression_inh2o, *(record.features.get(name) for name in FEATURES)]
        words = [record.features.get(name) or "" for name in FEATURE_WORDS]
        rows.append([getattr(record, name) for name in TEXTS] + [_text(figure) for figure in figures] + words)
    comments = [
        "Elvarn shelf: one part a row; advertised and measured apart; flow as read, at the depression beside it"
    ]
    return write_table(list(COLUMNS), [""] * len(COLUMNS), rows, comments)


def write_shelf_json(records: list[ShelfRecord]) -> str:
    """The shelf as JSON, with features and claims."""
    return json.dumps({"format": FORMAT, "parts": [asdict(record) for record in records]}, indent=1)


def read_shelf(name: str, data: bytes) -> list[ShelfRecord]:
    """The parts of a dropped file, table or JSON. Raises TableError naming the row, the column and the value."""
    text = data.decode("utf-8-sig", errors="replace")
    return _from_json(text) if name.lower().endswith(".json") or text.lstrip()[:1] == "{" else _from_table(text)


def _from_json(text: str) -> list[ShelfRecord]:
    try:
        found = json.loads(text)
    except json.JSONDecodeError as error:
        raise TableError(f"The JSON breaks off at line {error.lineno}: {error.msg}. Export it again.") from error
    except RecursionError as error:
        raise TableError("The JSON is nested too deep to be a shelf. Export it again.") from error
    if not isinstance(found, dict) or found.get("format") != FORMAT or not isinstance(found.get("parts"), list):
        raise TableError(f"The JSON is no shelf: its format is not '{FORMAT}', or it has no list of parts.")
    _not_too_many(len(found["parts"]))
    records = []
    for index, part in enumerate(found["parts"], start=1):
        try:
            record = RECORD.validate_python(part)
        except ValidationError as error:
            first = error.errors()[0]
            if first["type"] == "missing":
                raise TableError(f"Part {index} has no kind or no name. Give it both.") from error
            place = ".".join(map(str, first["loc"])) or "it"
            raise TableError(
                f"Part {index}, {place}: {first['msg']}. Write texts as texts, figures as figures."
            ) from error
        _check(record, f"Part {index}")
        records.append(record)
    return _some(records)


def _from_table(text: str) -> list[ShelfRecord]:
    lines = [line for line in text.splitlines() if line.strip() and not line.lstrip().startswith("#")]
    if not lines:
        raise TableError("The file holds no rows. Its first row names the columns; 'kind' and 'name' are needed.")
    delimiter = max(("\t", ";", ","), key=lines[0].count)
    _not_too_many(len(lines) - 1)
    try:
        rows = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=delimiter))
    except csv.Error as error:
        raise TableError(f"The file is no table ({error}). Export it again as CSV or TSV.") from error
    headings = [cell.strip().lower().replace(" ", "_") for cell in rows[0]]
    for needed in ("kind", "name"):
        if needed not in headings:
            raise TableError(f"There is no column '{needed}'. Columns known: {', '.join(COLUMNS)}.")
    records = []
    for index, row in enumerate(rows[1:], start=2):
        cells = {h: text_of(cell.strip()) for h, cell in zip(headings, row, strict=False) if cell.strip()}
        record = _record(cells, index, decimal_comma=delimiter != ",")
        _check(record, f"Row {index}")
        records.append(record)
    return _some(records)


def _record(cells: dict[str, str], row: int, *, decimal_comma: bool) -> ShelfRecord:
    def figure(column: str) -> float | None:
        if column not in cells:
            return None
        cell = cells[column]
        value = number(cell, decimal_comma and "," in cell)
        if isnan(value):
            text = f"Row {row}, column '{column}': '{cell}' is no figure. Correct it and drop the file again."
            raise TableError(text)
        return value

    def group(prefix: str) -> dict[str, float]:
        found = {name: figure(f"{prefix}_{name}") for name in DIMENSIONS}
        return {name: value for name, value in found.items() if value is not None}

    features: dict[str, Any] = {name: value for name in FEATURES if (value := figure(name)) is not None}
    features |= {name: cells[name] for name in FEATURE_WORDS if name in cells}
    return ShelfRecord(
        kind=cells.get("kind", ""),
        name=cells.get("name", ""),
        maker=cells.get("maker", ""),
        number=cells.get("number", ""),
        material=cells.get("material", ""),
        note=cells.get("note", ""),
        mass_kg=figure("mass_kg"),
        price=figure("price"),
        lead_days=figure("lead_days"),
        on_hand=figure("on_hand"),
        advertised=group("advertised"),
        measured=group("measured"),
        flow_cfm=figure("measured_flow_cfm"),
        depression_inh2o=figure("at_inh2o"),
        features=features,
    )


def _check(record: ShelfRecord, where: str) -> None:
    _check_here(record, where)
    if record.kind not in PART_KINDS:
        raise TableError(f"{where}: '{record.kind}' is no kind of part. Known: {', '.join(PART_KINDS)}.")
    if not record.name:
        raise TableError(f"{where} has no name. Give it one.")
    figures = [record.mass_kg, *record.advertised.values(), *record.measured.values(), record.flow_cfm]
    bad = next((f for f in figures if f is not None and not f > 0), None)
    if bad is not None:
        raise TableError(f"{where}: {bad:g} can't be a dimension, mass or flow. All of them are above 0.")


def _check_here(record: ShelfRecord, where: str) -> None:
    here = record.on_hand
    if here is not None and not (0 <= here <= MOST_HERE and here == round(here)):
        raise TableError(f"{where}: {here:g} can't lie here. Enter a whole number, 0 to {MOST_HERE}.")


def _not_too_many(count: int) -> None:
    if count > MOST_PARTS:
        raise TableError(f"The file names {count} parts; {MOST_PARTS} can be at once. Send it in pieces.")


def _some(records: list[ShelfRecord]) -> list[ShelfRecord]:
    if not records:
        raise TableError("The file names no part.")
    return records


def _text(figure: float | None) -> str:
    return "" if figure is None else f"{figure:.10g}"
