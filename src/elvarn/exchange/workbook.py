"""A workbook's sheets as rows of text: what the cells show, formulas by their last value."""

import io
import zipfile
import zlib
from datetime import date, datetime, time

# What a damaged one raises: of its archive, its compression, its XML.
BROKEN = (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, LookupError, ValueError, OSError, SyntaxError,
          TypeError, AttributeError)  # fmt: skip
MARK = b"PK\x03\x04"


class WorkbookError(ValueError):
    """A workbook that can't be read."""


def rows_of_workbook(data: bytes, most_rows: int) -> list[list[str]]:
    """The rows of the first sheet, and beneath it those of further sheets with the same first row. Raises WorkbookError
    for what is no workbook, or holds more rows than can be."""
    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        sheets = [[[_text(cell) for cell in row] for row in sheet.iter_rows(values_only=True)] for sheet in book]
    except (InvalidFileException, *BROKEN) as error:
        raise WorkbookError("The file is no workbook that can be read. Export it as XLSX, CSV or TSV.") from error
    filled = [[row for row in rows if any(row)] for rows in sheets]
    first, *others = [rows for rows in filled if rows] or [[]]
    found = [*first, *(row for rows in others if rows[0] == first[0] for row in rows)]
    if len(found) > most_rows:
        raise WorkbookError(f"The file has {len(found)} rows; {most_rows} can be. Export fewer, or in parts.")
    return found


def _text(cell: object) -> str:
    if cell is None or isinstance(cell, bool):
        return ""
    if isinstance(cell, float):
        return f"{cell:.15g}"
    if isinstance(cell, datetime | date | time):
        return cell.isoformat()
    return str(cell).strip()


def is_workbook(data: bytes) -> bool:
    """Whether a file begins as a workbook does."""
    return data[:4] == MARK
