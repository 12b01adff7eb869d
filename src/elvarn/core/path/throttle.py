"""The throttle: how much of its bore a plate and its shaft leave open, and what that passes."""

from math import asin, cos, pi, radians, sqrt

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.gas.discharge import incompressible_velocity
from elvarn.core.validity import Range

OPENING = Range("opening", "throttle's opening", 0, 1, "%", "definition", above=True)
PLATE_ANGLE = Range("plate_angle", "plate's angle", 0, 90, "°", "geometry")
CLOSED_ANGLE_DEG = 7.0  # at which a plate stands closed; common practice, no source
USUAL_SHAFT = 0.14  # of the bore, where nobody measured it; common practice, no source
WIDE_OPEN_COEFFICIENT = (0.7, 0.82, 0.9)  # low, usual, high; common practice, no source


def open_fraction(bore: float, shaft: float, plate_angle_deg: float, closed_angle_deg: float) -> float:
    """Projected open area of a round throttle over that of its bore, for a thin plate.

    Arguments: bore [m], shaft [m]: its diameter, plate_angle_deg [°] and closed_angle_deg [°], both from the plane
    normal to the axis; scalars.
    Returns: fraction [-].
    Raises: OutOfRange for a shaft as wide as the bore or angles outside 0 to 90°.
    Source: Harrington and Bolt, SAE 700082; Heywood, 7.5 (numbering from memory); signs re-derived, held in the tests
    against integration of the projected plate.
    """
    a = _shaft_ratio(bore, shaft)
    PLATE_ANGLE.check(plate_angle_deg)
    PLATE_ANGLE.check(closed_angle_deg)
    if closed_angle_deg >= plate_angle_deg:
        text = f"The plate stands at {plate_angle_deg:g}°, closed at {closed_angle_deg:g}°."
        raise OutOfRange("plate_angle", text, "The open angle is above the closed one.")
    opened, closed = cos(radians(plate_angle_deg)), cos(radians(closed_angle_deg))
    if opened <= a * closed:
        return wide_open_fraction(bore, shaft)
    tilted = a / opened * sqrt(opened**2 - a**2 * closed**2) + opened / closed * asin(a * closed / opened)
    return 1 - opened / closed + 2 / pi * (tilted - a * sqrt(1 - a**2) - asin(a))


def wide_open_fraction(bore: float, thickness: float) -> float:
    """What a shaft or plate of this thickness leaves of the bore when wide open.

    Arguments: bore [m], thickness [m]: the larger of shaft and plate; scalars.
    Returns: fraction [-].
    Raises: OutOfRange for a thickness as wide as the bore.
    Source: geometry, area of a strip across a circle.
    """
    a = _shaft_ratio(bore, thickness)
    return 1 - 2 / pi * (a * sqrt(1 - a**2) + asin(a))


def left_open(
    bore: float, shaft: float | None, plate: float | None, wide_open_deg: float, closed_angle_deg: float
) -> float:
    """What a throttle leaves open of its bore at its stop, which may lie short of wide open.

    Arguments: bore [m]; shaft [m] and plate [m]: how thick they are, None where nobody measured it; wide_open_deg [°]
    and closed_angle_deg [°] from the plane normal to the axis; wide open it may stand beyond 90°.
    Returns: fraction [-]; the usual shaft where nobody measured it.
    Raises: OutOfRange for a thickness as wide as the bore or angles outside 0 to 90°.
    Source: as `open_fraction` and `wide_open_fraction`, the smaller of the two.
    """
    across = shaft if shaft is not None else USUAL_SHAFT * bore
    most = wide_open_fraction(bore, max(across, plate or 0.0))
    angle = PLATE_ANGLE.high - abs(PLATE_ANGLE.high - wide_open_deg)
    if angle == PLATE_ANGLE.high:
        return most
    return min(most, open_fraction(bore, across, angle, closed_angle_deg))


def part_open_fraction(bore: float, shaft: float, opening: float, closed_angle_deg: float) -> float:
    """Open area at a part of the throttle's travel over that wide open, for a thin plate in a plain round bore.

    Arguments: bore [m], shaft [m], opening [-]: part of the travel from closed to wide open, closed_angle_deg [°] from
    the plane normal to the axis; scalars.
    Returns: fraction [-].
    Raises: OutOfRange for a shaft as wide as the bore or an opening outside 0 to 1.
    Source: as `open_fraction`; the same coefficient on both areas.
    """
    OPENING.check(opening)
    angle = closed_angle_deg + opening * (PLATE_ANGLE.high - closed_angle_deg)
    return open_fraction(bore, shaft, angle, closed_angle_deg) / wide_open_fraction(bore, shaft)


def throttle_drop(volume_flow: float, bore: float, shaft: float, coefficient: float, density: float) -> float:
    """Drop across a throttle that is wide open, air of constant density.

    Arguments: volume_flow [m³/s], bore [m], shaft [m], coefficient [-] on the open area, density [kg/m³]; scalars.
    Returns: drop [Pa].
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli, dp = rho/2 (Q/(Cd A))².
    """
    require_positive(volume_flow=volume_flow, coefficient=coefficient, density=density)
    area = pi / 4 * bore**2 * wide_open_fraction(bore, shaft)
    return density / 2 * (volume_flow / (coefficient * area)) ** 2


def equivalent_area(volume_flow: float, depression: float, density: float) -> float:
    """Area of an ideal opening that passes the same at the same drop, air of constant density.

    Arguments: volume_flow [m³/s], depression [Pa], density [kg/m³]; scalars.
    Returns: area [m²]; 3.8 % below the compressible effective area at the reference depression.
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli, Cd A = Q / sqrt(2 dp/rho).
    """
    require_positive(volume_flow=volume_flow)
    return volume_flow / incompressible_velocity(depression, density)


def _shaft_ratio(bore: float, shaft: float) -> float:
    require_positive(bore=bore, shaft=shaft)
    if shaft >= bore:
        text = f"A shaft of {shaft * 1000:g} mm fills a bore of {bore * 1000:g} mm."
        raise OutOfRange("shaft", text, "Check both.")
    return shaft / bore
