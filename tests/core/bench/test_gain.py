"""Which gains are real: against the rule written out by hand, and by simulation of a bench."""

from math import sqrt

import numpy as np
import pytest

from elvarn.core.bench.balance import balance
from elvarn.core.bench.gain import BenchQuality, gain_over_runners, smallest_gain_shown
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.statistics.holm import holm_adjusted
from elvarn.core.statistics.student import welch

ONE_DAY = BenchQuality(repeatability=0.005, same_session=True)


def gains(before, after, quality=ONE_DAY):
    def one_each(values):
        return {number: [value] for number, value in enumerate(values, start=1)}

    return gain_over_runners(one_each(before), one_each(after), quality)


def test_half_width_of_one_runner_is_the_rule():
    result = gains([200.0], [200.0])
    assert result.runners[0].verdict.half_width == pytest.approx(1.96 * 0.005 * 200 * sqrt(2))


def test_half_width_of_the_mean_shrinks_with_runners_the_session_shift_does_not():
    five = [200.0] * 5
    assert gains(five, five).verdict.half_width == pytest.approx(1.96 * 0.005 * 200 * sqrt(2 / 5))
    apart = BenchQuality(repeatability=0.005, session_shift=0.005)
    expected = 1.96 * 200 * sqrt(2 / 5 * 0.005**2 + 2 * 0.005**2)
    assert gains(five, five, apart).verdict.half_width == pytest.approx(expected)


def test_another_depression_on_each_side_is_in_the_half_width_once():
    """A half-range of 2.5 % is 1.44 % standard (GUM 4.3.7), between the sides, whatever the session."""
    converted = BenchQuality(repeatability=0.005, same_session=True, conversion=0.025)
    width = gains([200.0], [202.0], converted).verdict.half_width
    expected = 1.96 * 200 * sqrt(2 * 0.005**2 + 0.025**2 / 3)
    assert width == pytest.approx(expected, rel=0.01)
    assert not gains([200.0], [206.0], converted).verdict.real
    with pytest.raises(OutOfRange, match="below 0"):
        BenchQuality(conversion=-0.01)


def test_refits_shrink_the_half_width():
    once = gain_over_runners({1: [200.0]}, {1: [204.0]}, ONE_DAY)
    four = gain_over_runners({1: [200.0] * 4}, {1: [204.0] * 4}, ONE_DAY)
    assert four.verdict.half_width == pytest.approx(once.verdict.half_width / 2)


def test_a_gain_of_seven_percent_is_real_and_one_of_half_a_percent_is_not():
    result = gains([201.6, 199.1], [215.2, 200.1])
    assert [runner.verdict.real for runner in result.runners] == [True, False]


def test_says_how_many_set_ups_would_tell():
    unsure = gains([200.0], [202.0]).runners[0]
    assert not unsure.verdict.real
    assert unsure.verdict.more == 2  # 2 (0.005 · 200)² / (2 / 1.96)² = 1.92, rounded up
    told = gain_over_runners({1: [200.0] * unsure.verdict.more}, {1: [202.0] * unsure.verdict.more}, ONE_DAY)
    assert told.runners[0].verdict.real


def test_says_when_refits_would_never_tell():
    apart = BenchQuality(repeatability=0.005, session_shift=0.005)
    assert gains([200.0], [201.0], apart).runners[0].verdict.more is None


def test_only_runners_read_on_both_sides_count():
    result = gain_over_runners({1: [200.0], 2: [190.0]}, {2: [205.0], 3: [210.0]}, ONE_DAY)
    assert [runner.cylinder for runner in result.runners] == [2]


def test_refuses_when_nothing_was_read_twice_or_a_flow_is_zero():
    with pytest.raises(NotEnoughData):
        gain_over_runners({1: [200.0]}, {2: [200.0]}, ONE_DAY)
    with pytest.raises(OutOfRange, match="flow is 0"):
        gain_over_runners({1: [0.0]}, {1: [200.0]}, ONE_DAY)


def test_smallest_gain_shown_is_the_half_width_of_one_runner():
    assert smallest_gain_shown(200.0, 1, ONE_DAY) == pytest.approx(
        gains([200.0], [200.0]).runners[0].verdict.half_width
    )


def test_a_bench_without_any_gain_cries_wolf_in_at_most_five_percent():
    """400 seeded series of eight runners with nothing gained: some runner is called real in about 5 %, by Holm."""
    generator = np.random.default_rng(11)
    alarms = 0
    for _ in range(400):
        before, after = 200 * generator.normal(1, 0.005, (2, 8))
        alarms += any(runner.verdict.real for runner in gains(before, after).runners)
    assert alarms <= 33  # binomial limit: 99.9 % of experiments at 5 % stay at or below 33 of 400


def test_half_width_covers_the_true_mean_gain_in_about_95_percent():
    generator = np.random.default_rng(12)
    covered = 0
    for _ in range(400):
        before, after = 200 * generator.normal(1, 0.005, (2, 5))
        result = gains(before, after * 1.05)
        covered += abs(result.verdict.change - 10.0) <= result.verdict.half_width
    assert 366 <= covered <= 394  # binomial limits at 95 %


def test_holm_by_hand():
    assert holm_adjusted([0.01, 0.04, 0.03]) == pytest.approx([0.03, 0.06, 0.06])


def test_welch_needs_two_values_on_each_side():
    with pytest.raises(NotEnoughData):
        welch([1.0], [1.0, 2.0])


def test_balance_names_who_is_behind_only_where_the_runners_are_uneven():
    uneven = balance({1: 215.2, 2: 213.0, 3: 203.3, 4: 214.1}, 5, 0.004)
    assert uneven.behind == (3,)
    assert (uneven.weakest, uneven.strongest) == (3, 1)
    even = balance({1: 215.0, 2: 213.0, 3: 211.5, 4: 214.1}, 5, 0.004)
    assert even.even
    assert even.behind == ()


def test_balance_needs_two_thirds_of_the_runners():
    with pytest.raises(NotEnoughData, match="3 of 5"):
        balance({1: 215.2, 2: 213.0, 3: 205.3}, 5, 0.004)
