"""Outlines in a picture: dark or light openings, found against what surrounds them, their edges between the dots."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import pi

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d, median_filter

from elvarn.core.arrays import Array
from elvarn.core.errors import NotEnoughData

Gray = NDArray[np.uint8]

COARSE = 1400  # dots of the longer side, in which openings are looked for
WINDOWS = (1 / 4, 1 / 12)  # of the shorter side: what light and dark are compared with
LEVEL = 6  # grey levels beyond the surroundings: less is noise
SMALLEST, LARGEST = 2e-4, 0.8  # shares of the picture
LEAST_ROUND = 0.05  # 4 pi area / perimeter²: a line drawn is no opening
POINTS = (48, 720)  # of an outline, by its length
APART = 4.0  # dots from point to point of an outline that is long enough
CALM = 0.02  # of the radius: so far along the line its points are evened out, which takes 0.02 % off a circle
SPUR = 9  # points: a spur of fewer than half of them is no part of a border
LEAST_CONTRAST = 8.0  # grey levels across an edge
MOST = 60  # openings that are told
ALIKE = 0.06  # share of the size within which two outlines are one


@dataclass(frozen=True, eq=False)
class Found:
    """An opening in a picture: its outline (n, 2) [dots], x right and y down, the area it holds [dots²], and the
    contrast across its edge in grey levels."""

    points: Array
    area: float
    contrast: float


def openings(gray: Gray) -> list[Found]:
    """The openings in a picture, the clearest first.

    Arguments: gray levels, shape (rows, columns), 0 is black.
    Returns: what was found, each once.
    Raises: NotEnoughData for a picture too small to measure in, or where nothing closed is found.
    Source: Suzuki and Abe (1985), border following after a local threshold, by OpenCV; the edge itself where the grey
        changes most across it, between the dots, by a parabola (common practice, no source).
    """
    if min(gray.shape) < 100:
        text = f"The picture has {gray.shape[1]} × {gray.shape[0]} dots."
        raise NotEnoughData("picture", text, "Scan it at 300 dpi and more.")
    reach = max(gray.shape) / COARSE
    found: list[Found] = []
    smooth = _gray(cv2.GaussianBlur(gray, (0, 0), max(1.0, 0.35 * reach)))
    for rough in _rough(gray, reach):
        one = _sharpened(smooth, rough, 2.5 * max(reach, 1.0))
        if one is not None and not any(_alike(one, other) for other in found):
            found.append(one)
    if not found:
        text = "No closed outline is found in the picture."
        raise NotEnoughData("picture", text, "Lay it on white or black, in even light, or mark its points by hand.")
    return sorted(found, key=lambda one: -one.contrast * one.area**0.25)[:MOST]


def _rough(gray: Gray, reach: float) -> Iterator[Array]:
    """Closed borders [dots of the whole picture], looked for in a smaller one."""
    size = (round(gray.shape[1] / reach), round(gray.shape[0] / reach)) if reach > 1 else gray.shape[::-1]
    small = _gray(cv2.medianBlur(cv2.resize(gray, size, interpolation=cv2.INTER_AREA), 5))
    ratio = np.array([gray.shape[1] / size[0], gray.shape[0] / size[1]])
    limits = SMALLEST * small.size, LARGEST * small.size
    for mask in _masks(small):
        for contour in cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)[0]:
            line = contour[:, 0, :]
            area, length = cv2.contourArea(contour), cv2.arcLength(contour, True)
            edge = line.min() <= 1 or (line.max(axis=0) >= np.array(size) - 2).any()
            if not edge and limits[0] <= area <= limits[1] and 4 * pi * area > LEAST_ROUND * length**2:
                yield (line + 0.5) * ratio - 0.5


def _masks(small: Gray) -> Iterator[Gray]:
    """What is lighter than its surroundings, near and far, and than the whole."""
    for share in WINDOWS:
        window = int(share * min(small.shape)) | 1
        for level in (LEVEL, -LEVEL):
            yield _tidy(cv2.adaptiveThreshold(small, 255, cv2.ADAPTIVE_THRESH_MEAN_C, cv2.THRESH_BINARY, window, level))
    yield _tidy(cv2.threshold(small, 0, 255, cv2.THRESH_BINARY | cv2.THRESH_OTSU)[1])


def _tidy(mask: cv2.typing.MatLike) -> Gray:
    """Specks and pinholes away: they join what is apart."""
    brush = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))
    return _gray(cv2.morphologyEx(cv2.morphologyEx(mask, cv2.MORPH_OPEN, brush), cv2.MORPH_CLOSE, brush))


def _gray(picture: cv2.typing.MatLike) -> Gray:
    return np.asarray(picture, np.uint8)


def _sharpened(smooth: Gray, rough: Array, reach: float) -> Found | None:
    """A border moved on to the edge itself; None where there is no edge to speak of."""
    line = median_filter(_evenly(rough), (SPUR, 1), mode="wrap")
    for width in (reach, max(reach / 2, 2.0)):
        ahead = np.roll(line, -1, axis=0) - np.roll(line, 1, axis=0)
        ahead = gaussian_filter1d(ahead, 1.5, axis=0, mode="wrap")
        normal = np.column_stack([ahead[:, 1], -ahead[:, 0]])
        normal /= np.maximum(np.linalg.norm(normal, axis=1, keepdims=True), 1e-9)
        off, contrast = _edges(smooth, line, normal, width)
        line = _evenly(line + gaussian_filter1d(median_filter(off, 5, mode="wrap"), 1.0, mode="wrap")[:, None] * normal)
    if contrast < LEAST_CONTRAST:
        return None
    line = _calm(line)
    return Found(line, float(cv2.contourArea(line.astype(np.float32)[:, None])), contrast)


def _calm(line: Array) -> Array:
    """The line without the dots' noise, which makes it longer than it is."""
    return np.asarray(gaussian_filter1d(line, CALM * len(line) / (2 * pi), axis=0, mode="wrap"))


