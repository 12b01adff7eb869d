"""A maker's figures held against each other."""

import numpy as np
import pytest

from elvarn.core.constants import HORSEPOWER
from elvarn.core.dyno.claim import gain_findings, implied_engine_speed, means_findings, sum_findings
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import OutOfRange

POUND_FOOT = 1.3558179483


@pytest.mark.parametrize(("torque", "power", "rpm"), [(541.8, 511, 4954), (547.5, 516, 4950), (558.6, 526.8, 4953)])
def test_means_that_belong_together_imply_the_middle_of_their_band(torque, power, rpm):
    """Mean lb·ft and hp over 3,500 to 6,400 rpm of three set-ups: common practice, no source."""
    assert implied_engine_speed(power * HORSEPOWER, torque * POUND_FOOT) == pytest.approx(rpm, abs=1)
    assert means_findings(power * HORSEPOWER, torque * POUND_FOOT, 3500, 6400) == []


def test_a_gain_that_its_own_means_contradict_is_told():
    """511 to 516 hp is no gain of 11 hp; and 522 hp at 547.5 lb·ft lies at 5,009 rpm, which may still be."""
    (found,) = gain_findings(11 * HORSEPOWER, 5 * HORSEPOWER)
    assert found.text == "The means differ by 3.7 kW; 8.2 kW is claimed."
    assert implied_engine_speed(522 * HORSEPOWER, 547.5 * POUND_FOOT) == pytest.approx(5008, abs=1)
    assert gain_findings(5.5 * HORSEPOWER, 5 * HORSEPOWER) == []


def test_the_bound_is_wide_enough_for_a_real_curve_and_no_wider_than_a_few_per_cent():
    """A steep curve: torque falls by a quarter over the band."""
    rpm = np.linspace(3000, 7000, 401)
    curve = clean_pull(rpm, 260 - 0.022 * (rpm - 3500))
    assert means_findings(curve.mean_power(3500, 6400), curve.mean_torque(3500, 6400), 3500, 6400) == []
    (found,) = means_findings(1.05 * curve.mean_power(3500, 6400), curve.mean_torque(3500, 6400), 3500, 6400)
    assert "One of them is of another band" in found.text


def test_a_total_is_the_sum_of_its_parts():
    assert sum_findings(30_000, [12_000, 9_500, 8_000]) == []
    (found,) = sum_findings(45_000, [12_000, 9_500, 8_000])
    assert found.text == "The parts add up to 29.5 kW; 45.0 kW is claimed for all of them."


def test_what_is_no_mean_or_no_band_is_refused():
    with pytest.raises(OutOfRange):
        implied_engine_speed(0.0, 200.0)
    with pytest.raises(OutOfRange):
        means_findings(100_000.0, 200.0, 6000, 5000)
