"""Moist air: density, vapour pressure, speed of sound, the standard atmosphere."""

from dataclasses import dataclass
from math import exp, sqrt

from elvarn.core.constants import (
    GAS_CONSTANT_DRY_AIR,
    GAS_CONSTANT_WATER_VAPOUR,
    STANDARD_ATMOSPHERE,
    STANDARD_TEMPERATURE,
    ZERO_CELSIUS,
)
from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.validity import Range

MOLAR_MASS_DRY_AIR = 28.96546e-3  # kg/mol at 400 ppm CO2 (CIPM-2007)
MOLAR_GAS_CONSTANT = 8.314472  # J/(mol K), the value CIPM-2007 was fitted with
VAPOUR_MASS_DEFICIT = 0.3780  # 1 − M_v/M_a (CIPM-2007)

LEAST_DEW_POINT = 170.0  # K; common practice, no source
WORKPLACE = "limits of places where engines are tested; common practice, no source"
TEMPERATURE = Range("temperature", "air temperature", 233.15, 333.15, "°C", WORKPLACE)
PRESSURE = Range(
    "pressure", "air pressure", 50e3, 110e3, "kPa", WORKPLACE,
    remedy="50 to 110 kPa can be: enter the absolute station pressure, not the one reduced to sea level.",
)  # fmt: skip
HUMIDITY = Range("relative_humidity", "relative humidity", 0, 1, "%", "definition")
ALTITUDE = Range("altitude", "altitude", -1000, 11000, "m", "ISO 2533, lowest layer")


def check_weather(temperature: float, pressure: float, relative_humidity: float) -> None:
    """Refuse air in which nobody works.

    Arguments: temperature [K], pressure [Pa], relative_humidity [-], all scalars.
    Returns: nothing.
    Raises: OutOfRange for a temperature outside −40 to 60 °C, a pressure outside 50 to 110 kPa or a relative
    humidity outside 0 to 1.
    Source: common practice, no source (limits of places where engines are tested).
    """
    TEMPERATURE.check(temperature)
    PRESSURE.check(pressure)
    HUMIDITY.check(relative_humidity)


@dataclass(frozen=True)
class Weather:
    """The air at the bench or the dyno: temperature [K], absolute station pressure [Pa], relative humidity [0..1]."""

    temperature: float
    pressure: float
    relative_humidity: float

    def __post_init__(self) -> None:
        check_weather(self.temperature, self.pressure, self.relative_humidity)


STANDARD_AIR = Weather(STANDARD_TEMPERATURE, STANDARD_ATMOSPHERE, 0.0)


def viscosity(temperature: float) -> float:
    """Dynamic viscosity of dry air.

    Arguments: temperature [K], scalar.
    Returns: viscosity [Pa s].
    Raises: OutOfRange for a temperature not above zero.
    Source: U.S. Standard Atmosphere, 1976, eq. (51): Sutherland's law.
    """
    require_positive(temperature=temperature)
    return float(1.458e-6 * temperature**1.5 / (temperature + 110.4))


def saturation_pressure(temperature: float) -> float:
    """Vapour pressure of water at saturation.

    Arguments: temperature [K], scalar.
    Returns: pressure [Pa].
    Raises: nothing for the range of `check_weather`.
    Source: CIPM-2007, Picard et al., Metrologia 45 (2008) 149, appendix A1.1.
    """
    t = temperature
    return exp(1.2378847e-5 * t**2 - 1.9121316e-2 * t + 33.93711047 - 6343.1645 / t)


def vapour_pressure(weather: Weather) -> float:
    """Partial pressure of the water vapour in the air.

    Arguments: weather.
    Returns: pressure [Pa].
    Raises: nothing.
    Source: definition of relative humidity.
    """
    return weather.relative_humidity * saturation_pressure(weather.temperature)


def dry_pressure(weather: Weather) -> float:
    """Partial pressure of the dry air, which the engine corrections are referred to.

    Arguments: weather.
    Returns: pressure [Pa].
    Raises: nothing.
    Source: Dalton's law.
    """
    return weather.pressure - vapour_pressure(weather)


def density_cipm_2007(weather: Weather) -> float:
    """Density of moist air with compressibility and enhancement factor.

    Arguments: weather.
    Returns: density [kg/m³].
    Raises: nothing.
    Source: CIPM-2007, Picard et al., Metrologia 45 (2008) 149, eq. (1); constants checked against humid-air tables.
    """
    t, p = weather.temperature, weather.pressure
    celsius = t - ZERO_CELSIUS
    enhancement = 1.00062 + 3.14e-8 * p + 5.6e-7 * celsius**2
    x = weather.relative_humidity * enhancement * saturation_pressure(t) / p
    z = _compressibility(t, p, x)
    return p * MOLAR_MASS_DRY_AIR / (z * MOLAR_GAS_CONSTANT * t) * (1 - x * VAPOUR_MASS_DEFICIT)


