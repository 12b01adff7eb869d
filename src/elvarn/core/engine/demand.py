"""The air that an engine asks for, what a drop in front of the plenum costs, and what a runner has to pass."""

from dataclasses import dataclass
from math import sqrt

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, HORSEPOWER, INCH, INCH_OF_WATER, POUND, REFERENCE_DEPRESSION
from elvarn.core.errors import require_positive
from elvarn.core.gas.discharge import round_area, volume_flow_of

# hp for each CFM at 28 inH2O of a whole inlet tract, race engines: low and high end of what is quoted, and the figure
# of the trade. From bench makers' handbooks of the 1970s as 0.43 at 10 inH2O, from memory. Rule of thumb.
HORSEPOWER_FOR_A_CFM = (0.20, 0.257, 0.26)
PEAK_SPEED_CONSTANT = 2000.0  # rpm · in³ per CFM at 10 inH2O, same origin, constant from memory
MACH_INDEX_FALL = 0.6  # above it filling falls quickly
MEAN_FLOW_COEFFICIENT = (0.30, 0.35, 0.40)  # Taylor: mean over the open period, typical
MECHANICAL_EFFICIENCY = 0.85  # SAE J1349 assumes it
AIR_FUEL_RATIO = 12.5  # petrol at best power, 12.2 to 13.2
FUEL_FOR_WORK = 0.45 * POUND / (HORSEPOWER * 3600)  # kg/J: 0.45 lb/(hp h), 0.42 to 0.55 are sensible
FUEL_FOR_WORK_BOOSTED = 0.60 * POUND / (HORSEPOWER * 3600)  # kg/J: 0.55 to 0.65 lb/(hp h)


@dataclass(frozen=True)
class RunnerNeed:
    """What each runner has to pass at the reference depression for a power, in m³/s: two ways that answer apart.

    `rule`: the trade's rule of thumb for a whole tract, `rule_low` and `rule_high` its range; `physical`: what keeps
    the runner's own drop at the limit when the engine draws the air for that power.
    """

    rule: float
    rule_low: float
    rule_high: float
    physical: float


def air_demand(engine_displacement: float, engine_speed_rpm: float, volumetric_efficiency: float) -> float:
    """Air that a four-stroke engine draws, as volume of the air that the efficiency refers to.

    Arguments: engine_displacement [m³] of all cylinders, engine_speed_rpm [rpm], volumetric_efficiency [-]; scalars.
    Returns: volume flow [m³/s].
    Raises: OutOfRange for values not above zero.
    Source: Heywood, 2.10: Q = V N/2 for each revolution.
    """
    require_positive(displacement=engine_displacement, speed=engine_speed_rpm, efficiency=volumetric_efficiency)
    return engine_displacement * engine_speed_rpm / 120 * volumetric_efficiency


def power_from_air(mass_flow: float, air_fuel_ratio: float, fuel_for_work: float) -> float:
    """Brake power that an air flow supports.

    Arguments: mass_flow [kg/s], air_fuel_ratio [-], fuel_for_work [kg/J]: brake-specific consumption; scalars.
    Returns: power [W].
    Raises: OutOfRange for values not above zero.
    Source: definition of the brake-specific fuel consumption; Heywood, 2.9.
    """
    require_positive(mass_flow=mass_flow, air_fuel_ratio=air_fuel_ratio, fuel_for_work=fuel_for_work)
    return mass_flow / (air_fuel_ratio * fuel_for_work)


def air_for_power(power: float, air_fuel_ratio: float = AIR_FUEL_RATIO, fuel_for_work: float = FUEL_FOR_WORK) -> float:
    """Air that a brake power needs.

    Arguments: power [W], air_fuel_ratio [-], fuel_for_work [kg/J]; scalars.
    Returns: mass flow [kg/s].
    Raises: OutOfRange for values not above zero.
    Source: as `power_from_air`.
    """
    require_positive(power=power, air_fuel_ratio=air_fuel_ratio, fuel_for_work=fuel_for_work)
    return power * air_fuel_ratio * fuel_for_work


def fuel_for_work_in_pounds(fuel_for_work: float) -> float:
    """Brake-specific fuel consumption as it is told in the trade.

    Arguments: fuel_for_work [kg/J], scalar.
    Returns: pounds for a horsepower and hour [lb/(hp h)].
    Raises: OutOfRange for a value not above zero.
    Source: definition of pound and horsepower: 1 lb/(hp h) is 608.277 g/kWh.
    """
    require_positive(fuel_for_work=fuel_for_work)
    return fuel_for_work * HORSEPOWER * 3600 / POUND


