"""Loss coefficients against the sources as another library computes them."""

from math import pi

import pytest
from fluids import fittings
from fluids.filters import square_edge_screen
from fluids.friction import friction_factor as colebrook
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import OutOfRange
from elvarn.core.gas.discharge import round_area
from elvarn.core.path import losses

RE = 1e5


@pytest.mark.independent
@pytest.mark.parametrize("angle", [30, 45, 60, 90, 120, 180])
@pytest.mark.parametrize("radius", [0.75, 1.0, 1.5, 2.0, 3.0, 5.0])
def test_smooth_bend_is_rennels_and_its_range_holds_the_other_sources(angle, radius):
    friction = losses.friction_factor(RE, 3e-5)
    found = losses.smooth_bend(angle, radius, friction)
    rennels = fittings.bend_rounded(0.05, angle, friction, rc=radius * 0.05, Re=RE, method="Rennels")
    assert found.value == pytest.approx(rennels, rel=1e-6)
    others = [
        fittings.bend_rounded(0.05, angle, friction, bend_diameters=radius, Re=RE, method=m)
        for m in ("Crane", "Miller", "Ito")
    ]
    assert all(found.low * 0.99 <= other <= found.high * 1.01 for other in others)


@pytest.mark.independent
@pytest.mark.parametrize("angle", [5, 7, 10, 15, 20, 30, 45, 60])
@pytest.mark.parametrize("wide", [0.055, 0.06, 0.07, 0.085])
def test_the_range_of_a_diffuser_holds_the_other_sources(angle, wide):
    methods = (
        "Rennels",
        "Miller",
        *(("Idelchik",) if wide >= 0.06 else ()),
    )  # whose table ends at an area ratio of 1.4
    found = losses.conical_diffuser(round_area(0.05), round_area(wide), angle)
    for method in methods:
        other = fittings.diffuser_conical(0.05, wide, angle=angle, fd=0.018, Re=RE, method=method)
        assert found.low <= other <= found.high, method


@pytest.mark.independent
@pytest.mark.parametrize("angle", [5, 10, 20, 30, 45, 60, 90])
@pytest.mark.parametrize("narrow", [0.035, 0.04, 0.045])
def test_the_range_of_a_contraction_holds_the_other_sources(angle, narrow):
    found = losses.conical_contraction(round_area(0.05), round_area(narrow), angle)
    for method in ("Rennels", "Miller", "Blevins"):
        other = fittings.contraction_conical(0.05, narrow, angle=angle, fd=0.018, Re=RE, method=method)
        assert found.low <= other <= found.high, method


def test_two_bores_without_a_length_lose_something_between_a_cone_and_a_step():
    narrow, wide = round_area(0.05), round_area(0.07)
    opens = losses.taper_of_unknown_length(narrow, wide)
    assert opens.high == pytest.approx((1 - (0.05 / 0.07) ** 2) ** 2)  # Borda and Carnot
    assert losses.conical_diffuser(narrow, wide, 7).low == opens.low < opens.value < opens.high
    closes = losses.taper_of_unknown_length(wide, narrow)
    on_the_entry = (0.07 / 0.05) ** 4
    assert closes.high == pytest.approx(
        on_the_entry * fittings.contraction_sharp(0.07, 0.05, method="Rennels"), rel=1e-6
    )
    assert 0 < closes.low < closes.value < closes.high


@pytest.mark.independent
@pytest.mark.parametrize("angle", [15, 30, 45, 60, 90, 120])
def test_mitre_is_rennels(angle):
    rennels = fittings.bend_miter(angle, Di=0.05, Re=RE, method="Rennels")
    assert losses.mitre_bend(angle).value == pytest.approx(rennels, rel=1e-6)


