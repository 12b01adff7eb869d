"""Cam cards: both ways in say the same."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.engine.cam import card_of, events_of, same_events
from elvarn.core.engine.geometry import CamEvents
from elvarn.core.errors import Inconsistent, NotEnoughData, OutOfRange


def test_a_card_worked_by_hand():
    """230/236° on 112° at a centreline of 108°, the common street card, worked on paper: 7 and 43, 54 and 2."""
    found = events_of(230, separation=112, centreline=108, exhaust_duration=236)
    assert found == CamEvents(7, 43, 54, 2)
    card = card_of(found)
    assert (card.separation, card.advance, card.inlet_centreline) == (112, 4, 108)


def test_advance_and_centreline_are_two_words_for_one():
    by_advance = events_of(270, separation=110, advance=2, exhaust_duration=274)
    assert by_advance == events_of(270, separation=110, centreline=108, exhaust_duration=274)


@given(st.floats(190, 320), st.floats(190, 320), st.floats(98, 120), st.floats(-8, 8))
def test_there_and_back_again(inlet, exhaust, separation, advance):
    card = card_of(events_of(inlet, separation, advance, exhaust_duration=exhaust))
    assert (card.inlet_duration, card.exhaust_duration) == pytest.approx((inlet, exhaust))
    assert (card.separation, card.advance) == pytest.approx((separation, advance), abs=1e-9)


def test_without_the_exhaust_the_inlet_alone_is_told():
    found = events_of(248, centreline=104)
    assert (found.inlet_opens_before_top, found.inlet_closes_after_bottom) == (20, 48)
    assert found.exhaust_opens_before_bottom is None
    assert card_of(found).separation is None


@pytest.mark.parametrize(
    ("given", "error", "words"),
    [
        ({"inlet_duration": 240}, NotEnoughData, "separation or centreline"),
        ({"inlet_duration": 240, "centreline": 108, "exhaust_duration": 240}, NotEnoughData, "separation"),
        ({"inlet_duration": 240, "separation": 112, "advance": 4, "centreline": 104}, Inconsistent, "not at 104"),
        ({"inlet_duration": 240, "separation": 60}, OutOfRange, "separation"),
        ({"inlet_duration": 420, "separation": 110}, Inconsistent, "duration"),
    ],
)
def test_what_no_cam_is_is_refused(given, error, words):
    with pytest.raises(error, match=words):
        events_of(**given)


def test_a_degree_is_rounding_and_two_are_another_cam():
    one = CamEvents(7, 43, 54, 2)
    assert same_events(one, CamEvents(7.8, 43, None, None))
    assert not same_events(one, CamEvents(9.1, 43, 54, 2))
