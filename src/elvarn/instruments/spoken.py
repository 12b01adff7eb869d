"""What an instrument says, line by line, over TCP or a serial port; and what one of its lines looks like."""

import asyncio
import contextlib
import re
from collections.abc import AsyncIterator, Callable, Sequence

from elvarn.instruments.reach import Address, address_of, serial_port

LONGEST_LINE = 400
SERIAL_WAIT_S = 0.5
LEAVE_S = 0.5
NUMBER = r"[+-]?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?"
LOST = (OSError, EOFError, asyncio.LimitOverrunError, ValueError)  # what a line that broke off, or never was, raises


async def spoken(line: Address, opened: Callable[[], str], farewell: Callable[[], str]) -> AsyncIterator[str]:
    """The lines that come, until the connection ends. `opened` says what to greet with once it is there, `farewell`
    what is said at the end. Raises Unreachable for where no line may lead, and one of LOST where it breaks off."""
    lines = _over_serial(line, opened, farewell) if line.device else _over_tcp(line, opened, farewell)
    async with contextlib.aclosing(lines) as each:  # type: ignore[type-var]  # a generator, typed by what it yields
        async for text in each:
            yield text


async def _over_tcp(line: Address, opened: Callable[[], str], farewell: Callable[[], str]) -> AsyncIterator[str]:
    address = await asyncio.to_thread(address_of, line.host, line.port)
    reader, writer = await asyncio.open_connection(address, line.port, limit=LONGEST_LINE)
    try:
        writer.write(opened().encode())
        await writer.drain()
        while raw := await reader.readline():
            yield raw.decode(errors="replace").strip()
    finally:
        try:
            with contextlib.suppress(OSError):
                if farewell():
                    await _take_leave(reader, writer, farewell())
        finally:
            writer.close()
            with contextlib.suppress(OSError):
                await writer.wait_closed()


async def _take_leave(reader: asyncio.StreamReader, writer: asyncio.StreamWriter, words: str) -> None:
    """Say farewell and hear the other side out: a connection that is closed on what it still sends is broken off, and
    the farewell with it."""
    writer.write(words.encode())
    writer.write_eof()
    with contextlib.suppress(TimeoutError):
        async with asyncio.timeout(LEAVE_S):
            while await reader.read(LONGEST_LINE):
                pass


async def _over_serial(line: Address, opened: Callable[[], str], farewell: Callable[[], str]) -> AsyncIterator[str]:
    """A serial line, read in a thread of its own: it has no other way to wait. Only one reader at a time."""
    from serial import Serial

    def reach() -> Serial:
        return Serial(serial_port(line.device), line.baud, timeout=SERIAL_WAIT_S, exclusive=True)

    port = await asyncio.to_thread(reach)
    try:
        await asyncio.to_thread(port.write, opened().encode())
        while True:
            raw = await asyncio.to_thread(port.readline, LONGEST_LINE)
            if raw.endswith(b"\n"):
                yield raw.decode(errors="replace").strip()
    finally:
        with contextlib.suppress(OSError):
            port.write(farewell().encode())
        port.close()


def pattern_of(words: str, known: Sequence[str], needed: str) -> re.Pattern[str]:
    """A line's pattern as a regular expression. Raises ValueError where it does not name what is needed, or something
    unknown."""
    parts = re.split(r"\{(\w+)\}", words)
    named = parts[1::2]
    unknown = [name for name in named if name not in known]
    if unknown:
        raise ValueError(f"'{{{unknown[0]}}}' is no figure of a line. Known: {', '.join(known)}.")
    if needed not in named or len(set(named)) < len(named):
        raise ValueError(f"The pattern has to name {{{needed}}}, and each figure once.")
    texts = [re.escape(text) for text in parts[::2]]
    figures = [rf"\s*(?P<{name}>{NUMBER})\s*" for name in named]
    return re.compile("".join(a + b for a, b in zip(texts, [*figures, ""], strict=True)))


def figures_in(pattern: re.Pattern[str], text: str) -> dict[str, float] | None:
    """The figures of a line by name, or None where it does not fit."""
    match = pattern.fullmatch(text)
    if match is None:
        return None
    return {name: float(value) for name, value in match.groupdict().items() if value is not None}
