"""What others made is read apart: in a process of its own, with limits of time and memory, so that no file holds up
anybody who works beside it."""

import gc
import multiprocessing
import resource
import signal
from collections.abc import Callable
from concurrent.futures import TimeoutError as TookTooLong
from ctypes import CDLL
from threading import Lock
from typing import ParamSpec, Protocol, TypeVar

from pebble import ProcessExpired, ProcessPool

from elvarn.service.kernel.errors import Invalid

SECONDS = 10.0
MOST_MEMORY = 600_000_000  # bytes that one reading process may hold
SELDOM = 1_000_000  # objects made before those in circles are looked for: a table makes as many, and none in circles
MOST_FILES = 200  # read by one process before a new one takes over
DIES_WITH_ITS_PARENT = 1  # prctl's PR_SET_PDEATHSIG
READERS = ["elvarn.service.dyno.looked", "elvarn.exchange.shelf_file", "elvarn.exchange.picture"]

Taken = ParamSpec("Taken")
Result = TypeVar("Result")


class Run(Protocol):
    """Whoever does a piece of work: this process, or one beside it."""

    def __call__(self, work: Callable[Taken, Result], *args: Taken.args, **kwargs: Taken.kwargs) -> Result: ...


def here(work: Callable[Taken, Result], *args: Taken.args, **kwargs: Taken.kwargs) -> Result:
    """Do it in this process: for files of our own."""
    return work(*args, **kwargs)


class Apart:
    """One reading process, begun when the first file comes. A file that takes too long ends it, and it alone."""

    def __init__(self, seconds: float = SECONDS, most_memory: int = MOST_MEMORY) -> None:
        self._seconds, self._most_memory = seconds, most_memory
        self._pool: ProcessPool | None = None
        self._lock = Lock()

    def __call__(self, work: Callable[Taken, Result], *args: Taken.args, **kwargs: Taken.kwargs) -> Result:
        """What `work` returns or raises there. Raises Invalid where it takes too long or too much memory."""
        future = self._process().schedule(work, args=args, kwargs=kwargs, timeout=self._seconds)
        try:
            result: Result = future.result()
        except TookTooLong as error:
            text = f"This file takes over {self._seconds:g} s to read. Send less of it, or export it again as CSV."
            raise Invalid(text, path="file") from error
        except (MemoryError, ProcessExpired) as error:
            text = "This file is too much to read at once. Send less of it, or export it again as CSV."
            raise Invalid(text, path="file") from error
        return result

    def end(self) -> None:
        """End the process, whatever it reads."""
        with self._lock:
            if self._pool is not None:
                self._pool.stop()  # type: ignore[no-untyped-call]
                self._pool.join()
                self._pool = None

    def _process(self) -> ProcessPool:
        with self._lock:
            if self._pool is None:
                beside = multiprocessing.get_context("forkserver")
                beside.set_forkserver_preload(READERS)
                self._pool = ProcessPool(1, MOST_FILES, _limited, [self._most_memory], beside)
            return self._pool


def _limited(most_memory: int) -> None:
    """A reading process ends with the server, leaves Ctrl-C to it, and takes no more memory than it may."""
    CDLL(None).prctl(DIES_WITH_ITS_PARENT, signal.SIGKILL)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    gc.set_threshold(SELDOM)
    resource.setrlimit(resource.RLIMIT_DATA, (most_memory, most_memory))