def fuel_for_work_from_pounds(pounds: float) -> float:
    """The same back.

    Arguments: pounds [lb/(hp h)], scalar.
    Returns: consumption [kg/J].
    Raises: OutOfRange for a value not above zero.
    Source: definition of pound and horsepower.
    """
    require_positive(pounds=pounds)
    return pounds * POUND / (HORSEPOWER * 3600)


def rule_of_thumb_power(runner_flow: float, cylinder_count: int, horsepower_for_a_cfm: float = 0.257) -> float:
    """Power that the trade's rule gives for a whole inlet tract: an upper bound for a tuned race engine.

    Arguments: runner_flow [m³/s] of one tract at the reference depression, cylinder_count [-], horsepower_for_a_cfm
    [hp/CFM]; scalars.
    Returns: power [W].
    Raises: OutOfRange for values not above zero.
    Source: rule of thumb, from memory; meaningless for a bare runner, boost or a mild cam.
    """
    require_positive(runner_flow=runner_flow, cylinder_count=cylinder_count, constant=horsepower_for_a_cfm)
    return runner_flow / CUBIC_FOOT_PER_MINUTE * horsepower_for_a_cfm * cylinder_count * HORSEPOWER


def horsepower_constant_at(depression: float, constant_at_10: float = 0.43) -> float:
    """The rule's constant at another depression.

    Arguments: depression [Pa], constant_at_10 [hp/CFM] at 10 inH2O; scalars.
    Returns: constant [hp/CFM].
    Raises: OutOfRange for a depression not above zero.
    Source: Bernoulli, Q ~ sqrt(dp).
    """
    require_positive(depression=depression)
    return constant_at_10 * sqrt(10 * INCH_OF_WATER / depression)


def rule_of_thumb_peak_speed(runner_flow: float, cylinder_displacement: float) -> float:
    """Speed of peak power by the trade's rule.

    Arguments: runner_flow [m³/s] at the reference depression, cylinder_displacement [m³] of one cylinder; scalars.
    Returns: speed [rpm].
    Raises: OutOfRange for values not above zero.
    Source: rule of thumb, constant from memory, 1196 at 28 inH2O.
    """
    require_positive(runner_flow=runner_flow, cylinder_displacement=cylinder_displacement)
    at_10 = runner_flow / CUBIC_FOOT_PER_MINUTE * sqrt(10 * INCH_OF_WATER / REFERENCE_DEPRESSION)
    return PEAK_SPEED_CONSTANT * at_10 / (cylinder_displacement / INCH**3)


def mach_index(
    bore: float,
    mean_piston_speed: float,
    valve_diameter: float,
    valve_count: int,
    flow_coefficient: float,
    speed_of_sound: float,
) -> float:
    """Inlet Mach index: mean velocity in the valve's mean effective area over the speed of sound.

    Arguments: bore [m], mean_piston_speed [m/s], valve_diameter [m], valve_count [-] of inlet valves a cylinder,
    flow_coefficient [-]: mean over the open period, speed_of_sound [m/s] of the inlet air; scalars.
    Returns: index [-]; filling falls quickly above 0.6.
    Raises: OutOfRange for values not above zero.
    Source: C. F. Taylor, The Internal Combustion Engine in Theory and Practice, vol. 1, 2nd ed., ch. 6.
    """
    require_positive(valve_count=valve_count, flow_coefficient=flow_coefficient, speed_of_sound=speed_of_sound)
    require_positive(mean_piston_speed=mean_piston_speed)
    valve_area = valve_count * round_area(valve_diameter) * flow_coefficient
    return round_area(bore) / valve_area * mean_piston_speed / speed_of_sound


def speed_at_mach_index(
    index: float,
    bore: float,
    stroke: float,
    valve_diameter: float,
    valve_count: int,
    flow_coefficient: float,
    speed_of_sound: float,
) -> float:
    """Speed at which the inlet Mach index reaches a value.

    Arguments: index [-], bore [m], stroke [m], valve_diameter [m], valve_count [-], flow_coefficient [-],
    speed_of_sound [m/s]; scalars.
    Returns: speed [rpm].
    Raises: OutOfRange for values not above zero.
    Source: as `mach_index`.
    """
    require_positive(index=index, stroke=stroke)
    at_one = mach_index(bore, 1.0, valve_diameter, valve_count, flow_coefficient, speed_of_sound)
    return index / at_one * 60 / (2 * stroke)


