"""Listeners of a live stream, in a process of their own: how many hear it, and how a small request is answered
meanwhile. Told on standard input whom to ask; tells on standard output what was heard."""

import asyncio
import json
import sys
import time
from typing import Any

HEAD = "GET {path} HTTP/1.1\r\nHost: 127.0.0.1:{port}\r\nAuthorization: Bearer {key}\r\n\r\n"
HEARD = b'"count":10'


async def listen(told: dict[str, Any]) -> dict[str, Any]:
    """Let everybody listen for a while. Returns how many heard it in time, and the waits of small requests [s]."""
    until = time.monotonic() + told["seconds"]
    listeners = (_one(told, until) for _ in range(told["listeners"]))
    *heard, waits = await asyncio.gather(*listeners, _small_requests(told, until))
    return {"heard": sum(map(bool, heard)), "waits": waits}


async def _one(told: dict[str, Any], until: float) -> bool:
    reader, writer = await _asked(told, told["stream"])
    heard = False
    try:
        async with asyncio.timeout_at(asyncio.get_running_loop().time() + until - time.monotonic()):
            while line := await reader.readline():
                heard = heard or HEARD in line
    except TimeoutError:
        pass
    writer.close()
    return heard


async def _small_requests(told: dict[str, Any], until: float) -> list[float]:
    waits = []
    while time.monotonic() < until:
        began = time.perf_counter()
        reader, writer = await _asked(told, "/api/health")
        while await reader.readline() not in (b"\r\n", b""):
            pass
        waits.append(time.perf_counter() - began)
        writer.close()
        await asyncio.sleep(0.1)
    return waits


async def _asked(told: dict[str, Any], path: str) -> tuple[asyncio.StreamReader, asyncio.StreamWriter]:
    reader, writer = await asyncio.open_connection("127.0.0.1", told["port"])
    writer.write(HEAD.format(path=path, port=told["port"], key=told["key"]).encode())
    return reader, writer


if __name__ == "__main__":
    json.dump(asyncio.run(listen(json.load(sys.stdin))), sys.stdout)
