"""Where a job stands."""

from dataclasses import replace

import pytest

from elvarn.core.takein.progress import Progress, standing

WHOLE = ("takein", "path", "bench", "port", "fit", "dyno", "handover")
POSTED = ("takein", "bench", "port", "handover")
NOTHING = Progress(5, 0, 0, False, None, 0, 0, 0, 0, 6, 0)


def where(rail, **done):
    return standing(rail, replace(NOTHING, **done)).step


def test_stock_is_pulled_before_anything_comes_off():
    assert where(WHOLE) == "dyno"
    assert standing(WHOLE, NOTHING).next == "Stock pull before anything comes off"


def test_a_posted_part_needs_no_dyno():
    assert where(POSTED) == "bench"


@pytest.mark.parametrize(
    ("done", "step"),
    [
        ({"stock_pulls": 1}, "bench"),
        ({"stock_pulls": 1, "before": 5}, "port"),
        ({"stock_pulls": 1, "before": 5, "cut": True}, "bench"),
        ({"stock_pulls": 1, "before": 5, "cut": True, "after": 5, "fit_steps": 2}, "fit"),
        ({"stock_pulls": 1, "before": 5, "cut": True, "after": 5}, "dyno"),
        ({"stock_pulls": 1, "before": 5, "cut": True, "after": 5, "other_pulls": 1}, "handover"),
    ],
)
def test_goes_along_the_order_of_work(done, step):
    assert where(WHOLE, **done) == step


def test_the_rail_shows_what_is_done_of_each_step():
    rail = standing(WHOLE, replace(NOTHING, before=5, after=3, cut=True, stage=2, stock_pulls=1)).rail
    status = {step.word: step.status for step in rail}
    assert status["bench"] == "after, 3 of 5"
    assert status["port"] == "stage 2"
    assert status["dyno"] == "stock run"
