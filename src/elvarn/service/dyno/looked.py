"""What a dropped dyno file holds, without the database: read in a process of its own."""

from dataclasses import dataclass
from hashlib import sha256

import numpy as np

from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import CoreError
from elvarn.core.finding import Finding
from elvarn.exchange.pull_file import (
    ColumnGuess,
    ColumnMap,
    PullRows,
    Trust,
    extract_pull,
    guess_columns,
    guess_map,
)
from elvarn.exchange.table import Table, TableError, read_table

COMMENTS_SHOWN = 6


@dataclass(frozen=True)
class Looked:
    """A dropped file as it is understood by itself: its columns, and how they seem to map. `headings_digest` names
    files with the same headings."""

    row_count: int
    columns: list[ColumnGuess]
    mapping: ColumnMap | None
    comments: list[str]
    written: str
    headings_digest: str


def look(content: bytes) -> Looked:
    """What a file seems to hold. Raises TableError for what is no table."""
    table = read_table(content)
    guesses = guess_columns(table)
    shown = table.comments[:COMMENTS_SHOWN]
    return Looked(table.row_count, guesses, guess_map(guesses), shown, _written(table), _headings_digest(table))


def doubts(content: bytes, mapping: ColumnMap) -> list[Finding]:
    """What stands in the way of using a file so mapped, said before it is kept."""
    try:
        rows = extract_pull(
            read_table(content), mapping, trust="torque" if mapping.torque_column is not None else "power"
        )
        return list(clean_pull(rows.engine_speed_rpm, rows.torque).findings)
    except (TableError, CoreError) as error:
        return [Finding("unusable", str(error), doubt=True)]


def rows_of(content: bytes, mapping: ColumnMap, trust: Trust) -> tuple[PullRows, str]:
    """The usable rows of a mapped file, and its headings' digest. Raises TableError and Contradiction."""
    table = read_table(content)
    rows = extract_pull(table, mapping, trust=trust)
    try:
        clean_pull(rows.engine_speed_rpm, rows.torque)
    except CoreError as error:
        raise TableError(str(error)) from error
    return rows, _headings_digest(table)


def figures(rows: PullRows) -> "np.ndarray[tuple[int], np.dtype[np.bool_]]":
    """Which rows hold both figures, shape (n,)."""
    return np.isfinite(rows.engine_speed_rpm) & np.isfinite(rows.torque)


def _headings_digest(table: Table) -> str:
    headings = "|".join(f"{column.heading}[{column.unit}]" for column in table.columns)
    return sha256(headings.encode()).hexdigest()


def _written(table: Table) -> str:
    delimiter = {"\t": "tab", ";": "semicolon", ",": "comma"}[table.delimiter]
    return f"{delimiter}-separated, decimal {'comma' if table.decimal_comma else 'point'}"
