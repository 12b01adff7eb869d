"""Loss coefficients of what tubes are made of, each as a range: the published sources differ by 10 to 25 %.

They are long-straight-pipe data. Elements nearer to each other than four or five bores influence each other, so the
sums serve to rank and to size, not to promise.
"""

from bisect import bisect_right
from dataclasses import dataclass
from math import log10, pi, radians, sin, sqrt

from elvarn.core.errors import OutOfRange, require_positive

# Crane TP-410 (2009), A-29: rounded entry flush in a wall, radius over bore
ROUNDED_ENTRY = ((0.0, 0.5), (0.02, 0.28), (0.04, 0.24), (0.06, 0.15), (0.10, 0.09), (0.15, 0.04))
# Blevins, Applied Fluid Dynamics Handbook (1984), table 10-2: square-edged screen, open fraction
SCREEN = (
    (0.05, 1000.0), (0.1, 250.0), (0.15, 85.0), (0.2, 52.0), (0.25, 30.0), (0.3, 17.0), (0.35, 11.0), (0.4, 7.7),
    (0.45, 5.5), (0.5, 3.8), (0.55, 2.8), (0.6, 2.0), (0.65, 1.5), (0.7, 1.1), (0.75, 0.78), (0.8, 0.53),
    (0.85, 0.35), (0.9, 0.08), (1.0, 0.0),
)  # fmt: skip
# Weisbach (1855), in Idelchik and older hydraulics texts, from memory: closing angle in degrees from fully open
BUTTERFLY = ((0.0, 0.0), (5.0, 0.24), (10.0, 0.52), (20.0, 1.54), (30.0, 3.91), (40.0, 10.8), (50.0, 32.6),
             (60.0, 118.0), (70.0, 751.0))  # fmt: skip
CORRUGATED_ROUGHNESS = 0.05  # of the bore: two to four times the friction of a smooth tube; from memory, ±50 %
SMOOTH_ROUGHNESS = 1.5e-6  # m, drawn tube (Moody)
CAST_ROUGHNESS = 2.6e-4  # m, cast iron as cast (Moody)


@dataclass(frozen=True)
class Loss:
    """A loss coefficient [-] with the range over its sources; the caller says to which velocity it refers."""

    value: float
    low: float
    high: float

    def __add__(self, other: "Loss") -> "Loss":
        return Loss(self.value + other.value, self.low + other.low, self.high + other.high)

    def times(self, factor: float) -> "Loss":
        """The same loss on another velocity (factor: square of the ratio of velocities)."""
        return Loss(self.value * factor, self.low * factor, self.high * factor)


NO_LOSS = Loss(0.0, 0.0, 0.0)
EXIT = Loss(1.0, 1.0, 1.0)  # the whole velocity head, Borda–Carnot into a large space
SHARP_ENTRY = Loss(0.5, 0.43, 0.57)  # Crane TP-410 0.5, Miller 0.51, Rennels 0.57
REENTRANT_ENTRY = Loss(0.78, 0.56, 1.0)  # Crane TP-410 0.78; a thin edge up to 1.0 (Borda, Idelchik)


def pressure_drop(loss: float, density: float, velocity: float) -> float:
    """Pressure drop of a loss coefficient.

    Arguments: loss [-], density [kg/m³], velocity [m/s] to which the coefficient refers; scalars.
    Returns: drop [Pa].
    Raises: OutOfRange for a density not above zero.
    Source: definition, dp = K rho V²/2.
    """
    require_positive(density=density)
    return loss * density * velocity**2 / 2


def friction_factor(reynolds_number: float, relative_roughness: float) -> float:
    """Darcy friction factor.

    Arguments: reynolds_number [-], relative_roughness [-] of the bore; scalars.
    Returns: factor [-].
    Raises: OutOfRange for a Reynolds number not above zero or a roughness outside 0 to 0.1.
    Source: laminar 64/Re below 2300; above it Serghides (1984), within 0.03 % of Colebrook and White.
    """
    require_positive(reynolds_number=reynolds_number)
    if not 0 <= relative_roughness <= 0.1:
        raise OutOfRange("roughness", f"The roughness is {relative_roughness:g} of the bore.", "0 to 0.1 can be.")
    if reynolds_number < 2300:
        return 64 / reynolds_number
    rough, re = relative_roughness / 3.7, reynolds_number
    a = -2 * log10(rough + 12 / re)
    b = -2 * log10(rough + 2.51 * a / re)
    c = -2 * log10(rough + 2.51 * b / re)
    return (a - (b - a) ** 2 / (c - 2 * b + a)) ** -2


