"""Orifice plates and venturis that meter flow."""

from dataclasses import dataclass
from math import exp, pi, sqrt

from elvarn.core.constants import HEAT_CAPACITY_RATIO_AIR
from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.finding import Finding
from elvarn.core.gas.air import Weather, density_cipm_2007, viscosity
from elvarn.core.validity import Range

TAPPINGS = {"corner": (0.0, 0.0), "flange": (0.0254, 0.0254), "d_and_half_d": (1.0, 0.47)}
MACHINED_VENTURI_COEFFICIENT = 0.995  # ISO 5167-4:2003, 5.5.3
USUAL_REYNOLDS = 1e5  # where the iteration begins
ITERATIONS = 6  # each leaves less than a hundredth of the step before
LEAST_HOLE = 0.0125  # m; ISO 5167-2:2003, 5.3.1, from memory
SCOPE = "ISO 5167-2:2003, 5.3.1"
DIAMETER_RATIO = Range("diameter_ratio", "diameter ratio", 0.10, 0.75, "", SCOPE)
PIPE_DIAMETER = Range("pipe_diameter", "pipe's bore", 0.050, 1.000, "mm", SCOPE)
HOLE_IN_PIPE = Range(
    "diameter_ratio", "diameter ratio", 0, 1, "", "geometry", remedy="The hole must be below the pipe's bore.",
    above=True, below=True,
)  # fmt: skip
PRESSURE_LEFT = Range(
    "pressure_drop", "part of the upstream pressure that the drop leaves", 0.75, 1, "", "ISO 5167-2:2003, eq. (5)",
    remedy="0.75 is the limit of ISO 5167.",
)  # fmt: skip


@dataclass(frozen=True)
class PlateFlow:
    """Mass flow [kg/s] through a plate, its discharge coefficient [-], expansibility [-] and the pipe's Reynolds
    number [-]."""

    mass: float
    coefficient: float
    expansibility: float
    reynolds: float


def discharge_coefficient_iso_5167(
    pipe_diameter: float, diameter_ratio: float, reynolds_number: float, tapping: str = "corner"
) -> float:
    """Discharge coefficient of a sharp orifice plate in a pipe.

    Arguments: pipe_diameter [m], diameter_ratio [-] (hole over pipe), reynolds_number [-] of the pipe, tapping
    "corner", "flange" or "d_and_half_d"; scalars.
    Returns: coefficient [-].
    Raises: OutOfRange for a diameter ratio outside 0 to 1, a Reynolds number that is not above 0, unknown tapping.
    Source: ISO 5167-2:2003, eq. (4), Reader-Harris/Gallagher. Range: see `orifice_findings`.
    """
    require_positive(pipe_diameter=pipe_diameter, reynolds_number=reynolds_number)
    HOLE_IN_PIPE.check(diameter_ratio)
    if tapping not in TAPPINGS:
        raise OutOfRange("tapping", f"The tapping '{tapping}' is unknown.", f"Known: {', '.join(TAPPINGS)}.")
    upstream, downstream = TAPPINGS[tapping]
    if tapping == "flange":
        upstream, downstream = upstream / pipe_diameter, downstream / pipe_diameter
    b, re = diameter_ratio, reynolds_number
    a = float((19000 * b / re) ** 0.8)
    m = 2 * downstream / (1 - b)
    coefficient = 0.5961 + 0.0261 * b**2 - 0.216 * b**8 + float(0.000521 * (1e6 * b / re) ** 0.7)
    coefficient += float((0.0188 + 0.0063 * a) * b**3.5 * (1e6 / re) ** 0.3)
    wall = 0.043 + 0.080 * exp(-10 * upstream) - 0.123 * exp(-7 * upstream)
    coefficient += wall * (1 - 0.11 * a) * b**4 / (1 - b**4)
    coefficient -= float(0.031 * (m - 0.8 * m**1.1) * b**1.3)
    if pipe_diameter < 0.07112:
        coefficient += 0.011 * (0.75 - b) * (2.8 - pipe_diameter / 0.0254)
    return coefficient


def plate_flow(
    pipe_diameter: float, hole_diameter: float, pressure_drop: float, weather: Weather, tapping: str = "corner"
) -> PlateFlow:
    """What flows through a sharp orifice plate in a pipe, its Reynolds number found on the way.

    Arguments: pipe_diameter [m], hole_diameter [m], pressure_drop [Pa], tapping; scalars; weather upstream.
    Returns: the flow.
    Raises: OutOfRange as its parts.
    Source: ISO 5167-2:2003, with ISO 5167-1:2003, annex A, for the iteration.
    """
    density, ratio = density_cipm_2007(weather), hole_diameter / pipe_diameter
    epsilon = expansibility_iso_5167(ratio, weather.pressure, pressure_drop)
    reynolds = USUAL_REYNOLDS
    for _ in range(ITERATIONS):
        coefficient = discharge_coefficient_iso_5167(pipe_diameter, ratio, reynolds, tapping)
        mass = differential_mass_flow(coefficient, epsilon, pipe_diameter, hole_diameter, pressure_drop, density)
        reynolds = 4 * mass / (pi * pipe_diameter * viscosity(weather.temperature))
    return PlateFlow(mass, coefficient, epsilon, reynolds)


