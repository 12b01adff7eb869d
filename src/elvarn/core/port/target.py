"""The area that each station of each runner is to have."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from math import pi, radians, sqrt, tan

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive
from elvarn.core.port.section import equal_diameter
from elvarn.core.port.stations import TAPER, integrated_volume
from elvarn.core.validity import Range

MOST = Range("area", "widest target", 0, 0.3, "mm", "no runner is wider; choice, no source", above=True)


class AreaLaw(StrEnum):
    """By what the target follows from station to station."""

    CONSTANT = "constant area"
    TAPER = "taper"
    VELOCITY = "constant velocity"
    BEST = "equal to the best runner"
    VOLUME = "equal volume"
    FLOW = "equal flow"
    HEAD = "to the head port"
    HAND = "by hand"


@dataclass(frozen=True)
class Target:
    """A law with what it takes: `area` [m²] at the entry (constant area, taper) or of the head port; `taper_deg`, the
    included angle; `flow` [m³/s] and `velocity` [m/s] for a constant velocity; `by_hand`: areas [m²] by place [m];
    `bell` [m]: radius of the entry, 0 for none."""

    law: AreaLaw
    area: float | None = None
    taper_deg: float = 0.0
    flow: float | None = None
    velocity: float | None = None
    by_hand: Mapping[float, float] = field(default_factory=dict)
    bell: float = 0.0


def target_areas(target: Target, places: Sequence[float], now: Array, flows: Sequence[float | None]) -> Array:
    """What each station of each runner is to have. Where a runner is larger already, nothing is to be cut: metal can't
    be put back by cutting.

    Arguments: target; places [m], shape (stations,); now [m²], shape (runners, stations), NaN where nothing was
    measured; flows [m³/s] of the runners, None where none was read.
    Returns: areas [m²], shape (runners, stations); NaN where the law says nothing.
    Raises: NotEnoughData for a law without what it takes; OutOfRange for values that can't be.
    Source: geometry; constant velocity A = Q/v; equal flow A ∝ Q, as each loss of a runner goes with 1/A².
    """
    at = np.asarray(places, dtype=float)
    wanted = _by_law(target, at, now, flows)
    if target.bell:
        wanted = _with_bell(wanted, at, target.bell)
    known = wanted[~np.isnan(wanted)]
    if known.size:
        MOST.check(equal_diameter(float(known.max())))
    return wanted


def bell_depth(radius: float, place: float) -> float:
    """How far the wall of a rounded entry stands back from the bore behind it.

    Arguments: radius [m]: a quarter circle; place [m]: from the face on; scalars.
    Returns: distance [m]; 0 behind the bell.
    Raises: OutOfRange for a radius not above zero.
    Source: geometry.
    """
    require_positive(radius=radius)
    return radius - sqrt(radius**2 - (radius - place) ** 2) if place < radius else 0.0


def _by_law(target: Target, at: Array, now: Array, flows: Sequence[float | None]) -> Array:
    if target.law is AreaLaw.VOLUME:
        return _by_volume(at, now)
    if target.law is AreaLaw.FLOW:
        return _by_flow(now, flows)
    if target.law is AreaLaw.HEAD:
        return _to_head(_needs(target.area, "area", "the area of the head port"), at, now)
    return np.broadcast_to(_of_one(target, at, now), now.shape).copy()


def _of_one(target: Target, at: Array, now: Array) -> Array:
    """The stations of a law that is the same for all runners."""
    match target.law:
        case AreaLaw.TAPER:
            return _tapered(target, at)
        case AreaLaw.BEST:
            return _largest(now)
        case AreaLaw.HAND:
            return np.array([target.by_hand.get(round(float(place), 6), np.nan) for place in at])
        case AreaLaw.VELOCITY:
            flow = _needs(target.flow, "flow", "the flow it is for")
            return np.full(len(at), flow / _needs(target.velocity, "velocity", "the velocity to hold"))
    return np.full(len(at), _needs(target.area, "area", "the area to hold"))


def _needs(value: float | None, name: str, words: str) -> float:
    if value is None:
        raise NotEnoughData(name, f"This law takes {words}.", "Enter it.")
    require_positive(**{name: value})
    return value


def _largest(now: Array) -> Array:
    """The largest area at each station, NaN where none was measured."""
    filled = np.where(np.isnan(now), -1.0, now).max(axis=0)
    return np.where(filled > 0, filled, np.nan)


def _tapered(target: Target, at: Array) -> Array:
    TAPER.check(target.taper_deg)
    bore = equal_diameter(_needs(target.area, "area", "the area at the entry"))
    bores = bore - 2 * (at - at[0]) * tan(radians(target.taper_deg) / 2)
    if bores.min() <= 0:
        text = f"A taper of {target.taper_deg:g}° closes the runner before its last station."
        raise OutOfRange("taper_deg", text, "Take a smaller angle.")
    areas: Array = pi / 4 * bores**2
    return areas


def _by_volume(at: Array, now: Array) -> Array:
    """Each runner grows in proportion until it holds as much as the one that holds most."""
    volumes = np.array([_volume(at, row) for row in now])
    if np.isnan(volumes).all():
        raise NotEnoughData("sections", "No runner has two sections: none has a volume.", "Measure two or more.")
    grown: Array = now * (np.nanmax(volumes) / volumes)[:, None]
    return grown


def _volume(at: Array, row: Array) -> float:
    """What a runner holds from the first to the last station that all have; NaN where one of them is missing."""
    if len(at) < 2 or np.isnan(row).any():
        return float("nan")
    return integrated_volume(at.tolist(), row.tolist())


def _by_flow(now: Array, flows: Sequence[float | None]) -> Array:
    read = np.array([np.nan if flow is None else flow for flow in flows])
    if np.isnan(read).all():
        raise NotEnoughData("flows", "No runner was flowed: which is the best is not known.", "Flow them first.")
    grown: Array = now * (np.nanmax(read) / read)[:, None]
    return grown


def _to_head(head: float, at: Array, now: Array) -> Array:
    """From each runner's own entry straight to the head port at the last station, by the bore of equal area."""
    entries = np.sqrt(now[:, 0])[:, None]
    share = (at - at[0]) / (at[-1] - at[0]) if len(at) > 1 else np.ones(1)
    along: Array = (entries + (sqrt(head) - entries) * share) ** 2
    return along


def _with_bell(wanted: Array, at: Array, radius: float) -> Array:
    """Stations within the bell are as wide as its quarter circle makes the bore behind it."""
    behind = next((n for n, place in enumerate(at) if place >= radius), len(at) - 1)
    bore = np.sqrt(4 * wanted[:, behind] / pi)
    for n in range(behind):
        wanted[:, n] = pi / 4 * (bore + 2 * bell_depth(radius, float(at[n]))) ** 2
    return wanted
