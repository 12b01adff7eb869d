"""The bore of a throttle or adapter: how round it is along its depth, where it must stay, and what a cut is worth."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from math import acos, cos, degrees, pi, radians, sin, sqrt

import numpy as np

from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive
from elvarn.core.path import losses
from elvarn.core.path.plausible import SAME_BORE
from elvarn.core.path.throttle import CLOSED_ANGLE_DEG, left_open
from elvarn.core.port.worth import BELL, UNPROVEN, stretches

LEAST_LAND = 0.002  # m between a bore and the groove of its seal; common practice, no source
STOP_WITHIN_DEG = 0.5  # an angle gauge reads so well; common practice, no source
LEAST_GAIN = 1e-4  # of the flow: what gives less gives nothing
SHARP = 0.0  # radius over bore


class Change(StrEnum):
    """What can be done to a throttle or adapter."""

    STOP = "stop"
    BLADE = "blade"
    ENTRY = "entry"
    NARROW = "narrow"


@dataclass(frozen=True)
class Barrel:
    """A bore along its depth: `places` [m] from the entry face, rising, and the mean bores [m] there; `entry_radius`
    [m]; `before` [m] the bore of what lies in front, None for open air. Where a plate closes it: the plate's middle [m]
    from the entry face, shaft and plate [m] thick, and the angles [°] from the plane normal to the axis at which it
    stands wide open and closed; `throttle` says that it is one where neither shaft nor plate was measured."""

    places: tuple[float, ...]
    bores: tuple[float, ...]
    entry_radius: float | None = None
    plate_at: float | None = None
    shaft: float | None = None
    plate: float | None = None
    wide_open_deg: float = 90.0
    closed_deg: float = CLOSED_ANGLE_DEG
    before: float | None = None
    throttle: bool = False

    def __post_init__(self) -> None:
        if not self.bores or len(self.bores) != len(self.places):
            raise NotEnoughData("bores", "No bore was gauged.", "Gauge it at one depth or more.")
        for bore in self.bores:
            require_positive(bore=bore)

    @property
    def plated(self) -> bool:
        return self.throttle or self.shaft is not None or self.plate is not None

    @property
    def at_plate(self) -> float:
        """The bore in which the plate stands [m]: between its neighbours; where nobody said how deep, the narrowest."""
        if self.plate_at is None:
            return min(self.bores)
        return float(np.interp(self.plate_at, self.places, self.bores))

    @property
    def entry_loss(self) -> float:
        """Loss of the entry on the velocity in it [-]: behind a bore that is hardly wider little is left of it."""
        narrowing = 1 - (self.bores[0] / self.before) ** 2 if self.before else 1.0
        return losses.rounded_entry((self.entry_radius or SHARP) / self.bores[0]).value * max(narrowing, 0.0)

    @property
    def open_fraction(self) -> float:
        """What shaft and plate leave open of the bore in which they stand [-]; 1 where there is none."""
        if not self.plated:
            return 1.0
        return left_open(self.at_plate, self.shaft, self.plate, self.wide_open_deg, self.closed_deg)


@dataclass(frozen=True)
class Worth:
    """A change of a barrel: to which size [m, or ° for the stop] from which, and its gain as fractions of the flow, low
    and high: as two readings of its loss give it, and half of it at least. `place` is the index of a narrow depth."""

    change: Change
    was: float
    becomes: float
    low: float
    high: float
    place: int | None = None

    @property
    def gain(self) -> float:
        return (self.low + self.high) / 2

    @property
    def half(self) -> float:
        return (self.high - self.low) / 2


def mean_bore(diameters: Sequence[float]) -> float:
    """Diameter of the circle that has the area of a bore gauged across in several directions, evenly round it.

    Arguments: diameters [m], shape (n,).
    Returns: diameter [m].
    Raises: NotEnoughData for none; OutOfRange for one not above zero.
    Source: geometry, area = ½ ∫ r² dφ by the trapezoidal rule.
    """
    if not diameters:
        raise NotEnoughData("diameters", "No diameter was gauged.", "Gauge one or more.")
    for diameter in diameters:
        require_positive(diameter=diameter)
    return sqrt(sum(d**2 for d in diameters) / len(diameters))


def out_of_round(diameters: Sequence[float]) -> float:
    """By how much a bore's largest diameter exceeds its smallest.

    Arguments: diameters [m], shape (n,), of one depth.
    Returns: difference [m], 0 of one diameter alone.
    Raises: NotEnoughData for none.
    Source: definition.
    """
    if not diameters:
        raise NotEnoughData("diameters", "No diameter was gauged.", "Gauge one or more.")
    return max(diameters) - min(diameters)


def closed_gap(diameters: Sequence[float]) -> float:
    """What a round plate that just fits the smallest diameter leaves open when it is closed.

    Arguments: diameters [m], shape (n,), where the plate closes.
    Returns: area [m²].
    Raises: as `mean_bore`.
    Source: geometry, the bore's area less the circle in it.
    """
    return pi / 4 * (mean_bore(diameters) ** 2 - min(diameters) ** 2)


def seat_of(plate_at: float, bore: float, plate: float, closed_deg: float = CLOSED_ANGLE_DEG) -> tuple[float, float]:
    """From where to where along the depth a closed plate touches its bore: what it seals on.

    Arguments: plate_at [m]: of the plate's middle from the entry face; bore [m]; plate [m]: its thickness; closed_deg
    [°] from the plane normal to the axis.
    Returns: two depths [m].
    Raises: OutOfRange for a bore or plate not above zero.
    Source: geometry: half the bore times the tangent of the angle on both sides, and half the plate along the axis.
    """
    require_positive(bore=bore, plate=plate)
    half = bore / 2 * sin(radians(closed_deg)) / cos(radians(closed_deg)) + plate / 2 / cos(radians(closed_deg))
    return plate_at - half, plate_at + half


def hidden_from(bore: float, shaft: float, closed_deg: float = CLOSED_ANGLE_DEG) -> float:
    """Angle from which on the shaft hides the plate: opened further, the opening grows no more.

    Arguments: bore [m], shaft [m]: its diameter, closed_deg [°] from the plane normal to the axis.
    Returns: angle [°] from the plane normal to the axis.
    Raises: OutOfRange for a shaft as wide as the bore.
    Source: geometry, as `open_fraction`: cos ψ = a cos ψ0 with a = shaft over bore.
    """
    require_positive(bore=bore, shaft=shaft)
    if shaft >= bore:
        raise OutOfRange("shaft", f"A shaft of {shaft * 1000:g} mm fills a bore of {bore * 1000:g} mm.", "Check both.")
    return degrees(acos(shaft / bore * cos(radians(closed_deg))))


def most_bore(bore: float, land: float, least: float = LEAST_LAND) -> float:
    """How far a bore may be opened about its middle before the land to its seal's groove gets too narrow.

    Arguments: bore [m], land [m]: between bore and groove where it is narrowest, least [m] that has to stay.
    Returns: bore [m], the bore itself where nothing is in hand.
    Raises: OutOfRange for values not above zero.
    Source: geometry; the least common practice, no source.
    """
    require_positive(bore=bore, land=land, least=least)
    return bore + 2 * max(land - least, 0.0)


def barrel_loss(barrel: Barrel) -> tuple[float, float]:
    """Total pressure that a barrel loses from what lies in front into open space, over ρQ²/2, low and high.

    Arguments: barrel.
    Returns: losses [1/m⁴]: the jet past the plate recovered as after a step in a long tube, and not at all.
    Raises: OutOfRange for dimensions that can't be.
    Source: `losses`: Crane TP-410 (2009), a contraction's 0.5 (1 − A2/A1) with the rounded entry's figure for 0.5;
    Darcy and Weisbach; Borda and Carnot; which of the two holds for a short barrel: common practice, no source.
    """
    areas = [pi / 4 * bore**2 for bore in barrel.bores]
    along = barrel.entry_loss / areas[0] ** 2 + sum(stretches(barrel.places, areas))
    plate = pi / 4 * barrel.at_plate**2
    recovered = along + (1 / barrel.open_fraction - 1) ** 2 / plate**2 + 1 / areas[-1] ** 2
    lost = along + 1 / min(barrel.open_fraction * plate, areas[-1]) ** 2
    return min(recovered, lost), max(recovered, lost)


def changes_of(barrel: Barrel, land_in: float | None = None, land_out: float | None = None) -> list[Worth]:
    """What can be done to a barrel and what each is worth alone, the best first; nothing that gains nothing.

    Arguments: barrel; land_in [m] and land_out [m]: between bore and seal groove on its two faces, None without one.
    Returns: changes: its stop to 90°; half the shaft, not below the plate; an entry radius of 0.15 bores, or what the
    land allows; narrow places opened to the bore at the plate (without one, to a straight taper), but where it seals.
    Raises: as `barrel_loss`.
    Source: `barrel_loss`, Q ∝ 1/√loss at one depression; what is possible: common practice, no source.
    Half the gain is the least half-range: choice, no source.
    """
    before = barrel_loss(barrel)
    found = []
    for change, was, becomes, then in _possible(barrel, land_in, land_out):
        after = barrel_loss(then)
        gains = [sqrt(b / a) - 1 for b, a in zip(before, after, strict=True)]
        gain, spread = sum(gains) / 2, abs(gains[0] - gains[1]) / 2
        half = max(spread, UNPROVEN * abs(gain))
        place = narrow_at(barrel) if change is Change.NARROW else None
        found.append(Worth(change, was, becomes, gain - half, gain + half, place))
    return sorted((one for one in found if one.gain > LEAST_GAIN), key=lambda one: -one.gain)


Possible = tuple[Change, float, float, Barrel]


def _possible(barrel: Barrel, land_in: float | None, land_out: float | None) -> list[Possible]:
    found: list[Possible] = []
    if barrel.shaft is not None and abs(90 - barrel.wide_open_deg) > STOP_WITHIN_DEG:
        found.append((Change.STOP, barrel.wide_open_deg, 90.0, replace(barrel, wide_open_deg=90.0)))
    if barrel.shaft is not None and barrel.plate is not None and barrel.plate < barrel.shaft:
        thin = max(barrel.plate, barrel.shaft / 2)
        found.append((Change.BLADE, barrel.shaft, thin, replace(barrel, shaft=thin)))
    if barrel.entry_radius is not None:
        found += _rounder(barrel, land_in)
    return found + _opened(barrel, land_in, land_out)


def _rounder(barrel: Barrel, land_in: float | None) -> list[Possible]:
    most = BELL * barrel.bores[0]
    if land_in is not None:
        most = min(most, max(land_in - LEAST_LAND, 0.0))
    was = barrel.entry_radius or 0.0
    return [(Change.ENTRY, was, most, replace(barrel, entry_radius=most))] if most > was + SAME_BORE else []


def _opened(barrel: Barrel, land_in: float | None, land_out: float | None) -> list[Possible]:
    """The narrow places opened, as far as the lands let them; none where the plate seals."""
    worst = narrow_at(barrel)
    wanted = np.array(wanted_bores(barrel))
    for place, land in ((0, land_in), (-1, land_out)):
        if land is not None:
            wanted[place] = min(wanted[place], most_bore(barrel.bores[place], land))
    now = np.array(barrel.bores)
    if worst < 0 or not (wanted > now + SAME_BORE).any():
        return []
    opened = replace(barrel, bores=tuple(float(bore) for bore in np.maximum(wanted, now)))
    return [(Change.NARROW, float(now[worst]), float(wanted[worst]), opened)]


def wanted_bores(barrel: Barrel) -> list[float]:
    """The bore that each gauged depth should have at least: that at the plate; without one a straight taper between
    both ends.

    Arguments: barrel.
    Returns: bores [m], shape (places,); where the plate seals, the bore as it is.
    Raises: nothing.
    Source: common practice, no source.
    """
    if not barrel.plated:
        ends = (barrel.places[0], barrel.places[-1]), (barrel.bores[0], barrel.bores[-1])
        return [max(float(np.interp(p, *ends)), b) for p, b in zip(barrel.places, barrel.bores, strict=True)]
    if barrel.plate_at is None:
        return list(barrel.bores)
    return [
        bore if seals_at(barrel, place) else max(bore, barrel.at_plate)
        for place, bore in zip(barrel.places, barrel.bores, strict=True)
    ]


def seat_of_barrel(barrel: Barrel) -> tuple[float, float] | None:
    """From where to where a barrel's own plate seals.

    Arguments: barrel.
    Returns: two depths [m]; None without a plate, or where nobody said how deep it stands.
    Raises: nothing.
    Source: `seat_of`; the shaft for the plate where nobody measured that.
    """
    thick = barrel.plate or barrel.shaft
    if barrel.plate_at is None or thick is None:
        return None
    return seat_of(barrel.plate_at, barrel.at_plate, thick, barrel.closed_deg)


def seals_at(barrel: Barrel, place: float) -> bool:
    """Whether a closed plate touches the bore at a depth.

    Arguments: barrel; place [m] from the entry face.
    Returns: whether; False where nobody said how deep the plate stands.
    Raises: nothing.
    Source: `seat_of`.
    """
    seat = seat_of_barrel(barrel)
    return seat is not None and seat[0] <= place <= seat[1]


def narrow_at(barrel: Barrel) -> int:
    """Which gauged depth is furthest below what it should have, -1 where none is.

    Arguments: barrel.
    Returns: index [-] of the place.
    Raises: nothing.
    Source: `wanted_bores`.
    """
    short = [w - b for w, b in zip(wanted_bores(barrel), barrel.bores, strict=True)]
    worst = int(np.argmax(short))
    return worst if short[worst] > SAME_BORE else -1
