"""Flow figures of a job as a table, out and in."""

from dataclasses import dataclass
from datetime import UTC, datetime

from elvarn.exchange.table import Column, Table, TableError, read_table, write_table

RUNNER_WORDS = ("runner", "cylinder", "cyl", "port", "no", "nr", "#")
SIDES = ("before", "after")
MOST_FLOWS = 2000
DAY_WORDS = ("taken at", "date", "day", "read on")


@dataclass(frozen=True)
class FlowRow:
    """One figure of a runner, as it is to be typed: side "before" or "after"; when it was read, if that is said."""

    cylinder: int
    side: str
    typed: str
    taken_at: str | None = None


@dataclass(frozen=True)
class ExportedReading:
    """One reading to be written: the figure and unit as taken."""

    cylinder: int
    side: str
    figure: float
    unit: str
    depression: str
    taken_at: str
    struck_out: str


def write_flows(readings: list[ExportedReading], comments: list[str]) -> str:
    """Every reading in a row of its own, as it was taken; struck ones with their reason."""
    headings = ["runner", "side", "flow", "unit", "depression", "taken at", "struck out"]
    rows = [[str(r.cylinder), r.side, repr(r.figure), r.unit, r.depression, r.taken_at, r.struck_out] for r in readings]
    return write_table(headings, [""] * len(headings), rows, comments)


def read_flow_file(content: bytes, default_unit: str) -> list[FlowRow]:
    """The figures of a file, as `read_flows` finds them in its table. Raises TableError, for too many too."""
    table = read_table(content)
    if table.row_count > MOST_FLOWS:
        raise TableError(f"The table has {table.row_count} rows; {MOST_FLOWS} can be taken over at once. Send fewer.")
    return read_flows(table, default_unit)


def read_flows(table: Table, default_unit: str) -> list[FlowRow]:
    """The figures of a table with a runner column, and either columns "before" and "after" or a column "flow".

    Struck readings of our own files are left out. Raises TableError naming what is missing or wrong.
    """
    runner = _find(table, RUNNER_WORDS)
    if runner is None:
        raise TableError("Column 'runner' missing. Name the columns runner, before, after.")
    numbers = [_cylinder(cell, row) for row, cell in enumerate(table.columns[runner].cells, start=1)]
    days = [_day(cell, row) for row, cell in enumerate(_cells(table, DAY_WORDS, ""), start=1)]
    flow = _find(table, ("flow",))
    if flow is not None:
        return _long_rows(table, numbers, days, flow, default_unit)
    rows = []
    for side in SIDES:
        index = _find(table, (side,))
        if index is not None:
            column = table.columns[index]
            unit = column.unit or default_unit
            filled = zip(numbers, column.cells, days, strict=True)
            rows += [FlowRow(number, side, f"{cell} {unit}", day) for number, cell, day in filled if cell]
    if not rows:
        raise TableError("There is no column 'before', 'after' or 'flow'. Head the columns of figures so.")
    return rows


def _long_rows(table: Table, numbers: list[int], days: list[str | None], flow: int, default_unit: str) -> list[FlowRow]:
    sides = _cells(table, ("side", "state"), "before")
    units = _cells(table, ("unit",), table.columns[flow].unit or default_unit)
    struck = _cells(table, ("struck out",), "")
    rows = []
    cells = table.columns[flow].cells
    for number, side, cell, unit, reason, day in zip(numbers, sides, cells, units, struck, days, strict=True):
        if side not in SIDES:
            raise TableError(f"The side '{side}' of runner {number} is neither 'before' nor 'after'.")
        if cell and not reason:
            rows.append(FlowRow(number, side, f"{cell} {unit or default_unit}", day))
    return rows


def _cells(table: Table, words: tuple[str, ...], default: str) -> list[str]:
    index = _find(table, words)
    return [default] * table.row_count if index is None else table.columns[index].cells


def _find(table: Table, words: tuple[str, ...]) -> int | None:
    def fits(column: Column) -> bool:
        return column.heading.lower().strip(". ") in words

    return next((index for index, column in enumerate(table.columns) if fits(column)), None)


def _day(cell: str, row: int) -> str | None:
    """When a row was read, as ISO 8601 with an offset; noon where only the day is said."""
    if not cell:
        return None
    for pattern in ("%Y-%m-%d", "%d.%m.%Y"):
        try:
            return datetime.strptime(cell, pattern).replace(hour=12, tzinfo=UTC).isoformat()
        except ValueError:
            continue
    try:
        found = datetime.fromisoformat(cell)
    except ValueError as error:
        message = f"'{cell}' in row {row} isn't a date. Use 2019-05-31 or 31.5.2019 (5/6/2019 is ambiguous)."
        raise TableError(message) from error
    return (found if found.tzinfo else found.replace(tzinfo=UTC)).isoformat()


def _cylinder(cell: str, row: int) -> int:
    try:
        return int(cell)
    except ValueError as error:
        raise TableError(f"'{cell}' in row {row} of the runner column is no runner number.") from error
