"""The rest of a stage: its mean exactly, its spread against a simulation."""

import numpy as np
import pytest

from elvarn.core.port.schedule import rest_of


def test_each_missing_pass_takes_what_its_round_took():
    rest = rest_of({"carbide": 2, "80 grit": 5}, {"carbide": [400, 440, 420]}, {"80 grit": 300})
    assert rest.amount == 2 * 420 + 5 * 300
    assert rest.logged == 3


def test_what_nobody_knows_is_named_and_not_guessed():
    rest = rest_of({"carbide": 2, "polish": 1, "wash": 0}, {}, {"carbide": 60})
    assert (rest.amount, rest.unknown) == (120, ("polish",))


def test_a_plan_alone_may_be_out_by_half():
    assert rest_of({"carbide": 2}, {"carbide": [100, 110]}, {}).half == pytest.approx(105)


def test_nothing_left_takes_nothing():
    rest = rest_of({"carbide": 0}, {"carbide": [100, 110, 90]}, {})
    assert (rest.amount, rest.half) == (0, 0)


def test_nineteen_times_in_twenty_the_sum_lies_within():
    generator = np.random.default_rng(11)
    inside = 0
    for _ in range(2000):
        logged = generator.normal(400, 60, 6)
        rest = rest_of({"carbide": 4}, {"carbide": logged.tolist()}, {})
        inside += abs(generator.normal(400, 60, 4).sum() - rest.amount) <= rest.half
    assert 0.93 < inside / 2000 < 0.97
