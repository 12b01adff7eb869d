"""The charge of a boosted engine: what a compressor and the cooler behind it make of the air for what lies behind."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.constants import HEAT_CAPACITY_RATIO_AIR
from elvarn.core.errors import require_positive
from elvarn.core.gas.air import Weather
from elvarn.core.path.routes import Stage
from elvarn.core.validity import Range

EFFICIENCY = Range("efficiency", "compressor's efficiency", 0.2, 1.0, "%", "second law; below 20 % nothing is sold")
COOLING = Range("cooling", "cooler's effectiveness", 0.0, 1.0, "%", "definition: 1 cools to outside")
USUAL_EFFICIENCY = 0.70  # of a turbocharger near its best, isentropic; common practice, no source
USUAL_COOLING = 0.70  # of an air-to-air cooler on the move; common practice, no source
TURNS = 6  # each leaves some hundredths of the step before


@dataclass(frozen=True)
class Charge:
    """Boost [Pa] above outside that is held at the plenum; places in the tree before the first of which on a way the
    compressor stands (itself, or what lies behind it); its isentropic efficiency [-]; the part of the heat above
    outside that the cooler takes out [-], and its places: without any it stands with the compressor. With a `ratio` [-]
    the compressor gives that instead, whatever the boost comes to."""

    boost: float
    behind: frozenset[int]
    efficiency: float = USUAL_EFFICIENCY
    cooling: float = USUAL_COOLING
    coolers: frozenset[int] = frozenset()
    ratio: float | None = None


@dataclass(frozen=True)
class Conditions:
    """By element: by how much the pressure rises in front of it [-], and the temperature of its air [K]; both shape
    (elements, variants)."""

    rises: Array
    temperatures: Array


def charge_temperature(charge: Charge, ratio: Array, outside: float, cooled: bool = True) -> Array:
    """Temperature behind compressor and cooler, or between the two.

    Arguments: charge; ratio [-] of pressures over the compressor, shape (n,); outside [K], of the air that it draws and
    that cools; cooled: whether it is behind the cooler.
    Returns: temperature [K], of the same shape.
    Raises: OutOfRange for an efficiency or a cooler that can't be.
    Source: T2 = T1 (1 + (r^((k−1)/k) − 1)/η), Heywood, Internal Combustion Engine Fundamentals, section 6.8;
    effectiveness by definition.
    """
    require_positive(temperature=outside)
    EFFICIENCY.check(charge.efficiency)
    COOLING.check(charge.cooling)
    k = HEAT_CAPACITY_RATIO_AIR
    hot = outside * (1 + (np.power(ratio, (k - 1) / k) - 1) / charge.efficiency)
    return np.asarray(hot - charge.cooling * (hot - outside) if cooled else hot)


def denser_air(now: Charge, other: Charge, ratio: Array, outside: float) -> Array:
    """By how much more air fills behind another compressor and cooler at the same pressure.

    Arguments: now, other: the two charges; ratio [-] of both, shape (n,); outside [K]: in front of the compressor.
    Returns: ratio of densities [-], shape (n,): above 1 where the other leaves the air cooler.
    Raises: as `charge_temperature`.
    Source: derivation: of an ideal gas at one pressure the density goes with 1/T.
    """
    return np.asarray(charge_temperature(now, ratio, outside) / charge_temperature(other, ratio, outside))


def conditions(charge: Charge, ratio: Array, stages: Sequence[Stage], weather: Weather) -> Conditions:
    """What each stage of a way meets.

    Arguments: charge; ratio [-], shape (variants,); stages: of one way; weather in front.
    Returns: conditions, shape (stages, variants).
    Raises: as `charge_temperature`.
    Source: definition.
    """
    ratio = np.atleast_1d(np.asarray(ratio, float))
    rises = np.ones((len(stages), len(ratio)))
    temperatures = np.full((len(stages), len(ratio)), weather.temperature)
    first = _first(stages, charge.behind)
    if first is None:
        return Conditions(rises, temperatures)
    cooler = _first(stages, charge.coolers) if charge.coolers else first
    rises[first] = ratio
    temperatures[first:] = charge_temperature(charge, ratio, weather.temperature, cooled=False)
    if cooler is not None:
        temperatures[max(first, cooler) :] = charge_temperature(charge, ratio, weather.temperature)
    return Conditions(rises, temperatures)


def _first(stages: Sequence[Stage], places: frozenset[int]) -> int | None:
    """The first stage of a way that holds one of these places."""
    held = (n for n, stage in enumerate(stages) if any(place in places for duct in stage.ducts for place in duct))
    return next(held, None)


def held_ratio(charge: Charge, weather: Weather, at_plenum: Callable[[Array], Array], variants: int) -> Array:
    """The ratio that the compressor has to make for the boost to be there at the plenum.

    Arguments: charge; weather in front; at_plenum: pressure [Pa] at the plenum for a ratio, both shape (variants,), NaN
    where the path chokes; variants [-].
    Returns: ratio [-], shape (variants,); the charge's own where it has one.
    Raises: nothing.
    Source: derivation: fixed point, the pressure there goes nearly in proportion to the ratio.
    """
    if charge.ratio is not None:
        return np.full(variants, charge.ratio)
    wanted = weather.pressure + charge.boost
    ratio = np.full(variants, wanted / weather.pressure)
    for _ in range(TURNS):
        there = at_plenum(ratio)
        ratio = ratio * np.where(np.isfinite(there), wanted / there, 1.0)
    return np.asarray(ratio)
