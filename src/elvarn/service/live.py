"""Benches that send their figures: a line to each, the samples that came last, and what is wrong when none do."""

import asyncio
import contextlib
import re
import time
from collections import deque
from collections.abc import AsyncIterator
from dataclasses import dataclass, field
from uuid import UUID

from elvarn import units
from elvarn.core.bench.reference import flow_at_depression
from elvarn.core.bench.samples import USUAL_COUNT, range_findings, series_of, settled
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER, REFERENCE_DEPRESSION
from elvarn.service.taken import Taken

KEPT = 400  # samples: twenty seconds at the usual rate
SILENT_S = 3.0
AGAIN_S = 2.0
LONGEST_LINE = 400
SERIAL_WAIT_S = 0.5
FIELDS = ("flow", "depression", "temperature", "range")
NUMBER = r"[+-]?\d+(?:\.\d+)?"
SCPI_PATTERN = "DATA {flow},{depression},{temperature},{range}"


@dataclass(frozen=True)
class Line:
    """How a bench's figures come in: where it answers, what starts it, and what one of its lines looks like.

    The pattern names its figures: "{flow};{depression}". Flow is CFM, depression inH2O, range percent of full scale. A
    device ("/dev/ttyUSB0") is a serial line; without one, the bench answers at host and port.
    """

    host: str = "127.0.0.1"
    port: int = 5125
    pattern: str = SCPI_PATTERN
    greeting: str = "OUTP ON\nINIT\n"
    farewell: str = "ABOR\n"
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


@dataclass(frozen=True)
class LiveState:
    """What the screen shows of a line: whether it speaks, the samples that are new, and what the last ones make."""

    state: str
    words: str
    new: list[LiveSample] = field(default_factory=list)
    count: int = 0
    mean: units.Shown | None = None
    scatter: units.Shown | None = None
    taken: Taken | None = None
    doubts: list[str] = field(default_factory=list)


class Bench:
    """The line to one bench. It is held while somebody looks, and taken up again when it breaks."""

    def __init__(self, line: Line) -> None:
        self.line = line
        self._pattern = pattern_of(line.pattern)
        self._samples: deque[LiveSample] = deque(maxlen=KEPT)
        self._number = 0
        self._last_heard = 0.0
        self._garbage = 0
        self._connected = False
        self._came = asyncio.Event()
        self._watchers = 0
        self._task: asyncio.Task[None] | None = None

    async def watch(self, preset: units.Preset) -> AsyncIterator[LiveState]:
        """States as they come, about twenty a second, or one a second while nothing does."""
        self._watchers += 1
        if self._task is None:
            self._task = asyncio.create_task(self._hold())
        seen = self._number
        try:
            while True:
                with contextlib.suppress(TimeoutError):
                    await asyncio.wait_for(self._came.wait(), 1.0)
                self._came.clear()
                new = [sample for sample in self._samples if sample.number > seen]
                seen = self._number
                yield self.state(preset, new)
        finally:
            self._watchers -= 1
            if not self._watchers and self._task is not None:
                task, self._task = self._task, None
                task.cancel()
                with contextlib.suppress(asyncio.CancelledError):
                    await task

    def state(self, preset: units.Preset, new: list[LiveSample]) -> LiveState:
        """What the line says now."""
        if not self._connected:
            words = f"No bench answers at {self.line.where}. Switch it on; Elvarn tries again by itself."
            return LiveState("gone", words)
        if time.monotonic() - self._last_heard > SILENT_S:
            words = "The bench is connected and says nothing."
            if self._garbage:
                words = "The bench sends lines that do not fit its pattern. Correct the pattern in the set-up."
            return LiveState("garbage" if self._garbage else "silent", words)
        return self._speaking(preset, new)

    def _speaking(self, preset: units.Preset, new: list[LiveSample]) -> LiveState:
        count = self.line.samples
        last = list(self._samples)[-2 * count :]
        flows = [sample.flow_cfm for sample in last]
        depressions = [sample.depression_inh2o * INCH_OF_WATER for sample in last]
        taken = flows[-count:]
        if not taken:
            return LiveState("speaking", "", new)
        if min(taken) <= 0:
            return self._at_rest(new, last[-count:])
        series = series_of(taken)
        pulled = sum(depressions[-count:]) / len(depressions[-count:])
        used = last[-1].range_percent
        return LiveState(
            "speaking",
            "",
            new,
            series.count,
            _shown(series.mean, pulled, preset),
            _shown(series.scatter, pulled, preset) if series.scatter else None,
            Taken(taken, pulled / INCH_OF_WATER, used, settled(flows, depressions, count)),
            [finding.text for finding in range_findings(used / 100)] if used is not None else [],
        )

    def _at_rest(self, new: list[LiveSample], last: list[LiveSample]) -> LiveState:
        """Nothing flows: there is no figure, and yet a zero to take."""
        flows = [sample.flow_cfm for sample in last]
        pulled = sum(sample.depression_inh2o for sample in last) / len(last)
        return LiveState("speaking", "", new, len(flows), taken=Taken(flows, max(pulled, 0.0)))

    async def _hold(self) -> None:
        while True:
            try:
                await (self._listen_serial() if self.line.device else self._listen())
            except (OSError, EOFError, asyncio.LimitOverrunError, ValueError):
                pass
            finally:
                self._connected = False
                self._came.set()
            await asyncio.sleep(AGAIN_S)

    async def _listen(self) -> None:
        reader, writer = await asyncio.open_connection(self.line.host, self.line.port, limit=LONGEST_LINE)
        try:
            writer.write(self.line.greeting.encode())
            await writer.drain()
            self._speaks()
            while raw := await reader.readline():
                self._take(raw.decode(errors="replace").strip())
        finally:
            with contextlib.suppress(OSError):
                writer.write(self.line.farewell.encode())
                writer.close()
                await writer.wait_closed()

    async def _listen_serial(self) -> None:
        """A serial line, read in a thread of its own: it has no other way to wait. Only one reader at a time."""
        from serial import Serial

        def opened() -> Serial:
            return Serial(self.line.device, self.line.baud, timeout=SERIAL_WAIT_S, exclusive=True)

        port = await asyncio.to_thread(opened)
        try:
            await asyncio.to_thread(port.write, self.line.greeting.encode())
            self._speaks()
            while True:
                raw = await asyncio.to_thread(port.readline, LONGEST_LINE)
                if raw.endswith(b"\n"):
                    self._take(raw.decode(errors="replace").strip())
        finally:
            with contextlib.suppress(OSError):
                port.write(self.line.farewell.encode())
            port.close()

    def _speaks(self) -> None:
        self._connected, self._last_heard, self._garbage = True, time.monotonic(), 0
        self._came.set()

    def _take(self, text: str) -> None:
        sample = read_line(self._pattern, text, self._number + 1)
        if sample is None:
            self._garbage += 1
            return
        self._number, self._last_heard, self._garbage = sample.number, time.monotonic(), 0
        self._samples.append(sample)
        self._came.set()


