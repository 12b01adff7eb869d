"""What is kept in memory: the values asked for last, up to a number or a weight."""

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier, Event, current_thread
from time import sleep

import pytest

from elvarn.service.kernel.memo import Memo


def test_a_value_is_made_once():
    memo, made = Memo(4), []

    def make():
        made.append(len(made))
        return made[-1]

    assert [memo.get("key", make), memo.get("key", make), memo.get("other", make)] == [0, 0, 1]


def test_the_value_not_asked_for_longest_goes_first():
    memo = Memo(2)
    for key in ("a", "b", "a", "c"):
        memo.get(key, lambda key=key: key)
    assert memo.get("a", lambda: "made anew") == "a"
    assert memo.get("b", lambda: "made anew") == "made anew"


def test_values_that_weigh_are_kept_up_to_their_sum():
    memo = Memo(10, len)
    memo.get("six", lambda: b"123456")
    memo.get("five", lambda: b"12345")
    assert memo.get("six", lambda: b"anew") == b"anew"


def test_who_asks_while_another_makes_it_waits_for_that_one():
    memo, made, asked = Memo(4), [], Barrier(4)

    def make():
        made.append(current_thread())
        sleep(0.1)
        return "made"

    def ask(_):
        asked.wait(10)
        return memo.get("key", make)

    with ThreadPoolExecutor(4) as people:
        assert list(people.map(ask, range(4))) == ["made"] * 4
    assert len(made) == 1


def test_where_making_it_fails_who_waited_makes_it():
    memo, began, fails = Memo(4), Event(), [True]

    def make():
        began.set()
        sleep(0.1)
        if fails and fails.pop():
            raise ValueError("no")
        return "made"

    with ThreadPoolExecutor(2) as people:
        first = people.submit(memo.get, "key", make)
        assert began.wait(10)
        assert people.submit(memo.get, "key", make).result(10) == "made"
        with pytest.raises(ValueError, match="no"):
            first.result()
