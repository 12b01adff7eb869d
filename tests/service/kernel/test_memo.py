"""What is kept in memory: the values asked for last, up to a number or a weight."""

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