class LiveBenches:
    """The lines that are held, by bench. A line that was changed is taken up anew."""

    def __init__(self) -> None:
        self._benches: dict[UUID, Bench] = {}

    def bench(self, bench_id: UUID, line: Line) -> Bench:
        """The line to a bench."""
        found = self._benches.get(bench_id)
        if found is None or found.line != line:
            found = self._benches[bench_id] = Bench(line)
        return found


def pattern_of(words: str) -> re.Pattern[str]:
    """A line's pattern as a regular expression. Raises ValueError where it names no flow or something unknown."""
    parts = re.split(r"\{(\w+)\}", words)
    named = parts[1::2]
    unknown = [name for name in named if name not in FIELDS]
    if unknown:
        raise ValueError(f"'{{{unknown[0]}}}' is no figure of a line. Known: {', '.join(FIELDS)}.")
    if "flow" not in named or len(set(named)) < len(named):
        raise ValueError("The pattern has to name {flow}, and each figure once.")
    texts = [re.escape(text) for text in parts[::2]]
    figures = [rf"\s*(?P<{name}>{NUMBER})\s*" for name in named]
    return re.compile("".join(a + b for a, b in zip(texts, [*figures, ""], strict=True)))


def read_line(pattern: re.Pattern[str], text: str, number: int) -> LiveSample | None:
    """A line as a sample, or None where it does not fit. Without a depression, the reference is taken."""
    match = pattern.fullmatch(text)
    if match is None:
        return None
    figures = {name: float(value) for name, value in match.groupdict().items() if value is not None}
    return LiveSample(number, figures["flow"], figures.get("depression", 28.0), figures.get("range"))


def _shown(flow_cfm: float, depression: float, preset: units.Preset) -> units.Shown:
    """A flow at the depression that was pulled, as it is at the reference."""
    flow = flow_cfm * CUBIC_FOOT_PER_MINUTE
    return units.show(flow_at_depression(flow, max(depression, 1.0), REFERENCE_DEPRESSION), "flow", preset)
