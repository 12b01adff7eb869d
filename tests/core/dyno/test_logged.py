"""What channels say: by hand on curves whose answer is known."""

import numpy as np
import pytest

from elvarn.core.dyno.channels import Channel, channel_of, specific_fuel_consumption
from elvarn.core.dyno.logged import Boost, boost_of, boost_over, consumption_over, drop_over, power_at_boost
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import Inconsistent

RPM = np.arange(2000.0, 7001.0, 100.0)


def channel(values):
    return Channel(RPM, np.broadcast_to(values, RPM.shape).astype(float))


def test_samples_within_a_step_are_averaged_so_that_one_alone_is_no_extreme():
    """Five samples each 100 rpm, one of which spikes by 10: the step's mean shows 2 of it."""
    speeds = np.repeat(RPM, 5) + np.tile([-20.0, -10.0, 0.0, 10.0, 20.0], len(RPM))
    values = np.full(len(speeds), 80.0)
    values[len(speeds) // 2] = 90.0
    found = channel_of(speeds, values)
    assert found.highest(2000, 7000)[0] == pytest.approx(82)
    assert found.mean(2000, 7000) == pytest.approx(80, abs=0.1)
    assert found.at(2050) == pytest.approx(80)
    assert found.at(9000) is None


def test_too_little_is_no_channel():
    assert channel_of(np.array([3000.0, 3100.0]), np.array([1.0, 2.0])) is None
    assert channel_of(RPM, np.full(len(RPM), np.nan)) is None
    with pytest.raises(Inconsistent):
        channel_of(RPM, np.array([1.0]))


def test_the_drop_is_outside_less_manifold_logged_or_noted():
    manifold = channel(97.0)
    assert drop_over({"manifold_kpa": manifold, "outside_kpa": channel(99.5)}, 90.0).values == pytest.approx(2.5)
    assert drop_over({"manifold_kpa": manifold}, 99.0).values == pytest.approx(2.0)
    assert drop_over({"manifold_kpa": manifold}, None) is None
    assert drop_over({}, 99.0) is None


def test_boost_is_reached_held_and_lost_at_95_per_cent():
    """60 kPa from 3,500 to 6,000 rpm, rising before and falling after."""
    values = np.interp(RPM, [2000, 3500, 6000, 7000], [0, 60, 60, 40])
    found = boost_of(boost_over({"boost_kpa": Channel(RPM, values)}, None))
    assert found == Boost(60.0, 3500.0, 6100.0, to_the_end=False)
    level = boost_over({"manifold_kpa": channel(155.0)}, 100.0)
    assert boost_of(level) == Boost(55.0, 2000.0, 7000.0, to_the_end=True)
    assert boost_of(boost_over({"manifold_kpa": channel(97.0)}, 100.0)) is None


def test_power_at_another_boost_goes_with_the_absolute_pressure_in_the_manifold():
    """100 kW flat at 50 kPa over 100 kPa outside: 65 kPa is 1.1 times the air; where boost comes later it counts there
    alone: 0 to 50 kPa over half of the band is on average 5/6 of the air there."""
    torque = 100_000 / (RPM * 2 * np.pi / 60)
    curve, at = clean_pull(RPM, torque), (100.0, 2000.0, 7000.0)
    assert power_at_boost(curve, channel(50.0), channel(65.0), *at) == pytest.approx(110_000, rel=1e-6)
    later = Channel(RPM, np.interp(RPM, [2000, 4500, 7000], [0, 50, 50]))
    assert power_at_boost(curve, channel(50.0), later, *at) == pytest.approx(100_000 * (5 / 6 + 1) / 2, rel=1e-6)
    assert power_at_boost(curve, channel(50.0), channel(65.0), 100.0, 8000.0, 9000.0) is None


def test_consumption_is_all_fuel_by_all_work():
    """36 kg/h is 0.01 kg/s; at a steady 120 kW that is 300 g/kWh."""
    assert specific_fuel_consumption(0.01, 120_000) == pytest.approx(300)
    torque = 120_000 / (RPM * 2 * np.pi / 60)
    assert consumption_over(channel(36.0), clean_pull(RPM, torque), 3000, 6000) == pytest.approx(300, rel=1e-3)
    assert consumption_over(channel(36.0), clean_pull(RPM, torque), 8000, 9000) is None
    assert np.isnan(specific_fuel_consumption(0.01, 0.0))
