"""What one element passes: its effective area, measured on the bench or estimated from its geometry."""

from dataclasses import dataclass, replace
from math import degrees, inf, sqrt

from elvarn.core.finding import Finding, Grade
from elvarn.core.gas.discharge import effective_area, round_area
from elvarn.core.path import losses
from elvarn.core.path.coverage import CROWDED, MITRE_BELOW, crowded, findings_of_tube, straight_length
from elvarn.core.path.losses import Loss
from elvarn.core.path.throttle import CLOSED_ANGLE_DEG, WIDE_OPEN_COEFFICIENT, left_open

USUAL_REYNOLDS_NUMBER = 1e5  # of intake tubes at the reference depression


@dataclass(frozen=True)
class Passage:
    """Effective area [m²] with its range, its grade, and the bores [m] at its two ends where they are known.

    The effective area is that of an ideal nozzle which passes the same, the element flowed alone with its own entry
    and exit. Only `high` is known (area and `low` are None) where an element's bore is all that is known of it.
    `findings`: where its estimate lies outside of what the sources cover.
    """

    area: float | None
    low: float | None
    high: float | None
    grade: Grade
    bore_in: float | None = None
    bore_out: float | None = None
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True)
class Bend:
    """A bend of a tube: angle [°], centreline radius over bore [-]; a radius of 0 is a mitre."""

    angle_deg: float
    radius_over_bore: float


@dataclass(frozen=True)
class Geometry:
    """What was measured of an element, in m: all of it optional but the bore at its entry. A throttle's plate stands at
    an angle [°] from the plane normal to the axis when it is wide open."""

    bore_in: float
    bore_out: float | None = None
    length: float | None = None
    entry_radius: float | None = None
    shaft: float | None = None
    bends: tuple[Bend, ...] = ()
    ribbed: bool = False
    cast: bool = False
    screen_open_fraction: float | None = None
    plate: float | None = None
    wide_open_deg: float = 90.0
    closed_deg: float = CLOSED_ANGLE_DEG


def measured(
    volume_flow: float, depression: float, bore_in: float | None = None, bore_out: float | None = None
) -> Passage:
    """An element as the bench read it, at the depression at which it was read.

    Arguments: volume_flow [m³/s], depression [Pa], bore_in [m] and bore_out [m] where they were measured.
    Returns: passage.
    Raises: OutOfRange for values not above zero.
    Source: as `effective_area`.
    """
    area = effective_area(volume_flow, depression)
    return Passage(area, area, area, Grade.MEASURED, bore_in, bore_out or bore_in)


def estimated(kind: str, geometry: Geometry) -> Passage:
    """An element from its geometry, as if it were flowed alone with its own entry and exit.

    Arguments: kind: of the element; geometry.
    Returns: passage; a filter or cooler has an upper bound only, a plenum no loss of its own: its entry is the exit of
    what comes before, its exit the entry of what follows. A compressor's losses are in its efficiency.
    Raises: OutOfRange for dimensions that can't be.
    Source: loss coefficients of `losses`, opening of `throttle`.
    """
    out = geometry.bore_out or geometry.bore_in
    if kind in ("plenum", "compressor"):
        return lossless(geometry.bore_in, out)
    smallest = round_area(min(geometry.bore_in, out))
    if kind in ("filter", "cooler"):
        return Passage(None, None, smallest, Grade.ESTIMATED, geometry.bore_in, out)
    if kind == "throttle":
        open_area = smallest * _wide_open(min(geometry.bore_in, out), geometry)
        low, usual, high = (open_area * c for c in WIDE_OPEN_COEFFICIENT)
        return Passage(usual, low, high, Grade.ESTIMATED, geometry.bore_in, out)
    loss = loss_alone(geometry)
    area = round_area(geometry.bore_in)
    most = smallest if out <= geometry.bore_in else None
    high = area / sqrt(loss.low)
    return Passage(
        area / sqrt(loss.value),
        area / sqrt(loss.high),
        min(high, most) if most else high,
        Grade.ESTIMATED,
        geometry.bore_in,
        out,
        findings_of_tube(geometry.bore_in, out, geometry.length, _bends(geometry), _roughness(geometry)),
    )


