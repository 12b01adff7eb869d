"""Scores and Pareto marks of candidates."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays

from elvarn.core.errors import Inconsistent, OutOfRange
from elvarn.core.path.choice import cost_per_gain, pareto_front, score, unbeaten

WEIGHTS = np.array([5.0, 3.0, 1.0])
MORE = (True, False, False)


def test_the_better_in_everything_comes_first_and_alone():
    values = np.array([[0.02, 200.0, 3.0], [0.01, 300.0, 5.0], [0.015, 250.0, 4.0]])
    found = score(values, MORE, WEIGHTS)
    assert found.total.tolist() == pytest.approx([1.0, 0.0, 0.5])
    assert unbeaten(values, MORE, WEIGHTS > 0).tolist() == [True, False, False]
    assert found.parts.sum(axis=1) == pytest.approx(found.total)


def test_what_nobody_knows_earns_nothing():
    values = np.array([[0.02, np.nan, 3.0], [0.02, 300.0, 3.0]])
    found = score(values, MORE, WEIGHTS)
    assert found.parts[0, 1] == 0
    assert found.total[0] < found.total[1]


def test_a_weight_of_nothing_leaves_a_criterion_out_of_the_marks():
    values = np.array([[0.02, 200.0, 9.0], [0.02, 200.0, 1.0]])
    assert unbeaten(values, MORE, np.array([True, True, False])).all()
    assert unbeaten(values, MORE, WEIGHTS > 0).tolist() == [False, True]


@given(arrays.arrays(np.float64, (12, 3), elements=st.floats(0, 1)))
def test_pareto_marks_are_those_of_the_definition(values):
    def beaten(one):
        return any(np.all(other >= one) and np.any(other > one) for other in values)

    assert pareto_front(values).tolist() == [not beaten(one) for one in values]


def test_refusals_and_nothing_to_choose():
    assert score(np.zeros((0, 3)), MORE, WEIGHTS).total.tolist() == []
    with pytest.raises(Inconsistent):
        score(np.zeros((2, 2)), MORE, WEIGHTS)
    with pytest.raises(OutOfRange):
        score(np.zeros((2, 3)), MORE, np.array([1.0, -1.0, 0.0]))
    with pytest.raises(OutOfRange):
        cost_per_gain(-1, 0, 60, 1)
    assert cost_per_gain(200, 60, 60, 2.0) == 130
    assert cost_per_gain(200, 60, 60, 0.0) is None
