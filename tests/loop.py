"""Event loops in threads of their own: the browser's driver keeps one running in the tests' thread."""

import asyncio
import threading
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager

from elvarn.rigs.serving import RigServer


def run(coroutine):
    """What a coroutine returns."""
    with ThreadPoolExecutor(1) as pool:
        return pool.submit(asyncio.run, coroutine).result()


@contextmanager
def serving(bench, port=0):
    """The port at which a simulated bench answers meanwhile."""
    loop = asyncio.new_event_loop()
    thread = threading.Thread(target=loop.run_forever)
    thread.start()
    server = RigServer(bench)

    async def end():
        await server.stop()
        rest = [task for task in asyncio.all_tasks() if task is not asyncio.current_task()]
        for task in rest:
            task.cancel()
        await asyncio.gather(*rest, return_exceptions=True)

    try:
        yield asyncio.run_coroutine_threadsafe(server.start(port), loop).result(5)
    finally:
        asyncio.run_coroutine_threadsafe(end(), loop).result(5)
        loop.call_soon_threadsafe(loop.stop)
        thread.join()
        loop.close()
