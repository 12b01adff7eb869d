"""Bolts: which length holds, how tight it may be, what gives first."""

from math import pi

import pytest

from elvarn.core.errors import OutOfRange
from elvarn.core.fit.bolt import (
    LBF_IN,
    PRINTED,
    PROOF_STRESS,
    BoltClass,
    Into,
    Joint,
    Lubrication,
    hold_of,
    lengths_that_fit,
    preload_at,
    proof_load,
    strip_load,
    tightness,
    torque_findings,
    torque_for,
)
from elvarn.core.fit.thread import THREADS, thread_of, thread_percent

M6, M8 = thread_of("M6"), thread_of("M8")


def codes(findings):
    return [one.code for one in findings]


@pytest.mark.parametrize("bolt_class", PRINTED)
def test_printed_proof_loads_are_their_own_stress_times_area(bolt_class):
    """ISO 898-1 rounds both; within 1 % they are one."""
    for name, load in PRINTED[bolt_class].items():
        assert load == pytest.approx(PROOF_STRESS[bolt_class] * THREADS[name].stress_area, rel=0.01)
        assert proof_load(THREADS[name], bolt_class) == load


def test_a_thread_is_found_as_it_is_typed():
    assert thread_of("m8 × 1,25") is THREADS["M8"]
    assert thread_of("M8x1") is THREADS["M8x1"]
    assert thread_of("1/4-20") is THREADS["1/4-20"]
    with pytest.raises(OutOfRange, match="M9"):
        thread_of("M9")


def test_inch_threads_carry_what_their_standard_prints():
    """ASME B1.1, tensile stress areas in in², from memory."""
    for name, area in (("1/4-20", 0.0318), ("5/16-18", 0.0524), ("3/8-16", 0.0775)):
        assert thread_of(name).stress_area / 0.0254**2 == pytest.approx(area, abs=5e-5)


def test_a_drill_as_large_as_its_thread_is_refused():
    with pytest.raises(OutOfRange, match="leaves no thread"):
        thread_percent(M6, 0.006)


def test_the_stack_decides_the_length():
    """The trade's own: an M6 by 40, 45 with a washer, into cast aluminium."""
    bare = lengths_that_fit(Joint(M6, Into.CAST_ALUMINIUM, 0.029, depth=0.014))
    assert [round(1000 * one.length) for one in bare] == [40]
    washed = lengths_that_fit(Joint(M6, Into.CAST_ALUMINIUM, 0.029, washers=0.005, depth=0.014))
    assert [round(1000 * one.length) for one in washed] == [45]
    assert bare[0].engaged == pytest.approx(0.011)
    assert bare[0].turns == pytest.approx(11)


def test_one_that_bottoms_and_one_that_holds_by_three_threads_are_told():
    joint = Joint(M8, Into.CAST_ALUMINIUM, 0.020, depth=0.016)
    assert codes(hold_of(joint, 0.040).findings) == ["bottoms"]
    assert "bottoms by 4.0 mm" in hold_of(joint, 0.040).findings[0].text
    assert codes(hold_of(joint, 0.02375).findings) == ["few_threads"]
    assert "3.0 threads" in hold_of(joint, 0.02375).findings[0].text
    assert codes(hold_of(joint, 0.030).findings) == ["short"]
    assert hold_of(Joint(M8, Into.CAST_ALUMINIUM, 0.020, depth=0.018), 0.035).fits


def test_no_length_fits_a_hole_that_is_too_shallow():
    assert lengths_that_fit(Joint(M8, Into.SOFT_ALUMINIUM, 0.020, depth=0.012)) == []


def test_through_an_open_hole_nothing_stands_out_far():
    fits = lengths_that_fit(Joint(M6, Into.STEEL, 0.010))
    assert [round(1000 * one.length) for one in fits] == [16, 20, 25]
    assert all(one.spare is None for one in fits)


def test_an_m6_of_8_8_reaches_proof_before_cast_aluminium_strips():
    """At 1.5 to 2 diameters of engagement: physics of threads into aluminium, common practice."""
    assert strip_load(M6, 2 * 0.006, Into.CAST_ALUMINIUM) > proof_load(M6, BoltClass.C8_8)
    assert strip_load(M6, 0.009, Into.CAST_ALUMINIUM) == pytest.approx(130e6 * 0.875 * pi * 0.006 * 0.009)


def test_a_torque_and_its_preload_are_inverse():
    load = preload_at(torque_for(8700, M6, 0.165), M6, 0.165)
    assert load == pytest.approx(8700)


def test_how_tight_is_by_proof_or_by_the_thread_in_the_part():
    steel = tightness(M8, BoltClass.C8_8, Lubrication.OILED, 0.016, Into.STEEL)
    assert not steel.stripped
    assert steel.of_proof == pytest.approx(0.75)
    assert steel.usual == pytest.approx(0.165 * 0.008 * 0.75 * 21200)
    assert steel.low < steel.usual < steel.high
    soft = tightness(M8, BoltClass.C12_9, Lubrication.OILED, 0.008, Into.SOFT_ALUMINIUM)
    assert soft.stripped
    assert soft.usual * 1.5 == pytest.approx(soft.strips_at)


def test_torques_of_practice_lie_in_the_computed_range():
    """Plain M6 into cast aluminium 8 to 10 N·m, M8 18 to 22: common practice, no source."""
    m6 = tightness(M6, BoltClass.C8_8, Lubrication.OILED, 0.011, Into.CAST_ALUMINIUM)
    m8 = tightness(M8, BoltClass.C8_8, Lubrication.OILED, 0.015, Into.CAST_ALUMINIUM)
    assert 7 < m6.usual < 10.5
    assert 18 < m8.usual < 23


def test_inch_pounds_read_as_newton_metres_are_caught():
    [finding] = torque_findings(89, M6, BoltClass.C8_8, Lubrication.OILED, 0.012, Into.CAST_ALUMINIUM)
    assert finding.code == "strips"
    assert "89 lbf·in would be 10.1 N·m" in finding.text
    assert torque_for(89 * LBF_IN, M6, 1 / M6.diameter) == pytest.approx(10.0556, rel=1e-4)


def test_a_torque_above_proof_and_one_that_hardly_holds_are_told():
    at = (M8, BoltClass.C8_8, Lubrication.OILED, 0.020, Into.STEEL)
    assert codes(torque_findings(32, *at)) == ["above_proof"]
    assert codes(torque_findings(4, *at)) == ["loose"]
    assert torque_findings(21, *at) == []


def test_what_can_not_be_is_refused():
    with pytest.raises(OutOfRange):
        Joint(M6, Into.STEEL, 0.0)
    with pytest.raises(OutOfRange):
        Joint(M6, Into.STEEL, 0.01, depth=0.0)
    with pytest.raises(OutOfRange):
        hold_of(Joint(M6, Into.STEEL, 0.01), 0)
    with pytest.raises(OutOfRange):
        torque_findings(0, M6, BoltClass.C8_8, Lubrication.DRY, 0.01, Into.STEEL)
