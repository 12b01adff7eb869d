"""Speeds that a runner's and a plenum's size favour: closed forms, each with its assumptions and its ±."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, pi, sqrt

from elvarn.core.errors import OutOfRange, require_positive
from elvarn.core.validity import Range

ENGELMAN_CONSTANT = 2.1  # 2.0 to 2.5 were fitted
ENGELMAN_SPREAD = 0.10
RESONANCE_SPREAD = 0.10  # lumped form; common practice, no source
FLANGED_END = 0.8217  # of the radius: Norris and Sheng (1989); 0.85 (8/3π, Rayleigh) is usual
UNFLANGED_END = 0.6133  # of the radius: Levine and Schwinger (1948)
CAM_SPREAD_RPM = 600.0
CAM_DURATION = Range("duration", "inlet's opening at 1 mm of lift", 160, 320, "°", "common practice, no source")
COMPRESSION_RATIO = Range("compression_ratio", "compression ratio", 1, inf, "", "definition", above=True)
PULL_APART = 0.15  # of the band's middle; common practice, no source


@dataclass(frozen=True)
class Section:
    """A length [m] of a runner with its mean area [m²]."""

    length: float
    area: float


@dataclass(frozen=True)
class Favoured:
    """A speed [rpm] with its range, what favours it, and what is assumed."""

    speed_rpm: float
    low_rpm: float
    high_rpm: float
    by: str
    assumes: str


def effective_cylinder_volume(cylinder_displacement: float, compression_ratio: float) -> float:
    """Volume of a cylinder at half stroke.

    Arguments: cylinder_displacement [m³] of one cylinder, compression_ratio [-]; scalars.
    Returns: volume [m³].
    Raises: OutOfRange for a displacement not above zero or a ratio of 1 or less.
    Source: Engelman, ASME 73-WA/DGP-2 (1973), from memory; V = (V_d/2)(R+1)/(R−1).
    """
    require_positive(cylinder_displacement=cylinder_displacement)
    COMPRESSION_RATIO.check(compression_ratio)
    return cylinder_displacement / 2 * (compression_ratio + 1) / (compression_ratio - 1)


def helmholtz_frequency(area: float, length: float, volume: float, speed_of_sound: float) -> float:
    """Frequency of a duct with a volume behind it.

    Arguments: area [m²], length [m], volume [m³], speed_of_sound [m/s]; scalars.
    Returns: frequency [Hz].
    Raises: OutOfRange for values not above zero.
    Source: Helmholtz, f = (a/2π) sqrt(A/(L V)), the duct short against the wave.
    """
    require_positive(area=area, length=length, volume=volume, speed_of_sound=speed_of_sound)
    return speed_of_sound / (2 * pi) * sqrt(area / (length * volume))


def equivalent_section(sections: Sequence[Section]) -> Section:
    """One section that stands for several in a row: the same sum of length over area, the same length.

    Arguments: sections: from the plenum to the valve.
    Returns: section.
    Raises: OutOfRange for none, or for values not above zero.
    Source: inertia of the air column, sum(L/A).
    """
    if not sections:
        raise OutOfRange("sections", "The runner has no section.", "Measure its length and bore.")
    for section in sections:
        require_positive(length=section.length, area=section.area)
    length = sum(section.length for section in sections)
    return Section(length, length / sum(section.length / section.area for section in sections))


def engelman_speed(
    runner: Section,
    cylinder_displacement: float,
    compression_ratio: float,
    speed_of_sound: float,
    constant: float = ENGELMAN_CONSTANT,
) -> Favoured:
    """Speed that a runner favours with the cylinder at half stroke behind it.

    Arguments: runner: from plenum mouth to valve, the port included; cylinder_displacement [m³] of one cylinder,
    compression_ratio [-], speed_of_sound [m/s] of the charge, constant [-].
    Returns: speed with its range.
    Raises: OutOfRange for values that can't be.
    Source: H. W. Engelman, ASME 73-WA/DGP-2 (1973), from memory: N = 60 f/K, K 2.1; empirical, ±10 %.
    """
    volume = effective_cylinder_volume(cylinder_displacement, compression_ratio)
    speed = 60 * helmholtz_frequency(runner.area, runner.length, volume, speed_of_sound) / constant
    return Favoured(
        speed,
        speed * (1 - ENGELMAN_SPREAD),
        speed * (1 + ENGELMAN_SPREAD),
        "runner length and area",
        f"runner with its port to the valve, cylinder at half stroke, K {constant:g}",
    )


def quarter_wave_frequency(length: float, speed_of_sound: float) -> float:
    """Frequency of a duct closed at one end.

    Arguments: length [m] with its end correction, speed_of_sound [m/s]; scalars.
    Returns: frequency [Hz].
    Raises: OutOfRange for values not above zero.
    Source: quarter wave, f = a/4L.
    """
    require_positive(length=length, speed_of_sound=speed_of_sound)
    return speed_of_sound / (4 * length)


def quarter_wave_speed(length: float, order: float, speed_of_sound: float) -> float:
    """Speed at which so many quarter-wave oscillations fall into a cycle of 720°.

    Arguments: length [m], order [-]: sources differ on which are favourable; speed_of_sound [m/s]; scalars.
    Returns: speed [rpm].
    Raises: OutOfRange for values not above zero.
    Source: quarter wave, N = 30 a/(q L).
    """
    require_positive(order=order)
    return 120 * quarter_wave_frequency(length, speed_of_sound) / order


def length_for_return(
    crank_angle_deg: float, engine_speed_rpm: float, speed_of_sound: float, returns: int = 1
) -> float:
    """Runner length whose wave is back after a crank angle.

    Arguments: crank_angle_deg [°], engine_speed_rpm [rpm], speed_of_sound [m/s], returns [-]: the n-th; scalars.
    Returns: length [m].
    Raises: OutOfRange for values not above zero.
    Source: kinematics, L = theta a/(12 N n).
    """
    require_positive(crank_angle=crank_angle_deg, speed=engine_speed_rpm, sound=speed_of_sound, returns=returns)
    return crank_angle_deg * speed_of_sound / (12 * engine_speed_rpm * returns)


def resonance_speed(duct: Section, plenum_volume: float, cylinders_in_group: int, speed_of_sound: float) -> Favoured:
    """Speed at which the inlet duct and the plenum swing with a group of evenly firing cylinders.

    Arguments: duct: in front of the plenum; plenum_volume [m³] with its runners; cylinders_in_group [-]; speed_of_sound
    [m/s].
    Returns: speed with its range.
    Raises: OutOfRange for values not above zero.
    Source: f = n N/120; Bosch Automotive Handbook; Winterbone and Pearson, Design Techniques for Engine Manifolds
    (1999), from memory. Strongest for three cylinders a group.
    """
    require_positive(cylinders_in_group=cylinders_in_group)
    frequency = helmholtz_frequency(duct.area, duct.length, plenum_volume, speed_of_sound)
    speed = 120 * frequency / cylinders_in_group
    return Favoured(
        speed,
        speed * (1 - RESONANCE_SPREAD),
        speed * (1 + RESONANCE_SPREAD),
        "inlet duct and plenum",
        f"{cylinders_in_group} evenly firing cylinders on one plenum, duct and volume lumped",
    )


def end_correction(radius: float, flanged: bool = True) -> float:
    """Length that an open end seems longer.

    Arguments: radius [m], flanged: whether the end lies in a wall; a bell lies between.
    Returns: length [m].
    Raises: OutOfRange for a radius not above zero.
    Source: flanged 0.8217 r, Norris and Sheng (1989); unflanged 0.6133 r, Levine and Schwinger (1948).
    """
    require_positive(radius=radius)
    return (FLANGED_END if flanged else UNFLANGED_END) * radius


def cam_speed(duration_at_1_mm_deg: float) -> Favoured:
    """Speed of best filling that an inlet cam is made for.

    Arguments: duration_at_1_mm_deg [°] of crank, scalar.
    Returns: speed with its range.
    Raises: OutOfRange outside 160 to 320°.
    Source: common practice, no source: about 3600 rpm at 200°, 60 rpm a degree; ±600 rpm.
    """
    CAM_DURATION.check(duration_at_1_mm_deg)
    speed = 3600 + 60 * (duration_at_1_mm_deg - 200)
    return Favoured(speed, speed - CAM_SPREAD_RPM, speed + CAM_SPREAD_RPM, "inlet cam", "duration at 1 mm of lift")


def against_band(favoured: Favoured, band_low_rpm: float, band_high_rpm: float) -> str:
    """Where a favoured speed lies to the band that matters.

    Arguments: favoured; band_low_rpm [rpm], band_high_rpm [rpm].
    Returns: "below", "inside" or "above" the band, with the favoured speed's own range allowed for.
    Raises: OutOfRange for an empty band.
    Source: definition.
    """
    if not 0 < band_low_rpm < band_high_rpm:
        raise OutOfRange("band", f"The band is {band_low_rpm:g} to {band_high_rpm:g} rpm.", "Enter the lower first.")
    if favoured.high_rpm < band_low_rpm:
        return "below"
    return "above" if favoured.low_rpm > band_high_rpm else "inside"


def outside_band(favoured: Favoured, band_low_rpm: float, band_high_rpm: float) -> float:
    """How far a favoured speed with its own range lies outside of a band.

    Arguments: favoured; band_low_rpm [rpm], band_high_rpm [rpm].
    Returns: the gap as a fraction of the band's middle [-], 0 where they meet.
    Raises: OutOfRange for an empty band.
    Source: definition.
    """
    where = against_band(favoured, band_low_rpm, band_high_rpm)
    gaps = {"below": band_low_rpm - favoured.high_rpm, "above": favoured.low_rpm - band_high_rpm, "inside": 0.0}
    return gaps[where] / ((band_low_rpm + band_high_rpm) / 2)


def pull_apart(one: Favoured, other: Favoured) -> bool:
    """Whether two favoured speeds pull in different directions: their ranges do not meet and they are far apart.

    Arguments: one, other.
    Returns: whether they do.
    Raises: nothing.
    Source: common practice, no source (15 % of their mean).
    """
    apart = one.high_rpm < other.low_rpm or other.high_rpm < one.low_rpm
    return apart and abs(one.speed_rpm - other.speed_rpm) > PULL_APART * (one.speed_rpm + other.speed_rpm) / 2
