"""Points of the tests, curves and maps."""

from math import pi, sqrt

import numpy as np
import pytest

from elvarn.core.bench.gain import ASSUMED
from elvarn.core.bench.plan import CLOCK, Measured, PlanKind, axis_of, check_places, stops_of, usual_places
from elvarn.core.bench.probe import pitot_velocity, radians_per_second, swirl_coefficient, velocity_map
from elvarn.core.bench.sweep import (
    copy_difference,
    copy_differences,
    copy_over_curve,
    cost_of_runner,
    differences_by_place,
    figure_differences,
    lift_coefficient,
    mean_over,
    sweep_over_curve,
)
from elvarn.core.difference import Known
from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.gas.air import STANDARD_AIR, density_ideal, speed_of_sound
from elvarn.core.path.tree import ElementKind
from elvarn.core.statistics.scatter import Scatter

KNOWN = Known(Scatter(0.5, float("inf"), 999), Scatter(0.5, 4), Scatter(0.3, 4))


@pytest.mark.parametrize("kind", PlanKind)
@pytest.mark.parametrize("target", [ElementKind.RUNNER, ElementKind.HEAD, ElementKind.THROTTLE, ElementKind.TUBE])
def test_the_usual_places_of_a_kind_can_be_flowed(kind, target):
    axis = axis_of(kind, target)
    places = usual_places(kind, target) or (axis.usual if axis and kind in ("opening", "lift", "swirl") else ())
    check_places(kind, target, places, CLOCK.usual)
    stops = stops_of(kind, 2, places, CLOCK.usual if kind == "pitot" else (), False)
    assert {stop.series for stop in stops} == {0, 1}
    assert {stop.place for stop in stops if not stop.zero} == (set(places) or {None})


def test_probes_go_by_lift_on_a_head_and_by_opening_before_it():
    for kind in (PlanKind.PITOT, PlanKind.SWIRL, PlanKind.COPY):
        names = [axis_of(kind, target).name for target in (ElementKind.HEAD, ElementKind.RUNNER, ElementKind.TUBE)]
        assert names == ["valve lift", "valve lift", "opening"]


def test_a_probe_is_read_at_rest_before_anything_else():
    stops = stops_of(PlanKind.PITOT, 2, [50.0, 100.0], [12.0, 4.0, 8.0], False)
    assert [stop.zero for stop in stops] == [True, *[False] * 6] * 2
    assert [(s.place, s.clock) for s in stops[1:7]] == [(p, c) for p in (50.0, 100.0) for c in (12.0, 4.0, 8.0)]


def test_each_mounting_of_a_copy_has_all_that_is_read_of_it():
    stops = stops_of(PlanKind.COPY, 2, [50.0, 100.0], [12.0, 4.0, 8.0], True)
    assert [(s.series, s.mount) for s in stops[::8]] == [(0, 0), (1, 0), (1, 1), (0, 1)]
    for start in range(0, len(stops), 8):
        one = stops[start : start + 8]
        assert [s.measured for s in one] == [*[Measured.FLOW] * 2, *[Measured.PITOT] * 4, *[Measured.SWIRL] * 2]
        assert [s.zero for s in one] == [False, False, True, False, False, False, True, False]
        assert {s.place for s in one[3:6]} == {one[7].place} == {100.0}


def test_a_copy_is_flowed_in_an_order_that_drift_does_not_touch():
    stops = stops_of(PlanKind.COPY, 2, [], [], False)
    assert [stop.series for stop in stops] == [0, 1, 1, 0]
    for slope in (0.0, 0.004, -0.01):
        drifting = [200.0 * (1.02 if stop.series else 1.0) * (1 + slope * n) for n, stop in enumerate(stops)]
        assert copy_difference(drifting, KNOWN).change == pytest.approx(0.02, abs=3e-4)


