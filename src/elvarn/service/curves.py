"""What is computed of pulls once and kept in memory: a pull is never changed, so neither is what follows from it."""

from collections import OrderedDict
from collections.abc import Callable, Hashable, Sequence
from threading import Lock
from typing import Generic, TypeVar
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.dyno.compare import Comparison
from elvarn.core.dyno.pull import Curve, clean_pull
from elvarn.store import queries

Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")


class Kept(Generic[Key, Value]):
    """The values asked for last, up to a number."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._values: OrderedDict[Key, Value] = OrderedDict()
        self._lock = Lock()

    def get(self, key: Key, make: Callable[[], Value]) -> Value:
        """The kept value, or a newly made one. Two threads may make the same; either is right."""
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
        value = make()
        with self._lock:
            self._values[key] = value
            if len(self._values) > self._most:
                self._values.popitem(last=False)
        return value


class CurveShelf:
    """Clean curves by pull, and comparisons by what was compared."""

    def __init__(self) -> None:
        self._curves: Kept[UUID, Curve] = Kept(128)
        self.comparisons: Kept[Hashable, Comparison] = Kept(32)

    def curves(self, session: Session, pull_ids: Sequence[UUID]) -> list[Curve]:
        """The clean curve of each pull, in order."""
        return [self._curves.get(identifier, lambda i=identifier: _read(session, i)) for identifier in pull_ids]  # type: ignore[misc]


def _read(session: Session, pull_id: UUID) -> Curve:
    speed, torque = queries.rows_of_pull(session, pull_id)
    return clean_pull(np.array(speed), np.array(torque))
