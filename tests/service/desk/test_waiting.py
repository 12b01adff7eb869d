"""What of a job waits for somebody to decide."""

from types import SimpleNamespace

import pytest

from elvarn.core.bench.pairs import Pairs
from elvarn.service.desk.waiting import waits_for

STOCK = SimpleNamespace(name="stock", is_stock=True)
LONG, WIDE = (SimpleNamespace(name=name, is_stock=False) for name in ("long tube", "wide tube"))


def record(**more):
    told = {
        "job": SimpleNamespace(closed_at=None), "pairs": Pairs((), {}), "tasks": [], "builds": [STOCK],
        "after_state": None, "valid_pulls": lambda build: [],
    }  # fmt: skip
    return SimpleNamespace(**{**told, **more})


@pytest.mark.parametrize(
    ("told", "words"),
    [
        ({}, ""),
        ({"builds": [STOCK, LONG]}, ""),
        ({"builds": [STOCK, LONG, WIDE]}, "choose: long tube and wide tube"),
        ({"builds": [STOCK, LONG, WIDE], "after_state": object()}, ""),
        ({"builds": [STOCK, LONG, WIDE], "valid_pulls": lambda build: ["a pull"] * (build is WIDE)}, ""),
        ({"tasks": [SimpleNamespace(state="waiting", title="welding")]}, "waiting: welding"),
        ({"pairs": Pairs((), {1: ("entry radius",)})}, "decide which figures count"),
        ({"builds": [STOCK, LONG, WIDE], "job": SimpleNamespace(closed_at="today")}, ""),
    ],
)
def test_the_first_thing_that_nobody_decided(told, words):
    assert waits_for(record(**told)) == words
