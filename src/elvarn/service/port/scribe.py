"""Templates to scribe by: an outline true to size, with what is to be scribed round it."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, pi, sin
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.arrays import Array
from elvarn.core.errors import CoreError
from elvarn.core.port.outline import Outline
from elvarn.core.port.overlay import grown_to, laid_on
from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.service.kernel.find import find
from elvarn.service.port.drawn import outline_in
from elvarn.service.port.grid import grid_of
from elvarn.service.port.outline_sheet import wanted_of
from elvarn.service.port.outline_words import name_of
from elvarn.service.record.job import load_job
from elvarn.store.models import Job, OutlineReading

PAPERS = ((210.0, 297.0), (297.0, 420.0))  # mm: A4, A3
HEAD, FOOT, SIDE = 45.0, 30.0, 15.0  # mm of paper for words and the bars
LEAST_WIDTH = 150.0  # mm: the bar of 100 mm and its words
HOURS_OUT = 6.0  # mm beyond the largest radius


@dataclass(frozen=True)
class ScribeLine:
    """A line on the template [mm of the page], and what it is."""

    points: list[list[float]]
    dash: str
    says: str


@dataclass(frozen=True)
class Hour:
    """A word on the clock round the outline, and where."""

    x: float
    y: float
    says: str


@dataclass(frozen=True)
class Scribe:
    """A template: the page [mm], its lines, the middle, the hours as seen from the entry."""

    page_width_mm: float
    page_height_mm: float
    lines: list[ScribeLine]
    middle: list[float]
    hours: list[Hour]
    title: str
    says: str
    basis: str


@dataclass(frozen=True)
class Drawing:
    """Outlines for a cutter: each with its name [mm, y up]."""

    name: str
    lines: list[tuple[str, list[tuple[float, float]]]]


def scribe_of(session: Session, outline_id: UUID, on: UUID | None) -> Scribe:
    """The template of an outline: the line to scribe for its target, where it has one, and what it meets."""
    row, lines = _lines(session, outline_id, on)
    corners = np.concatenate([line.points for _, line, _ in lines]) * 1000
    low, high = corners.min(axis=0), corners.max(axis=0)
    width, height = _page(high - low)
    middle = np.array([width / 2, HEAD + HOURS_OUT * 2 + (high - low)[1] / 2])
    centre = (low + high) / 2

    def on_paper(points: Array) -> list[list[float]]:
        placed: list[list[float]] = (middle + (points * 1000 - centre) * [1, -1]).round(4).tolist()
        return placed

    job = session.get(Job, row.job_id) if row.job_id else None
    title = f"{job.title}. " if job else ""
    [start] = on_paper(np.zeros((1, 2)))
    out = float(np.linalg.norm(corners, axis=1).max()) + HOURS_OUT
    return Scribe(
        width,
        height,
        [ScribeLine(on_paper(line.points), dash, says) for says, line, dash in lines],
        start,
        [Hour(start[0] + out * sin(h * pi / 6), start[1] - out * cos(h * pi / 6), str(h)) for h in (12, 3, 6, 9)],
        name_of(row).capitalize(),
        f"{title}As seen from the entry, twelve o'clock up.",
        f"traced {row.taken_at:%Y-%m-%d}",
    )


def drawing_of(session: Session, outline_id: UUID, on: UUID | None) -> Drawing:
    """The same lines for a cutter."""
    row, lines = _lines(session, outline_id, on)
    named = [(says, [(1000 * x, 1000 * y) for x, y in line.points.tolist()]) for says, line, _ in lines]
    return Drawing(name_of(row), named)


def _lines(
    session: Session, outline_id: UUID, on: UUID | None
) -> tuple[OutlineReading, list[tuple[str, Outline, str]]]:
    """The outline itself, what it meets, and what it is to become; each with its words and its dash."""
    row = find(session, OutlineReading, outline_id, "outline")
    outline = outline_in(row)
    lines = [(f"{name_of(row)}, {1e6 * row.area_m2:.0f} mm²", outline, "solid")]
    if on is not None:
        other = find(session, OutlineReading, on, "outline")
        try:
            laid = laid_on(outline_in(other), _places(other.marks_m), outline, _places(row.marks_m))
        except CoreError as error:
            raise Invalid(str(error), path="on") from error
        lines.append((f"{name_of(other)}, {1e6 * other.area_m2:.0f} mm²", laid.outline, "dashed"))
    wanted = _wanted(session, row)
    if wanted is not None and wanted > row.area_m2:
        lines.append((f"scribe: target {1e6 * wanted:.0f} mm²", grown_to(outline, wanted), "dash-dotted"))
    return row, lines


def _wanted(session: Session, row: OutlineReading) -> float | None:
    if row.job_id is None:
        return None
    try:
        grid = grid_of(session, load_job(session, row.job_id))
    except NotFound:
        return None
    return wanted_of(grid, row) if grid else None


def _places(marks: Sequence[Sequence[float]]) -> Array:
    return np.array(marks, float).reshape(-1, 2)


def _page(extent: Array) -> tuple[float, float]:
    """The smallest paper that takes it, else a sheet of its own."""
    width = max(float(extent[0]) + 2 * SIDE + 4 * HOURS_OUT, LEAST_WIDTH)
    height = float(extent[1]) + HEAD + FOOT + 100.0 + 4 * HOURS_OUT
    fits = [paper for paper in PAPERS if width <= paper[0] and height <= paper[1]]
    return fits[0] if fits else (width, height)
