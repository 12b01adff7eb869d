"""What is told to many at once is worked out once."""

import asyncio
from collections.abc import AsyncIterator, Callable, Hashable
from contextlib import aclosing, suppress

MOST_WAITING = 40  # pieces for somebody who does not listen; then the oldest go


class Told:
    """Streams of bytes by what they tell of. Each runs while somebody listens, and ends for all where it ends."""

    def __init__(self) -> None:
        self._listeners: dict[Hashable, set[asyncio.Queue[bytes | None]]] = {}
        self._tasks: dict[Hashable, asyncio.Task[None]] = {}

    async def of(self, key: Hashable, make: Callable[[], AsyncIterator[bytes]]) -> AsyncIterator[bytes]:
        """What a stream tells from now on; `make` begins it where nobody listens yet."""
        mine: asyncio.Queue[bytes | None] = asyncio.Queue(MOST_WAITING)
        listeners = self._listeners.setdefault(key, set())
        listeners.add(mine)
        if key not in self._tasks:
            self._tasks[key] = asyncio.create_task(self._tell(key, make()))
        try:
            while (piece := await mine.get()) is not None:
                yield piece
        finally:
            listeners.discard(mine)
            if not listeners and self._listeners.get(key) is listeners:
                del self._listeners[key]
                task = self._tasks.pop(key, None)
                if task is not None:
                    task.cancel()
                    with suppress(asyncio.CancelledError):
                        await task

    async def _tell(self, key: Hashable, pieces: AsyncIterator[bytes]) -> None:
        try:
            async with aclosing(pieces):  # type: ignore[type-var]  # a generator, typed by what it yields
                async for piece in pieces:
                    self._pass_on(key, piece)
        finally:
            self._tasks.pop(key, None)
            self._pass_on(key, None)

    def _pass_on(self, key: Hashable, piece: bytes | None) -> None:
        for listener in self._listeners.get(key, ()):
            if listener.full():
                listener.get_nowait()
            listener.put_nowait(piece)
