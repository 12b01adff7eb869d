"""What is worked out of a row once for each session in which it is looked at."""

from collections.abc import Callable
from typing import Any, TypeVar

from sqlalchemy import event
from sqlalchemy.orm import Session, object_session

from elvarn.store.models.base import ClientMade

Value = TypeVar("Value")
KEPT = "worked out once"


def once(row: ClientMade, what: str, make: Callable[[], Value]) -> Value:
    """The value kept for this row, or a newly made one; a session that writes forgets what it kept."""
    kept = _kept_of(row)
    if what not in kept:
        kept[what] = make()
    value: Value = kept[what]
    return value


def is_kept(row: ClientMade, what: str) -> bool:
    """Whether a value is kept for this row."""
    return what in _kept_of(row)


def keep(row: ClientMade, what: str, value: Any) -> None:
    """Keep a value for this row that was worked out beside others."""
    _kept_of(row)[what] = value


def let_go(session: Session) -> None:
    """Part a session from its rows, which are kept beyond it: each takes along what was worked out of it."""
    kept = session.info.pop(KEPT, {})
    for row in session.identity_map.values():
        if isinstance(row, ClientMade):
            vars(row)[KEPT] = kept.get(row.id, {})
    session.expunge_all()


def _kept_of(row: ClientMade) -> dict[str, Any]:
    session = object_session(row)
    if session is None:
        found: dict[str, Any] = vars(row).setdefault(KEPT, {})
    else:
        found = session.info.setdefault(KEPT, {}).setdefault(row.id, {})
    return found


@event.listens_for(Session, "after_flush")
def _forget(session: Session, _: object) -> None:
    session.info.pop(KEPT, None)
