"""Simulated instruments beside what is measured, in a thread of their own."""

import asyncio
import threading
from collections.abc import Iterator
from contextlib import contextmanager

from elvarn.rigs.serving import Rig, RigServer


@contextmanager
def serving(rig: Rig) -> Iterator[int]:
    """The port at which a rig answers meanwhile."""
    loop = asyncio.new_event_loop()
    thread = threading.Thread(target=loop.run_forever)
    thread.start()
    server = RigServer(rig)
    try:
        yield asyncio.run_coroutine_threadsafe(server.start(0), loop).result(5)
    finally:
        asyncio.run_coroutine_threadsafe(server.stop(), loop).result(5)
        loop.call_soon_threadsafe(loop.stop)
        thread.join()
        loop.close()
