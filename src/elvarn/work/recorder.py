"""Records pulls as the dyno sends them: every sample is in the database within a tenth of a second, so that a pull
survives the browser, and what came of it the server.

Of several processes the one that gets a recording's lock in the database records it; when it ends, another goes on.
"""

import asyncio
import contextlib
from collections.abc import AsyncIterator, Callable
from dataclasses import dataclass, field
from time import monotonic
from typing import Any
from uuid import UUID

from psycopg import AsyncConnection
from psycopg import Error as DatabaseError
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session, sessionmaker

from elvarn.core.dyno.abort import IN_A_ROW, AbortLimits, SweepWatch, breach_in
from elvarn.instruments.dyno_line import read_sample, sample_pattern
from elvarn.instruments.reach import JOINED, Unreachable
from elvarn.instruments.spoken import LOST, spoken
from elvarn.service.dyno import recording
from elvarn.service.dyno.live_words import broken, endless, left_alone, nothing_heard
from elvarn.service.kernel import log
from elvarn.service.kernel.files import FileStore
from elvarn.store.models.recording import Row

LOOK_S = 0.5
KEEP_S = 0.1
AGAIN_S = 0.3
SILENT_S = 20.0
MOST_AWAY_S = 15.0  # a pull left for longer is over: nothing begins by itself
LEAVE_S = 2.0
LONGEST_S = 600.0


@dataclass
class Taken:
    """What came of a recording so far, as far as its end depends on it."""

    fields: list[str]
    limits: AbortLimits
    sweep: SweepWatch = field(default_factory=SweepWatch)
    last: list[dict[str, float]] = field(default_factory=list)
    highest_torque: float = 0.0
    ended: tuple[str, str] | None = None

    def take(self, sample: dict[str, float]) -> None:
        """One more sample; whether that is the end of it."""
        self.last = [*self.last, sample][-IN_A_ROW:]
        if len(self.last) == IN_A_ROW:
            steady = min(one["torque"] for one in self.last)  # a spike is never the highest
            self.highest_torque = max(self.highest_torque, steady)
        found, over = breach_in(self.last, self.limits, self.highest_torque), self.sweep.take(sample["speed"])
        if self.ended is None and found is not None:
            self.ended = ("limit", broken(found))
        elif self.ended is None and over:
            self.ended = ("swept", "")

    def take_again(self, row: Row) -> None:
        """A sample that was kept before this process took over."""
        self.take({name: value for name, value in zip(self.fields, row, strict=True) if value is not None})


class Recorder:
    """Whoever records the pulls of a shop."""

    def __init__(self, database: str, sessions: sessionmaker[Session], files: FileStore) -> None:
        self._database, self._sessions, self._files = database, sessions, files
        self._mine: dict[UUID, asyncio.Task[None]] = {}
        self._woken = asyncio.Event()
        self._held: dict[UUID, _Held] = {}
        self._loop: asyncio.AbstractEventLoop | None = None

    @contextlib.asynccontextmanager
    async def at_work(self) -> AsyncIterator[None]:
        """Record for as long as this lasts."""
        self._loop = asyncio.get_running_loop()
        task = asyncio.create_task(self._look())
        try:
            yield
        finally:
            self._loop = None
            for each in (task, *self._mine.values()):
                each.cancel()
                with contextlib.suppress(asyncio.CancelledError):
                    await each

    def wake(self) -> None:
        """Look at once: a recording was begun. From any thread."""
        self._soon(self._woken.set)

    def stop(self, identifier: UUID) -> None:
        """End a recording at once, where this process records it, whatever the database does. From any thread."""
        held = self._held.get(identifier)
        if held is not None:
            self._soon(held.stop)

    def _soon(self, work: Callable[[], None]) -> None:
        if self._loop is not None:
            self._loop.call_soon_threadsafe(work)

    async def _look(self) -> None:
        while True:
            with contextlib.suppress(SQLAlchemyError, OSError):
                for identifier in await self._asked(recording.open_ones):
                    if identifier not in self._mine:
                        self._mine[identifier] = asyncio.create_task(self._record(identifier))
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(self._woken.wait(), LOOK_S)
            self._woken.clear()

    async def _record(self, identifier: UUID) -> None:
        try:
            async with await AsyncConnection.connect(self._database, autocommit=True) as holder:
                question = "select pg_try_advisory_lock(hashtextextended(%s, 0))"
                found = await (await holder.execute(question, [str(identifier)])).fetchone()
                if found and found[0]:
                    await self._hold(identifier)
        except (DatabaseError, SQLAlchemyError, OSError) as error:
            log.warn("a recording was left for a while", error=type(error).__name__)
        finally:
            self._mine.pop(identifier, None)
            self._held.pop(identifier, None)

    async def _hold(self, identifier: UUID) -> None:
        """Record until the end; what came is kept all along, and whoever asks for the end is heard."""
        known = await self._asked(lambda session: recording.taken_up(session, identifier))
        held = self._held[identifier] = _Held(known)
        if held.taken.ended is not None:
            await held.take_leave()
        async with held.listening():
            while held.taken.ended is None:
                with contextlib.suppress(TimeoutError):
                    await asyncio.wait_for(held.ended.wait(), KEEP_S)
                if await self._keep(identifier, held):
                    held.stop()
                held.give_up()
        await self._end(identifier, held)

    async def _keep(self, identifier: UUID, held: "_Held") -> bool:
        """Keep what came; where the database is away it waits for it. Returns whether somebody asked for the end."""
        new, number = list(held.waiting), held.pieces
        try:
            kept, asked = await self._asked(lambda session: recording.add_piece(session, identifier, number, new))
        except (SQLAlchemyError, OSError):
            return False
        held.waiting = held.waiting[kept:]
        held.pieces += bool(kept)
        return bool(asked)

    async def _end(self, identifier: UUID, held: "_Held") -> None:
        """Keep the rest and end it, however long the database is away: a recording that stays open would be taken up
        again."""
        how, words = held.taken.ended or ("stopped", "")
        while True:
            with contextlib.suppress(SQLAlchemyError, OSError):
                if held.waiting:
                    await self._keep(identifier, held)
                if not held.waiting:
                    await self._asked(lambda session: recording.end(session, self._files, identifier, how, words))
                    return
            await asyncio.sleep(AGAIN_S)

    async def _asked(self, work: Callable[[Session], Any]) -> Any:
        def inside() -> Any:
            with self._sessions.begin() as session:
                return work(session)

        return await asyncio.to_thread(inside)