def test_the_scatter_of_a_copy_is_that_of_one_reading():
    generator = np.random.default_rng(1)
    found = [copy_difference(list(200 * (1 + generator.normal(0, 0.005, 4))), KNOWN).change for _ in range(4000)]
    assert np.std(found) == pytest.approx(0.005, rel=0.05)
    assert copy_difference([200.0] * 4, KNOWN).half_width == pytest.approx(1.96 * 0.005, rel=1e-4)


@pytest.mark.parametrize(
    ("kind", "places", "clocks", "series"),
    [
        (PlanKind.OPENING, [], [], 1),
        (PlanKind.OPENING, [0.0, 50.0], [], 1),
        (PlanKind.OPENING, [50.0, 120.0], [], 1),
        (PlanKind.LIFT, [2.0, 2.0], [], 1),
        (PlanKind.PITOT, [], [13.0], 1),
        (PlanKind.PITOT, [], [], 1),
        (PlanKind.SWIRL, [], [], 1),
        (PlanKind.CONFIGURATION, [25.0], [], 2),
        (PlanKind.COPY, [30.0], [], 2),  # of a runner: no lift of 30 mm
        (PlanKind.LIFT, [n / 10 for n in range(1, 150)], [], 2),
        (PlanKind.LIFT, [2.0], [], 0),
    ],
)
def test_places_that_can_not_be_are_refused(kind, places, clocks, series):
    def planned():
        check_places(kind, ElementKind.RUNNER, places, clocks)
        return stops_of(kind, series, places, clocks, False)

    with pytest.raises(OutOfRange):
        planned()


def test_a_copy_needs_an_original_and_nothing_else():
    with pytest.raises(OutOfRange, match="A, B, B, A"):
        stops_of(PlanKind.COPY, 3, [], [], False)
    with pytest.raises(NotEnoughData):
        copy_difference([200.0, 201.0], KNOWN)


def test_a_copy_is_judged_at_every_opening_together():
    """Openings share their mountings: each has c = 1, and all are judged together."""
    openings = (25.0, 50.0, 100.0)
    mounts = [{place: 100.0 + place + (1.5 if mount in (1, 2) else 0.0) for place in openings} for mount in range(4)]
    found = copy_differences(mounts, KNOWN)
    assert [one.place for one in found] == list(openings)
    assert [one.verdict.change for one in found] == pytest.approx([0.012, 0.01, 0.0075], rel=1e-6)
    assert all(one.verdict.half_width == pytest.approx(2.388 * 0.005, rel=2e-2) for one in found)
    mounts[2].pop(50.0)
    assert [one.place for one in copy_differences(mounts, KNOWN)] == [25.0, 100.0]
    with pytest.raises(NotEnoughData):
        copy_differences(mounts[:3], KNOWN)


def test_a_whole_curve_is_one_figure_whose_mounting_does_not_shrink_with_its_points():
    first = {2.0: 40.0, 4.0: 80.0, 8.0: 120.0}
    second = {2.0: 40.4, 4.0: 81.6, 8.0: 123.6}
    verdict = sweep_over_curve(first, second, KNOWN)
    logs = [100 * np.log(second[place] / first[place]) for place in first]
    mean = np.trapezoid(logs, list(first)) / 6
    assert 100 * np.log1p(verdict.change) == pytest.approx(mean)
    assert verdict.half_width == pytest.approx(1.96 * 0.005 * 2**0.5 * verdict.change / (mean / 100), rel=1e-4)
    copied = copy_over_curve([first, second, second, first], KNOWN)
    assert copied.change == pytest.approx(verdict.change)
    assert copied.half_width == pytest.approx(verdict.half_width / 2**0.5)
    with pytest.raises(NotEnoughData):
        sweep_over_curve({2.0: 40.0}, second, KNOWN)
    with pytest.raises(NotEnoughData):
        copy_over_curve([first, second], KNOWN)


