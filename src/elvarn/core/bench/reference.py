"""A flow at one depression or in one air, stated at another."""

from math import pi, radians, sin, sqrt

from elvarn.core.constants import GAS_CONSTANT_DRY_AIR
from elvarn.core.errors import require_positive
from elvarn.core.finding import Finding
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_cipm_2007, dry_pressure
from elvarn.core.gas.discharge import isentropic_volume_flow
from elvarn.core.validity import Range

FAR_CONVERSION_FACTOR = 4.0  # in pressure; common practice, no source
WORTH_SAYING = 0.01  # of the flow; choice, no source
DEPRESSION = Range(
    "depression", "depression", 125, 20_000, "Pa", "common practice, no source",
    remedy="Benches pull 125 to 20000 Pa (0.5 to 80 inH2O).",
)  # fmt: skip


def flow_at_depression(volume_flow: float, measured_at: float, stated_at: float) -> float:
    """Volume flow restated at another depression by the square-root law.

    Arguments: volume_flow [m³/s], measured_at [Pa], stated_at [Pa]; scalars.
    Returns: volume flow [m³/s].
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli, Q ~ sqrt(dp), for a fixed discharge coefficient. Error: see `conversion_findings`.
    """
    require_positive(flow=volume_flow, measured_depression=measured_at, stated_depression=stated_at)
    return volume_flow * sqrt(stated_at / measured_at)


def conversion_shortfall(measured_at: float, stated_at: float) -> float:
    """By how much the square-root law may be out between two depressions: what an ideal nozzle falls short of it. A
    port falls short by less.

    Arguments: measured_at [Pa], stated_at [Pa]; scalars.
    Returns: fraction of the flow [-], not below zero.
    Raises: OutOfRange for a depression that is not above zero.
    Source: isentropic nozzle (Saint-Venant and Wantzel) in standard air; see `conversion_findings` for its size.
    """
    law = flow_at_depression(isentropic_volume_flow(1.0, measured_at, STANDARD_AIR), measured_at, stated_at)
    return abs(isentropic_volume_flow(1.0, stated_at, STANDARD_AIR) / law - 1)


def conversion_findings(measured_at: float, stated_at: float) -> list[Finding]:
    """What a conversion may be out by.

    Arguments: measured_at [Pa], stated_at [Pa]; scalars.
    Returns: one finding where an ideal nozzle falls more than 1 % short of the square-root law, a doubt beyond a factor
    of 4 in pressure; else none.
    Raises: OutOfRange for a depression that is not above zero.
    Source: `conversion_shortfall`; the limits are common practice, no source. From 10 to 28 inH2O an ideal nozzle falls
    2.5 % short and a sharp orifice 1.1 %, by the isentropic nozzle and ISO 5167-2:2003.
    """
    far = is_far_conversion(measured_at, stated_at)
    shortfall = conversion_shortfall(measured_at, stated_at)
    if not far and shortfall <= WORTH_SAYING:
        return []
    factor = max(measured_at / stated_at, stated_at / measured_at)
    text = f"Converted from a depression {factor:.1f} times off: up to {shortfall * 100:.1f} % out."
    return [Finding("far_conversion" if far else "conversion", text, doubt=far)]


def is_far_conversion(measured_at: float, stated_at: float) -> bool:
    """Whether two depressions lie further apart than a factor of 4.

    Arguments: measured_at [Pa], stated_at [Pa]; scalars above zero.
    Returns: whether they do.
    Raises: nothing.
    Source: common practice, no source.
    """
    return max(measured_at / stated_at, stated_at / measured_at) > FAR_CONVERSION_FACTOR


def check_depression(depression: float) -> None:
    """Refuse a depression at which no bench can be read.

    Arguments: depression [Pa], scalar.
    Returns: nothing.
    Raises: OutOfRange outside 125 to 20000 Pa.
    Source: common practice, no source.
    """
    DEPRESSION.check(depression)


def flow_at_density(volume_flow: float, density: float, stated_density: float) -> float:
    """Volume flow at a fixed depression, restated for another air density.

    Only for a meter that reads actual volume: a bench that reads the ratio of two drops in the same air needs no
    such correction.
    Arguments: volume_flow [m³/s], density [kg/m³], stated_density [kg/m³]; scalars.
    Returns: volume flow [m³/s].
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli, Q ~ 1/sqrt(rho) at a fixed depression and geometry.
    """
    require_positive(flow=volume_flow, density=density, stated_density=stated_density)
    return volume_flow * sqrt(density / stated_density)


def standard_volume_flow(volume_flow: float, actual: Weather, standard: Weather) -> float:
    """Actual volume flow as flow of the same mass at a standard state.

    Arguments: volume_flow [m³/s] at the actual state, actual, standard.
    Returns: volume flow [m³/s] at the standard state.
    Raises: OutOfRange for a flow not above zero.
    Source: conservation of mass; densities by CIPM-2007.
    """
    require_positive(flow=volume_flow)
    return volume_flow * density_cipm_2007(actual) / density_cipm_2007(standard)


def standard_dry_volume_flow(volume_flow: float, actual: Weather, standard: Weather) -> float:
    """Actual volume flow as flow of its dry air alone at a standard state.

    Arguments: volume_flow [m³/s] at the actual state, actual, standard.
    Returns: volume flow [m³/s] of dry air at the standard state.
    Raises: OutOfRange for a flow not above zero.
    Source: ideal-gas law on the partial pressure of dry air.
    """
    require_positive(flow=volume_flow)
    temperature_part = standard.temperature / actual.temperature
    return volume_flow * dry_pressure(actual) / standard.pressure * temperature_part


def mass_flow(volume_flow: float, density: float) -> float:
    """Mass flow of a volume flow.

    Arguments: volume_flow [m³/s], density [kg/m³]; scalars.
    Returns: mass flow [kg/s].
    Raises: OutOfRange for values not above zero.
    Source: definition.
    """
    require_positive(flow=volume_flow, density=density)
    return volume_flow * density


def inclined_manometer_head(
    reading: float, angle_deg: float, specific_gravity: float, tube_bore: float, well_bore: float
) -> float:
    """Head of water that an inclined manometer with a well shows.

    Arguments: reading [m] along the scale, angle_deg [°] above the level, specific_gravity [-], tube_bore [m],
    well_bore [m]; scalars.
    Returns: head [m] of conventional water.
    Raises: OutOfRange for values not above zero.
    Source: hydrostatics, h = L SG (sin θ + a/A).
    """
    require_positive(reading=reading, specific_gravity=specific_gravity, tube_bore=tube_bore, well_bore=well_bore)
    return reading * specific_gravity * (sin(radians(angle_deg)) + (tube_bore / well_bore) ** 2)


def volume_flow_from_pressure_drop(
    coefficient: float, diameter: float, pressure_drop: float, temperature: float, pressure: float
) -> float:
    """Volume flow through a calibrated hole in a bench's wall, dry air, no approach velocity.

    Arguments: coefficient [-], diameter [m], pressure_drop [Pa], temperature [K], pressure [Pa]; scalars.
    Returns: volume flow [m³/s] at upstream density.
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli with a discharge coefficient; ideal-gas density.
    """
    require_positive(coefficient=coefficient, diameter=diameter, pressure_drop=pressure_drop)
    require_positive(temperature=temperature, pressure=pressure)
    specific_volume = GAS_CONSTANT_DRY_AIR * temperature / pressure
    return coefficient * pi / 4 * diameter**2 * sqrt(2 * pressure_drop * specific_volume)
