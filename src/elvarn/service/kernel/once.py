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
    session = object_session(row)
    if session is None:
        return make()
    kept: dict[Any, Value] = session.info.setdefault(KEPT, {})
    key = (what, row.id)
    if key not in kept:
        kept[key] = make()
    return kept[key]


def is_kept(row: ClientMade, what: str) -> bool:
    """Whether a value is kept for this row."""
    session = object_session(row)
    return session is not None and (what, row.id) in session.info.get(KEPT, {})


def keep(row: ClientMade, what: str, value: Any) -> None:
    """Keep a value for this row that was worked out beside others."""
    session = object_session(row)
    if session is not None:
        session.info.setdefault(KEPT, {})[what, row.id] = value


@event.listens_for(Session, "after_flush")
def _forget(session: Session, _: object) -> None:
    session.info.pop(KEPT, None)
