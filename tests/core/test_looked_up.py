"""What a specialist looks up, against general-purpose libraries and published figures."""

from math import inf, pi

import fluids.filters
import numpy as np
import pytest
import scipy.integrate
import scipy.stats
from statsmodels.stats.power import TTestPower

from elvarn.core.bench.power import smallest_paired_effect
from elvarn.core.dyno.curves import simpson_mean
from elvarn.core.dyno.inertia import inertia_power, moving_average_bias
from elvarn.core.engine.demand import fuel_for_work_from_pounds, fuel_for_work_in_pounds
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.gas.air import Weather, dew_point, heat_capacity_ratio, saturation_pressure, speed_of_sound
from elvarn.core.gas.discharge import mean_velocity
from elvarn.core.path.losses import wire_screen
from elvarn.core.statistics.student import paired_difference, two_sided_probability, welch


class TestAir:
    @pytest.mark.parametrize(("celsius", "humidity", "dew"), [(20, 0.5, 9.26), (30, 0.8, 26.2), (10, 1.0, 10.0)])
    def test_dew_point(self, celsius, humidity, dew):
        """Psychrometric tables (ASHRAE Fundamentals, from memory), to a tenth of a degree."""
        weather = Weather(celsius + 273.15, 101_325, humidity)
        assert dew_point(weather) - 273.15 == pytest.approx(dew, abs=0.1)
        assert saturation_pressure(dew_point(weather)) == pytest.approx(
            humidity * saturation_pressure(celsius + 273.15), rel=1e-9
        )

    def test_dry_air_has_no_dew_point(self):
        with pytest.raises(OutOfRange):
            dew_point(Weather(293.15, 101_325, 0))

    def test_water_makes_sound_faster_by_its_lightness_less_by_its_three_atoms(self):
        """Cramer, J. Acoust. Soc. Am. 93 (1993) 2510, at 35 °C and 80 %: 353.6 m/s against 351.9 dry, from memory."""
        humid, dry = (speed_of_sound(Weather(308.15, 101_325, share)) for share in (0.8, 0.0))
        assert dry == pytest.approx(351.9, abs=0.2)
        assert humid == pytest.approx(354.1, abs=0.8)
        assert heat_capacity_ratio(Weather(308.15, 101_325, 0)) == 1.4
        assert heat_capacity_ratio(Weather(308.15, 101_325, 0.8)) == pytest.approx(1.3965, abs=3e-4)


def test_mean_velocity():
    assert mean_velocity(0.1, pi / 4 * 0.042**2) == pytest.approx(72.18, abs=0.01)
    with pytest.raises(OutOfRange):
        mean_velocity(0.1, 0)


class TestStudent:
    BEFORE, AFTER = (201.6, 199.1, 191.4, 203.0, 198.7), (202.9, 199.0, 193.8, 203.9, 200.1)

    def test_paired_probability_is_that_of_scipy(self):
        found = paired_difference(self.BEFORE, self.AFTER)
        expected = scipy.stats.ttest_rel(self.AFTER, self.BEFORE)
        assert two_sided_probability(found.t, 4) == pytest.approx(expected.pvalue, rel=1e-9)

    def test_welch_probability_is_that_of_scipy(self):
        t, freedom = welch(self.BEFORE, self.AFTER)
        expected = scipy.stats.ttest_ind(self.AFTER, self.BEFORE, equal_var=False)
        assert two_sided_probability(t, freedom) == pytest.approx(expected.pvalue, rel=1e-9)

    def test_a_constant_loss_and_no_difference_have_their_signs(self):
        assert paired_difference((2, 3, 4), (1, 2, 3)).t == -inf
        assert paired_difference((2, 3, 4), (2, 3, 4)).t == 0
        with pytest.raises(NotEnoughData):
            welch((1, 1), (2, 2))

    @pytest.mark.parametrize("pairs", [2, 5, 12])
    def test_smallest_paired_effect_is_that_of_statsmodels(self, pairs):
        expected = TTestPower().solve_power(nobs=pairs, alpha=0.05, power=0.8)
        assert smallest_paired_effect(pairs) == pytest.approx(expected, rel=2e-4)
        with pytest.raises(OutOfRange):
            smallest_paired_effect(1)


@pytest.mark.parametrize("open_fraction", [0.4, 0.6, 0.8])
def test_a_wire_screen_beside_a_round_edged_one(open_fraction):
    """Round wire in turbulent flow against the library's round-edged screen: handbooks differ by more than half."""
    known = fluids.filters.round_edge_screen(open_fraction, 1e4)
    assert 0.5 * known < wire_screen(open_fraction).value < 2.2 * known


def test_fuel_consumption_in_pounds_for_a_horsepower_hour():
    """1 lb/(hp h) is 608.277 g/kWh (Heywood, appendix of unit conversions)."""
    assert fuel_for_work_from_pounds(1.0) * 3.6e9 == pytest.approx(608.277, abs=0.001)
    assert fuel_for_work_in_pounds(fuel_for_work_from_pounds(0.45)) == pytest.approx(0.45)


class TestCurves:
    def test_simpson_mean_is_that_of_scipy(self):
        speeds = np.linspace(3000, 7000, 21)
        curve = 200 + 20 * np.sin(speeds / 1300)
        assert simpson_mean(curve) == pytest.approx(scipy.integrate.simpson(curve, x=speeds) / 4000, rel=1e-12)
        with pytest.raises(NotEnoughData):
            simpson_mean(curve[:4])

    def test_a_drum_spun_up_at_even_power(self):
        """ω = sqrt(2 P t/J): P is the same all along; NumPy's differences on uneven samples."""
        time = np.sort(np.random.default_rng(3).uniform(1, 9, 400))
        power = inertia_power(2.5, time, np.sqrt(2 * 60_000 * time / 2.5))
        assert power[5:-5] == pytest.approx(60_000, rel=2e-3)
        with pytest.raises(OutOfRange):
            inertia_power(2.5, time[::-1], time)
        with pytest.raises(NotEnoughData):
            inertia_power(2.5, time[:2], time[:2])

    def test_a_moving_average_lowers_a_parabola_by_its_bias(self):
        places = np.arange(-200, 201) * 10.0
        curve = 250 - 3e-5 * places**2
        smooth = np.convolve(curve, np.full(11, 1 / 11), "same")
        assert 250 - smooth[200] == pytest.approx(moving_average_bias(3e-5, 10, 5), rel=1e-9)
        with pytest.raises(OutOfRange):
            moving_average_bias(1, 1, -1)
