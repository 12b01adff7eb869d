"""Power and torque corrected to a reference atmosphere, and where each standard ends."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum
from math import pi, sqrt
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from elvarn.core.constants import INCH_OF_MERCURY, ZERO_CELSIUS
from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.finding import Finding
from elvarn.core.gas.air import Weather, dry_pressure
from elvarn.core.validity import Range

Value = TypeVar("Value", float, NDArray[np.float64])

REFERENCE_DRY_PRESSURE = 99_000.0  # Pa, SAE J1349 and ISO 1585
REFERENCE_TEMPERATURE = 298.0  # K, as printed in both standards
MECHANICAL_EFFICIENCY = 0.85  # assumed by SAE J1349 where friction is not measured


class Standard(StrEnum):
    """Correction standards that can be computed, with their names; OBSERVED leaves the figures as they were read."""

    label: str

    def __new__(cls, word: str, label: str) -> "Standard":
        standard = str.__new__(cls, word)
        standard._value_ = word
        standard.label = label
        return standard

    OBSERVED = "observed", "as observed"
    SAE_J1349 = "sae_j1349", "SAE J1349"
    ISO_1585 = "iso_1585", "ISO 1585"
    SAE_J607 = "sae_j607", "SAE J607"
    DIN_70020 = "din_70020", "DIN 70020"

    @classmethod
    def of(cls, word: str) -> "Standard":
        """The standard of this word. Raises OutOfRange for one that is not known."""
        found = next((standard for standard in cls if standard == word), None)
        if found is None:
            raise OutOfRange("standard", f"'{word}' is no correction.", f"Known: {', '.join(cls)}.")
        return found


@dataclass(frozen=True)
class Limits:
    """Validity of a standard: of its factor [-], the inlet's temperature [K] and its dry pressure [Pa]."""

    factor: Range
    temperature: Range
    dry_pressure: Range


def _limits(
    source: str, factor: tuple[float, float], temperature: tuple[float, float], pressure: tuple[float, float]
) -> Limits:
    return Limits(
        Range("factor", "correction factor", *factor, "", source),
        Range("temperature", "inlet air's temperature", *temperature, "°C", source),
        Range("dry_pressure", "dry air's pressure", *pressure, "kPa", source),
    )


LIMITS = {
    Standard.SAE_J1349: _limits(
        "SAE J1349, forms of 1990 to 2011, from memory", (0.93, 1.07), (288.15, 308.15), (90e3, 105e3)
    ),
    Standard.ISO_1585: _limits("ISO 1585:2020, spark ignition", (0.93, 1.07), (288.0, 308.0), (80e3, 110e3)),
}
WITHDRAWN = (Standard.SAE_J607, Standard.DIN_70020)


@dataclass(frozen=True)
class Correction:
    """A factor [-] for power and torque, with what lies outside the standard's limits."""

    standard: Standard
    factor: float
    findings: tuple[Finding, ...] = ()


def correct(standard: Standard, weather: Weather, boosted: bool = False) -> Correction:
    """Correction factor of a standard in this weather.

    Arguments: standard, weather at the engine's inlet, boosted: whether the manifold pressure is regulated.
    Returns: the factor and findings where the standard does not hold.
    Raises: OutOfRange for weather that can't be.
    Source: SAE J1349, ISO 1585:2020, SAE J607, DIN 70020, see the functions below.
    """
    if standard is Standard.OBSERVED:
        return Correction(standard, 1.0)
    factor = _FACTORS[standard](weather)
    findings = _outside(LIMITS[standard], factor, weather) if standard in LIMITS else []
    if standard in WITHDRAWN:
        text = f"{standard.label} is withdrawn: it is there to read old sheets."
        findings.append(Finding("withdrawn", text))
    if boosted:
        text = "With regulated boost the factor corrects too much; trust the observed figures."
        findings.append(Finding("boosted", text, doubt=True))
    return Correction(standard, factor, tuple(findings))


def atmospheric_factor_sae_j1349(weather: Weather) -> float:
    """Atmospheric factor that applies to indicated power.

    Arguments: weather.
    Returns: factor [-].
    Raises: nothing.
    Source: SAE J1349 (forms of 1990 to 2011, from memory): CA = (99/p_d) sqrt(T/298).
    """
    return REFERENCE_DRY_PRESSURE / dry_pressure(weather) * sqrt(weather.temperature / REFERENCE_TEMPERATURE)


