"""A stand-in for a flatbed scanner: openings in a sheet of metal or gasket with rulers beside them, as a scan with
uneven light and noise."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from io import BytesIO
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image

Sheet = Literal["gasket", "metal"]
Picture = NDArray[np.float32]

MM_PER_INCH = 25.4
FINE = 4  # times finer than its dots, an edge is drawn
SHEET_LEVEL, OPENING_LEVEL = {"gasket": 95.0, "metal": 165.0}, {"gasket": 215.0, "metal": 28.0}
BED_LEVEL = 225.0
BLUR, NOISE, UNEVEN = 1.0, 7.0, 14.0  # dots; grey levels
RULER_MM, STROKE, STROKE_LEVEL = 100.0, 0.1, 20.0  # mm, half a stroke's width in mm, grey level


@dataclass(frozen=True, eq=False)
class Cut:
    """An opening: points (n, 2) [mm, y up] round its middle, and where that lies on the page [mm, y down]."""

    points: NDArray[np.float64]
    x: float
    y: float


def scan(
    cuts: Sequence[Cut], width_mm: float, height_mm: float, dpi: int, sheet: Sheet = "gasket", seed: int = 1
) -> NDArray[np.uint8]:
    """Grey levels of a page with these openings, a ruler along its left and lower edges."""
    dots = dpi / MM_PER_INCH
    rows, columns = round(height_mm * dots), round(width_mm * dots)
    page = np.full((rows, columns), SHEET_LEVEL[sheet], np.float32)
    for cut in cuts:
        line = np.column_stack([cut.x + cut.points[:, 0], cut.y - cut.points[:, 1]]) * dots
        _fill(page, line, OPENING_LEVEL[sheet])
    _rulers(page, dots)
    page = np.asarray(cv2.GaussianBlur(page, (0, 0), BLUR), np.float32)
    light = np.linspace(-UNEVEN, UNEVEN, columns)[None, :] + np.linspace(UNEVEN / 2, -UNEVEN / 2, rows)[:, None]
    noise = np.random.default_rng(seed).normal(0.0, NOISE, page.shape)
    return np.clip(page + light + noise, 0, 255).astype(np.uint8)


def as_png(gray: NDArray[np.uint8], dpi: int) -> bytes:
    """A scan as the scanner sends it."""
    out = BytesIO()
    Image.fromarray(gray).save(out, "PNG", dpi=(dpi, dpi))
    return out.getvalue()


def _fill(page: Picture, line: NDArray[np.float64], level: float) -> None:
    """An area of one level, its edge covering each dot by as much as it does."""
    low = np.maximum(np.floor(line.min(axis=0)).astype(int) - 2, 0)
    high = np.minimum(np.ceil(line.max(axis=0)).astype(int) + 2, page.shape[::-1])
    size = high - low
    mask = np.zeros((size[1] * FINE, size[0] * FINE), np.uint8)
    corners = np.round(((line - low + 0.5) * FINE - 0.5) * 16).astype(np.int32)
    cv2.fillPoly(mask, [corners], 255, shift=4)
    part = np.asarray(cv2.resize(mask, (int(size[0]), int(size[1])), interpolation=cv2.INTER_AREA), np.float32) / 255
    here = page[low[1] : high[1], low[0] : high[0]]
    here[:] = here * (1 - part) + level * part


def _rulers(page: Picture, dots: float) -> None:
    """White strips along the lower and the left edge, as far as they fit, from 10 mm in 100 mm long: a stroke every
    millimetre, longer every ten."""
    rows, columns = page.shape
    if columns > 120 * dots:
        _ruler(page, lambda points: points * dots + [0, rows])
    if rows > 120 * dots:
        _ruler(page, lambda points: points[:, ::-1] * [-1, 1] * dots)


def _ruler(page: Picture, placed: Callable[[NDArray[np.float64]], NDArray[np.float64]]) -> None:
    """One of them, drawn as along the lower edge, y up from it below nought."""
    _fill(page, placed(np.array([(8.0, -9.0), (112.0, -9.0), (112.0, -1.0), (8.0, -1.0)])), BED_LEVEL)
    for n in range(int(RULER_MM) + 1):
        long, at = (5.0 if n % 10 == 0 else 2.5), 10.0 + n
        stroke = [(at - STROKE, -9.0), (at + STROKE, -9.0), (at + STROKE, long - 9.0), (at - STROKE, long - 9.0)]
        _fill(page, placed(np.array(stroke)), STROKE_LEVEL)
