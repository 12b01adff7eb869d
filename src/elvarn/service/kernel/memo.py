"""What was worked out lately, kept in memory: by its revision, so that it is right in any process."""

from collections.abc import Callable, Hashable, Mapping, Sequence
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
        return self.get_each([key], lambda _: {key: make()})[key]

    def get_each(self, keys: Sequence[Key], make: Callable[[list[Key]], Mapping[Key, Value]]) -> dict[Key, Value]:
        """The kept value of each key; those that are not kept are made together."""
        with self._lock:
            found = {key: self._values[key] for key in keys if key in self._values}
        missing = [key for key in keys if key not in found]
        if missing:
            made = make(missing)
            with self._lock:
                self._values.update(made)
            found |= made
        return found
