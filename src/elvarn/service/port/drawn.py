"""Outlines between the record, the core and a drawing."""

import numpy as np

from elvarn.core.port.outline import Outline
from elvarn.store.models import OutlineReading

DRAWN = 180  # points of an outline on the screen


def outline_in(row: OutlineReading) -> Outline:
    """The outline that a reading holds."""
    return Outline(np.array(row.points_m, float))


def drawn_mm(outline: Outline) -> list[list[float]]:
    """An outline's points for a drawing [mm, y up], as many as it takes."""
    step = max(1, len(outline.points) // DRAWN)
    return [[round(1000 * x, 3), round(1000 * y, 3)] for x, y in outline.points[::step].tolist()]
