"""Velocity, the most that an opening can pass, and the discharge coefficient."""

from math import pi, sqrt

from elvarn.core.constants import HEAT_CAPACITY_RATIO_AIR
from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal


def incompressible_velocity(pressure_drop: float, density: float) -> float:
    """Velocity that a pressure drop gives to air of constant density.

    Arguments: pressure_drop [Pa], density [kg/m³]; scalars.
    Returns: velocity [m/s].
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli; ISO 3966 for the pitot tube.
    """
    require_positive(pressure_drop=pressure_drop, density=density)
    return sqrt(2 * pressure_drop / density)


def isentropic_exit_velocity(pressure_drop: float, weather: Weather) -> float:
    """Velocity behind an ideal nozzle, with the air expanding on its way.

    Arguments: pressure_drop [Pa], weather upstream.
    Returns: velocity [m/s], never above that of the choked throat.
    Raises: OutOfRange for a drop of zero or of the whole pressure.
    Source: isentropic energy equation (Saint-Venant and Wantzel).
    """
    k = HEAT_CAPACITY_RATIO_AIR
    ratio = _throat_ratio(pressure_drop, weather.pressure)
    temperature_part = 1 - float(ratio ** ((k - 1) / k))
    gas_constant = weather.pressure / (density_ideal(weather) * weather.temperature)
    return sqrt(2 * k / (k - 1) * gas_constant * weather.temperature * temperature_part)


def isentropic_volume_flow(area: float, pressure_drop: float, weather: Weather) -> float:
    """The most that an opening can pass, counted in air as it is upstream: an ideal nozzle of the same area.

    Arguments: area [m²], pressure_drop [Pa], weather upstream.
    Returns: volume flow [m³/s] at upstream density.
    Raises: OutOfRange for an area or drop that is not above zero.
    Source: isentropic nozzle (Saint-Venant and Wantzel), choked at the critical ratio.
    """
    require_positive(area=area)
    ratio = _throat_ratio(pressure_drop, weather.pressure)
    return area * isentropic_exit_velocity(pressure_drop, weather) * float(ratio ** (1 / HEAT_CAPACITY_RATIO_AIR))


def discharge_coefficient(volume_flow: float, reference_area: float, pressure_drop: float, density: float) -> float:
    """Discharge coefficient referred to a named area, by the incompressible velocity that the trade uses.

    Arguments: volume_flow [m³/s], reference_area [m²], pressure_drop [Pa], density [kg/m³]; scalars.
    Returns: coefficient [-]. The caller says which area it refers to.
    Raises: OutOfRange for values not above zero.
    Source: Heywood, Internal Combustion Engine Fundamentals, 6.3.2.
    """
    require_positive(volume_flow=volume_flow, reference_area=reference_area)
    return volume_flow / (reference_area * incompressible_velocity(pressure_drop, density))


def round_area(diameter: float) -> float:
    """Area of a round opening, also the valve's inner-seat area.

    Arguments: diameter [m], scalar.
    Returns: area [m²].
    Raises: OutOfRange for a diameter that is not above zero.
    Source: geometry.
    """
    require_positive(diameter=diameter)
    return pi / 4 * diameter**2


def mean_velocity(volume_flow: float, area: float) -> float:
    """Mean velocity of a flow over a section.

    Arguments: volume_flow [m³/s], area [m²]; scalars.
    Returns: velocity [m/s].
    Raises: OutOfRange for values not above zero.
    Source: definition.
    """
    require_positive(volume_flow=volume_flow, area=area)
    return volume_flow / area


def curtain_area(valve_diameter: float, lift: float) -> float:
    """Cylindrical area under a lifted valve.

    Arguments: valve_diameter [m], lift [m]; scalars.
    Returns: area [m²].
    Raises: OutOfRange for values not above zero.
    Source: Heywood, 6.3.2.
    """
    require_positive(valve_diameter=valve_diameter, lift=lift)
    return pi * valve_diameter * lift


def port_velocity_during_stroke(bore: float, stroke: float, engine_speed_rpm: float, port_area: float) -> float:
    """Mean port velocity while the piston draws: mean piston speed times piston over port area.

    Arguments: bore [m], stroke [m], engine_speed_rpm [rpm], port_area [m²]; scalars.
    Returns: velocity [m/s]. Four times `port_velocity_over_cycle` for a volumetric efficiency of 1.
    Raises: OutOfRange for values not above zero.
    Source: continuity, piston-speed definition.
    """
    require_positive(stroke=stroke, engine_speed_rpm=engine_speed_rpm, port_area=port_area)
    mean_piston_speed = 2 * stroke * engine_speed_rpm / 60
    return mean_piston_speed * round_area(bore) / port_area


def port_velocity_over_cycle(
    cylinder_displacement: float, engine_speed_rpm: float, port_area: float, volumetric_efficiency: float
) -> float:
    """Mean port velocity over the whole four-stroke cycle.

    Arguments: cylinder_displacement [m³] of one cylinder, engine_speed_rpm [rpm], port_area [m²],
    volumetric_efficiency [-]; scalars.
    Returns: velocity [m/s].
    Raises: OutOfRange for values not above zero.
    Source: continuity, cycle-average definition.
    """
    require_positive(cylinder_displacement=cylinder_displacement, engine_speed_rpm=engine_speed_rpm)
    require_positive(port_area=port_area, volumetric_efficiency=volumetric_efficiency)
    return cylinder_displacement * engine_speed_rpm * volumetric_efficiency / (120 * port_area)


def _throat_ratio(pressure_drop: float, pressure: float) -> float:
    require_positive(pressure_drop=pressure_drop)
    if pressure_drop >= pressure:
        raise OutOfRange("pressure_drop", "The drop is larger than the air pressure.", "Check its unit.")
    k = HEAT_CAPACITY_RATIO_AIR
    critical = float((2 / (k + 1)) ** (k / (k - 1)))
    return max(1 - pressure_drop / pressure, critical)


def effective_area(volume_flow: float, depression: float, weather: Weather = STANDARD_AIR) -> float:
    """Area of the ideal nozzle that passes the same, the air expanding on its way.

    Arguments: volume_flow [m³/s] of the air upstream, depression [Pa], weather upstream.
    Returns: area [m²].
    Raises: OutOfRange for values not above zero.
    Source: isentropic nozzle (Saint-Venant and Wantzel): 4.556 mm² for a CFM at the reference depression.
    """
    require_positive(volume_flow=volume_flow)
    return volume_flow / isentropic_volume_flow(1.0, depression, weather)


def volume_flow_of(area: float, depression: float, weather: Weather = STANDARD_AIR) -> float:
    """What an effective area passes at a depression.

    Arguments: area [m²], depression [Pa], weather upstream.
    Returns: volume flow [m³/s] of the air upstream.
    Raises: OutOfRange for values not above zero.
    Source: as `effective_area`.
    """
    return isentropic_volume_flow(area, depression, weather)
