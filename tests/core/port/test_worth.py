"""What sections are worth: against the losses one by one, a drawn tube, and SciPy's own Student's t."""

from math import degrees, pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from elvarn.core.errors import NotEnoughData
from elvarn.core.path import losses
from elvarn.core.port.worth import record_of, runner_loss, worth

PLACES = [0.0, 0.05, 0.10, 0.15]


def circle(bore):
    return pi / 4 * bore**2


def test_a_straight_tube_loses_entry_friction_and_its_velocity_head():
    """K = 0.04 (Crane TP-410, A-29, r/d 0.15 and more) + f L/d + 1, with Moody's f of cast iron at Re 1e5."""
    loss = runner_loss(PLACES, [circle(0.04)] * 4)
    friction = losses.friction_factor(1e5, 2.6e-4 / 0.04)
    assert friction == pytest.approx(0.034, abs=0.001)
    assert loss * circle(0.04) ** 2 == pytest.approx(0.04 + friction * 0.15 / 0.04 + 1)


def test_a_sharp_entry_costs_what_crane_says_more():
    bell, sharp = (runner_loss(PLACES, [circle(0.04)] * 4, entry) for entry in (0.15, 0.0))
    assert (sharp - bell) * circle(0.04) ** 2 == pytest.approx(0.46)


def test_a_waist_is_a_cone_that_narrows_and_one_that_widens():
    areas = [circle(0.04), circle(0.036), circle(0.04)]
    loss = runner_loss([0.0, 0.05, 0.10], areas)
    angle = degrees(2 * np.arctan(0.004 / 0.10))
    friction = losses.friction_factor(1e5, 2.6e-4 / 0.038)
    parts = [
        0.04 / areas[0] ** 2,
        2 * friction * 0.05 / 0.038 / ((areas[0] + areas[1]) / 2) ** 2,
        losses.conical_contraction(areas[0], areas[1], angle).value / areas[1] ** 2,
        losses.conical_diffuser(areas[1], areas[0], angle).value / areas[1] ** 2,
        1 / areas[2] ** 2,
    ]
    assert loss == pytest.approx(sum(parts))


def test_all_wider_by_a_tenth_flows_a_tenth_more():
    """Each loss goes with 1/A² but friction, which falls a little with the bore."""
    found = worth(PLACES, [1200e-6] * 4, [1320e-6] * 4)
    assert 0.10 < found.gain < 0.11


def test_the_waist_has_the_share():
    now = [1300e-6, 1300e-6, 1100e-6, 1300e-6]
    found = worth(PLACES, now, [1300e-6] * 4)
    assert found.gain == pytest.approx(sqrt(runner_loss(PLACES, now) / runner_loss(PLACES, [1300e-6] * 4)) - 1)
    assert found.shares == (0, 0, pytest.approx(found.gain), 0)


@given(st.lists(st.floats(900e-6, 1400e-6), min_size=4, max_size=4))
def test_shares_make_the_gain(now):
    then = [max(area, 1300e-6) for area in now]
    found = worth(PLACES, now, then)
    assert all(share == 0 for share, a, b in zip(found.shares, now, then, strict=True) if a == b)
    if sum(found.shares):
        assert sum(found.shares) == pytest.approx(found.gain)


def test_sections_that_hardly_differ_are_no_cone():
    """So little that the bores of both are the same number."""
    areas = [1300e-6, 1300e-6 * (1 + 1e-16), 1300e-6 * (1 + 2e-16), 1300e-6]
    assert runner_loss(PLACES, areas) == pytest.approx(runner_loss(PLACES, [1300e-6] * 4))


def test_one_section_makes_no_runner():
    with pytest.raises(NotEnoughData, match="One section"):
        runner_loss([0.0], [1e-3])


def test_before_four_states_the_model_stands_with_half_of_its_gain():
    record = record_of([0.8, 0.9, 1.3])
    assert (record.factor, record.states) == (1.0, 3)
    assert record.half_width(5.2) == 2.6


def test_from_four_states_on_their_own_scatter_counts():
    ratios = [0.8, 0.9, 1.1, 1.0, 0.7]
    record = record_of(ratios)
    low, high = stats.t.interval(0.95, 4, np.mean(ratios), np.std(ratios, ddof=1) * sqrt(1 + 1 / 5))
    assert record.factor == pytest.approx(0.9)
    assert (record.factor - record.half_range, record.factor + record.half_range) == pytest.approx((low, high))
