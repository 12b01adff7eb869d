"""The throttle's open area against integration of its projection."""

from math import cos, pi, radians, sqrt

import numpy as np
import pytest

from elvarn.core.errors import OutOfRange
from elvarn.core.path import throttle


def projected(bore, shaft, plate, closed):
    """Open area by strips across the bore: the tilted plate and the shaft each hide a part of a strip."""
    radius = bore / 2
    x = (np.arange(200_000) + 0.5) / 200_000 * radius
    half = np.sqrt(radius**2 - x**2)  # half the bore's chord along the shaft at the distance x from it
    reach = radius * cos(radians(plate)) / cos(radians(closed))  # the plate's half height as projected
    plate_half = np.where(x < reach, radius * np.sqrt(np.maximum(1 - (x / reach) ** 2, 0)), 0.0)
    hidden = np.where(x < shaft / 2, half, np.minimum(plate_half, half))
    return float(np.mean(half - hidden) / np.mean(half))


@pytest.mark.independent
@pytest.mark.parametrize(("plate", "closed"), [(12, 6), (25, 6), (40, 7), (60, 7), (75, 6), (88, 5)])
@pytest.mark.parametrize(("bore", "shaft"), [(0.060, 0.009), (0.070, 0.010), (0.045, 0.012)])
def test_open_fraction_is_what_the_projection_leaves(bore, shaft, plate, closed):
    found = throttle.open_fraction(bore, shaft, plate, closed)
    assert found == pytest.approx(projected(bore, shaft, plate, closed), abs=2e-4)


def test_wide_open_is_where_the_plate_hides_behind_the_shaft():
    assert throttle.open_fraction(0.06, 0.009, 90, 6) == throttle.wide_open_fraction(0.06, 0.009)
    assert throttle.wide_open_fraction(0.06, 0.003) > throttle.wide_open_fraction(0.06, 0.009)


def test_a_drop_and_its_equivalent_area_belong_together():
    drop = throttle.throttle_drop(0.14, 0.06, 0.009, 0.85, 1.2)
    area = 0.85 * pi / 4 * 0.06**2 * throttle.wide_open_fraction(0.06, 0.009)
    assert throttle.equivalent_area(0.14, drop, 1.2) == pytest.approx(area)
    assert area == pytest.approx(0.14 / sqrt(2 * drop / 1.2))


def test_impossible_throttles_are_refused():
    with pytest.raises(OutOfRange, match="fills a bore"):
        throttle.wide_open_fraction(0.05, 0.05)
    with pytest.raises(OutOfRange, match="closed at"):
        throttle.open_fraction(0.05, 0.008, 5, 6)


def test_part_of_the_travel_opens_a_part_of_the_area():
    """Closed nothing, open all; between them what is left of the projection; a wider bore of the same make is alike."""
    assert throttle.part_open_fraction(0.07, 0.01, 1.0, 7) == pytest.approx(1)
    quarter = throttle.part_open_fraction(0.07, 0.01, 0.25, 7)
    assert quarter == pytest.approx(projected(0.07, 0.01, 7 + 0.25 * 83, 7) / projected(0.07, 0.01, 90, 7), rel=2e-3)
    assert throttle.part_open_fraction(0.14, 0.02, 0.25, 7) == pytest.approx(quarter)
    with pytest.raises(OutOfRange):
        throttle.part_open_fraction(0.07, 0.01, 1.2, 7)
