"""A setting of the shop as it is stored, changed on the version that was seen."""

from typing import Any

from sqlalchemy.orm import Session

from elvarn.service.kernel.errors import Stale
from elvarn.store.models import Setting


def store(session: Session, name: str, what: str, seen: int, value: dict[str, Any]) -> int:
    """Store a setting's value and return its new version; `what` is its word for people. Raises Stale where `seen` is
    not the version that stands."""
    row = session.get(Setting, name, with_for_update=True)
    found = row.version if row else 0
    if found != seen:
        current = row.value if row else {}
        raise Stale(what, {**current, "version": found}, {**value, "version": seen})
    if row is None:
        row = Setting(name=name, value={}, version=0)
        session.add(row)
    row.value, row.version = value, found + 1
    session.flush()
    return row.version
