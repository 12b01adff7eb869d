"""Where a job stands."""

from dataclasses import replace

import pytest

from elvarn.core.takein.progress import Progress, standing

WHOLE = ("takein", "path", "bench", "port", "fit", "dyno", "handover")
POSTED = ("takein", "bench", "port", "handover")
FIVE = (1, 2, 3, 4, 5)
NOTHING = Progress(FIVE, (), (), False, None, 0, 0, 0, 0, 6, 0)


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
        ({"stock_pulls": 1, "before": FIVE}, "port"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True}, "bench"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True, "after": FIVE, "fit_steps": 2}, "fit"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True, "after": FIVE}, "dyno"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True, "after": FIVE, "other_pulls": 1}, "handover"),
    ],
)
def test_goes_along_the_order_of_work(done, step):
    assert where(WHOLE, **done) == step


def test_the_rail_shows_what_is_done_of_each_step():
    rail = standing(WHOLE, replace(NOTHING, before=FIVE, after=(1, 2, 5), cut=True, stage=2, stock_pulls=1)).rail
    status = {step.word: step.status for step in rail}
    assert status["bench"] == "after, 3 of 5"
    assert status["port"] == "stage 2"
    assert status["dyno"] == "stock run"


def test_the_next_runner_is_the_first_that_was_not_read():
    assert standing(POSTED, replace(NOTHING, before=(1, 4))).next == "Flow runner 2 before cutting"
    assert standing(POSTED, replace(NOTHING, before=FIVE, cut=True, after=(1, 2, 5))).next.startswith("Flow runner 3")


def test_a_reference_runner_alone_is_read():
    one = replace(NOTHING, runners=(3,), before=(3,), cut=True)
    assert standing(POSTED, one).next == "Flow runner 3 after cutting"
    done = standing(POSTED, replace(one, after=(3, 1)))
    assert (done.step, done.rail[1].status) == ("handover", "after, 1 of 1")
