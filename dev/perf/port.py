"""Speed of port work in the core alone: where to cut next, an outline in a scan, one laid on another."""

import resource

import cv2
import numpy as np
import shapely

from dev.perf.figure import Measured, median, timed
from elvarn.core.port.level import Gauged
from elvarn.core.port.next_cut import RunnerNow, Station, next_cut
from elvarn.core.port.outline import Outline, outline_of, shape_outline
from elvarn.core.port.overlay import overlay
from elvarn.core.port.section import Oval, Round
from elvarn.core.port.worth import record_of
from elvarn.exchange.gray import gray_of
from elvarn.exchange.outline_picture import openings_in
from elvarn.rigs.flatbed import Cut, as_png, scan
from elvarn.service.kernel.apart import MOST_MEMORY, Apart

RUNNERS, STATIONS = 12, 20
LIMIT_S = 0.050
SCAN_DPI, SCAN_LIMIT_S = 600, 2.0
OUTLINE_POINTS, OVERLAY_LIMIT = 2000, 3.0


def cut_next() -> Measured:
    """Twelve runners of twenty stations, each with four walls, all short of the target."""
    generator = np.random.default_rng(4)
    runners = [_runner(generator, number) for number in range(1, RUNNERS + 1)]
    record = record_of([])
    taken = median(lambda: next_cut(runners, record, 0.0008), 15)
    cells = RUNNERS * STATIONS
    areas = generator.uniform(1.2e-3, 1.4e-3, (cells, 120))
    alone = median(lambda: np.sort(areas, axis=1).cumsum(axis=1), 15)
    return Measured(
        f"cut next of {RUNNERS} runners of {STATIONS} stations",
        f"{taken * 1e3:.1f} ms",
        f"NumPy sorting as many walls {alone * 1e3:.1f} ms",
        f"{LIMIT_S * 1e3:.0f} ms",
        taken < LIMIT_S,
    )


def _runner(generator: np.random.Generator, number: int) -> RunnerNow:
    walls = tuple(Gauged(hour, generator.uniform(0.0035, 0.006)) for hour in (12, 3, 6, 9))
    stations = tuple(
        Station(0.015 * n, generator.uniform(1.25e-3, 1.33e-3), 1.39e-3 - 2e-6 * n, walls) for n in range(STATIONS)
    )
    return RunnerNow(number, stations, 0.095)


def outline_in_a_scan() -> Measured:
    """An A4 page at 600 dpi with six openings, read apart as the server does it, in a process that may hold 600 MB."""
    shape, hole = shape_outline(Oval(0.036, 0.044)), shape_outline(Round(0.0085))
    assert shape is not None
    assert hole is not None
    cuts = [Cut(shape.points * 1000, 60 + 80 * (n % 2), 60 + 70 * (n // 2)) for n in range(4)]
    cuts += [Cut(hole.points * 1000, 105, 60), Cut(hole.points * 1000, 105, 130)]
    content = as_png(scan(cuts, 210, 297, SCAN_DPI), SCAN_DPI)
    apart = Apart(most_memory=MOST_MEMORY)
    try:
        apart(openings_in, as_png(scan(cuts[:1], 120, 120, 150), 150))
        taken = median(lambda: apart(openings_in, content), 3)
        used = apart(_most_memory)
    finally:
        apart.end()
    gray = gray_of(content).gray
    alone = timed(lambda: cv2.adaptiveThreshold(gray, 255, cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY, 401, 6))
    return Measured(
        f"outlines in a {SCAN_DPI} dpi A4 scan",
        f"{taken:.2f} s, {used / 1e6:.0f} MB",
        f"OpenCV thresholding it alone {alone:.2f} s",
        f"{SCAN_LIMIT_S:.0f} s, {MOST_MEMORY / 1e6:.0f} MB",
        taken < SCAN_LIMIT_S and used < MOST_MEMORY,
    )


def outlines_laid_over() -> Measured:
    """Two outlines of two thousand points that cross each other, against the geometry library's intersection alone."""
    front, behind = _ragged(1), _ragged(2)
    fresh = [np.array(one.points) for one in (front, behind)]

    def ours() -> None:
        overlay(Outline(fresh[0]), Outline(fresh[1]))

    def alone() -> None:
        shapely.intersection(shapely.Polygon(fresh[0]), shapely.Polygon(fresh[1]))

    taken, reference = median(ours, 40), median(alone, 40)
    return Measured(
        f"overlay of two outlines of {OUTLINE_POINTS} points",
        f"{taken * 1e3:.1f} ms",
        f"the library's intersection {reference * 1e3:.1f} ms ({taken / reference:.2f} x)",
        f"{OVERLAY_LIMIT:.0f} x",
        taken < OVERLAY_LIMIT * reference,
    )


def _ragged(seed: int) -> Outline:
    """A port with the hand of its porter in it."""
    angle = np.linspace(0, 2 * np.pi, OUTLINE_POINTS, endpoint=False)
    hand = np.random.default_rng(seed)
    out = 0.021 + sum(hand.normal(0, 2e-4) * np.cos(n * angle + hand.uniform(0, 6)) for n in range(2, 12))
    return outline_of(np.column_stack([out * np.cos(angle), out * np.sin(angle)]))


def _most_memory() -> float:
    """The most memory that this process held so far [bytes]."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024.0
