"""Where a job stands: the sum of its steps."""

from dataclasses import dataclass, replace
from types import SimpleNamespace

import pytest

from elvarn.core.rail import KINDS, Step
from elvarn.service.desk.rail import rail_of

WHOLE, POSTED = (next(kind.rail for kind in KINDS if kind.code == code) for code in ("whole_job", "port_by_post"))
FIVE = (1, 2, 3, 4, 5)
STOCK, STAGE_2 = SimpleNamespace(is_stock=True), SimpleNamespace(is_stock=False)
BEFORE = SimpleNamespace(stage=None)


@dataclass(frozen=True)
class Told:
    """A job's record, told by what was done."""

    rail: tuple[Step, ...]
    runners_to_read: tuple[int, ...] = FIVE
    before: tuple[int, ...] = ()
    after: tuple[int, ...] = ()
    cut: bool = False
    stage: int | None = None
    stock_pulls: int = 0
    other_pulls: int = 0
    fit: tuple[str, ...] = ()
    closed: bool = False
    stock_build = STOCK
    latest_build = None
    before_state = BEFORE
    builds = (STOCK, STAGE_2)

    @property
    def job(self):
        return SimpleNamespace(kind=SimpleNamespace(rail=list(self.rail)), closed_at="now" if self.closed else None)

    @property
    def after_state(self):
        return SimpleNamespace(stage=self.stage) if self.cut else None

    @property
    def tasks(self):
        return [SimpleNamespace(rail_step="fit", state=state) for state in self.fit]

    def read_runners(self, state):
        return set(self.before if state is BEFORE else self.after)

    def valid_pulls(self, build):
        return ["a pull"] * (self.stock_pulls if build.is_stock else self.other_pulls)


def stands(rail, **done):
    return rail_of(Told(rail, **done))


def test_stock_is_pulled_before_anything_comes_off():
    found = stands(WHOLE)
    assert (found.here, found.next) == ("dyno", "Stock pull before anything comes off")


def test_a_posted_part_needs_no_dyno():
    assert stands(POSTED).here == "bench"


@pytest.mark.parametrize(
    ("done", "step"),
    [
        ({"stock_pulls": 1}, "bench"),
        ({"stock_pulls": 1, "before": FIVE}, "port"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True}, "bench"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True, "after": FIVE, "fit": ("open", "done")}, "fit"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True, "after": FIVE}, "dyno"),
        ({"stock_pulls": 1, "before": FIVE, "cut": True, "after": FIVE, "other_pulls": 1}, "handover"),
        ({"cut": True, "after": FIVE, "other_pulls": 1, "closed": True}, "handover"),
    ],
)
def test_goes_along_the_order_of_work(done, step):
    assert stands(WHOLE, **done).here == step


def test_the_rail_shows_what_is_done_of_each_step():
    rail = stands(WHOLE, before=FIVE, after=(1, 2, 5), cut=True, stage=2, stock_pulls=1).steps
    status = {step.word: step.status for step in rail}
    assert status["bench"] == "after: 3 of 5"
    assert status["port"] == "stage 2"
    assert status["dyno"] == "stock run"
    assert [step.label for step in rail] == [
        "Check-in", "Air path", "Bench", "Port work", "Fit", "Dyno", "Hand-over"
    ]  # fmt: skip


def test_the_next_runner_is_the_first_that_was_not_read():
    assert stands(POSTED, before=(1, 4)).next == "Flow runner 2 before porting"
    assert stands(POSTED, before=FIVE, cut=True, after=(1, 2, 5)).next == "Flow runner 3 after porting"


def test_a_reference_runner_alone_is_read():
    one = Told(POSTED, runners_to_read=(3,), before=(3,), cut=True)
    assert rail_of(one).next == "Flow runner 3 after porting"
    done = rail_of(replace(one, after=(3, 1)))
    assert (done.here, done.steps[1].status) == ("handover", "after: 1 of 1")


def test_a_closed_job_says_so():
    found = stands(POSTED, before=FIVE, after=FIVE, cut=True, closed=True)
    assert (found.next, found.steps[-1].status) == ("Handed over", "done")