def with_bore(kind: str, passage: Passage, before: Geometry, bore: float) -> Passage:
    """An element thought wider or narrower: what it was read to pass, in the ratio in which its own model changes.

    Shaft, blade, length and bends stay; a second bore goes with the first.

    Arguments: kind: of the element; passage: as it was read or estimated; before: its geometry; bore [m]: its smallest
    one, as it is thought.
    Returns: passage, an estimate.
    Raises: OutOfRange for dimensions that can't be.
    Source: `estimated`; where that tells nothing (a filter), by the square of the bore.
    """
    smallest = min(one for one in (before.bore_in, before.bore_out) if one)
    by = bore / smallest
    wider = replace(before, bore_in=before.bore_in * by, bore_out=before.bore_out * by if before.bore_out else None)
    was, now = estimated(kind, before), estimated(kind, wider)
    factor = now.area / was.area if was.area and now.area and was.area < inf else by**2

    def times(area: float | None) -> float | None:
        return None if area is None else area * factor

    return Passage(
        times(passage.area), times(passage.low), times(passage.high), Grade.ESTIMATED, wider.bore_in, wider.bore_out
    )


def lossless(bore_in: float | None = None, bore_out: float | None = None) -> Passage:
    """A plenum: no loss of its own.

    Arguments: bore_in [m] and bore_out [m] where they are known.
    Returns: passage of endless area.
    Raises: nothing.
    Source: definition: its entry is the exit loss of what comes before it, its exit the entry loss of what follows.
    """
    return Passage(inf, inf, inf, Grade.ESTIMATED, bore_in, bore_out)


def loss_alone(geometry: Geometry) -> Loss:
    """Loss of a tube, meter, adapter or runner flowed alone, on the velocity in its entry.

    Arguments: geometry.
    Returns: loss: entry, friction, bends, taper, screen, and the whole velocity head at its exit.
    Raises: OutOfRange for dimensions that can't be.
    Source: `losses`; a bend's own friction is in its loss; what bends lose can be wrong by half where they are near to
    each other.
    """
    out = geometry.bore_out or geometry.bore_in
    area_in, area_out = round_area(geometry.bore_in), round_area(out)
    bore = (geometry.bore_in + out) / 2
    in_middle = (geometry.bore_in / bore) ** 4
    loss = losses.SHARP_ENTRY
    if geometry.entry_radius is not None:
        loss = losses.rounded_entry(geometry.entry_radius / geometry.bore_in)
    friction = losses.friction_factor(USUAL_REYNOLDS_NUMBER, _roughness(geometry))
    straight = straight_length(_bends(geometry), geometry.length or 0.0, bore)
    if straight:
        loss += losses.straight_tube(straight, bore, friction).times(in_middle)
    near = CROWDED if crowded(_bends(geometry), geometry.length, bore) else 0.0
    for bend in geometry.bends:
        loss += _bend(bend, friction).within(near).times(in_middle)
    if geometry.screen_open_fraction is not None:
        loss += losses.screen(geometry.screen_open_fraction)
    loss += _taper(geometry, area_in, area_out)
    return loss + losses.EXIT.times((area_in / area_out) ** 2)


def _taper(geometry: Geometry, area_in: float, area_out: float) -> Loss:
    out = geometry.bore_out or geometry.bore_in
    if area_out == area_in:
        return losses.NO_LOSS
    if not geometry.length:
        return losses.taper_of_unknown_length(area_in, area_out)
    angle = degrees(abs(out - geometry.bore_in) / geometry.length)
    if area_out > area_in:
        return losses.conical_diffuser(area_in, area_out, max(min(angle, 180.0), 0.1))
    return losses.conical_contraction(area_in, area_out, max(min(angle, 180.0), 0.1)).times((area_in / area_out) ** 2)


def _bend(bend: Bend, friction: float) -> Loss:
    if bend.radius_over_bore < MITRE_BELOW:
        return losses.mitre_bend(bend.angle_deg)
    return losses.smooth_bend(bend.angle_deg, bend.radius_over_bore, friction)


def _bends(geometry: Geometry) -> tuple[tuple[float, float], ...]:
    return tuple((bend.angle_deg, bend.radius_over_bore) for bend in geometry.bends)


def _roughness(geometry: Geometry) -> float:
    if geometry.ribbed:
        return losses.CORRUGATED_ROUGHNESS
    bore = (geometry.bore_in + (geometry.bore_out or geometry.bore_in)) / 2
    return (losses.CAST_ROUGHNESS if geometry.cast else losses.SMOOTH_ROUGHNESS) / bore


def _wide_open(bore: float, geometry: Geometry) -> float:
    return left_open(bore, geometry.shaft, geometry.plate, geometry.wide_open_deg, geometry.closed_deg)
