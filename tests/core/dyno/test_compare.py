"""Comparison of pulls: exact integrals, all crossings, gains and losses."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from elvarn.core.dyno.compare import band_mean, compare, crossing_speeds, over_band, still_climbing
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import NotEnoughData, OutOfRange

RPM = np.linspace(2500, 7500, 101)
STOCK = clean_pull(RPM, 230 - ((RPM - 4500) / 260) ** 2)
PORTED = clean_pull(RPM + 17, 231 - ((RPM + 17 - 5000) / 270) ** 2)


def test_the_same_pull_twice_differs_in_nothing():
    result = compare(STOCK, STOCK)
    band = over_band(result)
    assert band.power.verdict.change == 0
    assert not band.power.verdict.real
    assert result.torque.crossings == ()
    assert result.torque.gained == result.torque.lost == ()


def test_band_means_are_integrals_of_each_pull_alone():
    """However the samples of the other lie, a mean is the integral of its own curve: SciPy's trapezoid on its grid."""
    band = over_band(compare(STOCK, PORTED), (4500, 7000))
    inner = STOCK.engine_speed_rpm[(STOCK.engine_speed_rpm > 4500) & (STOCK.engine_speed_rpm < 7000)]
    grid = np.concatenate(([4500], inner, [7000]))
    alone = np.trapezoid(np.interp(grid, STOCK.engine_speed_rpm, STOCK.power), grid) / 2500
    assert band.power.stock_mean == pytest.approx(alone, rel=1e-12)
    assert band.power.stock_mean == pytest.approx(band_mean(STOCK.engine_speed_rpm, STOCK.power, 4500, 7000))


def test_mean_of_the_difference_is_the_difference_of_the_means():
    result = compare(STOCK, PORTED)
    band = over_band(result)
    integral = np.trapezoid(result.power.difference, result.grid) / (result.grid[-1] - result.grid[0])
    assert band.power.verdict.change == pytest.approx(integral)


def test_tells_gain_at_the_top_from_loss_below_and_where_they_meet():
    result = compare(STOCK, PORTED)
    assert len(result.torque.crossings) == 1
    assert result.torque.crossings[0].clear
    meeting = result.torque.crossings[0].engine_speed_rpm
    assert result.torque.lost[0].high < meeting < result.torque.gained[0].low
    assert result.torque.gained[0].extreme_rpm == pytest.approx(7500, abs=1)


def test_a_crossing_inside_the_noise_is_not_clear():
    wobble = clean_pull(RPM, STOCK.torque * (1 + 0.001 * np.sin(RPM / 200)))
    result = compare(STOCK, wobble, 0.01)
    assert len(result.torque.crossings) > 3
    assert not any(crossing.clear for crossing in result.torque.crossings)


def test_nothing_is_extrapolated():
    short = clean_pull(RPM[20:60], STOCK.torque[20:60] + 3)
    result = compare(STOCK, short)
    assert (result.grid[0], result.grid[-1]) == (RPM[20], RPM[59])
    band = over_band(result, (2000, 9000))
    assert (band.low, band.high) == (RPM[20], RPM[59])


def test_refuses_pulls_without_common_speeds_and_bands_without_pulls():
    with pytest.raises(NotEnoughData, match="share none"):
        compare(clean_pull(RPM[:20], STOCK.torque[:20]), clean_pull(RPM[50:], STOCK.torque[50:]))
    for band in ((8000, 9000), (5000, 5000), (6000, 5000)):
        with pytest.raises(OutOfRange, match="band"):
            over_band(compare(STOCK, PORTED), band)


def test_touching_is_no_crossing_and_a_stretch_of_zeros_is_one():
    grid = np.array([1.0, 2.0, 3.0, 4.0, 5.0])
    assert crossing_speeds(grid, np.array([1.0, 0.0, 1.0, 1.0, 1.0])) == []
    assert crossing_speeds(grid, np.array([1.0, 0.0, 0.0, 0.0, -1.0])) == [3.0]


@given(st.lists(st.floats(-50, 50).filter(lambda v: abs(v) > 1e-3), min_size=3, max_size=40))
@settings(max_examples=200, deadline=None)
def test_every_root_lies_where_the_sign_changes(values):
    grid, difference = np.arange(len(values), dtype=float), np.array(values)
    roots = crossing_speeds(grid, difference)
    assert len(roots) == int((np.sign(difference[1:]) != np.sign(difference[:-1])).sum())
    for root in roots:
        assert np.interp(root, grid, difference) == pytest.approx(0, abs=1e-6)


@given(st.floats(0.9, 1.1), st.floats(2600, 5000), st.floats(200, 2400))
@settings(max_examples=60, deadline=None)
def test_a_curve_scaled_gains_that_share_of_every_band(factor, low, width):
    band = over_band(compare(STOCK, STOCK.times(factor)), (low, low + width))
    assert band.power.fraction == pytest.approx(factor - 1, abs=1e-9)
    assert band.torque.fraction == pytest.approx(factor - 1, abs=1e-9)


def test_sees_power_that_still_climbs_at_the_end():
    assert still_climbing(clean_pull(RPM, np.full(len(RPM), 200.0)))
    assert not still_climbing(STOCK)
