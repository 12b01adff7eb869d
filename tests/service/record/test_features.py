"""What is said of parts, kept and read; a measured bore counts for the stated one."""

import pytest

from elvarn.service.record.features import (
    Claim,
    PartFeatures,
    SurroundingsSpec,
    core_bends,
    core_features,
    core_sections,
    core_surroundings,
    kept,
    read,
)
from elvarn.service.record.specs import BendSpec, Brakes, HomeSpec, JointSpec, PlugSpec, SectionSpec
from elvarn.store.models import Engine

FULL = PartFeatures(
    inlet=JointSpec(70, 4, 66, 62),
    outlet=JointSpec(outside_mm=76),
    swing_mm=12,
    plugs=[PlugSpec("throttle position", "six-way", "opposed")],
    homes=[HomeSpec("injector", 13.8)],
    ports=[],
    height_mm=158,
    boost_kpa=80,
    heat_limit_c=120,
    weldable=False,
    fuels=["petrol"],
    sections=[SectionSpec(120, 46), SectionSpec(190, 42, 38)],
    bends=[BendSpec(45, 1.5)],
    ribbed=True,
)


def test_what_is_kept_is_read_again_and_none_is_not_nothing():
    again = read(PartFeatures, kept(FULL))
    assert again == FULL
    assert again.ports == []
    assert read(PartFeatures, {}).ports is None
    assert read(PartFeatures, kept(PartFeatures(weldable=False))).weldable is False
    claim = Claim("more power", "a tune", 3)
    assert read(Claim, kept(claim)) == claim


def test_it_is_computed_with_in_si():
    found = core_features(FULL, "manifold")
    assert found.inlet.opening == pytest.approx(0.070)
    assert found.inlet.bolt_spacing == pytest.approx((0.066, 0.062))
    assert found.boost_rating == pytest.approx(80e3)
    assert found.heat_limit == pytest.approx(393.15)
    assert found.homes[0].bore == pytest.approx(0.0138)
    assert core_bends(FULL)[0].radius_over_bore == 1.5
    sections = core_sections(FULL)
    assert sections[0].area == pytest.approx(3.14159265 / 4 * 0.046**2)
    assert sections[1].area == pytest.approx(3.14159265 / 4 * 0.042 * 0.038)


def test_a_measured_bore_counts_for_the_stated_opening():
    assert core_features(FULL, "manifold", 0.0685).inlet.opening == pytest.approx(0.0685)
    assert core_features(FULL, "manifold", 0.0685).inlet.bolt_count == 4
    assert core_features(PartFeatures(), "tube", bore_out=0.07).outlet.opening == pytest.approx(0.07)
    assert core_features(PartFeatures(), "tube").inlet is None


def test_surroundings_carry_boost_and_fuel_of_the_engine():
    spec = SurroundingsSpec(bonnet_height_mm=160, ports=["brake servo"], heat_c=100, welding=True)
    engine = Engine(boosted=True, boost_kpa=60, fuel="E85")
    found = core_surroundings(read(SurroundingsSpec, kept(spec)), engine, None, 8)
    assert (found.bonnet_height, found.boost) == pytest.approx((0.16, 60e3))
    assert (found.fuel, found.welding) == ("E85", True)
    assert (found.cylinders, found.ports) == (8, ("brake servo",))
    assert core_surroundings(spec, None, None, 0).boost is None
    assert core_surroundings(spec, Engine(boosted=False, boost_kpa=60, fuel="petrol"), None, 4).boost is None


def test_brakes_that_vacuum_assists_ask_for_their_port_once():
    asked = core_surroundings(SurroundingsSpec(ports=["purge"], brakes=Brakes.VACUUM), None, None, 4)
    assert asked.ports == ("purge", "brake servo")
    named = core_surroundings(SurroundingsSpec(ports=["Brake booster"], brakes=Brakes.VACUUM), None, None, 4)
    assert named.ports == ("Brake booster",)
    assert core_surroundings(SurroundingsSpec(brakes=Brakes.OTHER), None, None, 4).ports == ()


def test_what_the_engine_asks_for_is_what_its_stock_manifold_has_where_nobody_said():
    stock = PartFeatures(head_flange="F5", port_pitch_mm=91, casting="F5 early")
    found = core_surroundings(SurroundingsSpec(port_pitch_mm=92), None, stock, 5)
    assert (found.head_flange, found.stock_casting) == ("F5", "F5 early")
    assert found.port_pitch == pytest.approx(0.092)
