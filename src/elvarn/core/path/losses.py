"""Loss coefficients of what tubes are made of, each as a range: the published sources differ by 10 to 25 %.

They are long-straight-pipe data. Elements nearer to each other than four or five bores influence each other, so the
sums serve to rank and to size, not to promise.
"""

from dataclasses import dataclass
from math import inf, log10, pi, radians, sin, sqrt

import numpy as np

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.tables import table
from elvarn.core.validity import Range

ROUNDED_ENTRY, SCREEN, BUTTERFLY = table("rounded_entry"), table("screen"), table("butterfly")
BEND_ANGLE = Range("angle", "bend's angle", 0, 180, "°", "a tube turns back at most", above=True)
BEND_RADIUS = Range("radius", "bend's radius in bores", 0.5, inf, "", "geometry", remedy="0.5 is a mitre: choose that.")
MITRE_ANGLE = Range("angle", "mitre's angle", 0, 150, "°", "Rennels and Hudson, Pipe Flow (2012), ch. 15", above=True)
CONE_ANGLE = Range("angle", "cone's included angle", 0, 180, "°", "geometry", above=True)
ENTRY_RADIUS = Range("radius", "entry's radius in bores", 0, inf, "", "geometry", remedy="0 is a sharp edge.")
OPEN_FRACTION = Range("open_fraction", "screen's open part", SCREEN.x[0], SCREEN.x[-1], "%", SCREEN.source)
CLOSING_ANGLE = Range(
    "angle", "plate's angle from open", BUTTERFLY.x[0], BUTTERFLY.x[-1], "°", BUTTERFLY.source,
    remedy="The table goes to 70°.",
)  # fmt: skip
ROUGHNESS = Range("roughness", "roughness over the bore", 0, 0.1, "", "Serghides (1984)")
CORRUGATED_ROUGHNESS = 0.05  # of the bore: two to four times the friction of a smooth tube; from memory, ±50 %
SMOOTH_ROUGHNESS = 1.5e-6  # m, drawn tube (Moody)
CAST_ROUGHNESS = 2.6e-4  # m, cast iron as cast (Moody)


MILLER_DIFFUSER_DEG = 10.0  # up to it Miller's chart shows no loss for small steps
BEST_DIFFUSER_DEG = 7.0  # physics of stall: best between 6 and 10°
LONG_CONES_DEG = (0.0, 5.0, 10.0, 20.0, 30.0)  # that narrow slowly: Miller and Blevins lie above Crane by
LONG_CONES_MORE = (0.2, 0.2, 0.11, 0.05, 0.0)  # so much of what is narrowed
# Of Rennels' figure, the span of Crane, Miller and Ito: by bores of radius below, for bends up to 50°, 135° and more.
BEND_SPANS = (
    (1.25, ((0.44, 1.80), (0.71, 1.36), (0.61, 1.80))),
    (1.75, ((0.59, 1.37), (0.79, 1.27), (0.95, 1.55))),
    (2.5, ((0.71, 1.15), (0.87, 1.17), (0.88, 1.36))),
    (inf, ((0.81, 1.25), (0.92, 1.19), (0.89, 1.25))),
)


@dataclass(frozen=True)
class Loss:
    """A loss coefficient [-] with the range over its sources; the caller says to which velocity it refers."""

    value: float
    low: float
    high: float

    def __add__(self, other: "Loss") -> "Loss":
        return Loss(self.value + other.value, self.low + other.low, self.high + other.high)

    def within(self, fraction: float) -> "Loss":
        """The same loss, its range at least so wide on both sides."""
        return Loss(self.value, min(self.low, self.value * (1 - fraction)), max(self.high, self.value * (1 + fraction)))

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
    ROUGHNESS.check(relative_roughness)
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
    Source: Rennels and Hudson, Pipe Flow (2012), ch. 15; the range holds Crane TP-410, Miller and Ito as well, which
    differ most at short bends of less than 60° and of more than 135°.
    """
    BEND_ANGLE.check(angle_deg)
    BEND_RADIUS.check(radius_over_bore)
    angle = radians(angle_deg)
    half = sin(angle / 2)
    turning = 6.6 * friction * (sqrt(half) + half) / float(radius_over_bore ** (4 * angle / pi))
    value = friction * angle * radius_over_bore + (0.10 + 2.4 * friction) * half + turning
    low, high = _bend_span(angle_deg, float(radius_over_bore))
    return Loss(value, value * low, value * high)


def mitre_bend(angle_deg: float) -> Loss:
    """Single mitred bend, on the velocity in its bore.

    Arguments: angle_deg [°], scalar.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 150°.
    Source: Rennels and Hudson, Pipe Flow (2012), ch. 15; Crane, Miller and Blevins lie within 25 %.
    """
    MITRE_ANGLE.check(angle_deg)
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
    Source: Crane TP-410 (2009), formulas 3 and 4; the range holds Rennels, Miller and, from an area ratio of 1.4 on,
    Idelchik. Miller's chart shows none up to 10° for small steps.
    """
    sudden = sudden_expansion(area_in, area_out).value
    CONE_ANGLE.check(included_angle_deg)
    value = sudden if included_angle_deg >= 45 else 2.6 * sin(radians(included_angle_deg) / 2) * sudden
    least = 0.75 if included_angle_deg > MILLER_DIFFUSER_DEG else 0.0
    return Loss(value, least * value, 1.25 * value + (0.08 if included_angle_deg >= 45 else 0.05))


