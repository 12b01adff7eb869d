"""Whether anything was written since: what was computed of the database is kept until then. One process serves."""

from collections.abc import Callable, Hashable
from threading import Lock
from typing import Any

from sqlalchemy import event
from sqlalchemy.orm import Session, sessionmaker

from elvarn.service.curves import Kept


class Changes:
    """Counts writes, and keeps values that hold until the next one."""

    def __init__(self) -> None:
        self._count = 0
        self._lock = Lock()
        self._kept: Kept[Hashable, Any] = Kept(24)

    def watch(self, sessions: sessionmaker[Session]) -> None:
        """Count every commit of a session that wrote something."""
        event.listen(sessions, "after_flush", lambda session, _: session.info.update(wrote=True))
        event.listen(sessions, "after_commit", self._committed)

    def _committed(self, session: Session) -> None:
        if session.info.get("wrote") and not session.in_nested_transaction():
            with self._lock:
                self._count += 1

    def since(self, key: Hashable, make: Callable[[], Any]) -> Any:
        """The value kept under this key since the last write, or a newly made one."""
        return self._kept.get((self._count, key), make)
