"""What was worked out lately, kept in memory: by its revision, so that it is right in any process."""

from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

from cachetools import LRUCache

Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")


class Memo(Generic[Key, Value]):
    """The values asked for last, up to a number, or to a sum of what each weighs."""

    def __init__(self, most: int, weigh: Callable[[Value], int] | None = None) -> None:
        self._values: LRUCache[Key, Value] = LRUCache(most, weigh)
        self._lock = Lock()

    def get(self, key: Key, make: Callable[[], Value]) -> Value:
        """The kept value, or a newly made one. Two threads may make the same; either is right."""
        with self._lock:
            if key in self._values:
                return self._values[key]
        value = make()
        with self._lock:
            self._values[key] = value
        return value
