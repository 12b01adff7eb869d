"""The order of bolts: each once, from the middle outwards, no two neighbours in a row where that can be had."""

from itertools import permutations
from math import cos, pi, sin

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.fit.tightening import in_a_row, neighbours_of, tightening_order

FLANGE = [(0.04 * n, y) for n in range(5) for y in (0.0, 0.09)]  # ten bolts in two rows, five ports


def ring(count):
    return [(0.05 * cos(2 * pi * n / count), 0.05 * sin(2 * pi * n / count)) for n in range(count)]


@st.composite
def flanges(draw):
    """Bolts in two rows, shifted against each other, or anywhere, at least 15 mm apart."""
    places = []
    for _ in range(draw(st.integers(1, 14))):
        x, y = draw(st.integers(0, 20)) * 0.02, draw(st.integers(0, 6)) * 0.02
        if (x, y) not in places:
            places.append((x, y))
    return places


@settings(max_examples=60, deadline=None)
@given(flanges())
def test_every_order_visits_each_bolt_once(places):
    order = tightening_order(places)
    assert sorted(order.bolts) == list(range(len(places)))
    assert in_a_row(places, order.bolts) == order.in_a_row


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.integers(0, 4), st.integers(0, 3)), min_size=2, max_size=6, unique=True))
def test_no_order_has_fewer_neighbours_in_a_row(cells):
    """Against every permutation of up to six bolts."""
    places = [(0.03 * x, 0.04 * y) for x, y in cells]
    least = min(in_a_row(places, order) for order in permutations(range(len(places))))
    assert tightening_order(places).in_a_row == least


@pytest.mark.parametrize("count", [5, 6, 8, 12])
def test_a_round_flange_is_crossed(count):
    order = tightening_order(ring(count))
    assert order.in_a_row == 0
    first, second = order.bolts[:2]
    assert min(abs(first - second), count - abs(first - second)) >= count // 2 - 1  # on the far side


def test_a_long_flange_begins_in_the_middle_and_ends_at_its_ends():
    order = tightening_order(FLANGE)
    assert order.in_a_row == 0
    assert {FLANGE[n][0] for n in order.bolts[:2]} == {0.08}
    assert {FLANGE[n][0] for n in order.bolts[-4:]} == {0.0, 0.16}


def test_three_bolts_in_a_row_can_not_but_be_neighbours():
    assert tightening_order([(0, 0), (0.03, 0), (0.06, 0)]).in_a_row == 1


def test_neighbours_are_those_next_to_a_bolt():
    assert neighbours_of(ring(6))[0] == {1, 5}
    assert neighbours_of([(0.0, 0.0)]) == [set()]


def test_a_sequence_with_a_bolt_missing_or_twice_is_refused():
    with pytest.raises(Inconsistent, match="Bolt 3 is not"):
        in_a_row(FLANGE[:3], [0, 1])
    with pytest.raises(Inconsistent, match="twice"):
        in_a_row(FLANGE[:2], [0, 1, 1])


def test_what_is_no_flange_is_refused():
    with pytest.raises(NotEnoughData):
        tightening_order([])
    with pytest.raises(Inconsistent, match="where another one is"):
        tightening_order([(0, 0), (0, 0)])
    with pytest.raises(Inconsistent, match="41"):
        tightening_order([(0.01 * n, 0) for n in range(41)])