class _Held:
    """One recording's line, and what came of it that is not kept yet."""

    def __init__(self, known: recording.OpenRecording) -> None:
        self.line, self.fields, self.pieces = known.line, known.fields, known.pieces
        self.taken = Taken(known.fields, known.limits)
        for row in known.samples:
            self.taken.take_again(row)
        self.waiting: list[Row] = []
        self.ended = asyncio.Event()
        self._joined = bool(known.samples)
        self._began = monotonic() - (known.samples[-1][0] or 0.0 if known.samples else 0.0)
        self._heard = monotonic()
        self._pattern = sample_pattern(known.line.pattern)
        self._task: asyncio.Task[None] | None = None
        if self.taken.ended is None and known.away_s > MOST_AWAY_S:
            self.taken.ended = ("away", left_alone(known.away_s))

    @contextlib.asynccontextmanager
    async def listening(self) -> AsyncIterator[None]:
        """Listen for as long as this lasts."""
        self._task = asyncio.create_task(self._listen())
        try:
            yield
        finally:
            self._task.cancel()
            with contextlib.suppress(asyncio.CancelledError):
                await self._task

    def stop(self) -> None:
        """End it by hand: the line is left at once, and the load goes off with it."""
        if self.taken.ended is None:
            self.taken.ended = ("stopped", "Stopped by hand.")
            self.ended.set()
        if self._task is not None:
            self._task.cancel()

    async def _listen(self) -> None:
        """Take what the dyno sends, on a new connection where one breaks; at the end the load goes off."""
        while True:
            with contextlib.suppress(Unreachable, *LOST):
                lines = spoken(self.line, self._greeting, self._farewell)
                async with contextlib.aclosing(lines) as each:  # type: ignore[type-var]
                    async for text in each:
                        self._take(text)
                        if self.taken.ended is not None:
                            self.ended.set()
                            return
            await asyncio.sleep(AGAIN_S)

    def give_up(self) -> None:
        """End where nothing has been heard for long, or nothing came to an end."""
        now = monotonic()
        if self.taken.ended is None and now - self._heard > SILENT_S:
            self.taken.ended = ("silent", nothing_heard(self.line.where, SILENT_S))
        elif self.taken.ended is None and now - self._began > LONGEST_S:
            self.taken.ended = ("long", endless(LONGEST_S))

    async def take_leave(self) -> None:
        """Say farewell to a dyno that was left in the middle of a pull: the load goes off."""
        with contextlib.suppress(Unreachable, TimeoutError, *LOST):
            async with asyncio.timeout(LEAVE_S):
                lines = spoken(self.line, lambda: "", self._farewell)
                async with contextlib.aclosing(lines) as each:  # type: ignore[type-var]
                    async for _ in each:
                        return

    def _greeting(self) -> str:
        """A pull is begun once; after a break it is joined."""
        joined, self._joined = self._joined, True
        return self.line.greeting if not joined else JOINED if self.line.greeting else ""

    def _farewell(self) -> str:
        """The load goes off at the end of a pull; a server that is stopped leaves it to the next one."""
        return self.line.farewell if self.taken.ended is not None else ""

    def _take(self, text: str) -> None:
        sample = read_sample(self._pattern, text)
        if sample is None or "speed" not in sample or "torque" not in sample:
            return
        now = monotonic()
        self._heard = now
        sample.setdefault("time_s", now - self._began)
        self.waiting.append([sample.get(name) for name in self.fields])
        self.taken.take(sample)
