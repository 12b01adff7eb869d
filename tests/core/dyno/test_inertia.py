"""A drum that a known engine spins up: its curve comes back; smoothing keeps a peak, and is asked to be enough."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from elvarn.core.dyno.inertia import drum_torque
from elvarn.core.errors import NotEnoughData, OutOfRange

INERTIA, RATIO = 90.0, 5.2  # kg m² of the drum; engine speeds for one of the drum
TURN = 2 * np.pi / 60


def torque(rpm):
    return 230 - ((rpm - 4600) / 300) ** 2


def spun(rate=50.0, noise=0.0):
    """Time, drum and engine speed [rad/s] of a pull from 2,500 to 7,000 rpm, by the equation of motion."""

    def turning(_, omega):
        return torque(omega * RATIO / TURN) * RATIO / INERTIA

    def top(_, omega):
        return omega[0] * RATIO / TURN - 7000

    top.terminal = True
    found = solve_ivp(turning, (0, 60), [2500 * TURN / RATIO], events=top, dense_output=True, rtol=1e-9)
    time = np.arange(0, found.t[-1], 1 / rate)
    drum = found.sol(time)[0]
    drum = drum * (1 + noise * np.random.default_rng(4).normal(size=len(time)))
    return time, drum, drum * RATIO


@pytest.mark.parametrize("rate", [20.0, 50.0, 200.0])
def test_a_known_curve_comes_back_within_half_a_per_cent(rate):
    time, drum, engine = spun(rate)
    speed, found = drum_torque(INERTIA, time, drum, engine, 0.3)
    inside = slice(len(time) // 20, -len(time) // 20)
    assert np.abs(found[inside] / torque(speed[inside] / TURN) - 1).max() < 0.005


def test_noise_of_the_drums_speed_is_smoothed():
    """0.02 % of noise alone would make over 10 % of scatter at 50 a second."""
    time, drum, engine = spun(noise=0.0002)
    speed, found = drum_torque(INERTIA, time, drum, engine, 0.6)
    raw = INERTIA * drum * np.gradient(drum, time) / engine
    assert np.std(raw / torque(engine / TURN) - 1) > 0.05
    inside = slice(20, -20)
    off = found[inside] / torque(speed[inside] / TURN) - 1
    assert np.std(off) < 0.01
    assert abs(off.mean()) < 0.005


def test_gaps_and_repeated_times_are_left_out():
    time, drum, engine = spun()
    drum[10:13], time[40] = np.nan, time[39]
    speed, found = drum_torque(INERTIA, time, drum, engine, 0.3)
    assert np.isnan(found[10:13]).all()
    assert found[60] == pytest.approx(torque(speed[60] / TURN), rel=0.005)


def test_too_little_and_what_can_not_be_is_refused():
    time, drum, engine = spun()
    with pytest.raises(NotEnoughData, match="8 samples"):
        drum_torque(INERTIA, time[:8], drum[:8], engine[:8], 0.3)
    with pytest.raises(OutOfRange):
        drum_torque(0.0, time, drum, engine, 0.3)
    with pytest.raises(OutOfRange):
        drum_torque(INERTIA, time, drum, engine, 0.0)
