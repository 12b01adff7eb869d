"""An element thought wider: by its own model, not by the square of its bore."""

from math import asin, pi, sqrt

import numpy as np
import pytest

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.passage import Geometry, estimated, measured, with_bore

FLOW = 574 * 0.3048**3 / 60


def open_area(bore, shaft):
    """What a shaft leaves of a round bore: the chord strip, integrated by hand."""
    radius, half = bore / 2, shaft / 2
    return pi * radius**2 - 2 * (half * sqrt(radius**2 - half**2) + radius**2 * asin(half / radius))


@pytest.mark.parametrize("more", [0.005, 0.010])
def test_a_throttles_shaft_and_blade_stay_as_they_are(more):
    """65 mm with a shaft of 9 mm: by the square of the bore the drop would come out some 3 and 6 % too high."""
    before = Geometry(0.065, shaft=0.009)
    read = measured(FLOW, REFERENCE_DEPRESSION, 0.065)
    wider = with_bore("throttle", read, before, 0.065 + more)
    ratio = open_area(0.065 + more, 0.009) / open_area(0.065, 0.009)
    assert wider.area / read.area == pytest.approx(ratio, rel=1e-9)
    assert wider.grade is Grade.ESTIMATED
    by_square = ((0.065 + more) / 0.065) ** 2
    drop_too_high = (wider.area / (read.area * by_square)) ** 2 - 1
    assert drop_too_high == pytest.approx({0.005: 0.0305, 0.010: 0.0574}[more], abs=0.0005)


def test_a_tubes_length_and_bends_stay_as_they_are():
    before = Geometry(0.070, length=0.4)
    read = measured(FLOW, REFERENCE_DEPRESSION, 0.070)
    wider = with_bore("tube", read, before, 0.075)
    was, now = (estimated("tube", Geometry(bore, length=0.4)).area for bore in (0.070, 0.075))
    assert wider.area / read.area == pytest.approx(now / was)
    assert wider.area / read.area > (0.075 / 0.070) ** 2  # friction takes less of it


def test_a_second_bore_goes_with_the_first():
    before = Geometry(0.044, 0.040, length=0.3)
    wider = with_bore("runner", measured(0.1, REFERENCE_DEPRESSION, 0.044, 0.040), before, 0.042)
    assert (wider.bore_in, wider.bore_out) == pytest.approx((0.0462, 0.042))


def test_a_filter_of_which_nothing_is_known_but_its_neck_goes_by_the_square():
    read = measured(FLOW, REFERENCE_DEPRESSION, 0.1)
    assert with_bore("filter", read, Geometry(0.1), 0.11).area / read.area == pytest.approx(1.21)


def test_two_bores_without_a_length_pass_less_than_a_smooth_cone_and_say_how_much_may_be_amiss():
    unknown, smooth = estimated("tube", Geometry(0.06, 0.07)), estimated("tube", Geometry(0.06, 0.07, length=0.08))
    assert unknown.low < unknown.area < unknown.high
    assert np.log(unknown.high / unknown.low) > np.log(smooth.high / smooth.low)
    assert unknown.high <= round_area(0.07)
