"""A delimited text file as the trade writes it: comma, semicolon or tab, decimal comma, a row of units, comments."""

import csv
import io
import math
import re
from dataclasses import dataclass, field

from elvarn.exchange.workbook import WorkbookError, is_workbook, rows_of_workbook
from elvarn.units import recognise_any_unit

WORKBOOK = "workbook"  # in place of a delimiter
DELIMITERS = ("\t", ";", ",")
FORMULA_MARKS = ("=", "+", "-", "@", "\t")
COMMENT_MARKS = ("#", "//", "%", "*", "'")
MOST_ROWS, MOST_COLUMNS = 100_000, 200  # a pull of an hour, logged a hundred times a second, is thinned before
LONGEST_CELL = 500  # letters
PLAIN_POINT, PLAIN_COMMA = frozenset("0123456789+-."), frozenset("0123456789+-,")
# Units of a log that are no quantity of ours: they tell a row of units.
FURTHER_UNITS = {"s", "sec", "ms", "λ", "lambda", "afr", "°", "deg", "g/s", "kg/h", "lb/h", "lb/min", "v", "-", "psig"}


class TableError(ValueError):
    """A file that is no table; the message says what is wrong, where, and what to do."""


@dataclass(frozen=True)
class Column:
    """One column: its heading without the unit, the unit as written (or empty), and the cells as written."""

    heading: str
    unit: str
    cells: list[str]


@dataclass(frozen=True)
class Table:
    """The columns, the comments above them, and how the file was written."""

    columns: list[Column]
    comments: list[str] = field(default_factory=list)
    delimiter: str = ","
    decimal_comma: bool = False
    _numbers: dict[int, list[float]] = field(default_factory=dict, init=False, repr=False, compare=False)
    _whole: "tuple[Table, slice] | None" = field(default=None, repr=False, compare=False)

    @property
    def row_count(self) -> int:
        return len(self.columns[0].cells) if self.columns else 0

    def numbers(self, index: int) -> list[float]:
        """A column's cells as numbers, NaN where a cell is empty or no number."""
        if self._whole is not None:
            table, rows = self._whole
            return table.numbers(index)[rows]
        if index not in self._numbers:
            self._numbers[index] = _numbers_of(self.columns[index].cells, self.decimal_comma)
        return self._numbers[index]

    def within(self, first: int, last: int) -> "Table":
        """The table from one row to another, both counted from 0 and among them."""
        rows = slice(first, last + 1)
        columns = [Column(one.heading, one.unit, one.cells[rows]) for one in self.columns]
        return Table(columns, self.comments, self.delimiter, self.decimal_comma, (self, rows))


def read_table(data: bytes) -> Table:
    """Read a delimited text file or a workbook. Raises TableError for a file without rows of figures."""
    if is_workbook(data):
        return _of_rows(_workbook(data), [], WORKBOOK)
    lines = _decode(data).replace("\r\n", "\n").replace("\r", "\n").split("\n")
    comments = [line.strip().lstrip("#/%*' ").strip() for line in lines if line.lstrip().startswith(COMMENT_MARKS)]
    kept = [line for line in lines if line.strip() and not line.lstrip().startswith(COMMENT_MARKS)]
    if not kept:
        raise TableError("The file holds no rows. Export it again as CSV or TSV.")
    delimiter = _delimiter(kept)
    return _of_rows(_rows(kept, delimiter), comments, delimiter)


def _workbook(data: bytes) -> list[list[str]]:
    try:
        rows = rows_of_workbook(data, MOST_ROWS)
    except WorkbookError as error:
        raise TableError(str(error)) from error
    if not rows:
        raise TableError("The file holds no rows. Export it again as CSV or TSV.")
    _check_rows(rows)
    return rows


def _of_rows(rows: list[list[str]], comments: list[str], delimiter: str) -> Table:
    decimal_comma = delimiter != WORKBOOK and _uses_decimal_comma(rows, delimiter)
    first = _first_data_row(rows, decimal_comma)
    preamble, headings, units = _head(rows[:first])
    width = max(len(row) for row in rows[first:])
    body = (row if len(row) == width else row + [""] * (width - len(row)) for row in rows[first:])
    cells = [list(column) for column in zip(*body, strict=True)]
    columns = [_column(headings, units, cells[index], index) for index in range(width)]
    used = [column for column in columns if column.heading or any(column.cells)]
    return Table(used, comments + preamble, delimiter, decimal_comma)


def write_table(headings: list[str], units: list[str], rows: list[list[str]], comments: list[str]) -> str:
    """A comma-separated file with comments, headings and a row of units, that `read_table` reads again unchanged. What
    a spreadsheet would take for a formula has an apostrophe before it, and no text makes a line of its own."""
    out = io.StringIO()
    for comment in comments:
        out.write(f"# {' '.join(comment.split())}\n")
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(headings)
    if any(units):
        writer.writerow(units)
    writer.writerows([_harmless(cell) for cell in row] for row in rows)
    return out.getvalue()


def text_of(cell: str) -> str:
    """A text as it was before `write_table` made it harmless."""
    return cell[1:] if cell[:1] == "'" and cell[1:2] in FORMULA_MARKS else cell


def _harmless(cell: str) -> str:
    flat = " ".join(cell.split("\n")).replace("\r", " ")
    return f"'{flat}" if flat[:1] in FORMULA_MARKS and math.isnan(number(flat, decimal_comma=False)) else flat


