"""The order of work beside the passes: every list is sorted so that no rule is broken, and what is lacking is told."""

from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.port.order import BRINGS, RULES, Work, in_order, lacking, too_early

works = st.sets(st.sampled_from(list(Work)))


@given(works)
def test_every_order_keeps_every_rule_and_every_work(listed):
    found = in_order(listed)
    assert set(found) == listed
    assert len(found) == len(listed)
    for rule in RULES:
        if rule.first in listed and rule.then in listed:
            assert found.index(rule.first) < found.index(rule.then), rule.why


@given(works)
def test_done_in_that_order_nothing_comes_too_early(listed):
    rest = in_order(listed)
    while rest:
        assert too_early(rest[0], rest[1:]) == []
        rest = rest[1:]


def test_matching_before_welding_is_too_early_and_says_why():
    [rule] = too_early(Work.MATCH, {Work.WELD, Work.COAT})
    assert (rule.first, rule.why) == (Work.WELD, "welding moves the opening that was matched")


def test_welding_asks_for_a_leak_test_and_flatness():
    assert lacking({Work.WELD}) == [(Work.CLEAN, Work.WELD), (Work.LEAK, Work.WELD), (Work.FLATNESS, Work.WELD)]
    assert lacking({Work.WELD, *BRINGS[Work.WELD]}) == []


def test_what_two_works_ask_for_is_lacking_once():
    assert [work for work, _ in lacking({Work.BLAST, Work.COAT})] == [Work.MASK, Work.BLOW_OUT, Work.AGAIN]


def test_nothing_is_lacking_on_an_empty_list():
    assert lacking(()) == []
    assert in_order(()) == []
