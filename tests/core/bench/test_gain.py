"""Gains of runners and of their mean: only of what was set up alike, and by the one rule."""

from math import exp

import numpy as np
import pytest

from elvarn.core.bench.balance import balance
from elvarn.core.bench.by_setup import gains_by_setup, items_between
from elvarn.core.bench.gain import ASSUMED, carried_by, gain_over_runners, refits_needed, smallest_gain_shown
from elvarn.core.bench.pairs import Refit, alike_with_last, pairs_of
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.statistics.scatter import Scatter
from elvarn.core.statistics.student import welch

KNOWN = Known(Scatter(0.5, float("inf"), 999), ASSUMED.session, ASSUMED.plate)
BARE, CLAY = {"entry radius": "no radius"}, {"entry radius": "clay radius"}


def refits(*flows, session=0, declared=BARE):
    return [Refit(flow, session, declared) for flow in flows]


def gains(before, after, known=KNOWN, session=0):
    """One reading a runner on each side; the side after in this session."""
    sides = (before, 0), (after, session)
    return gain_over_runners(pairs_of(*({n: refits(v, session=at) for n, v in enumerate(side, start=1)}
                                        for side, at in sides)), known)  # fmt: skip


class TestLikeForLike:
    def test_an_untouched_part_read_in_two_ways_in_different_mixtures_gains_nothing(self):
        """Bare it passes 200, with the clay radius 210: two and one before, one and two after, nothing cut."""
        before = refits(200.0, 200.2) + refits(210.0, declared=CLAY)
        after = refits(200.1) + refits(210.1, 210.3, declared=CLAY)
        gain = gain_over_runners(pairs_of({1: before}, {1: after}), KNOWN)
        assert gain.verdict.change == pytest.approx(0.1, abs=0.01)
        assert not gain.verdict.real

    def test_what_was_never_set_up_alike_is_not_compared_and_says_in_what(self):
        pairs = pairs_of({1: refits(200.0), 2: refits(200.0)}, {1: refits(215.0, declared=CLAY), 2: refits(212.0)})
        assert [pair.runner for pair in pairs.alike] == [2]
        assert pairs.unlike == {1: ("entry radius",)}
        assert pairs.differing == ("entry radius",)
        with pytest.raises(NotEnoughData, match="alike"):
            gain_over_runners(pairs_of({1: refits(200.0)}, {1: refits(215.0, declared=CLAY)}), KNOWN)

    def test_what_the_other_side_has_no_like_of_is_left_out(self):
        pairs = pairs_of({1: refits(200.0) + refits(230.0, declared=CLAY)}, {1: refits(204.0)})
        assert (pairs.alike[0].before, pairs.alike[0].after, pairs.alike[0].left_out) == (200.0, 204.0, 1)

    def test_words_in_another_order_are_alike(self):
        one, other = {"blocked": "runner 2, vacuum"}, {"blocked": "Vacuum,  runner 2", "clamps": ""}
        assert pairs_of({1: refits(200.0, declared=one)}, {1: refits(204.0, declared=other)}).alike

    def test_a_side_alone_stands_as_it_was_set_up_last(self):
        assert alike_with_last(refits(200.0, 201.0) + refits(210.0, 212.0, declared=CLAY)) == pytest.approx(211.0)


class TestMean:
    def test_it_is_the_ratio_of_the_means(self):
        gain = gains([100.0, 300.0], [110.0, 303.0])
        assert (gain.before, gain.after) == (200.0, 206.5)
        assert gain.verdict.change == pytest.approx(6.5)
        assert gain.fraction == pytest.approx(6.5 / 200)

    def test_it_shrinks_with_runners_the_session_shift_does_not(self):
        one, five = (gains([200.0] * n, [200.0] * n).verdict.half_width for n in (1, 5))
        assert five == pytest.approx(one / 5**0.5)
        apart = [gains([200.0] * n, [200.0] * n, session=1).verdict.half_width for n in (1, 5)]
        assert apart[1] > 0.8 * apart[0]

    def test_refits_shrink_it(self):
        once, four = (gain_over_runners(pairs_of({1: refits(*[200.0] * n)}, {1: refits(*[204.0] * n)}), KNOWN)
                      for n in (1, 4))  # fmt: skip
        assert four.verdict.half_width == pytest.approx(once.verdict.half_width / 2)


