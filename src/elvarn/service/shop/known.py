"""What is known of the shop and its benches, kept in this process for as long as their revision stands."""

from collections.abc import Callable, Hashable
from typing import Any, TypeVar
from uuid import UUID
from weakref import WeakKeyDictionary

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from elvarn.service.kernel.memo import Memo
from elvarn.store import queries
from elvarn.store.revision import Revision, in_snapshot, shop_revision

Value = TypeVar("Value")
MOST_KEPT = 32
_KEPT: "WeakKeyDictionary[Engine, Memo[Any, Any]]" = WeakKeyDictionary()


def known(
    session: Session,
    what: Hashable,
    make: Callable[[], Value],
    revise: Callable[[Session], Revision] = shop_revision,
) -> Value:
    """The value kept at a revision, the shop's if no other is told. A session that may write asks anew: what it sees
    may be taken back."""
    if not in_snapshot(session):
        return make()
    memo = _KEPT.setdefault(session.get_bind().engine, Memo(MOST_KEPT))
    found: Value = memo.get((what, revise(session)), make)
    return found


def names_of_people(session: Session) -> dict[UUID, str]:
    """Everybody's name by id."""
    return known(session, "people", lambda: queries.names_of_people(session))
