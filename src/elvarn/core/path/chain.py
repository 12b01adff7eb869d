"""Elements in series: the air expands through one after the other. Arrays carry many variants at once."""

from math import sqrt

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.constants import HEAT_CAPACITY_RATIO_AIR
from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal

# With x = (p2/p1)^((k−1)/k) the orifice equation reads m²/M² = x^LOW − x^HIGH: for air 5 and 6, multiplied out below.
LOW = 2 / (HEAT_CAPACITY_RATIO_AIR - 1)  # 5
HIGH = LOW + 1  # 6
CHOKED = LOW / HIGH  # x at the critical ratio
MOST_PASSED = float(CHOKED**LOW - CHOKED**HIGH)
NEWTON_STEPS = 4
SECANT_STEPS = 60  # near choking each halves what is left


def pressures_along(
    areas: Array,
    mass_flows: Array,
    weather: Weather = STANDARD_AIR,
    rises: Array | None = None,
    temperatures: Array | None = None,
) -> Array:
    """Pressure behind each element of a chain for a given flow, the jet of each lost before the next.

    Arguments: areas [m²]: effective, shape (elements, variants); mass_flows [kg/s], shape (elements, variants) or one
    that broadcasts to it; weather in front of the first. Where a compressor is in the chain, by element: rises [-] of
    the pressure in front of it, and temperatures [K] of its air, of the same shape or broadcasting to it.
    Returns: absolute pressures [Pa], shape (elements + 1, variants), the first in front of the chain; NaN behind an
    element that can't pass the flow.
    Raises: NotEnoughData for a chain without elements.
    Source: isentropic nozzle (Saint-Venant and Wantzel) for each element; constant stagnation temperature, but where
    it is given.
    """
    if not len(areas):
        raise NotEnoughData("areas", "There is no element in the chain.", "Measure one.")
    unit = np.broadcast_to(_unit_flow(weather), areas.shape)
    if temperatures is not None:
        unit = unit * np.sqrt(weather.temperature / np.broadcast_to(temperatures, areas.shape))
    risen = np.ones(areas.shape) if rises is None else np.broadcast_to(rises, areas.shape)
    flows = np.broadcast_to(mass_flows, areas.shape)
    found = np.empty((len(areas) + 1, areas.shape[1]))
    found[0] = pressure = np.full(areas.shape[1], weather.pressure)
    for index in range(len(areas)):
        pressure = pressure * risen[index]
        share = flows[index] / (unit[index] * areas[index] * pressure)
        pressure = pressure * _pressure_ratio(share * share)
        found[index + 1] = pressure
    return found


def steps_along(pressures: Array, rises: Array | None = None) -> Array:
    """What each element of a chain loses.

    Arguments: pressures [Pa], shape (elements + 1, variants), as `pressures_along` returns them; rises [-] that were
    given with them.
    Returns: drops [Pa], shape (elements, variants).
    Raises: nothing.
    Source: definition.
    """
    before = pressures[:-1] if rises is None else pressures[:-1] * rises
    return np.asarray(before - pressures[1:])


def chain_flow(areas: Array, depression: float, weather: Weather = STANDARD_AIR) -> Array:
    """Mass flow that a depression draws through a chain.

    Arguments: areas [m²]: effective, shape (elements, variants); depression [Pa] across the whole; weather in front.
    Returns: mass flow [kg/s], shape (variants,); that of the choked element where the depression is more than enough.
    Raises: NotEnoughData for a chain without elements; OutOfRange for a depression of zero or of the whole pressure.
    Source: as `pressures_along`, solved by secants for the pressure at the end.
    """
    require_positive(depression=depression)
    if depression >= weather.pressure:
        raise OutOfRange("depression", "The depression is larger than the air pressure.", "Check its unit.")
    wanted = weather.pressure - depression
    whole = series_area(areas)
    high = _unit_flow(weather) * weather.pressure * sqrt(MOST_PASSED) * np.min(areas, axis=0)
    low = np.zeros_like(high)
    flow = np.minimum(whole * sqrt(2 * depression * density_ideal(weather)), 0.999 * high)
    for _ in range(SECANT_STEPS):
        end = pressures_along(areas, flow[None, :], weather)[-1]
        over = ~(end >= wanted)
        high, low = np.where(over, flow, high), np.where(over, low, flow)
        drop = weather.pressure - end
        with np.errstate(invalid="ignore", divide="ignore"):
            guess = flow * np.sqrt(depression / drop)
        inside = (guess > low) & (guess < high)
        following = np.where(inside, guess, (low + high) / 2)
        if np.all(np.abs(following - flow) <= 1e-9 * flow):
            break
        flow = following
    return np.asarray(flow)


