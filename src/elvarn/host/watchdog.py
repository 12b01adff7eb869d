"""The database is started again when it ends while Elvarn runs."""

import os
import select
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress

from elvarn.host.cluster import Cluster
from elvarn.host.postmaster import hurry_on, postmaster

GLANCE_MS = 300  # how long an end of the watch may wait
AGAIN_S = 3.0


@contextmanager
def watched(cluster: Cluster) -> Iterator[None]:
    """Start the database again whenever it ends within this, whoever ended it."""
    over = threading.Event()
    watching = threading.Thread(target=_watch, args=(cluster, over), name="watchdog", daemon=True)
    watching.start()
    try:
        yield
    finally:
        over.set()
        watching.join()


def _watch(cluster: Cluster, over: threading.Event) -> None:
    while not over.is_set():
        if _lives_on(cluster, over):
            return
        print("The database ended. It is started again …", flush=True)
        try:
            cluster.start()
            print("The database is back.", flush=True)
        except Exception as error:  # it may end again while it is started: whatever that raises, it is tried again
            print(f"{error}\nIt is tried again until it comes.", flush=True)
            over.wait(AGAIN_S)


def _lives_on(cluster: Cluster, over: threading.Event) -> bool:
    """Wait while the database lives. Returns whether it still did when the watch was over."""
    process = postmaster(cluster.folder)
    with suppress(ProcessLookupError):
        if process is None:
            return False
        handle = os.pidfd_open(process)
        try:
            poll = select.poll()
            poll.register(handle, select.POLLIN)
            while not over.is_set():
                if poll.poll(GLANCE_MS):
                    return over.is_set()
                hurry_on(cluster.folder)
            return True
        finally:
            os.close(handle)
    return False