def _edges(smooth: Gray, line: Array, normal: Array, width: float) -> tuple[Array, float]:
    """How far the edge lies from each point along its normal (n,) [dots], and the contrast across it."""
    step = 0.5
    along = np.arange(-np.ceil(width / step), np.ceil(width / step) + 1) * step
    places = line[:, None, :] + along[None, :, None] * normal[:, None, :]
    x, y = places[..., 0].astype(np.float32), places[..., 1].astype(np.float32)
    profile = cv2.remap(smooth, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE).astype(float)
    profile = gaussian_filter1d(gaussian_filter1d(profile, 1.0, axis=0, mode="wrap"), 1.5, axis=1, mode="nearest")
    change = np.diff(profile, axis=1)
    change *= np.sign(np.sum(change)) or 1.0
    at = np.clip(change.argmax(axis=1), 1, change.shape[1] - 2)
    row = np.arange(len(line))
    before, here, after = change[row, at - 1], change[row, at], change[row, at + 1]
    bow = before - 2 * here + after
    peak = np.where(bow < -1e-9, 0.5 * (before - after) / np.where(bow < -1e-9, bow, -1.0), 0.0)
    off = along[at] + step / 2 + np.clip(peak, -0.5, 0.5) * step
    return off, float(np.median(np.abs(profile[:, -1] - profile[:, 0])))


def _evenly(line: Array) -> Array:
    """The same closed line by points at even distances."""
    closed = np.vstack([line, line[:1]])
    run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(closed, axis=0), axis=1))])
    count = int(np.clip(run[-1] / APART, *POINTS))
    at = np.linspace(0, run[-1], count, endpoint=False)
    return np.column_stack([np.interp(at, run, closed[:, 0]), np.interp(at, run, closed[:, 1])])


def _alike(one: Found, other: Found) -> bool:
    size = max(one.area, other.area) ** 0.5
    apart = float(np.linalg.norm(one.points.mean(axis=0) - other.points.mean(axis=0)))
    return apart < ALIKE * size and abs(one.area - other.area) < ALIKE * max(one.area, other.area)