def factor_sae_j1349(weather: Weather) -> float:
    """Correction factor for brake power with 85 % mechanical efficiency assumed.

    Arguments: weather.
    Returns: factor [-].
    Raises: nothing.
    Source: SAE J1349 JUN90 (from memory): 1.18 CA − 0.18, here with 1/0.85 unrounded.
    """
    indicated = 1 / MECHANICAL_EFFICIENCY
    return indicated * atmospheric_factor_sae_j1349(weather) - (indicated - 1)


def factor_iso_1585(weather: Weather) -> float:
    """Correction factor for spark-ignition engines.

    Arguments: weather.
    Returns: factor [-].
    Raises: nothing.
    Source: ISO 1585:2020; UN R85, annex 5: (99/p_d)^1.2 (T/298)^0.6.
    """
    pressure_part = (REFERENCE_DRY_PRESSURE / dry_pressure(weather)) ** 1.2
    return float(pressure_part * (weather.temperature / REFERENCE_TEMPERATURE) ** 0.6)


def factor_sae_j607(weather: Weather) -> float:
    """Correction factor of a withdrawn standard, to read old sheets; reads about 4 % above SAE J1349.

    Arguments: weather.
    Returns: factor [-].
    Raises: nothing.
    Source: SAE J607 (withdrawn, from memory): (29.92/p_d[inHg]) sqrt((°F + 460)/520).
    """
    fahrenheit = (weather.temperature - ZERO_CELSIUS) * 9 / 5 + 32
    return 29.92 * INCH_OF_MERCURY / dry_pressure(weather) * sqrt((fahrenheit + 460) / 520)


def factor_din_70020(weather: Weather) -> float:
    """Correction factor of a superseded standard, to read old sheets; leaves humidity out.

    Arguments: weather.
    Returns: factor [-].
    Raises: nothing.
    Source: DIN 70020 (superseded, from memory): (1013.25/p) sqrt(T/293).
    """
    return 101_325 / weather.pressure * sqrt(weather.temperature / 293)


_FACTORS: dict[Standard, Callable[[Weather], float]] = {
    Standard.SAE_J1349: factor_sae_j1349,
    Standard.ISO_1585: factor_iso_1585,
    Standard.SAE_J607: factor_sae_j607,
    Standard.DIN_70020: factor_din_70020,
}


def humidity_range(standard: Standard, weather: Weather) -> float:
    """By how much a factor may be out where humidity is not known: half of what 0 to 100 % would make.

    Arguments: standard; weather, whose humidity does not count.
    Returns: half-range [%] of the factor at 50 %.
    Raises: nothing.
    Source: definition.
    """
    if standard is Standard.OBSERVED:
        return 0.0
    dry, humid, middle = (_FACTORS[standard](replace(weather, relative_humidity=share)) for share in (0.0, 1.0, 0.5))
    return 100 * (humid - dry) / 2 / middle


def power_from_torque(torque: Value, engine_speed_rpm: Value) -> Value:
    """Power of a torque at a speed.

    Arguments: torque [N m], engine_speed_rpm [rpm]; scalars or arrays of one shape.
    Returns: power [W].
    Raises: nothing.
    Source: work of a rotation, P = 2 pi n M.
    """
    return torque * engine_speed_rpm * 2 * pi / 60


def torque_from_power(power: float, engine_speed_rpm: float) -> float:
    """Torque of a power at a speed.

    Arguments: power [W], engine_speed_rpm [rpm]; scalars.
    Returns: torque [N m].
    Raises: OutOfRange for a speed that is not above zero.
    Source: work of a rotation, M = P/(2 pi n).
    """
    require_positive(engine_speed=engine_speed_rpm)
    return power / (engine_speed_rpm * 2 * pi / 60)


def _outside(limits: Limits, factor: float, weather: Weather) -> list[Finding]:
    findings = []
    if factor not in limits.factor:
        words = limits.factor.words
        text = f"The correction factor {factor:.3f} is outside {words}: show the observed figures beside it."
        findings.append(Finding("factor_out_of_limits", text, doubt=True))
    if weather.temperature not in limits.temperature:
        celsius = weather.temperature - ZERO_CELSIUS
        text = f"The inlet air at {celsius:.0f} °C is outside {limits.temperature.words} of the standard."
        findings.append(Finding("temperature_out_of_limits", text, doubt=True))
    dry = dry_pressure(weather)
    if dry not in limits.dry_pressure:
        text = f"The dry air pressure of {dry / 1000:.1f} kPa is outside {limits.dry_pressure.words} of the standard."
        findings.append(Finding("pressure_out_of_limits", text, doubt=True))
    return findings