def _numbers_of(cells: list[str], decimal_comma: bool) -> list[float]:
    """Cells as numbers: at once where all are written plainly, else one by one."""
    if set("".join(cells)) <= (PLAIN_COMMA if decimal_comma else PLAIN_POINT):
        plain = [cell.replace(",", ".") for cell in cells] if decimal_comma else cells
        try:
            return list(map(float, plain)) if all(plain) else [float(cell) if cell else math.nan for cell in plain]
        except ValueError:
            pass
    return [number(cell, decimal_comma) for cell in cells]


def number(cell: str, decimal_comma: bool) -> float:
    """A cell as a number; NaN where it is none."""
    tidy = cell.replace("\u2212", "-").replace("\u00a0", "").replace("\u202f", "").replace(" ", "").replace("'", "")
    tidy = tidy.replace(".", "").replace(",", ".") if decimal_comma else tidy.replace(",", "")
    try:
        value = float(tidy)
    except ValueError:
        return math.nan
    return value if math.isfinite(value) else math.nan


def _decode(data: bytes) -> str:
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16", errors="replace")
    if b"\x00" in data:
        raise TableError("The file is not text. Export it as CSV or TSV.")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def _rows(lines: list[str], delimiter: str) -> list[list[str]]:
    """The cells of each row. Raises TableError for more of anything than a table of the trade holds."""
    if len(lines) > MOST_ROWS:
        raise TableError(f"The file has {len(lines)} rows; {MOST_ROWS} can be. Export fewer, or in parts.")
    try:
        rows = [list(map(str.strip, row)) for row in csv.reader(io.StringIO("\n".join(lines)), delimiter=delimiter)]
    except csv.Error as error:
        raise TableError(f"The file is no table ({error}). Export it again as CSV or TSV.") from error
    _check_rows(rows)
    return rows


def _check_rows(rows: list[list[str]]) -> None:
    for number_of_row, row in enumerate(rows, start=1):
        if len(row) > MOST_COLUMNS:
            raise TableError(f"Row {number_of_row} has {len(row)} columns; {MOST_COLUMNS} can be. Export fewer.")
        if row and max(map(len, row)) > LONGEST_CELL:
            raise TableError(f"Row {number_of_row} has a cell of over {LONGEST_CELL} letters. Export figures alone.")


def _delimiter(lines: list[str]) -> str:
    """The delimiter that most lines hold; a comma inside figures does not outvote a semicolon or tab."""
    for delimiter in DELIMITERS:
        if sum(delimiter in line for line in lines) > len(lines) / 2:
            return delimiter
    return ","


def _uses_decimal_comma(rows: list[list[str]], delimiter: str) -> bool:
    """Whether commas are decimal ones. "5,200" may be a thousand: it counts only where nothing else decides."""
    held = [cell for row in rows for cell in row if "," in cell]
    commas = [cell for cell in held if re.fullmatch(r"[+-]?\d+,\d+([eE][+-]?\d+)?", cell)]
    if not commas:
        return False
    cells = [cell for row in rows for cell in row if "." in cell]
    doubtful = [cell for cell in commas if re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", cell)]
    points = sum(bool(re.fullmatch(r"[+-]?\d+\.\d+([eE][+-]?\d+)?", cell)) for cell in cells)
    clear = len(commas) - len(doubtful)
    return clear > points or (delimiter == ";" and len(commas) > points)


def _first_data_row(rows: list[list[str]], decimal_comma: bool) -> int:
    for index, row in enumerate(rows):
        filled = [cell for cell in row if cell]
        figures = [cell for cell in filled if not math.isnan(number(cell, decimal_comma))]
        if len(figures) >= min(2, len(filled)) and figures:
            return index
    raise TableError("The file holds no row of figures. Export it again as CSV or TSV, one column for each quantity.")


def _head(rows: list[list[str]]) -> tuple[list[str], list[str], list[str]]:
    """Comments, headings and units of the rows above the figures."""
    wide = [index for index, row in enumerate(rows) if sum(bool(cell) for cell in row) >= 2]
    if not wide:
        return [" ".join(filter(None, row)) for row in rows], [], []
    last = wide[-1]
    has_units = len(wide) > 1 and wide[-2] == last - 1 and _looks_like_units(rows[last])
    heading_row = last - 1 if has_units else last
    comments = [" ".join(filter(None, row)) for row in rows[:heading_row]]
    return comments, rows[heading_row], rows[last] if has_units else []


def _looks_like_units(row: list[str]) -> bool:
    """Most of its cells are units that are known."""
    filled = [cell.strip("[]()") for cell in row if cell]
    known = [cell for cell in filled if cell.lower() in FURTHER_UNITS or recognise_any_unit(cell) is not None]
    return len(known) > len(filled) / 2


def _column(headings: list[str], units: list[str], cells: list[str], index: int) -> Column:
    heading = headings[index] if index < len(headings) else ""
    unit = units[index].strip("[]() ") if index < len(units) else ""
    if not unit:
        heading, unit = _unit_in(heading)
    return Column(heading.strip(), unit, cells)


def _unit_in(heading: str) -> tuple[str, str]:
    """ "Torque [N m]" is Torque in N m."""
    tidy = heading.strip()
    opened = max(tidy.rfind("["), tidy.rfind("("))
    if opened < 0 or not tidy.endswith(("]", ")")):
        return tidy, ""
    return tidy[:opened].strip(), tidy[opened + 1 : -1].strip()
