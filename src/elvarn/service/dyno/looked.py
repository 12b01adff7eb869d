"""What a dropped dyno file holds, without the database: read in a process of its own."""

from dataclasses import dataclass
from hashlib import sha256

import numpy as np

from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import CoreError
from elvarn.core.finding import Finding
from elvarn.exchange.log_file import LogFound, log_in
from elvarn.exchange.pull_columns import ColumnGuess, ColumnMap, guess_columns, guess_maps
from elvarn.exchange.pull_file import PullRows, Run, Trace, Trust, UnitAsked, extract_pull, runs_of, trace_of
from elvarn.exchange.pull_head import Stated, stated_in
from elvarn.exchange.table import WORKBOOK, Table, TableError, read_table

COMMENTS_SHOWN = 6
_READ: list[
    tuple[bytes, Table]
] = []  # the file that was read last, in this process: it is asked several things in turn


@dataclass(frozen=True)
class Looked:
    """A dropped file as it is understood by itself: its columns, how they seem to map, what it says of air and
    correction. `headings_digest` names files with the same headings."""

    row_count: int
    columns: list[ColumnGuess]
    mapping: ColumnMap | None
    comments: list[str]
    written: str
    headings_digest: str
    stated: Stated
    log: LogFound | None


def table_of(content: bytes) -> Table:
    """A file as a table, read once for all that is asked of it in turn; one at a time is held. Raises TableError for
    what is no table."""
    digest = sha256(content).digest()
    known = next((table for other, table in _READ if other == digest), None)
    if known is None:
        _READ.clear()
        known = read_table(content)
        _READ.append((digest, known))
    return known


def look(content: bytes) -> Looked:
    """What a file seems to hold. Raises TableError for what is no table."""
    table = table_of(content)
    guesses = guess_columns(table)
    shown = table.comments[:COMMENTS_SHOWN]
    maps, written = guess_maps(guesses), _written(table)
    mapping = maps[0] if maps else None
    log = log_in(table, guesses) if mapping is None else None
    return Looked(table.row_count, guesses, mapping, shown, written, _headings_digest(table), stated_in(table), log)


def runs_in(content: bytes, mapping: ColumnMap) -> list[Run]:
    """The sweeps of a file so mapped, or of several that stand beside each other. None where the mapping does not
    fit."""
    table = table_of(content)
    maps = guess_maps(guess_columns(table))
    try:
        return [run for one in (maps if len(maps) > 1 else [mapping]) for run in runs_of(table, one)]
    except TableError:
        return []


def traces_in(content: bytes, runs: list[Run], mapping: ColumnMap) -> list[Trace]:
    """The columns of speed that runs are found in, for drawing."""
    table = table_of(content)
    columns = dict.fromkeys([run.mapping.speed_column for run in runs] or [mapping.speed_column])
    try:
        return [trace_of(table, column) for column in columns]
    except TableError:
        return []


def doubts(content: bytes, mapping: ColumnMap, runs: list[Run]) -> list[Finding]:
    """What stands in the way of using a file so mapped, said before it is kept; of a file with one run, of that run."""
    trust: Trust = "torque" if mapping.torque_column is not None else "power"
    within = (runs[0].first_row, runs[0].last_row) if len(runs) == 1 and runs[0].last_row > runs[0].first_row else None
    try:
        rows = extract_pull(table_of(content), mapping, trust=trust, rows=within, beside=False)
        return list(clean_pull(rows.engine_speed_rpm, rows.torque).findings)
    except (TableError, CoreError, UnitAsked) as error:
        return [Finding("unusable", str(error), doubt=True)]


def rows_of(
    content: bytes, mapping: ColumnMap, trust: Trust, rows: tuple[int, int] | None = None
) -> tuple[PullRows, str]:
    """The usable rows of a mapped file, and its headings' digest. Raises TableError, UnitAsked and Contradiction."""
    table = table_of(content)
    found = extract_pull(table, mapping, trust=trust, rows=rows)
    try:
        clean_pull(found.engine_speed_rpm, found.torque)
    except CoreError as error:
        raise TableError(str(error)) from error
    return found, _headings_digest(table)


def figures(rows: PullRows) -> "np.ndarray[tuple[int], np.dtype[np.bool_]]":
    """Which rows hold both figures, shape (n,)."""
    return np.isfinite(rows.engine_speed_rpm) & np.isfinite(rows.torque)


def _headings_digest(table: Table) -> str:
    headings = "|".join(f"{column.heading}[{column.unit}]" for column in table.columns)
    return sha256(headings.encode()).hexdigest()


def _written(table: Table) -> str:
    if table.delimiter == WORKBOOK:
        return "workbook"
    delimiter = {"\t": "tab", ";": "semicolon", ",": "comma"}[table.delimiter]
    return f"{delimiter}-separated, decimal {'comma' if table.decimal_comma else 'point'}"
