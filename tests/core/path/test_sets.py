"""Sets of parts: every one, their gains against the path solved with each, what earns its place, and the order."""

from dataclasses import replace

import numpy as np
import pytest

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.errors import Inconsistent, OutOfRange
from elvarn.core.finding import Grade
from elvarn.core.path.engine_losses import engine_losses
from elvarn.core.path.passage import measured
from elvarn.core.path.sets import AS_IS, every_set, in_steps, needless
from elvarn.core.path.substitutes import gains_of, gains_of_sets
from tests.core.path.test_flow import CFM, draw, five
from tests.core.path.test_substitutes import PRESSURE, candidates

THROTTLES = [(620, 0.076, 0.076), (480, 0.068, 0.068)]
RUNNERS = [(230, 0.046, 0.041), (190, 0.042, 0.039)]
AT = (1,), tuple(range(5, 10))


def groups():
    return [candidates(AT[0], *THROTTLES), candidates(AT[1], *RUNNERS)]


def test_every_set_is_there_once_and_all_as_it_is_comes_first():
    found = every_set([2, 3, 1])
    assert len(found) == len({tuple(row) for row in found.tolist()}) == 3 * 4 * 2
    assert found[0].tolist() == [AS_IS] * 3


def test_too_many_sets_are_refused():
    with pytest.raises(OutOfRange, match="number of sets"):
        every_set([99, 99, 99])


def test_a_set_gains_what_the_path_solved_with_all_its_parts_gains():
    way, passages = five()
    base = engine_losses(way, passages, draw())
    picks = every_set([2, 2])
    [found] = gains_of_sets(way, passages, groups(), picks, [draw()])
    for row, pick in enumerate(picks.tolist()):
        other = list(passages)
        for at, rows, choice in zip(AT, (THROTTLES, RUNNERS), pick, strict=True):
            for place in at if choice != AS_IS else ():
                flow, bore_in, bore_out = rows[choice]
                other[place] = measured(flow * CFM, REFERENCE_DEPRESSION, bore_in, bore_out)
        again = engine_losses(way, other, draw())
        ends = sorted((
            (base.total - again.total) / (PRESSURE - base.total),
            (base.low - again.low) / (PRESSURE - base.low),
        ))  # fmt: skip
        assert (found.low[row], found.high[row]) == pytest.approx(ends, rel=1e-6, abs=1e-12)
        assert found.drops[row] == pytest.approx(again.total, rel=1e-9)


def test_a_set_of_one_part_is_that_part_alone_with_its_error_and_what_is_left_has_none():
    way, passages = five()
    one, other = groups()
    spread = replace(one, lows=0.9 * one.areas, highs=1.1 * one.areas, estimated=np.ones(2, dtype=bool))
    guessed = list(passages)
    now = guessed[1]
    guessed[1] = replace(now, grade=Grade.ESTIMATED, low=0.9 * now.area, high=1.1 * now.area)
    for there in (passages, guessed):  # now's part read, and estimated as the candidate is
        [alone] = gains_of(way, there, spread, [draw()])
        [sets] = gains_of_sets(way, there, [spread, other], every_set([2, 2]), [draw()])
        assert sets.low[[3, 6]] == pytest.approx(alone.low)
        assert sets.high[[3, 6]] == pytest.approx(alone.high)
        assert sets.low[0] == sets.high[0] == 0


def test_unlike_numbers_of_groups_are_refused():
    way, passages = five()
    with pytest.raises(Inconsistent, match="groups"):
        gains_of_sets(way, passages, groups(), every_set([2]), [draw()])


def test_a_part_that_adds_nothing_is_left_out_unless_the_rest_can_not_be_fitted_without_it():
    picks = every_set([1, 1])  # as it is, second, first, both
    gained = np.array([0.0, 0.0004, 0.02, 0.0203])
    assert needless(picks, gained, np.ones(4, dtype=bool)).tolist() == [False, True, False, True]
    assert needless(picks, gained, np.array([True, True, False, True])).tolist() == [False, True, False, False]


def test_each_part_is_held_against_its_own_set_without_it():
    """Gains are sums of what each choice gives: needless is a set in which one gives nothing, and no other."""
    picks = every_set([2, 3, 1])
    gives = [[0.0, 0.02, 0.0004], [0.0, 0.01, 0.03, 0.0], [0.0, 0.005]]
    rows = (zip(gives, row, strict=True) for row in picks.tolist())
    gained = np.array([sum(given[pick + 1] for given, pick in row) for row in rows])
    idle = (picks[:, 0] == 1) | (picks[:, 1] == 2)
    assert needless(picks, gained, np.ones(len(picks), dtype=bool)).tolist() == idle.tolist()


def test_steps_bring_the_most_air_first():
    air = {frozenset({0}): 0.01, frozenset({1}): 0.02, frozenset({0, 1}): 0.035}
    assert in_steps([0, 1], lambda done: True, air.__getitem__) == [[1], [0]]


def test_what_can_not_be_fitted_alone_comes_together():
    allowed = {frozenset({2}), frozenset({0, 1, 2})}
    assert in_steps([0, 1, 2], allowed.__contains__, len) == [[2], [0, 1]]
    assert in_steps([0, 1], lambda done: False, len) == [[0, 1]]


def test_steps_of_no_part_are_refused():
    with pytest.raises(OutOfRange, match="number of parts"):
        in_steps([], lambda done: True, len)