def straight_tube(length: float, bore: float, friction: float) -> Loss:
    """Friction of a straight tube, on the velocity in its bore.

    Arguments: length [m], bore [m], friction [-]: Darcy factor; scalars.
    Returns: loss.
    Raises: OutOfRange for values not above zero.
    Source: Darcy and Weisbach; ±10 % for a roughness that is not known better.
    """
    require_positive(length=length, bore=bore, friction=friction)
    return _spread(friction * length / bore, 0.10)


def smooth_bend(angle_deg: float, radius_over_bore: float, friction: float) -> Loss:
    """Smooth round bend with its own friction, on the velocity in its bore.

    Arguments: angle_deg [°], radius_over_bore [-] at the centreline, friction [-]: Darcy factor; scalars.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 180° or a radius below half the bore.
    Source: Rennels and Hudson, Pipe Flow (2012), ch. 15; Crane, Miller and Ito lie within 25 %.
    """
    if not 0 < angle_deg <= 180:
        raise OutOfRange("angle", f"The bend turns by {angle_deg:g}°.", "0 to 180° can be.")
    if radius_over_bore < 0.5:
        raise OutOfRange("radius", f"The bend's radius is {radius_over_bore:g} bores.", "0.5 is a mitre: choose that.")
    angle = radians(angle_deg)
    half = sin(angle / 2)
    turning = 6.6 * friction * (sqrt(half) + half) / float(radius_over_bore ** (4 * angle / pi))
    return _spread(friction * angle * radius_over_bore + (0.10 + 2.4 * friction) * half + turning, 0.25)


def mitre_bend(angle_deg: float) -> Loss:
    """Single mitred bend, on the velocity in its bore.

    Arguments: angle_deg [°], scalar.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 150°.
    Source: Rennels and Hudson, Pipe Flow (2012), ch. 15; Crane, Miller and Blevins lie within 25 %.
    """
    if not 0 < angle_deg <= 150:
        raise OutOfRange("angle", f"The mitre turns by {angle_deg:g}°.", "0 to 150° can be.")
    half = sin(radians(angle_deg) / 2)
    return _spread(0.42 * half + 2.56 * half**3, 0.25)


def sudden_expansion(area_in: float, area_out: float) -> Loss:
    """Sudden enlargement, on the velocity before it.

    Arguments: area_in [m²], area_out [m²]; scalars.
    Returns: loss.
    Raises: OutOfRange for an area not above zero or an outlet below the inlet.
    Source: Borda and Carnot, K = (1 − A1/A2)².
    """
    require_positive(area_in=area_in, area_out=area_out)
    if area_out < area_in:
        raise OutOfRange("area", "The opening behind is smaller: that is a contraction.", "Exchange the two.")
    return _spread((1 - area_in / area_out) ** 2, 0.0)


def sudden_contraction(area_in: float, area_out: float) -> Loss:
    """Sudden contraction with sharp edges, on the velocity behind it.

    Arguments: area_in [m²], area_out [m²]; scalars.
    Returns: loss between the two sources; Rennels' is the higher one unless the step is small.
    Raises: OutOfRange for an area not above zero or an outlet above the inlet.
    Source: Crane TP-410 (2009), K = 0.5 (1 − A2/A1); Rennels and Hudson, Pipe Flow (2012), eq. (10.3).
    """
    require_positive(area_in=area_in, area_out=area_out)
    ratio = area_out / area_in
    if ratio > 1:
        raise OutOfRange("area", "The opening behind is larger: that is an expansion.", "Exchange the two.")
    crane = 0.5 * (1 - ratio)
    fifth = float(ratio**2.5)
    jet = 1 + 0.622 * (1 - 0.215 * ratio - 0.785 * fifth)
    rennels = 0.0696 * (1 - fifth) * jet**2 + (jet - 1) ** 2
    return Loss((crane + rennels) / 2, min(crane, rennels), max(crane, rennels))


def conical_diffuser(area_in: float, area_out: float, included_angle_deg: float) -> Loss:
    """Cone that widens, on the velocity before it. Best near 7°; it stalls above 15 to 20°.

    Arguments: area_in [m²], area_out [m²], included_angle_deg [°]; scalars.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 180° or an outlet below the inlet.
    Source: Crane TP-410 (2009), formulas 3 and 4; Rennels, Miller and Idelchik lie within 35 %.
    """
    sudden = sudden_expansion(area_in, area_out).value
    if not 0 < included_angle_deg <= 180:
        raise OutOfRange("angle", f"The cone opens by {included_angle_deg:g}°.", "0 to 180° can be.")
    if included_angle_deg >= 45:
        return _spread(sudden, 0.20)
    return _spread(2.6 * sin(radians(included_angle_deg) / 2) * sudden, 0.35)