class TestRunners:
    def test_a_gain_of_seven_percent_is_real_and_one_of_half_a_percent_is_not(self):
        result = gains([201.6, 199.1], [215.2, 200.1])
        assert [runner.verdict.real for runner in result.runners] == [True, False]

    def test_more_runners_judged_together_need_more(self):
        alone, among = (gains([200.0] * n, [203.0] * n).runners[0].verdict.half_width for n in (1, 8))
        assert among == pytest.approx(alone * 2.727 / 1.960, rel=1e-3)

    def test_only_runners_read_on_both_sides_count(self):
        pairs = pairs_of({1: refits(200.0), 2: refits(190.0), 4: []}, {2: refits(205.0), 3: refits(210.0)})
        assert [pair.runner for pair in pairs.alike] == [2]
        assert pairs.unlike == {}

    def test_a_flow_of_zero_is_refused(self):
        with pytest.raises(OutOfRange, match="flow is 0"):
            pairs_of({1: refits(0.0)}, {1: refits(200.0)})


class TestPlanning:
    def test_the_smallest_gain_shown_is_the_half_width_of_one_runner(self):
        assert 200 * smallest_gain_shown(KNOWN, near=True) == pytest.approx(
            gains([200.0], [200.0]).runners[0].verdict.half_width
        )
        assert smallest_gain_shown(KNOWN, near=False) > smallest_gain_shown(KNOWN, near=True)
        assert smallest_gain_shown(KNOWN, near=True, setups=4) < 0.6 * smallest_gain_shown(KNOWN, near=True)

    def test_refits_needed_shrink_with_the_gain_that_is_wanted(self):
        assert refits_needed(0.03, KNOWN, near=True) == 1
        assert refits_needed(0.01, KNOWN, near=True) == 4  # (1.96 + 0.84)² · 2 · 0.5² / 1² = 3.9
        with pytest.raises(OutOfRange):
            refits_needed(0.0, KNOWN, near=True)

    def test_a_session_shift_is_not_overcome_by_refits(self):
        assert refits_needed(0.01, KNOWN, near=False) is None
        tied = Known(KNOWN.refit, KNOWN.session, Scatter(0.1, 40, 36), plates={0: 3, 1: 3})
        assert refits_needed(0.01, tied, near=False) is not None


def test_welch_needs_two_values_on_each_side():
    with pytest.raises(NotEnoughData):
        welch([1.0], [1.0, 2.0])


class TestOneThatCarries:
    def test_a_gain_of_one_runner_alone_is_its_own(self):
        """An injector hole that stood open after: runner 2 of five reads 6 % more, the others as before."""
        pairs = pairs_of(
            {n: refits(200.0) for n in range(1, 6)}, {n: refits(212.0 if n == 2 else 200.2) for n in range(1, 6)}
        )
        assert gain_over_runners(pairs, KNOWN).verdict.real
        assert carried_by(pairs, KNOWN) == 2

    def test_a_gain_of_all_is_nobodys(self):
        pairs = pairs_of({n: refits(200.0) for n in range(1, 6)}, {n: refits(208.0 + n) for n in range(1, 6)})
        assert carried_by(pairs, KNOWN) is None

    def test_a_gain_that_just_shows_is_not_carried_by_its_largest_part(self):
        """All gained alike; without the one that gained a little more the others' mean just does not show."""
        pairs = pairs_of({n: refits(200.0) for n in (1, 2, 3)}, {n: refits(201.85 + (n == 2) * 0.5) for n in (1, 2, 3)})
        assert gain_over_runners(pairs, KNOWN).verdict.real
        assert not gain_over_runners(pairs.without(2), KNOWN).verdict.real
        assert carried_by(pairs, KNOWN) is None

    def test_no_gain_and_two_runners_are_carried_by_none(self):
        even = pairs_of({n: refits(200.0) for n in range(1, 6)}, {n: refits(200.1) for n in range(1, 6)})
        two = pairs_of({1: refits(200.0), 2: refits(200.0)}, {1: refits(220.0), 2: refits(200.0)})
        assert (carried_by(even, KNOWN), carried_by(two, KNOWN)) == (None, None)


