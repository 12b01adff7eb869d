"""Of several processes on one database one holds the lines to the instruments; the others follow what it hears.

A line can be taken by one program alone. An advisory lock of the database elects the one that holds them; who looks at
a line in another process says so once a second, and is sent what comes. When the holder ends, another takes its place,
and those who follow go on following.
"""

import asyncio
import contextlib
import json
import time
from collections import deque
from collections.abc import AsyncIterator
from dataclasses import asdict, astuple
from typing import Any
from uuid import UUID

from psycopg import AsyncConnection, Error, Notify

from elvarn.instruments.line import AGAIN_S, KEPT, Condition, HeldLine, HeldLines, Line, LiveSample

LOCK = 0x456C7661726E  # the same in every process
HEARD, WANTED = "elvarn_heard", "elvarn_wanted"
ASK_AGAIN_S = 1.0
FORGOTTEN_S = 4.0
MOST_AT_ONCE = 60  # samples: a notification holds 8,000 bytes


class FollowedLine:
    """A line that another process holds: what it sends on is what there is to see."""

    def __init__(self, bench_id: UUID, line: Line, lines: "SharedLines") -> None:
        self.line = line
        self._bench_id = bench_id
        self._lines = lines
        self._samples: deque[LiveSample] = deque(maxlen=KEPT)
        self._condition: Condition = "gone"
        self._heard = 0.0
        self._came = asyncio.Event()

    async def watch(self) -> AsyncIterator[list[LiveSample]]:
        """The samples that are new, as they come; none once a second while none come."""
        seen, asked = self._samples[-1].number if self._samples else 0, 0.0
        while True:
            if time.monotonic() - asked >= ASK_AGAIN_S:
                asked = time.monotonic()
                await self._lines.ask_for(self._bench_id, self.line)
            with contextlib.suppress(TimeoutError):
                await asyncio.wait_for(self._came.wait(), ASK_AGAIN_S)
            self._came.clear()
            new = [sample for sample in self._samples if sample.number > seen]
            seen = self._samples[-1].number if self._samples else 0
            yield new

    @property
    def condition(self) -> Condition:
        """What the process that holds the line says of it; gone where none says anything."""
        return self._condition if time.monotonic() - self._heard < FORGOTTEN_S else "gone"

    def last(self, count: int) -> list[LiveSample]:
        """The samples that came last, at most so many."""
        return list(self._samples)[-count:]

    def take(self, condition: Condition, samples: list[LiveSample]) -> None:
        """Take what the holder sent. Numbers that begin anew are another holder's."""
        if samples and self._samples and samples[0].number <= self._samples[-1].number:
            self._samples.clear()
        self._samples.extend(samples)
        self._condition, self._heard = condition, time.monotonic()
        self._came.set()


class SharedLines:
    """The lines of a shop as one process sees them. Without `share`, this process holds every line itself."""

    def __init__(self, database: str) -> None:
        self._database = database
        self._held = HeldLines()
        self._followed: dict[UUID, FollowedLine] = {}
        self._wanted: dict[UUID, tuple[HeldLine, float]] = {}
        self._sending: dict[UUID, asyncio.Task[None]] = {}
        self._speaker: AsyncConnection[Any] | None = None
        self.holds = True

    def of(self, bench_id: UUID, line: Line) -> HeldLine | FollowedLine:
        """The line to a bench: held here, or followed."""
        if self.holds:
            return self._held.held(bench_id, line)
        found = self._followed.get(bench_id)
        if found is None or found.line != line:
            found = self._followed[bench_id] = FollowedLine(bench_id, line, self)
        return found

    @contextlib.asynccontextmanager
    async def share(self) -> AsyncIterator[None]:
        """Share the lines with other processes of this database for as long as this lasts."""
        self.holds = False
        elected = asyncio.Event()
        task = asyncio.create_task(self._stay(elected))
        await elected.wait()
        try:
            yield
        finally:
            for each in (task, *self._sending.values()):
                each.cancel()
                with contextlib.suppress(asyncio.CancelledError):
                    await each

    async def ask_for(self, bench_id: UUID, line: Line) -> None:
        """Tell whoever holds the lines that this one is looked at."""
        await self._say(WANTED, {"bench": str(bench_id), "line": asdict(line)})

    async def _stay(self, elected: asyncio.Event) -> None:
        while True:
            with contextlib.suppress(Error, OSError):
                await self._run(elected)
            self.holds, self._speaker = False, None
            self._held.let_go()
            elected.set()
            await asyncio.sleep(AGAIN_S)

    async def _run(self, elected: asyncio.Event) -> None:
        async with (
            await AsyncConnection.connect(self._database, autocommit=True) as hears,
            await AsyncConnection.connect(self._database, autocommit=True) as self._speaker,
        ):
            await hears.execute(f"listen {HEARD}")
            await hears.execute(f"listen {WANTED}")
            while True:
                if not self.holds:
                    found = await (await hears.execute("select pg_try_advisory_lock(%s)", [LOCK])).fetchone()
                    self.holds = bool(found and found[0])
                elected.set()
                async for message in hears.notifies(timeout=AGAIN_S):
                    self._take(message)

    def _take(self, message: Notify) -> None:
        told = json.loads(message.payload)
        bench_id = UUID(told["bench"])
        if message.channel == HEARD and bench_id in self._followed:
            samples = [LiveSample(*each) for each in told["samples"]]
            self._followed[bench_id].take(told["condition"], samples)
        elif message.channel == WANTED and self.holds:
            self._wanted[bench_id] = (self._held.held(bench_id, Line(**told["line"])), time.monotonic())
            if bench_id not in self._sending:
                self._sending[bench_id] = asyncio.create_task(self._send(bench_id))

    async def _send(self, bench_id: UUID) -> None:
        """Send on what comes from a bench until nobody has asked for it for a while, or its line is another."""
        held, _ = self._wanted[bench_id]
        try:
            async with contextlib.aclosing(held.watch()) as batches:  # type: ignore[type-var]
                async for new in batches:
                    asked_for, at = self._wanted[bench_id]
                    if asked_for is not held or time.monotonic() - at > FORGOTTEN_S:
                        return
                    for start in range(0, max(len(new), 1), MOST_AT_ONCE):
                        samples = [astuple(sample) for sample in new[start : start + MOST_AT_ONCE]]
                        told = {"bench": str(bench_id), "condition": held.condition, "samples": samples}
                        await self._say(HEARD, told)
        finally:
            del self._sending[bench_id]

    async def _say(self, channel: str, told: dict[str, Any]) -> None:
        """Say it where the database is there to pass it on."""
        if self._speaker is not None:
            with contextlib.suppress(Error, OSError):
                await self._speaker.execute("select pg_notify(%s, %s)", [channel, json.dumps(told)])
