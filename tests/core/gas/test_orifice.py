"""The plate against an independent fluid library, and its scope."""

from math import pi

import fluids
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from elvarn.core.errors import OutOfRange
from elvarn.core.gas.air import STANDARD_AIR, density_cipm_2007, viscosity
from elvarn.core.gas.orifice import (
    differential_mass_flow,
    discharge_coefficient_iso_5167,
    expansibility_iso_5167,
    orifice_findings,
    plate_flow,
)


@pytest.mark.independent
@given(st.floats(0.05, 0.5), st.floats(0.2, 0.75), st.floats(2e4, 1e6), st.sampled_from(["corner", "flange"]))
@settings(max_examples=100, deadline=None)
def test_coefficient_agrees_with_the_fluids_library(diameter, ratio, reynolds, tapping):
    """fluids 1.3, C_Reader_Harris_Gallagher, an independent reading of ISO 5167-2."""
    density, viscous = 1.2, 1.8e-5
    flow = reynolds * viscous * 3.141592653589793 * diameter / 4
    expected = fluids.flow_meter.C_Reader_Harris_Gallagher(
        D=diameter, Do=ratio * diameter, rho=density, mu=viscous, m=flow, taps=tapping
    )
    assert discharge_coefficient_iso_5167(diameter, ratio, reynolds, tapping) == pytest.approx(expected, rel=2e-5)


@pytest.mark.independent
def test_expansibility_agrees_with_the_fluids_library():
    expected = fluids.flow_meter.orifice_expansibility(D=0.1, Do=0.06, P1=101325, P2=94325, k=1.4)
    assert expansibility_iso_5167(0.6, 101325, 7000) == pytest.approx(expected, rel=1e-9)


@pytest.mark.independent
def test_a_plate_and_its_reynolds_number_agree_with_the_fluids_library():
    """At 101.325 kPa and 20 °C the upstream density is ours; the library iterates by itself."""
    density, viscous = density_cipm_2007(STANDARD_AIR), viscosity(STANDARD_AIR.temperature)
    found = plate_flow(0.1, 0.05, 1500.0, STANDARD_AIR)
    expected = fluids.flow_meter.differential_pressure_meter_solver(
        D=0.1, D2=0.05, P1=STANDARD_AIR.pressure, P2=STANDARD_AIR.pressure - 1500, rho=density, mu=viscous, k=1.4,
        meter_type="ISO 5167 orifice", taps="corner",
    )  # fmt: skip
    assert found.mass == pytest.approx(expected, rel=1e-6)
    assert found.reynolds == pytest.approx(4 * expected / (pi * 0.1 * viscous), rel=1e-6)


@pytest.mark.independent
@pytest.mark.parametrize("celsius", [-20.0, 15.0, 40.0])
def test_viscosity_is_that_of_the_standard_atmosphere(celsius):
    expected = fluids.atmosphere.ATMOSPHERE_1976.viscosity(celsius + 273.15)
    assert viscosity(celsius + 273.15) == pytest.approx(expected, rel=1e-6)


def test_flow_goes_with_the_root_of_drop_and_density():
    one = differential_mass_flow(0.6, 1.0, 0.1, 0.05, 1000, 1.2)
    assert differential_mass_flow(0.6, 1.0, 0.1, 0.05, 4000, 1.2) == pytest.approx(2 * one)
    assert differential_mass_flow(0.6, 1.0, 0.1, 0.05, 1000, 4.8) == pytest.approx(2 * one)


def test_outside_its_scope_it_says_so_and_the_impossible_is_refused():
    codes = [f.code for f in orifice_findings(0.04, 0.82, 1e5)]
    assert codes == ["diameter_ratio_out_of_scope", "pipe_out_of_scope"]
    assert orifice_findings(0.1, 0.5, 1e5) == []
    assert [f.code for f in orifice_findings(0.1, 0.11, 1e5)] == ["hole_out_of_scope"]
    assert [f.code for f in orifice_findings(0.1, 0.5, 4e3)] == ["reynolds_out_of_scope"]
    assert [f.code for f in orifice_findings(0.1, 0.7, 7e3)] == ["reynolds_out_of_scope"]
    assert orifice_findings(0.1, 0.7, 8e3) == []
    assert [f.code for f in orifice_findings(0.3, 0.7, 2e4, "flange")] == ["reynolds_out_of_scope"]
    with pytest.raises(OutOfRange, match="below the pipe"):
        discharge_coefficient_iso_5167(0.1, 1.0, 1e5)
    with pytest.raises(OutOfRange, match=r"0\.75"):
        expansibility_iso_5167(0.5, 101325, 40_000)
    with pytest.raises(OutOfRange, match="unknown"):
        discharge_coefficient_iso_5167(0.1, 0.5, 1e5, "elsewhere")