def conical_contraction(area_in: float, area_out: float, included_angle_deg: float) -> Loss:
    """Cone that narrows, on the velocity behind it.

    Arguments: area_in [m²], area_out [m²], included_angle_deg [°]; scalars.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 180° or an outlet above the inlet.
    Source: Crane TP-410 (2009), formulas 1 and 2, on the smaller bore; sources differ by 35 %.
    """
    require_positive(area_in=area_in, area_out=area_out)
    if not 0 < included_angle_deg <= 180:
        raise OutOfRange("angle", f"The cone closes by {included_angle_deg:g}°.", "0 to 180° can be.")
    if area_out > area_in:
        raise OutOfRange("area", "The opening behind is larger: that is a diffuser.", "Exchange the two.")
    half = sin(radians(included_angle_deg) / 2)
    narrowing = 1 - area_out / area_in
    return _spread((0.8 * half if included_angle_deg <= 45 else 0.5 * sqrt(half)) * narrowing, 0.35)


def rounded_entry(radius_over_bore: float) -> Loss:
    """Entry from open air with a rounded edge flush in a wall, on the velocity behind it.

    Arguments: radius_over_bore [-], scalar.
    Returns: loss; 0.15 and above are a bell.
    Raises: OutOfRange for a negative radius.
    Source: Crane TP-410 (2009), A-29, linear between its rows; Miller and Idelchik lie within 0.026 above 0.15.
    """
    if radius_over_bore < 0:
        raise OutOfRange("radius", f"The entry's radius is {radius_over_bore:g} bores.", "0 is a sharp edge.")
    value = _interpolated(ROUNDED_ENTRY, radius_over_bore)
    return Loss(value, max(value - 0.026, 0.02), value + 0.07 if radius_over_bore < 0.15 else value + 0.026)


def screen(open_fraction: float) -> Loss:
    """Square-edged screen or perforated plate, on the velocity before it.

    Arguments: open_fraction [-], scalar.
    Returns: loss.
    Raises: OutOfRange for a fraction outside 0.05 to 1.
    Source: Blevins, Applied Fluid Dynamics Handbook (1984), table 10-2, linear between its rows; ±25 %.
    """
    if not 0.05 <= open_fraction <= 1:
        raise OutOfRange("open_fraction", f"The screen is {open_fraction * 100:.0f} % open.", "5 to 100 % can be.")
    return _spread(_interpolated(SCREEN, open_fraction), 0.25)


def butterfly(closing_angle_deg: float) -> Loss:
    """Thin plate in a round pipe, on the velocity in the pipe. A throttle body differs: its plate is not thin.

    Arguments: closing_angle_deg [°] from fully open, scalar.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 70°.
    Source: Weisbach (1855), in Idelchik, Handbook of Hydraulic Resistance, from memory; ±25 %.
    """
    if not 0 <= closing_angle_deg <= 70:
        raise OutOfRange("angle", f"The plate stands {closing_angle_deg:g}° from open.", "The table goes to 70°.")
    return _spread(_interpolated(BUTTERFLY, closing_angle_deg), 0.25)


def filter_drop(volume_flow: float, linear: float, quadratic: float) -> float:
    """Pressure drop of a filter by the two constants of its maker's curve.

    Arguments: volume_flow [m³/s], linear [Pa s/m³], quadratic [Pa s²/m⁶]; scalars.
    Returns: drop [Pa].
    Raises: OutOfRange for a flow not above zero.
    Source: dp = a Q + b Q², Darcy and Forchheimer; a filter's constants come from its curve only.
    """
    require_positive(volume_flow=volume_flow)
    return linear * volume_flow + quadratic * volume_flow**2


def _spread(value: float, fraction: float) -> Loss:
    return Loss(value, value * (1 - fraction), value * (1 + fraction))


def _interpolated(rows: tuple[tuple[float, float], ...], x: float) -> float:
    at = bisect_right(rows, x, key=lambda row: row[0])
    if at == len(rows):
        return rows[-1][1]
    (x0, y0), (x1, y1) = rows[at - 1], rows[at]
    return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
