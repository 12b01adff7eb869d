"""Air demand, tuning, injectors and the engine's own figures."""

import pytest

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, HORSEPOWER, REFERENCE_DEPRESSION
from elvarn.core.engine import demand, injector, tuning
from elvarn.core.engine.geometry import CamEvents, check_cam_events
from elvarn.core.engine.strokes import drawing_factor, even_strokes
from elvarn.core.errors import Inconsistent, OutOfRange
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.path.plausible import doubt_dimension

CFM = CUBIC_FOOT_PER_MINUTE


def test_the_rule_of_thumb_and_the_physical_need_stand_beside_each_other():
    """Rule: 250 hp from five cylinders at 0.257 hp/CFM is 194.6 CFM each (common practice, no source)."""
    factor = drawing_factor(even_strokes(5), (1,))
    need = demand.runner_need(250 * HORSEPOWER, 5, 1.2, factor, 10_000)
    assert need.rule / CFM == pytest.approx(250 / 5 / 0.257)
    assert need.rule_low < need.rule < need.rule_high
    mean = demand.air_for_power(250 * HORSEPOWER) / 1.2 / 5
    area = need.physical / volume_flow_of(1.0, REFERENCE_DEPRESSION)
    assert factor * 1.2 / 2 * (mean / area) ** 2 == pytest.approx(10_000)
    tighter = demand.runner_need(250 * HORSEPOWER, 5, 1.2, factor, 5_000)
    assert tighter.physical > need.physical


def test_a_drop_to_the_plenum_costs_its_share_of_the_air():
    """2.5 kPa are 2.5 % of the air, whatever carries them (common practice, no source)."""
    assert demand.drop_share(2500, 100_000) == pytest.approx(0.025)
    assert demand.power_share(0.025) == pytest.approx(0.025 / 0.85)


def test_injector_of_the_trades_example():
    """36 lb/h at 43.5 psi is about 41.6 at 58 (common practice, no source)."""
    assert injector.flow_at_pressure(36, 43.5, 58) == pytest.approx(41.6, abs=0.05)
    duty = injector.duty_for_power(200e3, demand.FUEL_FOR_WORK, 5, injector.required_fuel_flow(
        200e3, demand.FUEL_FOR_WORK, 5, 0.8))  # fmt: skip
    assert duty == pytest.approx(0.8)
    with pytest.raises(OutOfRange, match="rail"):
        injector.pressure_across(300e3, 310e3)
    with pytest.raises(OutOfRange, match="dead time"):
        injector.fuel_in_pulse(1e-5, 0.0008, 0.0009)
    with pytest.raises(OutOfRange, match="held open"):
        injector.required_fuel_flow(1e5, 1e-7, 4, 1.2)


def test_several_sections_stand_for_one_of_the_same_inertia():
    sections = [tuning.Section(0.20, 0.0014), tuning.Section(0.10, 0.0010)]
    one = tuning.equivalent_section(sections)
    assert one.length / one.area == pytest.approx(0.20 / 0.0014 + 0.10 / 0.0010)
    assert 0.0010 < one.area < 0.0014
    with pytest.raises(OutOfRange):
        tuning.equivalent_section([])


def test_long_and_narrow_favours_the_middle_short_and_wide_the_top():
    def speed(length, area):
        return tuning.engelman_speed(tuning.Section(length, area), 0.48e-3, 10.5, 345).speed_rpm

    assert speed(0.45, 0.0011) < speed(0.35, 0.0012) < speed(0.25, 0.0014)


def test_cam_and_runner_pull_in_different_directions_only_where_their_ranges_do_not_meet():
    runner = tuning.engelman_speed(tuning.Section(0.5, 0.0011), 0.48e-3, 10.5, 345)
    wild, mild = tuning.cam_speed(260), tuning.cam_speed(205)
    assert runner.speed_rpm == pytest.approx(4200, abs=300)
    assert tuning.pull_apart(runner, wild)
    assert not tuning.pull_apart(runner, mild)
    assert tuning.against_band(wild, 3000, 5000) == "above"
    assert tuning.against_band(mild, 3000, 5000) == "inside"
    assert tuning.against_band(mild, 5500, 7000) == "below"
    for refused in (lambda: tuning.cam_speed(100), lambda: tuning.against_band(mild, 5000, 4000)):
        with pytest.raises(OutOfRange):
            refused()


@pytest.mark.parametrize(
    ("events", "words"),
    [
        (CamEvents(-120, -90), "closes 30° before it opens"),
        (CamEvents(15, 400), "duration is 595°"),
        (CamEvents(10, 50, -150, -60), "Exhaust valve closes"),
    ],
)
def test_cam_events_that_cross_are_refused(events, words):
    with pytest.raises(Inconsistent, match=words):
        check_cam_events(events)


def test_cam_events_tell_duration_and_overlap():
    events = CamEvents(12, 48, 50, 10)
    check_cam_events(events)
    assert events.inlet_duration == 240
    assert events.overlap == 22
    assert CamEvents(12, 48).overlap is None


def test_a_bore_in_the_wrong_unit_is_doubted_with_what_was_meant():
    doubt = doubt_dimension("throttle", "bore", 7, "in", 0.1778)
    assert doubt is not None
    assert "7 in" in doubt.text
    assert doubt.meant == ("7 cm",)
    assert doubt_dimension("throttle", "bore", 70, "mm", 0.070) is None
    assert doubt_dimension("plenum", "volume", 3, "l", 0.003) is None
    assert doubt_dimension("runner", "bore", 44, "in", 44 * 0.0254).meant == ("44 mm",)
    assert doubt_dimension("tube", "length", 3000, "mm", 3.0) is not None


def test_filling_from_brake_power_follows_the_friction():
    """100 kW from 2.4 litres at 6000 rpm: friction of 3.67 bar (Heywood, eq. (13.6), from memory) takes 44 kW more."""
    friction = demand.friction_pressure(6000)
    assert friction == pytest.approx(3.67e5)
    lost = friction * 2.4e-3 * 50
    air = demand.air_from_brake_power(100e3, 2.4e-3, 6000)
    assert air == pytest.approx(demand.air_for_power((100e3 + lost) * 0.85))
    assert demand.air_from_brake_power(100e3, 2.4e-3, 7500) > air
