"""What stops a pull, and what does not."""

import pytest

from elvarn.core.dyno.abort import AbortLimits, Breach, SweepWatch, breach_in

PULLING = {
    "speed": 5000.0,
    "torque": 200.0,
    "throttle_percent": 100.0,
    "mixture_lambda": 0.88,
    "duty_percent": 80.0,
    "retard_deg": 0.0,
    "coolant_c": 90.0,
    "oil_c": 110.0,
    "oil_kpa": 400.0,
}
LIMITS = AbortLimits(0.95, 90.0, 5.0, 110.0, 140.0, 150.0)


def pulled(*changes, **more):
    return [{**PULLING, **more, **change} for change in changes or ({}, {}, {})]


@pytest.mark.parametrize(
    ("channel", "inside", "beyond", "limit"),
    [
        ("mixture_lambda", 0.95, 0.96, 0.95),
        ("duty_percent", 90.0, 90.5, 90.0),
        ("retard_deg", 5.0, 5.5, 5.0),
        ("coolant_c", 110.0, 111.0, 110.0),
        ("oil_c", 140.0, 141.0, 140.0),
        ("oil_kpa", 150.0, 149.0, 150.0),
    ],
)
def test_each_limit_counts_beyond_it_alone(channel, inside, beyond, limit):
    assert breach_in(pulled(**{channel: inside}), LIMITS, 200.0) is None
    assert breach_in(pulled(**{channel: beyond}), LIMITS, 200.0) == Breach(channel, beyond, limit, 5000.0)


def test_one_sample_beyond_is_noise():
    lean = {"mixture_lambda": 1.2}
    assert breach_in(pulled(lean, {}, lean), LIMITS, 200.0) is None
    assert breach_in(pulled(lean, lean), LIMITS, 200.0) is None
    assert breach_in(pulled({}, lean, lean, lean), LIMITS, 200.0) is not None


def test_two_limits_in_turn_are_no_breach_of_one():
    assert breach_in(pulled({"retard_deg": 9.0}, {"oil_c": 150.0}, {"retard_deg": 9.0}), LIMITS, 200.0) is None


@pytest.mark.parametrize("idle", [{"throttle_percent": 5.0}, {"torque": -20.0}])
def test_a_mixture_counts_under_load_alone(idle):
    assert breach_in(pulled(mixture_lambda=1.2, **idle), LIMITS, 200.0) is None


def test_without_a_throttle_half_of_the_highest_torque_is_load():
    bare = [{"speed": 5000.0, "torque": torque, "mixture_lambda": 1.2} for torque in (90.0, 90.0, 90.0)]
    assert breach_in(bare, LIMITS, 200.0) is None
    assert breach_in([{**one, "torque": 110.0} for one in bare], LIMITS, 200.0) is not None


def test_with_the_throttle_open_a_spike_of_torque_switches_no_watch_off():
    assert breach_in(pulled(mixture_lambda=1.2), LIMITS, 90_000.0) is not None


def test_oil_pressure_of_an_idle_is_none():
    assert breach_in(pulled(oil_kpa=90.0, speed=950.0), LIMITS, 200.0) is None


def test_what_is_not_logged_or_not_watched_stops_nothing():
    bare = [{"speed": 5000.0, "torque": 200.0}] * 3
    assert breach_in(bare, LIMITS, 200.0) is None
    assert breach_in(pulled(mixture_lambda=1.5), AbortLimits(*[None] * 6), 200.0) is None


def over(speeds):
    watch = SweepWatch()
    return [watch.take(speed) for speed in speeds]


def test_a_sweep_is_over_once_the_speed_has_fallen():
    """5,000 rpm of rise: 8 % of it, 400 rpm, below the top."""
    told = over([2500, 2490, 2500, 4000, 6000, 7490, 7300, 7100, 7089])
    assert told == [False] * 8 + [True]


def test_a_blip_a_roll_in_and_a_hold_are_no_sweep():
    assert not any(over([900, 1500, 900, 1600, 1000]))
    assert not any(over([6000, 4000, 2500, 2500, 2500, 2600]))
    assert not any(over([2500.0] * 200))