@pytest.mark.independent
@pytest.mark.parametrize("small", [0.04, 0.05, 0.06, 0.07])
def test_contraction_and_expansion_agree_with_their_sources(small):
    wide, narrow = round_area(0.08), round_area(small)
    found = losses.sudden_contraction(wide, narrow)
    assert found.low == pytest.approx(fittings.contraction_sharp(0.08, small, method="Crane"), rel=1e-9)
    assert found.high == pytest.approx(fittings.contraction_sharp(0.08, small, method="Rennels"), rel=1e-9)
    assert losses.sudden_expansion(narrow, wide).value == pytest.approx(fittings.diffuser_sharp(small, 0.08), rel=1e-9)


@pytest.mark.independent
@pytest.mark.parametrize("angle", [7, 15, 30, 60])
def test_cones_agree_with_crane(angle):
    wide, narrow = round_area(0.07), round_area(0.05)
    diffuser = fittings.diffuser_conical(0.05, 0.07, angle=angle, Re=RE, method="Crane")
    assert losses.conical_diffuser(narrow, wide, angle).value == pytest.approx(diffuser, rel=1e-6)
    nozzle = fittings.contraction_conical(0.07, 0.05, angle=angle, Re=RE, method="Crane")
    assert losses.conical_contraction(wide, narrow, angle).value == pytest.approx(nozzle, rel=1e-6)


@pytest.mark.independent
@pytest.mark.parametrize("roughness", [0.0, 1e-5, 1e-3, 0.05])
@pytest.mark.parametrize("re", [1e3, 5e3, 1e5, 1e6])
def test_friction_factor_agrees_with_colebrook(re, roughness):
    assert losses.friction_factor(re, roughness) == pytest.approx(colebrook(Re=re, eD=roughness), rel=2e-3)


@pytest.mark.independent
@pytest.mark.parametrize("radius", [0.02, 0.06, 0.1, 0.15])
def test_rounded_entry_agrees_with_crane(radius):
    crane = fittings.entrance_rounded(0.05, rc=radius * 0.05, method="Crane")
    assert losses.rounded_entry(radius).value == pytest.approx(crane, rel=0.02)


@pytest.mark.independent
@pytest.mark.parametrize("fraction", [0.1, 0.4, 0.6, 0.75])
def test_screen_agrees_with_blevins(fraction):
    assert losses.screen(fraction).value == pytest.approx(float(square_edge_screen(fraction)), rel=0.02)


@given(st.floats(0.02, 0.08), st.floats(0.02, 0.08))
def test_a_range_holds_its_value(one, other):
    narrow, wide = sorted((round_area(one), round_area(other)))
    for loss in (losses.sudden_contraction(wide, narrow), losses.conical_diffuser(narrow, wide, 10)):
        assert 0 <= loss.low <= loss.value <= loss.high


@pytest.mark.parametrize(
    "refused",
    [
        lambda: losses.smooth_bend(200, 1, 0.02),
        lambda: losses.smooth_bend(90, 0.3, 0.02),
        lambda: losses.mitre_bend(0),
        lambda: losses.sudden_expansion(2.0, 1.0),
        lambda: losses.sudden_contraction(1.0, 2.0),
        lambda: losses.conical_diffuser(1.0, 2.0, 0),
        lambda: losses.conical_contraction(1.0, 2.0, 10),
        lambda: losses.rounded_entry(-0.1),
        lambda: losses.screen(0.01),
        lambda: losses.butterfly(80),
        lambda: losses.friction_factor(1e5, 0.5),
    ],
)
def test_what_cannot_be_is_refused(refused):
    with pytest.raises(OutOfRange):
        refused()


def test_filter_curve_and_butterfly_table():
    assert losses.filter_drop(0.1, 1000, 20000) == pytest.approx(300)
    assert losses.butterfly(15).value == pytest.approx((0.52 + 1.54) / 2)
    assert losses.pressure_drop(0.5, 1.2, 40) == pytest.approx(480)
    straight = losses.straight_tube(1.0, 0.05, 0.02)
    assert (straight.low, straight.value, straight.high) == pytest.approx((0.36, 0.4, 0.44))
    assert losses.EXIT.times(4).value == 4
    assert pi / 4 * 0.05**2 == pytest.approx(round_area(0.05))