def friction_pressure(engine_speed_rpm: float) -> float:
    """Mean pressure that friction and accessories of a four-stroke petrol engine take.

    Arguments: engine_speed_rpm [rpm], scalar.
    Returns: mean effective pressure [Pa]; engines lie 20 % to either side.
    Raises: OutOfRange for a speed not above zero.
    Source: Barnes-Moss (1975) in Heywood, eq. (13.6), wide-open throttle, 0.85 to 2 litres, from memory.
    """
    require_positive(engine_speed=engine_speed_rpm)
    thousands = engine_speed_rpm / 1000
    return 1e5 * (0.97 + 0.15 * thousands + 0.05 * thousands**2)


def air_from_brake_power(
    power: float, engine_displacement: float, engine_speed_rpm: float, fuel_for_work: float = FUEL_FOR_WORK
) -> float:
    """Air that an engine drew, from the brake power it gave.

    Friction grows with speed, so the air follows the indicated power: `fuel_for_work` stands for a brake efficiency
    with 85 % of the indicated power at the shaft.
    Arguments: power [W], engine_displacement [m³], engine_speed_rpm [rpm], fuel_for_work [kg/J]; scalars.
    Returns: mass flow [kg/s]; ±8 %.
    Raises: OutOfRange for values not above zero.
    Source: indicated power = brake power + friction (`friction_pressure`); otherwise as `power_from_air`.
    """
    require_positive(power=power, engine_displacement=engine_displacement)
    lost = friction_pressure(engine_speed_rpm) * engine_displacement * engine_speed_rpm / 120
    return air_for_power((power + lost) * MECHANICAL_EFFICIENCY, AIR_FUEL_RATIO, fuel_for_work)


def drop_share(drop: float, pressure: float) -> float:
    """Share of the air that a drop in front of the cylinders costs.

    Arguments: drop [Pa], pressure [Pa] absolute of the air in front; scalars.
    Returns: share [-]; whatever carries the drop.
    Raises: OutOfRange for a pressure not above zero.
    Source: ideal-gas law: the air drawn goes with the pressure in the plenum.
    """
    require_positive(pressure=pressure)
    return drop / pressure


def power_share(air_share: float, mechanical_efficiency: float = MECHANICAL_EFFICIENCY) -> float:
    """Share of the brake power that a share of the air costs: friction stays.

    Arguments: air_share [-], mechanical_efficiency [-]; scalars.
    Returns: share [-].
    Raises: OutOfRange for an efficiency not above zero.
    Source: indicated power goes with the air; 0.85 is the efficiency that SAE J1349 assumes.
    """
    require_positive(mechanical_efficiency=mechanical_efficiency)
    return air_share / mechanical_efficiency


def runner_need(
    power: float,
    cylinder_count: int,
    density: float,
    drawing_factor: float,
    drop_limit: float,
    fuel_for_work: float = FUEL_FOR_WORK,
) -> RunnerNeed:
    """What each runner has to pass at the reference depression for a power aimed at.

    Arguments: power [W], cylinder_count [-], density [kg/m³] of the air, drawing_factor [-] of one cylinder,
    drop_limit [Pa]: drop in the runner averaged over its air that the shop lets pass, fuel_for_work [kg/J]; scalars.
    Returns: need.
    Raises: OutOfRange for values not above zero.
    Source: rule: `rule_of_thumb_power`. Physical: air for the power, dp = factor rho/2 (Q/A)² for one cylinder's mean
    flow Q; the area as flow at the reference depression.
    """
    require_positive(power=power, cylinder_count=cylinder_count, density=density, drop_limit=drop_limit)
    each = power / HORSEPOWER / cylinder_count * CUBIC_FOOT_PER_MINUTE
    low, usual, high = HORSEPOWER_FOR_A_CFM
    mean_flow = air_for_power(power, fuel_for_work=fuel_for_work) / density / cylinder_count
    area = mean_flow * sqrt(drawing_factor * density / (2 * drop_limit))
    return RunnerNeed(each / usual, each / high, each / low, volume_flow_of(area, REFERENCE_DEPRESSION))
