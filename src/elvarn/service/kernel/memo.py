"""What was worked out lately, kept in memory: by its revision, so that it is right in any process."""

from collections.abc import Callable, Hashable, Mapping, Sequence
from threading import Condition
from typing import Generic, TypeVar

from cachetools import LRUCache, cached

Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")


class Memo(Generic[Key, Value]):
    """The values asked for last, up to a number, or to a sum of what each weighs."""

    def __init__(self, most: int, weigh: Callable[[Value], int] | None = None) -> None:
        self._values: LRUCache[Key, Value] = LRUCache(most, weigh)
        self._changed = Condition()
        self._made_once = cached(self._values, key=_key, condition=self._changed)(_made)

    def get(self, key: Key, make: Callable[[], Value]) -> Value:
        """The kept value, or a newly made one: who asks while another makes it waits for that one. Where making it
        fails, who waited makes it."""
        value: Value = self._made_once(key, make)
        return value

    def get_each(self, keys: Sequence[Key], make: Callable[[list[Key]], Mapping[Key, Value]]) -> dict[Key, Value]:
        """The kept value of each key; those that are not kept are made together. Two threads may make the same; either
        is right."""
        with self._changed:
            found = {key: self._values[key] for key in keys if key in self._values}
        missing = [key for key in keys if key not in found]
        if missing:
            made = make(missing)
            with self._changed:
                self._values.update(made)
            found |= made
        return found


def _key(key: Key, _: object) -> Key:
    return key


def _made(_: Hashable, make: Callable[[], Value]) -> Value:
    return make()
