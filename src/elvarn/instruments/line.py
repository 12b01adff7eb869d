"""Lines to instruments that send their figures: held while somebody looks, taken up again when they break."""

import asyncio
import contextlib
import re
import time
from collections import deque
from collections.abc import AsyncIterator
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from elvarn.core.bench.samples import USUAL_COUNT
from elvarn.given import given
from elvarn.instruments.reach import FAREWELLS, GREETINGS, Unreachable
from elvarn.instruments.spoken import LOST, figures_in, pattern_of, spoken

Condition = Literal["gone", "refused", "silent", "garbage", "speaking"]

KEPT = 400  # samples: twenty seconds at the usual rate
SILENT_S = 3.0
AGAIN_S = 2.0
FIELDS = ("flow", "depression", "temperature", "range")
SCPI_PATTERN = "DATA {flow},{depression},{temperature},{range}"


@given
class Line:
    """How a bench's figures come in: where it answers, what starts it, and what one of its lines looks like.

    The pattern names its figures: "{flow};{depression}". Flow is CFM, depression inH2O, range percent of full scale. A
    device ("/dev/ttyUSB0") is a serial line; without one, the bench answers at host and port.
    """

    host: str = "127.0.0.1"
    port: int = 5125
    pattern: str = SCPI_PATTERN
    greeting: str = GREETINGS[0]
    farewell: str = FAREWELLS[0]
    samples: int = USUAL_COUNT
    device: str = ""
    baud: int = 9600

    @property
    def where(self) -> str:
        return self.device or f"{self.host}:{self.port}"


@dataclass(frozen=True)
class LiveSample:
    """One sample: its number on this line, flow [CFM], depression [inH2O], share of the range [%]."""

    number: int
    flow_cfm: float
    depression_inh2o: float
    range_percent: float | None


class HeldLine:
    """The line to one bench. It is held while somebody looks, and taken up again when it breaks."""

    def __init__(self, line: Line) -> None:
        self.line = line
        self._pattern = flow_pattern(line.pattern)
        self._samples: deque[LiveSample] = deque(maxlen=KEPT)
        self._number = 0
        self._last_heard = 0.0
        self._garbage = 0
        self._connected, self._refused = False, False
        self._came = asyncio.Event()
        self._watchers = 0
        self._ended = False
        self._task: asyncio.Task[None] | None = None

    async def watch(self) -> AsyncIterator[list[LiveSample]]:
        """The samples that are new, as they come, about twenty times a second; none once a second while none come.
        It ends where the line is let go."""
        self._watchers += 1
        if self._task is None:
            self._task = asyncio.create_task(self._hold())
        seen = self._number
        try:
            while not self._ended:
                with contextlib.suppress(TimeoutError):
                    await asyncio.wait_for(self._came.wait(), 1.0)
                self._came.clear()
                new = [sample for sample in self._samples if sample.number > seen]
                seen = self._number
                yield new
        finally:
            self._watchers -= 1
            if not self._watchers and self._task is not None:
                task, self._task = self._task, None
                task.cancel()
                with contextlib.suppress(asyncio.CancelledError):
                    await task

    @property
    def condition(self) -> Condition:
        """Whether the line is there, and says something that fits its pattern."""
        if not self._connected:
            return "refused" if self._refused else "gone"
        if time.monotonic() - self._last_heard > SILENT_S:
            return "garbage" if self._garbage else "silent"
        return "speaking"

    def last(self, count: int) -> list[LiveSample]:
        """The samples that came last, at most so many."""
        return list(self._samples)[-count:]

    def let_go(self) -> None:
        """Leave the line to others: who looks at it here has to look again."""
        self._ended = True
        self._came.set()

    async def _hold(self) -> None:
        while True:
            self._refused = False
            try:
                await self._listen()
            except Unreachable:
                self._refused = True
            except LOST:
                pass
            finally:
                self._connected = False
                self._came.set()
            await asyncio.sleep(AGAIN_S)

    async def _listen(self) -> None:
        lines = spoken(self.line, self._speaks, lambda: self.line.farewell)
        async with contextlib.aclosing(lines) as each:  # type: ignore[type-var]  # a generator, typed by what it yields
            async for text in each:
                self._take(text)

    def _speaks(self) -> str:
        self._connected, self._last_heard, self._garbage = True, time.monotonic(), 0
        self._came.set()
        return self.line.greeting

    def _take(self, text: str) -> None:
        sample = read_line(self._pattern, text, self._number + 1)
        if sample is None:
            self._garbage += 1
            return
        self._number, self._last_heard, self._garbage = sample.number, time.monotonic(), 0
        self._samples.append(sample)
        self._came.set()


class HeldLines:
    """The lines that are held, by bench. A line that was changed is taken up anew."""

    def __init__(self) -> None:
        self._benches: dict[UUID, HeldLine] = {}

    def held(self, bench_id: UUID, line: Line) -> HeldLine:
        """The line to a bench."""
        found = self._benches.get(bench_id)
        if found is None or found.line != line:
            found = self._benches[bench_id] = HeldLine(line)
        return found

    def let_go(self) -> None:
        """Leave every line to others."""
        for held in self._benches.values():
            held.let_go()
        self._benches.clear()


def flow_pattern(words: str) -> re.Pattern[str]:
    """A bench's pattern as a regular expression. Raises ValueError where it names no flow or something unknown."""
    return pattern_of(words, FIELDS, "flow")


def read_line(pattern: re.Pattern[str], text: str, number: int) -> LiveSample | None:
    """A line as a sample, or None where it does not fit. Without a depression, the reference is taken."""
    figures = figures_in(pattern, text)
    if figures is None:
        return None
    return LiveSample(number, figures["flow"], figures.get("depression", 28.0), figures.get("range"))
