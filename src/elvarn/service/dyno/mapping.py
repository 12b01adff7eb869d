"""Columns that were mapped before: a table with the same headings is mapped the same."""

from dataclasses import asdict
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from elvarn.exchange.pull_columns import ColumnMap
from elvarn.store.models import ColumnMapping

_ADAPTER = TypeAdapter(ColumnMap)


def remembered(session: Session, headings_digest: str) -> ColumnMap | None:
    """How a table with these headings was mapped before. None where none was."""
    known = session.get(ColumnMapping, headings_digest)
    return mapping_of(known.mapping) if known else None


def mapping_of(kept: dict[str, Any]) -> ColumnMap:
    """A mapping as it was kept."""
    return _ADAPTER.validate_python(kept)


def remember(session: Session, headings_digest: str, mapping: ColumnMap) -> None:
    """Map tables with these headings so from now on."""
    session.merge(ColumnMapping(headings_digest=headings_digest, mapping=asdict(mapping)))
