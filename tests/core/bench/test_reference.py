"""Flows restated at another depression or in another air."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.bench.leak import leak_at_depression
from elvarn.core.bench.reference import (
    check_depression,
    conversion_findings,
    conversion_shortfall,
    flow_at_density,
    flow_at_depression,
    is_far_conversion,
    standard_volume_flow,
)
from elvarn.core.constants import INCH_OF_WATER, STANDARD_ATMOSPHERE
from elvarn.core.errors import OutOfRange
from elvarn.core.gas.air import STANDARD_AIR, Weather
from elvarn.core.gas.discharge import incompressible_velocity, isentropic_exit_velocity, isentropic_volume_flow

positive = st.floats(0.01, 1.0)
depression = st.floats(200, 15_000)


@given(positive, depression, depression)
def test_there_and_back_is_where_it_was(flow, first, second):
    assert flow_at_depression(flow_at_depression(flow, first, second), second, first) == pytest.approx(flow)


def test_a_conversion_says_what_it_may_be_out_by_and_is_doubted_beyond_a_factor_of_four():
    def found(inches):
        return [(f.code, f.doubt) for f in conversion_findings(inches * INCH_OF_WATER, 28 * INCH_OF_WATER)]

    assert (found(25), found(10), found(7)) == ([], [("conversion", False)], [("conversion", False)])
    assert found(6) == [("far_conversion", True)]
    (ten,) = conversion_findings(10 * INCH_OF_WATER, 28 * INCH_OF_WATER)
    assert ten.text == "Converted from a depression 2.8 times off: up to 2.5 % out."
    assert is_far_conversion(28.0, 6.0)
    assert not is_far_conversion(28.0, 7.0)


@pytest.mark.parametrize("pascal", [0, -100, 60, 30_000, float("nan")])
def test_refuses_a_depression_at_which_no_bench_is_read(pascal):
    with pytest.raises(OutOfRange):
        check_depression(pascal)


def test_hot_air_flows_faster_and_counts_less():
    hot = Weather(313.15, STANDARD_ATMOSPHERE, 0.0)
    assert standard_volume_flow(0.1, hot, STANDARD_AIR) == pytest.approx(0.1 * 293.15 / 313.15, rel=1e-3)
    assert flow_at_density(0.1, 1.1, 1.2041) < 0.1


@pytest.mark.parametrize("exponent", [0.4, 1.1])
def test_refuses_a_leak_that_follows_no_law(exponent):
    with pytest.raises(OutOfRange):
        leak_at_depression(1.0, 28, 10, exponent)


def test_a_choked_opening_passes_no_more():
    """Below the critical ratio 0.528 the throat stays at its own pressure."""
    at_choke = isentropic_volume_flow(1e-3, 0.48 * STANDARD_ATMOSPHERE, STANDARD_AIR)
    assert isentropic_volume_flow(1e-3, 0.9 * STANDARD_ATMOSPHERE, STANDARD_AIR) == pytest.approx(at_choke)
    with pytest.raises(OutOfRange, match="larger than the air pressure"):
        isentropic_volume_flow(1e-3, 2e5, STANDARD_AIR)


@given(st.floats(10, 400))
def test_small_drops_need_no_compressibility(drop):
    ideal = incompressible_velocity(drop, 1.2041)
    assert isentropic_exit_velocity(drop, STANDARD_AIR) == pytest.approx(ideal, rel=2e-3)


def test_the_square_root_law_is_out_by_what_an_ideal_nozzle_falls_short():
    """2.5 % from 10 to 28 inH2O: isentropic nozzle; here against its own series in dp/p, to the second order."""
    low, high = 10 * INCH_OF_WATER, 28 * INCH_OF_WATER
    found = conversion_shortfall(low, high)
    assert found == pytest.approx(0.025, abs=0.001)
    first = 3 / (4 * 1.4)  # Y = 1 - 3/(4 k) dp/p + ..., of mass flow in air as it is upstream
    assert found == pytest.approx(first * (high - low) / 101_325, rel=0.1)
    assert conversion_shortfall(high, low) == pytest.approx(found / (1 - found), rel=0.001)
    assert conversion_shortfall(high, high) == 0
