"""What is known of the shop and its benches, kept in this process for as long as their revision stands."""

from collections.abc import Callable, Hashable, Mapping, Sequence
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
MOST_OF_JOBS = 400
_KEPT: "WeakKeyDictionary[Engine, Memo[Any, Any]]" = WeakKeyDictionary()
_OF_JOBS: "WeakKeyDictionary[Engine, Memo[Any, Any]]" = WeakKeyDictionary()


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


def known_of_jobs(
    session: Session,
    what: Hashable,
    revisions: Mapping[UUID, Revision],
    make: Callable[[Sequence[UUID]], Mapping[UUID, Value]],
) -> dict[UUID, Value]:
    """The value of each job, kept at its own revision and the shop's; those that are not kept are made together."""
    if not in_snapshot(session):
        return dict(make(list(revisions)))
    memo = _OF_JOBS.setdefault(session.get_bind().engine, Memo(MOST_OF_JOBS))
    shop = shop_revision(session)
    keys = {(what, shop, revision, job): job for job, revision in revisions.items()}

    def made(missing: list[Any]) -> dict[Any, Value]:
        values = make([keys[key] for key in missing])
        return {key: values[keys[key]] for key in missing}

    return {keys[key]: value for key, value in memo.get_each(list(keys), made).items()}


def names_of_people(session: Session) -> dict[UUID, str]:
    """Everybody's name by id."""
    return known(session, "people", lambda: queries.names_of_people(session))