class TestBalance:
    def sides(self, *flows):
        return {number: refits(flow) for number, flow in enumerate(flows, start=1)}

    def test_who_is_behind_is_named_only_where_the_runners_are_uneven(self):
        uneven = balance(self.sides(215.2, 213.0, 203.3, 214.1), 5, KNOWN)
        assert (uneven.behind, uneven.weakest, uneven.strongest) == ((3,), 3, 1)
        even = balance(self.sides(215.0, 213.0, 211.5, 214.1), 5, KNOWN)
        assert (even.even, even.behind) == (True, ())

    def test_all_that_are_behind_are_named_the_farthest_first(self):
        found = balance(self.sides(215.0, 206.0, 215.4, 214.6, 203.0, 215.2, 214.8, 215.1), 8, KNOWN)
        assert found.behind == (5, 2)

    def test_on_a_coarse_bench_nobody_is(self):
        coarse = Known(Scatter(1.5, float("inf"), 999), ASSUMED.session, ASSUMED.plate)
        assert balance(self.sides(215.2, 213.0, 206.3, 214.1), 4, coarse).behind == ()

    def test_even_parts_are_called_uneven_in_at_most_5_of_100(self):
        """400 seeded parts of six even runners on a bench of 1.5 %: some runner is called out in so many."""
        coarse = Known(Scatter(1.5, float("inf"), 999), ASSUMED.session, ASSUMED.plate)
        generator = np.random.default_rng(6)
        parts = (balance(self.sides(*(200 * np.exp(generator.normal(0, 0.015, 6)))), 6, coarse) for _ in range(400))
        assert sum(bool(part.behind or part.ahead) for part in parts) <= 33

    def test_unlike_set_ups_are_no_unevenness(self):
        sides = self.sides(215.0, 214.0, 213.5, 214.5) | {5: refits(230.0, declared=CLAY)}
        assert balance(sides, 5, KNOWN).ahead == ()

    def test_it_needs_two_thirds_of_the_runners(self):
        with pytest.raises(NotEnoughData, match="3 of 5"):
            balance(self.sides(215.2, 213.0, 205.3), 5, KNOWN)


class TestUnlikeSetups:
    """Runners read bare and with a radius, on both sides."""

    def sides(self, bare, radius, other=0.0):
        def rows(flow, gain):
            return [Refit(flow * gain, 0, {"entry": "bare"}), Refit(1.05 * flow * gain, 0, {"entry": "radius"})]

        flows = (200.0, 199.0 + other, 202.0)
        before = {n: rows(flow, 1.0) for n, flow in enumerate(flows)}
        after = {n: [Refit(flow * (1 + bare), 0, {"entry": "bare"}), Refit(1.05 * flow * (1 + radius), 0,
                 {"entry": "radius"})] for n, flow in enumerate(flows)}  # fmt: skip
        return before, after

    def test_gains_that_agree_make_one_figure(self):
        before, after = self.sides(0.040, 0.042)
        assert gains_by_setup(before, after, KNOWN) == ()
        assert pairs_of(before, after).fraction == pytest.approx(0.041, abs=2e-4)

    def test_gains_that_differ_stand_for_themselves(self):
        apart = gains_by_setup(*self.sides(0.01, 0.07), KNOWN)
        assert [round(gain.verdict.change, 3) for gain in apart] == [0.01, 0.07]
        assert [gain.declared for gain in apart] == [{"entry": "bare"}, {"entry": "radius"}]
        assert items_between(apart) == ("entry",)

    def test_the_limit_is_the_half_width_of_their_difference(self):
        """Two set-ups, three runners, one session: d is a difference of two gains, c = 4/3 refits of 0.5 %."""
        half = 1.96 * 0.5 * (4 / 3) ** 0.5
        for off, apart in ((-0.05, False), (0.05, True)):
            gain = 1.02 * exp((half + off) / 100) - 1
            assert bool(gains_by_setup(*self.sides(0.02, gain), KNOWN)) is apart

    def test_set_ups_of_different_runners_are_not_held_against_each_other(self):
        before = {1: [Refit(200.0, 0, {"entry": "bare"})], 2: [Refit(210.0, 0, {"entry": "radius"})]}
        after = {1: [Refit(201.0, 0, {"entry": "bare"})], 2: [Refit(230.0, 0, {"entry": "radius"})]}
        assert gains_by_setup(before, after, KNOWN) == ()
