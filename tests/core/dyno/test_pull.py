"""Curves from what dynos log: unsorted, repeated, falling, with lost signals."""

from math import pi

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from elvarn.core.dyno.pull import clean_pull, contradictions
from elvarn.core.errors import Inconsistent, NotEnoughData, OutOfRange

RPM = np.arange(2500.0, 7001.0, 100.0)
TORQUE = 230 - ((RPM - 4800) / 300) ** 2


def codes(curve):
    return [finding.code for finding in curve.findings]


def test_a_clean_sweep_stays_as_it_is():
    curve = clean_pull(RPM, TORQUE)
    assert codes(curve) == []
    np.testing.assert_array_equal(curve.engine_speed_rpm, RPM)
    np.testing.assert_allclose(curve.power, TORQUE * RPM * 2 * pi / 60)


def test_cuts_the_run_down_after_the_top():
    rpm = np.concatenate((RPM, [6800.0, 6000.0, 5000.0]))
    torque = np.concatenate((TORQUE, [20.0, -5.0, -8.0]))
    curve = clean_pull(rpm, torque)
    assert codes(curve) == ["run_down"]
    np.testing.assert_array_equal(curve.engine_speed_rpm, RPM)


def test_turns_a_list_from_high_to_low_round():
    curve = clean_pull(RPM[::-1], TORQUE[::-1])
    assert codes(curve) == ["listed_downwards"]
    np.testing.assert_array_equal(curve.torque, TORQUE)


def test_sorts_rows_that_are_in_no_order():
    order = np.random.default_rng(3).permutation(len(RPM))
    curve = clean_pull(RPM[order], TORQUE[order])
    assert codes(curve) == ["unsorted"]
    np.testing.assert_array_equal(curve.torque, TORQUE)


def test_averages_repeated_speeds():
    curve = clean_pull(np.insert(RPM, 10, RPM[10]), np.insert(TORQUE, 10, TORQUE[10] + 4))
    assert codes(curve) == ["repeated_speed"]
    assert curve.torque[10] == pytest.approx(TORQUE[10] + 2)


def test_takes_jitter_of_the_speed_signal_for_what_it_is():
    rpm = RPM + np.where(np.arange(len(RPM)) % 2, 45.0, -45.0) * 0.6
    curve = clean_pull(rpm, TORQUE)
    assert codes(curve) == []
    assert len(curve.torque) == len(RPM)


@pytest.mark.parametrize("lost", [0.0, -12.0, 60.0])
def test_leaves_dropouts_out_and_says_where(lost):
    torque = TORQUE.copy()
    torque[[7, 20]] = lost
    curve = clean_pull(RPM, torque)
    assert codes(curve) == ["dropouts"]
    assert "3,200" in curve.findings[0].text
    assert curve.findings[0].doubt
    assert len(curve.torque) == len(RPM) - 2


def test_leaves_empty_cells_out():
    torque = TORQUE.copy()
    torque[5] = np.nan
    assert codes(clean_pull(RPM, torque)) == ["empty_cells"]


def test_refuses_one_row_and_a_column_that_is_no_speed():
    with pytest.raises(NotEnoughData, match="1 usable row"):
        clean_pull(np.array([3000.0]), np.array([200.0]))
    with pytest.raises(OutOfRange, match="rpm column"):
        clean_pull(TORQUE / 10, RPM)


@given(st.lists(st.tuples(st.floats(500, 9000), st.floats(20, 500)), min_size=12, max_size=60))
@settings(max_examples=150, deadline=None)
def test_whatever_comes_in_speeds_rise_and_nothing_is_invented(rows):
    rpm, torque = np.array(rows).T
    try:
        curve = clean_pull(rpm, torque)
    except (NotEnoughData, OutOfRange):
        return
    assert (np.diff(curve.engine_speed_rpm) > 0).all()
    assert set(curve.engine_speed_rpm) <= set(rpm)
    assert curve.torque.min() >= torque.min() - 1e-9
    assert curve.torque.max() <= torque.max() + 1e-9


def test_finds_where_torque_and_power_contradict_each_other():
    power = TORQUE * RPM * 2 * pi / 60
    assert contradictions(RPM, TORQUE, power * 1.01) is None
    speed, off = contradictions(RPM, TORQUE, power * 1.341)
    assert RPM[0] <= speed <= RPM[-1]
    assert off == pytest.approx(0.341)


def test_single_bad_rows_are_no_contradiction():
    power = TORQUE * RPM * 2 * pi / 60
    power[3] *= 2
    assert contradictions(RPM, TORQUE, power) is None
    with pytest.raises(Inconsistent):
        contradictions(RPM, TORQUE, power[:-1])


def test_a_spike_is_left_out_and_never_the_peak():
    torque = TORQUE.copy()
    torque[20] = 900.0
    curve = clean_pull(RPM, torque)
    assert curve.torque.max() == pytest.approx(TORQUE.max())
    assert codes(curve) == ["spikes"]
    assert "1 spike left out (at 4,500 rpm)" in curve.findings[0].text


def test_negative_speeds_are_left_out_and_told():
    speed = RPM.copy()
    speed[:3] = -100.0
    curve = clean_pull(speed, TORQUE)
    assert curve.lowest == RPM[3]
    assert codes(curve) == ["negative_speed"]
    with pytest.raises(NotEnoughData):
        clean_pull(-RPM, TORQUE)


@given(st.floats(2500, 6900), st.floats(1, 3000))
@settings(max_examples=50, deadline=None)
def test_means_over_a_band_are_the_integrals_of_the_curve(low, width):
    """Against NumPy's trapezoid on the samples inside and the interpolated ends."""
    curve, high = clean_pull(RPM, TORQUE), min(low + width, 7000.0)
    grid = np.concatenate(([low], RPM[(low < RPM) & (high > RPM)], [high]))
    for mean, values in ((curve.mean_torque, curve.torque), (curve.mean_power, curve.power)):
        expected = np.trapezoid(np.interp(grid, RPM, values), grid) / (high - low)
        assert mean(low, high) == pytest.approx(expected, rel=1e-9)
