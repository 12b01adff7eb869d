"""Where to take metal next, and what it says where it should not be taken."""

from dataclasses import replace

import pytest

from elvarn.core.port.level import Gauged
from elvarn.core.port.next_cut import Bar, Head, RunnerNow, Station, next_cut
from elvarn.core.port.worth import record_of

NEW = record_of([])
WALLS = tuple(Gauged(hour, wall) for hour, wall in ((12, 0.0032), (3, 0.0039), (6, 0.0046), (9, 0.0039)))
PLACES = (0.0, 0.09, 0.18, 0.27)
WANTED = (1399e-6, 1362e-6, 1302e-6, 1240e-6)


def runner(number, now, walls=WALLS, flow=0.094, bars=(None,) * 4, wanted=WANTED):
    given = zip(PLACES, now, wanted, bars, strict=True)
    return RunnerNow(number, tuple(Station(p, n, w, walls, bar) for p, n, w, bar in given), flow)


SMALL = runner(3, (1398e-6, 1300e-6, 1296e-6, 1240e-6), flow=0.092)
DONE = runner(1, WANTED, flow=0.0958)


def test_the_pinch_of_the_runner_that_lacks_most_comes_first():
    found = next_cut([DONE, SMALL, runner(2, (1399e-6, 1355e-6, 1302e-6, 1240e-6))], NEW)
    assert (found.head, found.runner, found.station) == (Head.CUT, 3, 1)
    rest = found.rests[1]
    cell = rest.cells[1]
    assert cell.cut is not None
    assert cell.cut.area == pytest.approx(62e-6)
    assert cell.cut.hour == 6
    assert rest.gain == pytest.approx(sum(one.share for one in rest.cells))
    assert rest.half == pytest.approx(rest.gain / 2)
    assert rest.flow_gain == pytest.approx(rest.gain * 0.092)


def test_what_the_casting_showed_scales_the_gain():
    shown = record_of([0.5, 0.5, 0.5, 0.5])
    plain, scaled = (next_cut([SMALL], record).rests[0] for record in (NEW, shown))
    assert scaled.gain == pytest.approx(plain.gain / 2)
    assert scaled.half == pytest.approx(0)
    assert scaled.cells[1].share == pytest.approx(plain.cells[1].share / 2)


def test_no_depth_without_a_wall():
    found = next_cut([DONE, replace(SMALL, stations=tuple(replace(s, walls=()) for s in SMALL.stations))], NEW)
    assert (found.head, found.runner, found.station) == (Head.GAUGE, 3, 1)
    assert found.rests[1].cells[1].cut is None


def test_a_gauged_place_goes_before_one_that_is_not():
    blind = replace(SMALL, stations=(*SMALL.stations[:1], replace(SMALL.stations[1], walls=()), *SMALL.stations[2:]))
    found = next_cut([blind], NEW)
    assert (found.head, found.station) == (Head.CUT, 2)


def test_stop_when_the_bench_could_not_show_the_rest():
    gain = next_cut([SMALL], NEW).rests[0].flow_gain
    assert next_cut([DONE, SMALL], NEW, showable=gain * 0.99).head is Head.CUT
    stopped = next_cut([DONE, SMALL], NEW, showable=gain * 1.01)
    assert (stopped.head, stopped.runner) == (Head.STOP, None)
    assert all(rest.unseen for rest in stopped.rests)


def test_stop_when_all_is_there():
    assert next_cut([DONE, replace(DONE, number=2)], NEW).head is Head.STOP


@pytest.mark.parametrize("bar", list(Bar))
def test_where_no_metal_may_come_off_none_does(bar):
    found = next_cut([replace(SMALL, stations=tuple(replace(s, bar=bar) for s in SMALL.stations))], NEW)
    assert found.head is Head.WALLS
    assert found.rests[0].gain == 0


def test_a_thin_wall_ends_it_and_what_it_gives_is_less():
    thin = tuple(Gauged(hour, 0.0031) for hour in (3, 6, 9, 12))
    found = next_cut([runner(3, [station.now for station in SMALL.stations], thin)], NEW)
    cell = found.rests[0].cells[1]
    assert found.head is Head.CUT
    assert cell.walled
    assert cell.cut.depth == pytest.approx(0.0001)
    assert found.rests[0].gain < next_cut([SMALL], NEW).rests[0].gain
    at_least = tuple(Gauged(hour, 0.003) for hour in (3, 6, 9, 12))
    assert next_cut([runner(3, [s.now for s in SMALL.stations], at_least)], NEW).head is Head.WALLS


def test_nothing_measured_and_nothing_wanted_are_said_first():
    assert next_cut([runner(1, (None,) * 4)], NEW).head is Head.MEASURE
    assert next_cut([runner(1, WANTED, wanted=(None,) * 4)], NEW).head is Head.TARGET


def test_a_runner_that_nobody_measured_is_never_called_done():
    """What the bench could show is no word on a runner of which nothing is known."""
    blank = replace(DONE, number=2, stations=tuple(replace(s, now=None) for s in DONE.stations))
    found = next_cut([DONE, blank], NEW, showable=0.001)
    assert (found.head, found.runner, found.station) == (Head.MEASURE, 2, 0)
    assert [rest.unseen for rest in found.rests] == [True, False]
    once = replace(blank, stations=(DONE.stations[0], *blank.stations[1:]))
    found = next_cut([DONE, once], NEW, showable=0.001)
    assert (found.head, found.runner, found.station) == (Head.MEASURE, 2, 1)
    assert next_cut([SMALL, blank], NEW, showable=1e-6).head is Head.CUT


def test_a_runner_that_nobody_flowed_is_never_called_done():
    """Its gain is known as a share alone: what the bench can show is a flow."""
    rest = next_cut([replace(SMALL, flow=None)], NEW, showable=1.0).rests[0]
    assert (rest.flow_gain, rest.unseen) == (None, False)
