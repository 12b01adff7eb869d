"""One measured figure of speed, and how times are taken."""

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Measured:
    """One measured figure with its reference and limit."""

    name: str
    value: str
    reference: str
    limit: str
    holds: bool


def median(work: Callable[[], object], times: int) -> float:
    """Median time of a piece of work, in seconds."""
    return statistics.median(timed(work) for _ in range(times))


def timed(work: Callable[[], object]) -> float:
    """Time of a piece of work, in seconds."""
    began = time.perf_counter()
    work()
    return time.perf_counter() - began
