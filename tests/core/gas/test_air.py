"""Air: what must hold of it whatever the day, and what is refused."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import OutOfRange
from elvarn.core.gas import air

celsius = st.floats(0, 40)
pascal = st.floats(80e3, 105e3)
humidity = st.floats(0, 1)


def weather(t, p, rh):
    return air.Weather(t + 273.15, p, rh)


@given(celsius, pascal, humidity)
def test_the_ideal_mixture_reads_a_little_low_of_cipm(t, p, rh):
    """By up to 0.1 % in a workshop: harmless for CFM."""
    here = weather(t, p, rh)
    off = air.density_ideal(here) / air.density_cipm_2007(here) - 1
    assert -1.2e-3 < off <= 1e-5


@given(celsius, pascal, st.floats(0.05, 1))
def test_moist_air_is_lighter_and_carries_sound_faster_than_dry(t, p, rh):
    moist, dry = weather(t, p, rh), weather(t, p, 0.0)
    assert air.density_cipm_2007(moist) < air.density_cipm_2007(dry)
    assert air.speed_of_sound(moist) > air.speed_of_sound(dry)


@given(celsius, pascal, humidity)
def test_dry_pressure_and_vapour_make_the_whole(t, p, rh):
    here = weather(t, p, rh)
    assert air.dry_pressure(here) + air.vapour_pressure(here) == pytest.approx(p)


@given(st.floats(5, 35), st.floats(0.1, 1))
def test_a_wet_bulb_tells_the_humidity_back(t, rh):
    """The wet bulb that the psychrometer equation gives for a humidity gives that humidity."""
    dry = t + 273.15
    low, high = dry - 30, dry
    for _ in range(60):
        middle = (low + high) / 2
        vapour = air.saturation_pressure(middle) - 0.000662 * 101325 * (dry - middle)
        low, high = (middle, high) if vapour < rh * air.saturation_pressure(dry) else (low, middle)
    assert air.relative_humidity_from_wet_bulb(dry, low, 101325) == pytest.approx(rh, abs=1e-6)


def test_a_wet_bulb_above_the_dry_one_is_refused():
    with pytest.raises(OutOfRange, match="both thermometers"):
        air.relative_humidity_from_wet_bulb(293.15, 294.15, 101325)
    with pytest.raises(OutOfRange):
        air.relative_humidity_from_wet_bulb(313.15, 275.15, 101325)


def test_the_standard_atmosphere_ends_where_its_formula_does():
    assert air.standard_atmosphere(0.0) == (288.15, 101325.0)
    for altitude in (-1500.0, 12_000.0):
        with pytest.raises(OutOfRange):
            air.standard_atmosphere(altitude)


def test_a_sea_level_pressure_is_not_refused_but_a_unit_slip_is():
    with pytest.raises(OutOfRange, match="not the one reduced to sea level"):
        weather(20, 1013.25, 0.5)
