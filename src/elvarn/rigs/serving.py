"""A simulated instrument on a port of this machine: commands in lines, and a stream of samples."""

import asyncio
import contextlib
import sys
from typing import Protocol

from elvarn.rigs.scpi import Instrument

HOST = "127.0.0.1"


class Rig(Protocol):
    """What is served: its commands, how many samples a second it streams, and one sample as a line."""

    instrument: Instrument
    rate: float

    def line(self) -> str: ...


class RigServer:
    """A rig on a port; every connection speaks to the same one. `INITiate` starts a stream on a connection, `ABORt`
    ends it."""

    def __init__(self, rig: Rig) -> None:
        self._rig = rig
        self._server: asyncio.Server | None = None
        self._connections: set[asyncio.Task[None]] = set()

    async def start(self, port: int) -> int:
        """Listen. Returns the port, which is a free one for 0."""
        self._server = await asyncio.start_server(self._serve, HOST, port)
        return int(self._server.sockets[0].getsockname()[1])

    async def stop(self) -> None:
        """Close the port and every connection."""
        if self._server is not None:
            self._server.close()
            self._server = None
        for connection in list(self._connections):
            await _ended(connection)

    async def _serve(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        streaming: asyncio.Task[None] | None = None
        mine = asyncio.current_task()
        assert mine is not None
        self._connections.add(mine)
        try:
            while line := await reader.readline():
                words = line.decode(errors="replace").strip()
                first = words.upper()
                if first in ("INIT", "INITIATE"):
                    streaming = streaming or asyncio.create_task(self._stream(writer))
                elif first in ("ABOR", "ABORT"):
                    await _ended(streaming)
                    streaming = None
                else:
                    answer = self._rig.instrument.run(words)
                    if answer is not None:
                        writer.write(f"{answer}\n".encode())
                        await writer.drain()
        except ConnectionError:
            pass
        finally:
            self._connections.discard(mine)
            await _ended(streaming)
            with contextlib.suppress(OSError):
                writer.close()
                await writer.wait_closed()

    async def _stream(self, writer: asyncio.StreamWriter) -> None:
        """A sample each time that one is due: what a sample takes does not add up."""
        clock = asyncio.get_running_loop().time
        due = clock()
        while True:
            writer.write(f"DATA {self._rig.line()}\n".encode())
            await writer.drain()
            due = max(due + 1 / self._rig.rate, clock() - 1)
            await asyncio.sleep(due - clock())


async def serve_until_stopped(rig: Rig, port: int, name: str, hint: str) -> None:
    """Serve a rig until the program is stopped; commands can be typed at its window, as `hint` says."""
    server = RigServer(rig)
    found = await server.start(port)
    print(f"A simulated {name} answers at {HOST}:{found}  (Ctrl-C stops it)", flush=True)
    if sys.stdin.isatty():
        print(f"Commands can be typed here too: {hint}", flush=True)
        asyncio.get_running_loop().add_reader(sys.stdin, _typed_here, rig)
    try:
        await asyncio.Event().wait()
    finally:
        await server.stop()


def _typed_here(rig: Rig) -> None:
    """A command typed at the rig's own window."""
    line = sys.stdin.readline()
    if not line:
        asyncio.get_running_loop().remove_reader(sys.stdin)
        return
    answer = rig.instrument.run(line.strip())
    print(answer if answer is not None else rig.instrument.next_error(), flush=True)


async def _ended(task: "asyncio.Task[None] | None") -> None:
    if task is not None:
        task.cancel()
        with contextlib.suppress(asyncio.CancelledError, ConnectionError):
            await task
