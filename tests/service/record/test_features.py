"""What is said of parts, kept and read; a measured bore counts for the stated one."""

import pytest

from elvarn.service.record.features import (
    BendSpec,
    Claim,
    HomeSpec,
    JointSpec,
    PartFeatures,
    PlugSpec,
    SectionSpec,
    SurroundingsSpec,
    core_bends,
    core_features,
    core_sections,
    core_surroundings,
    kept,
    read,
)

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
    found = core_features(FULL)
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
    assert core_features(FULL, 0.0685).inlet.opening == pytest.approx(0.0685)
    assert core_features(FULL, 0.0685).inlet.bolt_count == 4
    assert core_features(PartFeatures(), bore_out=0.07).outlet.opening == pytest.approx(0.07)
    assert core_features(PartFeatures()).inlet is None


def test_surroundings_carry_boost_and_fuel_of_the_engine():
    spec = SurroundingsSpec(bonnet_height_mm=160, ports=["brake servo"], heat_c=100, welding=True)
    found = core_surroundings(read(SurroundingsSpec, kept(spec)), 60, "E85")
    assert (found.bonnet_height, found.boost) == pytest.approx((0.16, 60e3))
    assert (found.fuel, found.welding) == ("E85", True)
    assert core_surroundings(spec, None, "petrol").boost is None