def _compressibility(t: float, p: float, x: float) -> float:
    c = t - ZERO_CELSIUS
    first = 1.58123e-6 - 2.9331e-8 * c + 1.1043e-10 * c**2 + (5.707e-6 - 2.051e-8 * c) * x
    first += (1.9898e-4 - 2.376e-6 * c) * x**2
    return 1 - p / t * first + (p / t) ** 2 * (1.83e-11 - 0.765e-8 * x**2)


def density_ideal(weather: Weather) -> float:
    """Density of moist air as a mixture of ideal gases; reads low by 0.03 to 0.05 % in a workshop.

    Arguments: weather.
    Returns: density [kg/m³].
    Raises: nothing.
    Source: ideal-gas law for a mixture.
    """
    e = vapour_pressure(weather)
    return (weather.pressure - e) / (GAS_CONSTANT_DRY_AIR * weather.temperature) + e / (
        GAS_CONSTANT_WATER_VAPOUR * weather.temperature
    )


def dew_point(weather: Weather) -> float:
    """Temperature at which water of this air condenses on what is as cold.

    Arguments: weather.
    Returns: temperature [K].
    Raises: OutOfRange for air without any water, or next to none.
    Source: CIPM-2007, `saturation_pressure` solved for the temperature.
    """
    vapour = vapour_pressure(weather)
    require_positive(humidity=vapour)
    if vapour < saturation_pressure(LEAST_DEW_POINT):
        raise OutOfRange("humidity", "This air is drier than any near the ground.", "Check the humidity.")
    from scipy.optimize import brentq  # when it is first needed: it is heavy

    most = weather.temperature + 1e-6
    return float(brentq(lambda temperature: saturation_pressure(temperature) - vapour, LEAST_DEW_POINT, most))


def heat_capacity_ratio(weather: Weather) -> float:
    """Ratio of heat capacities of moist air: of dry air two-atomic, of the vapour three-atomic.

    Arguments: weather.
    Returns: ratio [-], 1.4 for dry air.
    Raises: nothing.
    Source: ideal-gas law for a mixture, equipartition: (7 + x)/(5 + x) for the mole fraction x of the vapour.
    """
    moles = vapour_pressure(weather) / weather.pressure
    return (7 + moles) / (5 + moles)


def speed_of_sound(weather: Weather) -> float:
    """Speed of sound in moist air, gas constant and heat capacity ratio of the mixture.

    Arguments: weather.
    Returns: speed [m/s].
    Raises: nothing.
    Source: ideal-gas law, a = sqrt(gamma R T).
    """
    mixture_gas_constant = weather.pressure / (density_ideal(weather) * weather.temperature)
    return sqrt(heat_capacity_ratio(weather) * mixture_gas_constant * weather.temperature)


def standard_atmosphere(geopotential_altitude: float) -> tuple[float, float]:
    """Temperature and pressure of the standard atmosphere in the troposphere.

    Arguments: geopotential_altitude [m], scalar.
    Returns: (temperature [K], pressure [Pa]).
    Raises: OutOfRange outside −1000 to 11000 m.
    Source: ISO 2533; US Standard Atmosphere 1976, eq. (33a).
    """
    ALTITUDE.check(geopotential_altitude)
    temperature = 288.15 - 0.0065 * geopotential_altitude
    return temperature, STANDARD_ATMOSPHERE * (temperature / 288.15) ** 5.25588


def relative_humidity_from_dew_point(dry_bulb: float, dew_point: float) -> float:
    """Relative humidity by the dew point.

    Arguments: dry_bulb [K], dew_point [K], scalars.
    Returns: relative humidity [-].
    Raises: OutOfRange where the dew point lies above the air's temperature.
    Source: definition, by `saturation_pressure`.
    """
    if dew_point > dry_bulb:
        raise OutOfRange("dew_point", "The dew point lies above the air's temperature.", "Check both.")
    return saturation_pressure(dew_point) / saturation_pressure(dry_bulb)


def relative_humidity_from_wet_bulb(dry_bulb: float, wet_bulb: float, pressure: float) -> float:
    """Relative humidity from a sling psychrometer.

    Arguments: dry_bulb [K], wet_bulb [K], pressure [Pa], scalars.
    Returns: relative humidity [-].
    Raises: OutOfRange where the wet bulb reads above the dry one, or drier than air can be.
    Source: psychrometer equation e = e_w − A p (t − t_w), A = 0.000662 1/K for an aspirated instrument
    (WMO No. 8, Guide to Instruments, annex 4.B).
    """
    require_positive(pressure=pressure)
    vapour = saturation_pressure(wet_bulb) - 0.000662 * pressure * (dry_bulb - wet_bulb)
    humidity = vapour / saturation_pressure(dry_bulb)
    if wet_bulb > dry_bulb or humidity < 0:
        raise OutOfRange("wet_bulb", "The wet bulb does not go with the dry bulb.", "Check both thermometers.")
    return humidity
