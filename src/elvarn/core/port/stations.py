"""Stations along a runner's centreline: what it holds, and how it tapers."""

from collections.abc import Sequence
from itertools import pairwise
from math import atan, degrees, sqrt

from elvarn.core.errors import Inconsistent, NotEnoughData, require_positive
from elvarn.core.finding import Finding
from elvarn.core.port.section import equal_diameter
from elvarn.core.validity import Range

EVEN = 1e-6  # relative: stations that are so nearly equally spaced are
TAPER = Range("taper", "taper", -7, 4, "°", "common practice, no source")  # opens by 7° at most, narrows by 4°
POURED = 0.02  # by which a poured volume and an integrated one may differ; common practice, no source


def integrated_volume(places: Sequence[float], areas: Sequence[float]) -> float:
    """What a runner holds between its first and its last station.

    Arguments: places [m]: distance of each station along the centreline, rising; areas [m²]: of the sections there,
    square to it.
    Returns: volume [m³].
    Raises: NotEnoughData for fewer than two stations; Inconsistent for places that don't rise or lists of unlike
    length; OutOfRange for an area not above zero.
    Source: geometry: Simpson's rule where an odd number of stations is equally spaced, else stacked frusta.
    """
    _check(places, areas)
    steps = [second - first for first, second in pairwise(places)]
    if len(places) % 2 and max(steps) - min(steps) <= EVEN * max(steps):
        inner = 4 * sum(areas[1:-1:2]) + 2 * sum(areas[2:-1:2])
        return steps[0] / 3 * (areas[0] + inner + areas[-1])
    pairs = zip(steps, areas, areas[1:], strict=False)
    return sum(frustum_volume(step, first, second) for step, first, second in pairs)


def frustum_volume(length: float, area_in: float, area_out: float) -> float:
    """What a cone cut off square holds.

    Arguments: length [m], area_in [m²], area_out [m²]; scalars.
    Returns: volume [m³].
    Raises: OutOfRange for values not above zero.
    Source: geometry, L/3 (A1 + A2 + √(A1 A2)).
    """
    require_positive(length=length, area_in=area_in, area_out=area_out)
    return length / 3 * (area_in + area_out + sqrt(area_in * area_out))


def tapers(places: Sequence[float], areas: Sequence[float]) -> list[float]:
    """Included angle between each two stations, of circles of the same area; above zero where the runner narrows.

    Arguments: places [m], areas [m²], as `integrated_volume` has them.
    Returns: angles [°], shape (stations − 1,).
    Raises: as `integrated_volume`.
    Source: geometry, 2 atan((d1 − d2)/2L).
    """
    _check(places, areas)
    across = [equal_diameter(area) for area in areas]
    pairs = zip(places, places[1:], across, across[1:], strict=False)
    return [degrees(2 * atan((d1 - d2) / (2 * (b - a)))) for a, b, d1, d2 in pairs]


def taper_findings(angles: Sequence[float]) -> list[Finding]:
    """Where a runner narrows or opens faster than is good for it.

    Arguments: angles [°], as `tapers` returns them.
    Returns: a finding for each stretch outside.
    Raises: nothing.
    Source: common practice, no source: up to 4° towards the valve, up to 7° where it opens.
    """
    found = []
    for number, angle in enumerate(angles, start=1):
        if angle not in TAPER:
            does = "narrows" if angle > 0 else "opens"
            text = f"Between stations {number} and {number + 1} it {does} by {abs(angle):.1f}°; up to "
            found.append(Finding("taper", f"{text}{TAPER.high if angle > 0 else -TAPER.low:g}° is usual.", doubt=True))
    return found


def against_pouring(integrated: float, poured: float) -> Finding | None:
    """Whether the volume that was poured and the one from the stations are the same.

    Arguments: integrated [m³], poured [m³]; scalars.
    Returns: a finding where they differ by more than measuring lets expect, else None.
    Raises: OutOfRange for values not above zero.
    Source: common practice, no source (2 %).
    """
    require_positive(integrated=integrated, poured=poured)
    apart = integrated / poured - 1
    if abs(apart) <= POURED:
        return None
    more = "more" if apart > 0 else "less"
    text = (
        f"The stations hold {100 * abs(apart):.1f} % {more} than was poured: check a section or the length along the "
    )
    return Finding("volumes_differ", f"{text}middle.", doubt=True)


def _check(places: Sequence[float], areas: Sequence[float]) -> None:
    if len(places) != len(areas):
        raise Inconsistent("stations", "Places and areas differ in number.", "Give one of each a station.")
    if len(places) < 2:
        raise NotEnoughData("stations", "One station holds nothing.", "Measure at two or more.")
    for number, (first, second) in enumerate(pairwise(places), start=2):
        if second <= first:
            text = f"Station {number} stands at {second * 1000:g} mm, the one before it at {first * 1000:g} mm."
            raise Inconsistent("stations", text, "List them from the entry on.")
    for area in areas:
        require_positive(area=area)