def conical_contraction(area_in: float, area_out: float, included_angle_deg: float) -> Loss:
    """Cone that narrows, on the velocity behind it.

    Arguments: area_in [m²], area_out [m²], included_angle_deg [°]; scalars.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 180° or an outlet above the inlet.
    Source: Crane TP-410 (2009), formulas 1 and 2, on the smaller bore; the range holds Rennels, Miller and Blevins.
    Idelchik's figures hold the cone's friction, which is counted by itself here.
    """
    require_positive(area_in=area_in, area_out=area_out)
    CONE_ANGLE.check(included_angle_deg)
    if area_out > area_in:
        raise OutOfRange("area", "The opening behind is larger: that is a diffuser.", "Exchange the two.")
    half = sin(radians(included_angle_deg) / 2)
    narrowing = 1 - area_out / area_in
    value = (0.8 * half if included_angle_deg <= 45 else 0.5 * sqrt(half)) * narrowing
    more = float(np.interp(included_angle_deg, LONG_CONES_DEG, LONG_CONES_MORE)) * narrowing
    return Loss(value, 0.34 * value, 1.2 * value + more)


def taper_of_unknown_length(area_in: float, area_out: float) -> Loss:
    """Two bores of an element whose length nobody measured, on the velocity in its entry: from a good cone to a step.

    Arguments: area_in [m²], area_out [m²]; scalars.
    Returns: loss.
    Raises: OutOfRange for an area not above zero.
    Source: `conical_diffuser` at 7° and Borda and Carnot; `conical_contraction` at 30° and `sudden_contraction`.
    """
    if area_out >= area_in:
        cone, step = conical_diffuser(area_in, area_out, BEST_DIFFUSER_DEG), sudden_expansion(area_in, area_out)
        return Loss((cone.value + step.value) / 2, cone.low, max(step.high, cone.value))
    cone, step = conical_contraction(area_in, area_out, 30.0), sudden_contraction(area_in, area_out)
    found = Loss((cone.value + step.value) / 2, min(cone.low, step.low), max(cone.high, step.high))
    return found.times((area_in / area_out) ** 2)


def rounded_entry(radius_over_bore: float) -> Loss:
    """Entry from open air with a rounded edge flush in a wall, on the velocity behind it.

    Arguments: radius_over_bore [-], scalar.
    Returns: loss; 0.15 and above are a bell.
    Raises: OutOfRange for a negative radius.
    Source: Crane TP-410 (2009), A-29, linear between its rows; Miller and Idelchik lie within 0.026 above 0.15.
    """
    ENTRY_RADIUS.check(radius_over_bore)
    value = ROUNDED_ENTRY.at(radius_over_bore)
    return Loss(value, max(value - 0.026, 0.02), value + 0.07 if radius_over_bore < 0.15 else value + 0.026)


def screen(open_fraction: float) -> Loss:
    """Square-edged screen or perforated plate, on the velocity before it.

    Arguments: open_fraction [-], scalar.
    Returns: loss.
    Raises: OutOfRange for a fraction outside 0.05 to 1.
    Source: Blevins, Applied Fluid Dynamics Handbook (1984), table 10-2, linear between its rows; ±25 %.
    """
    OPEN_FRACTION.check(open_fraction)
    return _spread(SCREEN.at(open_fraction), 0.25)


def wire_screen(open_fraction: float) -> Loss:
    """Screen of round wire, on the velocity before it.

    Arguments: open_fraction [-], scalar.
    Returns: loss.
    Raises: OutOfRange for a fraction outside 0.05 to 1.
    Source: Idelchik, from memory: 1.3 (1 − f) + (1/f − 1)²; ±25 %.
    """
    OPEN_FRACTION.check(open_fraction)
    closed = 1 - open_fraction
    return _spread(1.3 * closed + (closed / open_fraction) ** 2, 0.25)


def butterfly(closing_angle_deg: float) -> Loss:
    """Thin plate in a round pipe, on the velocity in the pipe. A throttle body differs: its plate is not thin.

    Arguments: closing_angle_deg [°] from fully open, scalar.
    Returns: loss.
    Raises: OutOfRange for an angle outside 0 to 70°.
    Source: Weisbach (1855), in Idelchik, Handbook of Hydraulic Resistance, from memory; ±25 %.
    """
    CLOSING_ANGLE.check(closing_angle_deg)
    return _spread(BUTTERFLY.at(closing_angle_deg), 0.25)


def filter_drop(volume_flow: float, linear: float, quadratic: float) -> float:
    """Pressure drop of a filter by the two constants of its maker's curve.

    Arguments: volume_flow [m³/s], linear [Pa s/m³], quadratic [Pa s²/m⁶]; scalars.
    Returns: drop [Pa].
    Raises: OutOfRange for a flow not above zero.
    Source: Darcy and Weisbach, with Forchheimer dp = a Q + b Q²; a filter's constants come from its curve only.
    """
    require_positive(volume_flow=volume_flow)
    return linear * volume_flow + quadratic * volume_flow**2


def _bend_span(angle_deg: float, radius_over_bore: float) -> tuple[float, float]:
    spans = next(spans for below, spans in BEND_SPANS if radius_over_bore < below)
    return spans[0 if angle_deg <= 50 else 1 if angle_deg <= 135 else 2]


def _spread(value: float, fraction: float) -> Loss:
    return Loss(value, value * (1 - fraction), value * (1 + fraction))
