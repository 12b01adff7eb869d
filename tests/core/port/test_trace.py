"""Openings found in scans, against the outlines that the scans were drawn from."""

import numpy as np
import pytest
import shapely

from elvarn.core.errors import NotEnoughData
from elvarn.core.port.outline import shape_outline
from elvarn.core.port.section import DShape, Oval, Round, RoundedRectangle
from elvarn.core.port.trace import openings
from elvarn.rigs.flatbed import Cut, scan

SHAPES = (Round(0.042), RoundedRectangle(0.045, 0.034, 0.009), Oval(0.030, 0.046), DShape(0.044, 0.036))
AT = ((45, 45), (110, 45), (45, 105), (110, 105))
BOLT, BOLT_AT = Round(0.0085), (78, 75)


def cuts():
    drawn = [(shape_outline(one).points * 1000, *at) for one, at in zip(SHAPES, AT, strict=True)]
    return [Cut(*one) for one in (*drawn, (shape_outline(BOLT).points * 1000, *BOLT_AT))]


def at(found, place, dots):
    """The opening found round a place [mm]."""
    spot = shapely.Point(np.array(place) * dots)
    [one] = [one for one in found if shapely.Polygon(one.points).contains(spot)]
    return shapely.Polygon(one.points)


@pytest.mark.independent
@pytest.mark.parametrize("sheet", ["gasket", "metal"])
@pytest.mark.parametrize("dpi", [300, 600])
def test_a_noisy_scan_gives_areas_within_half_a_percent(sheet, dpi):
    dots = dpi / 25.4
    found = openings(scan(cuts(), 150, 150, dpi, sheet, seed=dpi))
    for section, place in zip(SHAPES, AT, strict=True):
        seen = at(found, place, dots)
        assert seen.area / dots**2 == pytest.approx(section.area * 1e6, rel=0.005)
        assert seen.length / dots == pytest.approx(section.perimeter * 1e3, rel=0.005)
        middle = np.array([seen.centroid.x, seen.centroid.y]) / dots
        assert abs(middle - place)[0] < 0.05  # mm
    hole = at(found, BOLT_AT, dots)
    assert hole.area / dots**2 == pytest.approx(BOLT.area * 1e6, rel=0.01)
    assert np.array([hole.centroid.x, hole.centroid.y]) / dots == pytest.approx(BOLT_AT, abs=0.05)


def test_each_opening_is_told_once_and_rulers_do_not_hide_them():
    found = openings(scan(cuts(), 150, 150, 300))
    for place in (*AT, BOLT_AT):
        at(found, place, 300 / 25.4)
    assert len(found) <= len(AT) + 1 + 4  # both rulers, in and out


def test_a_blank_page_has_no_outline():
    with pytest.raises(NotEnoughData, match="No closed outline"):
        openings(scan([], 100, 100, 200))


def test_an_opening_that_leaves_the_page_is_none():
    with pytest.raises(NotEnoughData, match="No closed outline"):
        openings(scan([Cut(shape_outline(Round(0.042)).points * 1000, 5, 40)], 100, 100, 200))


def test_a_thumbnail_is_too_small_to_measure():
    with pytest.raises(NotEnoughData, match="80 × 60 dots"):
        openings(np.zeros((60, 80), np.uint8))
