"""Flow figures of a job as a table, out and in."""

from dataclasses import dataclass

from elvarn.exchange.table import Column, Table, TableError, write_table

RUNNER_WORDS = ("runner", "cylinder", "cyl", "port", "no", "nr", "#")
SIDES = ("before", "after")


@dataclass(frozen=True)
class FlowRow:
    """One figure of a runner, as it is to be typed: side "before" or "after"."""

    cylinder: int
    side: str
    typed: str


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


def read_flows(table: Table, default_unit: str) -> list[FlowRow]:
    """The figures of a table with a runner column, and either columns "before" and "after" or a column "flow".

    Struck readings of our own files are left out. Raises TableError naming what is missing or wrong.
    """
    runner = _find(table, RUNNER_WORDS)
    if runner is None:
        raise TableError("There is no column 'runner'. Head one column 'runner', the others 'before' and 'after'.")
    numbers = [_cylinder(cell, row) for row, cell in enumerate(table.columns[runner].cells, start=1)]
    flow = _find(table, ("flow",))
    if flow is not None:
        return _long_rows(table, numbers, flow, default_unit)
    rows = []
    for side in SIDES:
        index = _find(table, (side,))
        if index is not None:
            column = table.columns[index]
            unit = column.unit or default_unit
            filled = zip(numbers, column.cells, strict=True)
            rows += [FlowRow(number, side, f"{cell} {unit}") for number, cell in filled if cell]
    if not rows:
        raise TableError("There is no column 'before', 'after' or 'flow'. Head the columns of figures so.")
    return rows


def _long_rows(table: Table, numbers: list[int], flow: int, default_unit: str) -> list[FlowRow]:
    sides = _cells(table, ("side", "state"), "before")
    units = _cells(table, ("unit",), table.columns[flow].unit or default_unit)
    struck = _cells(table, ("struck out",), "")
    rows = []
    for number, side, cell, unit, reason in zip(numbers, sides, table.columns[flow].cells, units, struck, strict=True):
        if side not in SIDES:
            raise TableError(f"The side '{side}' of runner {number} is neither 'before' nor 'after'.")
        if cell and not reason:
            rows.append(FlowRow(number, side, f"{cell} {unit or default_unit}"))
    return rows


def _cells(table: Table, words: tuple[str, ...], default: str) -> list[str]:
    index = _find(table, words)
    return [default] * table.row_count if index is None else table.columns[index].cells


def _find(table: Table, words: tuple[str, ...]) -> int | None:
    def fits(column: Column) -> bool:
        return column.heading.lower().strip(". ") in words

    return next((index for index, column in enumerate(table.columns) if fits(column)), None)


def _cylinder(cell: str, row: int) -> int:
    try:
        return int(cell)
    except ValueError as error:
        raise TableError(f"'{cell}' in row {row} of the runner column is no runner number.") from error
