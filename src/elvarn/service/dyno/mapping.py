"""Columns that were mapped before: a table with the same headings is mapped the same."""

from dataclasses import asdict
from hashlib import sha256

from sqlalchemy.orm import Session

from elvarn.exchange.pull_file import ColumnMap
from elvarn.exchange.table import Table
from elvarn.store.models import ColumnMapping


def remembered(session: Session, table: Table) -> ColumnMap | None:
    """How a table with these headings was mapped before. None where none was."""
    known = session.get(ColumnMapping, _headings_digest(table))
    return ColumnMap(**known.mapping) if known else None


def remember(session: Session, table: Table, mapping: ColumnMap) -> None:
    """Map tables with these headings so from now on."""
    session.merge(ColumnMapping(headings_digest=_headings_digest(table), mapping=asdict(mapping)))


def _headings_digest(table: Table) -> str:
    headings = "|".join(f"{column.heading}[{column.unit}]" for column in table.columns)
    return sha256(headings.encode()).hexdigest()