def area_between(before: float, behind: float, mass_flow: float, weather: Weather = STANDARD_AIR) -> float:
    """Effective area that lets a flow through between two pressures: one element of `pressures_along`, backwards.

    Arguments: before [Pa], behind [Pa]: absolute pressures at its two ends; mass_flow [kg/s]; weather in front of the
    chain, its temperature that of the air.
    Returns: area [m²]; that of the choked element where the pressure behind is below the critical one.
    Raises: OutOfRange for a flow not above zero or a pressure behind that isn't lower.
    Source: isentropic nozzle (Saint-Venant and Wantzel).
    """
    require_positive(mass_flow=mass_flow, behind=behind)
    require_positive(drop=before - behind)
    x = max((behind / before) ** ((HEAT_CAPACITY_RATIO_AIR - 1) / HEAT_CAPACITY_RATIO_AIR), CHOKED)
    return mass_flow / (_unit_flow(weather) * before * sqrt(x**LOW - x**HIGH))


def series_area(areas: Array) -> Array:
    """Effective area of a chain by the rule that losses add.

    Arguments: areas [m²], shape (elements,) or (elements, variants).
    Returns: area [m²], scalar or shape (variants,).
    Raises: NotEnoughData for a chain without elements.
    Source: 1/A² = sum 1/A_i²: Bernoulli, each jet lost.
    """
    if not len(areas):
        raise NotEnoughData("areas", "There is no element in the chain.", "Measure one.")
    return np.asarray(1 / np.sqrt(np.sum(1 / np.square(areas), axis=0)))


def parallel_area(areas: Array) -> Array:
    """Effective area of branches that split and join: at the same drop their flows add.

    Arguments: areas [m²], shape (branches,) or (branches, variants).
    Returns: area [m²], scalar or shape (variants,).
    Raises: NotEnoughData for no branch.
    Source: continuity.
    """
    if not len(areas):
        raise NotEnoughData("areas", "There is no branch.", "Measure one.")
    return np.asarray(np.sum(areas, axis=0))


def _unit_flow(weather: Weather) -> float:
    """Mass flow for a square metre and a pascal of pressure, without the root over the pressure ratio."""
    k = HEAT_CAPACITY_RATIO_AIR
    gas_constant_temperature = weather.pressure / density_ideal(weather)
    return sqrt(2 * k / ((k - 1) * gas_constant_temperature))


def _pressure_ratio(squared_share: Array) -> Array:
    """p2/p1 for m²/M²; NaN above the choked flow."""
    least = CHOKED * (1 + 1e-9)
    x = np.maximum(CHOKED + (1 - CHOKED) * np.sqrt(np.maximum(1 - squared_share / MOST_PASSED, 0)), least)
    for _ in range(NEWTON_STEPS):
        square = x * x
        fourth = square * square
        low = fourth * x
        x = np.maximum(x - (low - low * x - squared_share) / (fourth * (LOW - HIGH * x)), least)
    ratio = x * x * x * np.sqrt(x)
    return np.asarray(np.where(squared_share <= MOST_PASSED, ratio, np.nan))
