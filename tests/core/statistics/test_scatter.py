"""What repeats teach: worked by hand, and as a draw of benches shows it."""

from math import log, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.statistics.scatter import anchored, far_off, learned, learned_beside_slips, residuals

REFITS = ((201.0, 201.9), (188.0, 187.1), (222.4, 222.0, 223.1), (150.0, 150.6), (198.0, 227.0))


def logs(groups):
    return [[100 * log(reading) for reading in group] for group in groups]


def pairs(generator, scatter, count):
    return [list(pair) for pair in generator.normal(0, scatter, (count, 2))]


class TestResiduals:
    @given(st.lists(st.floats(-50, 50), min_size=2, max_size=9))
    def test_their_squares_sum_to_those_about_the_mean(self, group):
        about = sum((y - sum(group) / len(group)) ** 2 for y in group)
        assert sum(w * w for w in residuals(group)) == pytest.approx(about, abs=1e-9)

    def test_what_lies_farthest_off_is_in_the_last_alone(self):
        assert [abs(w) for w in residuals([9.0, 0.0, 0.1, 0.0])][:2] == pytest.approx([0.0707, 0.0408], abs=1e-4)

    def test_one_reading_has_none(self):
        assert residuals([3.0]) == []


class TestLearning:
    def test_the_worked_example(self):
        """By hand after Algorithm S: anchored 0.4724, without the assumed value 0.4289, the last pair far off."""
        squares = [w * w for group in logs(REFITS) for w in residuals(group)]
        assert anchored(0.5, 4, squares) == pytest.approx(0.4724, abs=5e-5)
        assert anchored(0.5, 0, squares) == pytest.approx(0.4289, abs=5e-5)
        assert sqrt(sum(squares) / len(squares)) == pytest.approx(3.95, abs=5e-3)
        found = learned_beside_slips(0.5, logs(REFITS))
        assert (found.freedom, found.own, found.slips) == (9, 5, ((4, 1),))
        assert found.value == pytest.approx(0.3972, abs=5e-5)

    def test_sessions_of_a_plate_by_hand(self):
        found = learned(0.5, logs([[100.0, 101.2, 99.6, 100.3]]))
        assert (found.freedom, found.own) == (7, 3)
        assert found.value == pytest.approx(0.5825, abs=5e-5)

    def test_nothing_learned_is_what_is_assumed(self):
        for found in (learned(0.5, []), learned_beside_slips(0.5, [[460.0]])):
            assert (found.value, found.freedom, found.own) == (0.5, 4, 0)

    def test_repeats_without_any_scatter_leave_some(self):
        found = learned_beside_slips(0.5, [[460.0, 460.0]] * 60)
        assert found.value == pytest.approx(0.5 * sqrt(4 / 44))

    def test_many_repeats_outweigh_the_assumed(self):
        generator = np.random.default_rng(1)
        found = [learned_beside_slips(0.5, pairs(generator, 0.3, 40)).value for _ in range(200)]
        assert np.median(found) == pytest.approx(0.3, rel=0.12)

    def test_one_slip_does_not_spoil_it(self):
        """Ten pairs at 0.3 %, one of them off by 15 %: pooled plainly it would be eleven times too wide."""
        generator, found, plain = np.random.default_rng(2), [], []
        for _ in range(400):
            groups = pairs(generator, 0.3, 10)
            groups[4][1] += 15
            found.append(learned_beside_slips(0.5, groups).value / 0.3)
            plain.append(learned(0.5, groups).value / 0.3)
        assert np.median(found) == pytest.approx(1.22, abs=0.05)
        assert np.median(plain) > 5

    def test_a_bench_that_is_off_often_is_so(self):
        groups = [[0.0, 0.1 * n % 0.3] if n % 5 else [0.0, 5.0] for n in range(20)]
        found = learned_beside_slips(0.5, groups)
        assert found.slips == ()
        assert found.value > 1

    def test_a_bench_that_got_worse_is_taken_as_it_is_now(self):
        generator = np.random.default_rng(3)
        groups = pairs(generator, 0.3, 25) + pairs(generator, 2.0, 10)
        found = learned_beside_slips(0.5, groups)
        assert found.worse
        assert found.value > 1.2
        assert not learned_beside_slips(0.5, groups[:25]).worse

    def test_slips_are_told_at_their_place_among_all(self):
        groups = [[0.0, 0.2]] * 60 + [[0.0, 9.0]] + [[0.0, 0.2]] * 12
        assert learned_beside_slips(0.5, groups).slips == ((60, 1),)


def test_of_two_the_second_is_the_one_that_goes():
    assert list(far_off([[0.0, 2.4], [0.0, 2.2], [0.0, 0.1, -2.2]], 0.5)) == [(0, 1), (2, 2)]