def expansibility_iso_5167(
    diameter_ratio: float, upstream_pressure: float, pressure_drop: float, kappa: float = HEAT_CAPACITY_RATIO_AIR
) -> float:
    """Expansibility factor of an orifice plate.

    Arguments: diameter_ratio [-], upstream_pressure [Pa] absolute, pressure_drop [Pa], kappa [-]; scalars.
    Returns: factor [-].
    Raises: OutOfRange where the drop leaves less than three quarters of the upstream pressure.
    Source: ISO 5167-2:2003, eq. (5), valid for p2/p1 of 0.75 and above.
    """
    ratio = _pressure_ratio(upstream_pressure, pressure_drop)
    slope = 0.351 + 0.256 * diameter_ratio**4 + 0.93 * diameter_ratio**8
    return 1 - slope * (1 - float(ratio ** (1 / kappa)))


def expansibility_nozzle(
    diameter_ratio: float, upstream_pressure: float, pressure_drop: float, kappa: float = HEAT_CAPACITY_RATIO_AIR
) -> float:
    """Expansibility factor of a nozzle or venturi, isentropic.

    Arguments: diameter_ratio [-], upstream_pressure [Pa] absolute, pressure_drop [Pa], kappa [-]; scalars.
    Returns: factor [-].
    Raises: OutOfRange where the drop leaves less than three quarters of the upstream pressure.
    Source: ISO 5167-4:2003, eq. (2).
    """
    tau = _pressure_ratio(upstream_pressure, pressure_drop)
    b4 = diameter_ratio**4
    swallowed = kappa * tau ** (2 / kappa) / (kappa - 1)
    area = (1 - b4) / (1 - b4 * tau ** (2 / kappa))
    return sqrt(swallowed * area * (1 - tau ** ((kappa - 1) / kappa)) / (1 - tau))


def differential_mass_flow(
    coefficient: float,
    expansibility: float,
    pipe_diameter: float,
    throat_diameter: float,
    pressure_drop: float,
    upstream_density: float,
) -> float:
    """Mass flow through a plate, nozzle or venturi from its pressure drop.

    Arguments: coefficient [-], expansibility [-], pipe_diameter [m], throat_diameter [m], pressure_drop [Pa],
    upstream_density [kg/m³]; scalars.
    Returns: mass flow [kg/s].
    Raises: OutOfRange for values not above zero or a throat as wide as the pipe.
    Source: ISO 5167-1:2003, eq. (1).
    """
    require_positive(pressure_drop=pressure_drop, upstream_density=upstream_density, pipe_diameter=pipe_diameter)
    ratio = throat_diameter / pipe_diameter
    HOLE_IN_PIPE.check(ratio)
    approach = coefficient / sqrt(1 - ratio**4)
    return approach * expansibility * pi / 4 * throat_diameter**2 * sqrt(2 * pressure_drop * upstream_density)


def orifice_findings(
    pipe_diameter: float, diameter_ratio: float, reynolds_number: float, tapping: str = "corner"
) -> list[Finding]:
    """What lies outside the scope of the plate's standard.

    Arguments: pipe_diameter [m], diameter_ratio [-], reynolds_number [-] of the pipe, tapping; scalars.
    Returns: findings, none inside the scope.
    Raises: nothing.
    Source: ISO 5167-2:2003, 5.3.1; its limits from memory.
    """
    findings = []
    if diameter_ratio not in DIAMETER_RATIO:
        text = f"The diameter ratio {diameter_ratio:.2f} is outside {DIAMETER_RATIO.words} of ISO 5167-2."
        findings.append(Finding("diameter_ratio_out_of_scope", text, doubt=True))
    if pipe_diameter not in PIPE_DIAMETER:
        text = f"The pipe of {pipe_diameter * 1000:.0f} mm is outside {PIPE_DIAMETER.words} of ISO 5167-2."
        findings.append(Finding("pipe_out_of_scope", text, doubt=True))
    if pipe_diameter * diameter_ratio < LEAST_HOLE:
        text = f"The hole of {pipe_diameter * diameter_ratio * 1000:.1f} mm is below 12.5 mm, outside ISO 5167-2."
        findings.append(Finding("hole_out_of_scope", text, doubt=True))
    least = _least_reynolds(pipe_diameter, diameter_ratio, tapping)
    if reynolds_number < least:
        text = f"The pipe's Reynolds number {reynolds_number:.2g} is below {least:.2g}, outside ISO 5167-2."
        findings.append(Finding("reynolds_out_of_scope", text, doubt=True))
    return findings


def _least_reynolds(pipe_diameter: float, ratio: float, tapping: str) -> float:
    if tapping == "flange":
        return max(5000.0, 170 * ratio**2 * pipe_diameter * 1000)
    return 5000.0 if ratio <= 0.559 else 16_000 * ratio**2


def _pressure_ratio(upstream_pressure: float, pressure_drop: float) -> float:
    require_positive(upstream_pressure=upstream_pressure, pressure_drop=pressure_drop)
    ratio = 1 - pressure_drop / upstream_pressure
    PRESSURE_LEFT.check(ratio)
    return ratio
