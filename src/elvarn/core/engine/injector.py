"""Injectors: flow by the pressure across them, size for a power, duty."""

from math import sqrt

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.validity import Range

DUTY = Range("duty", "duty", 0, 1, "%", "definition", remedy="100 % is held open.", above=True)
DUTY_WARNING = 0.85  # common practice, no source
DUTY_STOP = 0.90  # common practice, no source
PETROL_DENSITY = 745.0  # kg/m³, 720 to 775; the fixed "10.5 cc/min for a lb/h" carries ±5 %
ETHANOL_DENSITY = 789.0  # kg/m³ at 20 °C
PETROL_AIR, ETHANOL_AIR = 14.7, 9.0  # kg/kg, stoichiometric
ETHANOL = Range("ethanol", "ethanol share", 0, 1, "%", "definition")
FUELS = {"petrol": 1.0, "E85": 1.4, "methanol": 2.1}  # fuel needed for the same power, against petrol


def flow_at_pressure(flow: float, rated_pressure: float, pressure: float) -> float:
    """Injector flow at another pressure across it.

    Arguments: flow [any flow unit], rated_pressure [Pa] and pressure [Pa] across the injector; scalars.
    Returns: flow [same unit].
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli, Q ~ sqrt(dp).
    """
    require_positive(flow=flow, rated_pressure=rated_pressure, pressure=pressure)
    return flow * sqrt(pressure / rated_pressure)


def fuel_factor(fuel: str) -> float:
    """Fuel needed for the same power, against petrol.

    Arguments: fuel: its name.
    Returns: factor [-].
    Raises: OutOfRange for a fuel that is not known.
    Source: stoichiometry and heat of combustion, rounded, from memory.
    """
    if fuel not in FUELS:
        raise OutOfRange("fuel", f"'{fuel}' is no fuel known here.", f"Known: {', '.join(FUELS)}.")
    return FUELS[fuel]


def blend_factor(ethanol: float) -> float:
    """Volume of a petrol with ethanol that is needed for the same air at the same lambda, against petrol.

    Arguments: ethanol [-]: its share by volume, 0 to 1.
    Returns: factor [-].
    Raises: OutOfRange for a share outside.
    Source: stoichiometric air by mass 14.7 for petrol and 9.0 for ethanol (Heywood, tab. D.4, rounded), densities 745
    and 789 kg/m³: 1.43 for E85.
    """
    ETHANOL.check(ethanol)
    petrol, alcohol = (1 - ethanol) * PETROL_DENSITY, ethanol * ETHANOL_DENSITY
    return PETROL_AIR * PETROL_DENSITY / (PETROL_AIR * petrol + ETHANOL_AIR * alcohol)


def pressure_across(rail_gauge: float, manifold_gauge: float) -> float:
    """Pressure across an injector.

    Arguments: rail_gauge [Pa], manifold_gauge [Pa], negative below the outside air; scalars.
    Returns: pressure [Pa].
    Raises: OutOfRange where the manifold's pressure is not below the rail's.
    Source: definition.
    """
    if manifold_gauge >= rail_gauge:
        text = f"The manifold stands at {manifold_gauge / 1000:g} kPa, the rail at {rail_gauge / 1000:g} kPa."
        raise OutOfRange("manifold_pressure", text, "The rail's pressure is the higher one.")
    return rail_gauge - manifold_gauge


def required_fuel_flow(power: float, fuel_for_work: float, injector_count: int, most_duty: float) -> float:
    """Flow that each injector needs for a power at the most duty allowed.

    Arguments: power [W], fuel_for_work [kg/J], injector_count [-], most_duty [-]; scalars.
    Returns: mass flow [kg/s] of one injector held open.
    Raises: OutOfRange for values not above zero or a duty above 1.
    Source: brake-specific fuel consumption, m = P BSFC/(n duty).
    """
    require_positive(power=power, fuel_for_work=fuel_for_work, injector_count=injector_count, duty=most_duty)
    DUTY.check(most_duty)
    return power * fuel_for_work / (injector_count * most_duty)


def duty_for_power(power: float, fuel_for_work: float, injector_count: int, mass_flow: float) -> float:
    """Duty at which injectors of a flow feed a power.

    Arguments: power [W], fuel_for_work [kg/J], injector_count [-], mass_flow [kg/s] of one injector held open at the
    pressure across it; scalars.
    Returns: duty [-]; above 1 they are too small.
    Raises: OutOfRange for values not above zero.
    Source: as `required_fuel_flow`.
    """
    require_positive(mass_flow=mass_flow)
    return required_fuel_flow(power, fuel_for_work, injector_count, 1.0) / mass_flow


def duty_of_pulse(pulse: float, engine_speed_rpm: float) -> float:
    """Duty of one pulse a cycle.

    Arguments: pulse [s], engine_speed_rpm [rpm]; scalars.
    Returns: duty [-].
    Raises: OutOfRange for values not above zero.
    Source: a four-stroke cycle lasts 120/N seconds.
    """
    require_positive(pulse=pulse, engine_speed_rpm=engine_speed_rpm)
    return pulse * engine_speed_rpm / 120


def fuel_in_pulse(volume_flow: float, pulse: float, dead_time: float, density: float = PETROL_DENSITY) -> float:
    """Fuel that one pulse gives.

    Arguments: volume_flow [m³/s] held open, pulse [s], dead_time [s], density [kg/m³]; scalars.
    Returns: mass [kg].
    Raises: OutOfRange where the pulse is not longer than the dead time.
    Source: continuity, m = q (t − t_dead) rho.
    """
    require_positive(volume_flow=volume_flow, density=density)
    if pulse <= dead_time:
        raise OutOfRange("pulse", f"A pulse of {pulse * 1000:g} ms is over in the dead time.", "Check both.")
    return volume_flow * (pulse - dead_time) * density


def volume_from_mass_flow(mass_flow: float, density: float = PETROL_DENSITY) -> float:
    """Volume flow of fuel from its mass flow.

    Arguments: mass_flow [kg/s], density [kg/m³]; scalars.
    Returns: volume flow [m³/s].
    Raises: OutOfRange for a density not above zero.
    Source: definition.
    """
    require_positive(mass_flow=mass_flow, density=density)
    return mass_flow / density