def test_two_curves_are_compared_where_both_were_read():
    found = differences_by_place({25: 100.0, 50: 200.0, 75: 300.0}, {50: 204.0, 75: 300.5, 90: 330.0}, KNOWN)
    assert [(d.place, d.verdict.real) for d in found] == [(50, True), (75, False)]
    assert found[0].verdict.change == pytest.approx(0.02)
    with pytest.raises(NotEnoughData):
        differences_by_place({25: 1.0}, {50: 1.0}, KNOWN)


def test_the_mean_over_a_curve_is_the_trapezoid():
    assert mean_over({2: 40.0, 4: 80.0, 8: 120.0}) == pytest.approx(np.trapezoid([40, 80, 120], [2, 4, 8]) / 6)
    with pytest.raises(NotEnoughData):
        mean_over({2: 40.0})


def test_a_curtain_without_loss_has_a_coefficient_of_one():
    jet = sqrt(2 * 6974 / density_ideal(STANDARD_AIR))
    assert lift_coefficient(pi * 0.034 * 0.004 * jet, 0.004, 0.034, 6974) == pytest.approx(1.0)


def test_what_a_runner_takes_from_its_head():
    assert cost_of_runner({2: 50.0, 4: 100.0, 6: 140.0}, {4: 97.0, 6: 133.0}) == pytest.approx({4: 0.03, 6: 0.05})


def test_pitot_velocity_is_bernoulli_at_low_speed_and_compressible_at_high():
    assert pitot_velocity(61.0) == pytest.approx(sqrt(2 * 61.0 / density_ideal(STANDARD_AIR)), rel=1e-3)
    mach = 0.3
    isentropic = STANDARD_AIR.pressure * ((1 + 0.2 * mach**2) ** 3.5 - 1)
    assert pitot_velocity(isentropic) == pytest.approx(mach * speed_of_sound(STANDARD_AIR), rel=1e-3)


def test_a_map_names_where_the_air_runs():
    found = velocity_map(
        {clock: pitot_velocity(p) for clock, p in ((12, 5200.0), (3, 4800.0), (6, 3900.0), (9, 4700.0))}
    )
    assert (found.fastest, found.slowest, found.even) == (12, 6, False)
    assert found.distortion == pytest.approx((found.velocities[12] - found.velocities[6]) / found.mean)
    with pytest.raises(NotEnoughData):
        velocity_map({12: 90.0, 6: 80.0})


def test_swirl_is_the_rim_against_the_jet():
    jet = sqrt(2 * 6974 / density_ideal(STANDARD_AIR))
    assert swirl_coefficient(-radians_per_second(60 * jet / pi / 0.086), 0.086, 6974) == pytest.approx(2.0)


class TestOverSessions:
    """A test that rested: what a session may shift stands in the ±."""

    KNOWN = Known(ASSUMED.refit, ASSUMED.session, ASSUMED.plate)

    def test_two_curves_of_two_days_are_less_sure(self):
        curves = ({25: 100.0, 50: 200.0}, {25: 103.0, 50: 206.0})
        same, apart = (differences_by_place(*curves, self.KNOWN, apart) for apart in (False, True))
        assert apart[0].verdict.half_width == pytest.approx(2**0.5 * same[0].verdict.half_width, rel=0.02)
        assert figure_differences(200, [205], self.KNOWN)[0].real
        assert not figure_differences(200, [205], self.KNOWN, apart=True)[0].real

    def test_a_copy_over_two_days_keeps_what_lies_in_one(self):
        """A and B on one day, B and A on the other: the shift cancels; A, B | B, A with the days across does not."""
        flows = (200.0, 204.0, 204.0, 200.0)
        one = copy_difference(flows, self.KNOWN).half_width
        assert copy_difference(flows, self.KNOWN, (0, 0, 1, 1)).half_width == pytest.approx(one)
        assert copy_difference(flows, self.KNOWN, (0, 1, 1, 0)).half_width > 1.2 * one
