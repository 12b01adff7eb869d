"""From what is seen to what this job can have left; room between parts."""

import pytest
from hypothesis import given
from hypothesis import strategies as some

from elvarn.core.errors import OutOfRange
from elvarn.core.fit.clearance import NEEDED, READS_TO, Gauge, Meets, lacking
from elvarn.core.fit.trouble import LIKELY, Symptom, causes_of, codes_of


def test_every_symptom_has_a_cause_that_any_job_can_leave_or_names_what_it_touched():
    for symptom in Symptom:
        assert causes_of(symptom, {name for cause in LIKELY[symptom] for name in cause.of})
        assert all(cause.test for cause in LIKELY[symptom])


def test_only_what_this_job_touched_is_suspected():
    words = [cause.words for cause in causes_of(Symptom.LEAN_AT_IDLE, {"tube"})]
    assert words == ["a boot or coupler not seated", "a clamp left loose or forgotten"]
    whole = causes_of(Symptom.LEAN_AT_IDLE, {"manifold", "brake servo", "tube"})
    assert whole[0].words.startswith("the flange gasket")


def test_codes_are_those_of_what_was_touched():
    assert [one.code for one in codes_of({"meter"})] == ["P0101", "P0102"]
    assert "P0171" in {one.code for one in codes_of({"manifold"})}
    assert codes_of(set()) == []


def test_an_engine_of_one_bank_has_no_second():
    assert "P0174" not in {one.code for one in codes_of({"manifold"})}
    assert "P0174" in {one.code for one in codes_of({"manifold"}, banks=2)}


@given(some.floats(0, 0.1), some.floats(0, 0.02), some.sampled_from(Gauge), some.sampled_from(Meets))
def test_room_is_enough_only_with_what_the_gauge_and_the_engine_take(measured, rocks, gauge, meets):
    needed = NEEDED[meets]
    lack = lacking(measured, needed, gauge, rocks)
    assert (lack <= 0) == (measured - rocks - READS_TO[gauge] >= needed - 1e-12) or abs(lack) < 1e-12


def test_room_by_hand():
    assert lacking(0.004, 0.006, Gauge.CLAY) == pytest.approx(0.0023)
    assert lacking(0.030, 0.012, Gauge.DROP, 0.010) == pytest.approx(-0.0075)


@pytest.mark.parametrize("given", [(-0.001, 0.006, Gauge.CLAY, 0.0), (0.01, 0.006, Gauge.CLAY, -0.001),
                                   (0.01, 0.0, Gauge.CLAY, 0.0)])  # fmt: skip
def test_room_that_can_not_be_is_refused(given):
    with pytest.raises(OutOfRange):
        lacking(*given)
