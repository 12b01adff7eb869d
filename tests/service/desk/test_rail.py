"""Where a job stands: the sum of its steps."""

from collections import namedtuple
from dataclasses import dataclass, replace
from types import SimpleNamespace

import pytest

from elvarn.core.rail import KINDS, Step
from elvarn.service.desk.rail import rail_of

WHOLE, POSTED = (next(kind.rail for kind in KINDS if kind.code == code) for code in ("whole_job", "port_by_post"))
Engine = namedtuple("Engine", "bore_mm stroke_mm limit_rpm boosted boost_kpa", defaults=(False, None))
KNOWN = Engine(82.0, 90.0, 7000)
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
    engine: tuple | None = KNOWN
    band_high_rpm: int | None = 7000
    latest_build: object = None
    measured_nodes: tuple = ()
    stock_build = STOCK
    before_state = BEFORE
    builds = (STOCK, STAGE_2)

    @property
    def job(self):
        kind, closed_at = SimpleNamespace(rail=list(self.rail)), "now" if self.closed else None
        return SimpleNamespace(kind=kind, closed_at=closed_at, engine=self.engine, band_high_rpm=self.band_high_rpm)

    @property
    def flows(self):
        return (*self.before, *self.after)

    @property
    def pulls(self):
        return range(self.stock_pulls + self.other_pulls)

    def measured(self, node):
        return node in self.measured_nodes

    @property
    def after_state(self):
        return SimpleNamespace(stage=self.stage, in_work=False) if self.cut else None

    @property
    def tasks(self):
        return [SimpleNamespace(rail_step="fit", state=state, fit_key=None) for state in self.fit]

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
    assert (found.next, found.steps[-1].status) == ("Handed over", "handed over")


def node(kind, label):
    return SimpleNamespace(element_kind=kind, label=label)


FILTER, TUBE, RUNNER = node("filter", "Filter"), node("tube", "Tube"), node("runner", "Runner 1")
PATH = SimpleNamespace(nodes=(FILTER, TUBE, RUNNER), is_stock=True)


def test_a_job_stands_at_check_in_until_what_decides_is_answered_or_work_was_begun():
    found = stands(WHOLE, engine=None, band_high_rpm=None)
    assert (found.here, found.next) == ("checkin", "Answer at check-in: bore and stroke, rev limit and rpm band")
    assert found.steps[0].status == "0 of 3"
    assert stands(WHOLE, engine=Engine(82.0, 90.0, 7000, boosted=True)).next == "Answer at check-in: boost"
    assert stands(WHOLE, band_high_rpm=None, before=(1,)).here == "dyno"
    assert stands(WHOLE, band_high_rpm=None, before=(1,)).steps[0].status == "2 of 3"


def test_a_posted_part_is_asked_for_no_engine_and_says_nothing_is_done():
    found = stands(POSTED, engine=None, band_high_rpm=None)
    assert found.here == "bench"
    assert "done" not in [step.status for step in found.steps]


def test_the_path_is_measured_after_the_stock_pull_unless_the_bench_was_begun():
    told = {"stock_pulls": 1, "latest_build": PATH}
    found = stands(WHOLE, **told)
    assert (found.here, found.next) == ("path", "Measure the path, from the filter on")
    assert stands(WHOLE, **told, measured_nodes=(TUBE,)).here == "bench"
    assert stands(WHOLE, **told, before=(1,)).here == "bench"
    assert found.steps[1].status == "0 of 3"
    assert stands(WHOLE, **told, measured_nodes=(FILTER, TUBE, RUNNER)).steps[1].status == "measured"
