"""Gains of runners and of their mean: only of what was set up alike, and by the one rule."""

import pytest

from elvarn.core.bench.balance import balance
from elvarn.core.bench.gain import (
    ASSUMED,
    Refit,
    alike_with_last,
    gain_over_runners,
    pairs_of,
    refits_needed,
    smallest_gain_shown,
)
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.statistics.holm import holm_adjusted
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
