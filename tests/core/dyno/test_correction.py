"""Where each correction standard ends."""

import pytest

from elvarn.core.dyno.correction import Standard, correct, power_from_torque, torque_from_power
from elvarn.core.errors import OutOfRange
from elvarn.core.gas.air import Weather

MILD = Weather(298.0, 100_000.0, 0.3)


def codes(standard, weather, boosted=False):
    return [finding.code for finding in correct(standard, weather, boosted).findings]


@pytest.mark.parametrize("standard", [Standard.SAE_J1349, Standard.ISO_1585])
def test_says_nothing_inside_the_limits(standard):
    assert codes(standard, MILD) == []


def test_says_what_lies_outside():
    mountain = Weather(303.15, 84_000.0, 0.3)
    assert codes(Standard.SAE_J1349, mountain) == ["factor_out_of_limits", "pressure_out_of_limits"]
    assert codes(Standard.ISO_1585, mountain) == ["factor_out_of_limits"]
    assert codes(Standard.SAE_J1349, Weather(283.15, 100_000.0, 0.3)) == ["temperature_out_of_limits"]


def test_warns_of_regulated_boost():
    assert codes(Standard.SAE_J1349, MILD, boosted=True) == ["boosted"]


def test_observed_figures_stay_as_they_are():
    assert correct(Standard.OBSERVED, Weather(313.15, 84_000.0, 0.9)).factor == 1.0


@pytest.mark.parametrize("air", [(400.0, 1e5, 0.5), (293.0, 2e5, 0.5), (293.0, 1e5, 50.0)])
def test_refuses_air_in_which_nobody_works(air):
    with pytest.raises(OutOfRange):
        Weather(*air)


def test_torque_and_power_are_each_other_turned_round():
    assert torque_from_power(power_from_torque(231.0, 5200), 5200) == pytest.approx(231.0)
    with pytest.raises(OutOfRange):
        torque_from_power(1000.0, 0)
