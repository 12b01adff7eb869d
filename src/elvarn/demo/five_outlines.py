"""Scans of the hill-climb manifold's flange after stage 2 and of the gasket that came for it: at runner 3 the gasket
stands in the stream."""

from math import pi
from uuid import UUID

import numpy as np
import shapely

from elvarn.core.arrays import Array
from elvarn.core.port.meeting import Of
from elvarn.core.port.outline import outline_of, shape_outline
from elvarn.core.port.section import Round
from elvarn.demo import shop as demo
from elvarn.exchange.outline_picture import FoundInPicture
from elvarn.rigs.flatbed import Cut, Sheet, as_png, scan
from elvarn.service.job import photos
from elvarn.service.kernel.apart import here
from elvarn.service.kernel.files import FileStore
from elvarn.service.port import outlines
from elvarn.service.port.traced import found_in_picture

DPI = 200
DOTS = DPI / 25.4
PAGE = (460.0, 130.0)  # mm
PITCH, FIRST, HEIGHT = 91.0, 50.0, 60.0  # mm: of the ports, and where they lie on the page
HOLES = np.array([(-33.0, -21.0), (33.0, 21.0)])  # mm from a port's middle, y down
EXITS = {1: 40.8, 2: 40.7, 3: 40.8, 4: 40.7, 5: 40.8}  # mm: circles of the same area
LARGER = 1.028  # the gasket
LIPS = {3: (4.0, 0.55), 4: (8.0, 0.25)}  # at this hour it stands so far in the stream, mm


def traced(sessions: demo.Sessions, files: FileStore, shop: demo.DemoShop, job: UUID, state: UUID) -> None:
    """The flange, then its gasket."""
    exits = {runner: _port(mm / 2, runner) for runner, mm in EXITS.items()}
    gaskets = {runner: _gasket(points, runner) for runner, points in exits.items()}
    _page(sessions, files, shop, job, state, Of.RUNNER, "metal", exits, "14:00")
    _page(sessions, files, shop, job, state, Of.GASKET, "gasket", gaskets, "14:30")


def _found_at(found: FoundInPicture, spot: Array) -> list[list[float]]:
    """The smallest opening round a place on the page."""
    at = shapely.Point(spot * DOTS)
    around = [one for one in found.openings if shapely.Polygon(one.points).contains(at)]
    return min(around, key=lambda one: one.area).points


def _page(
    sessions: demo.Sessions, files: FileStore, shop: demo.DemoShop, job: UUID, state: UUID, of: Of, sheet: Sheet,
    shapes: dict[int, Array], time: str,
) -> None:  # fmt: skip
    """One page scanned, found and kept, a port after the other, each laid by its two bolt holes."""
    middles = {runner: np.array([FIRST + PITCH * (runner - 1), HEIGHT]) for runner in shapes}
    hole = shape_outline(Round(0.0086))
    assert hole is not None
    cuts = [Cut(shapes[runner], *middle) for runner, middle in middles.items()]
    cuts += [Cut(hole.points * 1000, *(middle + off)) for middle in middles.values() for off in HOLES]
    content = as_png(scan(cuts, *PAGE, DPI, sheet, seed=7), DPI)
    name = f"{of} scanned"
    with sessions.begin() as session:
        digest = photos.keep_picture(session, files, here, f"{name}.png", content)
        photo = photos.NewPhoto(shop.imre, digest, job, caption=f"outlines: {name}")
        photos.add_photo(session, files, demo.named(job, "photo", name), photo)
    found = found_in_picture(files, here, digest)
    lengths = [_known((10.0, PAGE[1] - 9), (110.0, PAGE[1] - 9)), _known((9.0, 10.0), (9.0, 110.0))]
    for runner, middle in middles.items():
        marks = [_found_at(found, middle + off) for off in HOLES]
        new = outlines.NewOutline(
            shop.imre,
            job,
            state,
            of,
            _found_at(found, middle),
            demo.at("2026-11-03", time),
            runner,
            "310" if of is Of.RUNNER else "",
            [list(shapely.Polygon(one).centroid.coords[0]) for one in marks],
            outlines.NewPicture(digest, lengths),
        )
        with sessions.begin() as session:
            outlines.add_outline(session, demo.named(job, "outline", of, runner), new)


def _known(first: tuple[float, float], second: tuple[float, float]) -> outlines.NewLength:
    """A hundred millimetres of a ruler, from the page's place to its dots."""
    return outlines.NewLength([one * DOTS for one in first], [one * DOTS for one in second], "100 mm")


def _port(radius: float, runner: int) -> Array:
    """A port that is not quite round [mm], with the area of a circle of this radius."""
    angle = np.linspace(0, 2 * pi, 360, endpoint=False)
    out = 1 + 0.055 * np.cos(2 * angle) + 0.008 * np.cos(3 * angle + runner)
    points = np.column_stack([out * np.cos(angle), out * np.sin(angle)])
    sized: Array = points * radius * np.sqrt(pi / (1e6 * outline_of(points / 1000).area))
    return sized


def _gasket(port: Array, runner: int) -> Array:
    """A port's gasket [mm]: a little larger all round, but where it stands in the stream."""
    hour, depth = LIPS.get(runner, (0.0, 0.0))
    out = np.linalg.norm(port, axis=1)
    hours = np.arctan2(port[:, 0], port[:, 1]) / (2 * pi) * 12
    away = (hours - hour + 6) % 12 - 6
    bump = (depth + (LARGER - 1) * out) * np.exp(-((away / 0.55) ** 2)) if depth else 0.0
    larger: Array = port * ((LARGER * out - bump) / out)[:, None]
    return larger
