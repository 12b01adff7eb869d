"""A design against stock: the difference over all speeds and over a band, and whether it is real."""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import combinations
from math import ceil
from statistics import fmean

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.difference import Difference, Known, Term, difference, log_percent
from elvarn.core.dyno.assumed import MOST_DRIFT
from elvarn.core.dyno.curves import (
    Crossing,
    Peak,
    Stretch,
    common_grid,
    common_speeds,
    crossings,
    cut_to,
    peak,
    still_climbing,
    stretches,
)
from elvarn.core.dyno.learned import DynoKnown
from elvarn.core.dyno.pairing import Pairing, Pull, Weight, by_mount, paired, terms_of
from elvarn.core.dyno.profile import Profile, band_profile
from elvarn.core.dyno.pull import Curve
from elvarn.core.errors import OutOfRange
from elvarn.core.likeness import Signature, item_differences
from elvarn.core.statistics.scatter import without
from elvarn.core.verdict import Verdict, decide

MOST_APART = 230.0  # log percent, ten times: no two builds of one engine are
NAMED_EVERY = 250.0  # rpm: so far apart two speeds count as two, where a stretch or a crossing is named; choice


@dataclass(frozen=True)
class Drift:
    """By how much [%] stock's last mount of a day lies off its first; `spoils` where the day says nothing for it."""

    day: Hashable
    verdict: Verdict
    spoils: bool


@dataclass(frozen=True)
class Quantity:
    """Torque [N m] or power [W] of both sides as they were pulled, and the judged difference with the room in which at
    each speed nothing can be told, shape (n,); and stretches outside it, named at 95 % over all speeds."""

    stock: Array
    other: Array
    difference: Array
    room: Array
    gained: tuple[Stretch, ...]
    lost: tuple[Stretch, ...]


@dataclass(frozen=True)
class Traces:
    """Both quantities over the speeds that all counted pulls reached: `grid` [rpm], shape (n,); where the curves cross,
    and whether the pulls of a side all climb still where they end."""

    grid: Array
    torque: Quantity
    power: Quantity
    crossings: tuple[Crossing, ...]
    stock_climbs: bool
    other_climbs: bool


@dataclass(frozen=True, eq=False)
class Compared:
    """A design against stock. Without traces where nothing is alike: `pairing.unlike` and `drifts` tell why, or
    `depends_on` in which items pulls differ whose gains do, too."""

    pairing: Pairing
    drifts: tuple[Drift, ...]
    known: DynoKnown
    designs: int
    depends_on: tuple[str, ...] = ()
    traces: Traces | None = None

    @property
    def ranges(self) -> tuple[float, ...]:
        """Half-ranges [%] that humidity leaves which is not known."""
        return _humidity(self.pairing.weights)


@dataclass(frozen=True)
class BandFigures:
    """Means over a band, the verdict on their difference, and the peaks in the band, in the unit of the quantity."""

    stock_mean: float
    other_mean: float
    verdict: Verdict
    stock_peak: Peak
    other_peak: Peak

    @property
    def fraction(self) -> float:
        return self.verdict.change / self.stock_mean


@dataclass(frozen=True)
class BandComparison:
    """Both quantities over a profile, as far as it was pulled; `reached` is the share [-] of its time that was. Power
    is judged; torque has its own half-width and no word."""

    profile: Profile
    reached: float
    torque: BandFigures
    power: BandFigures

    @property
    def low(self) -> float:
        return self.profile.low

    @property
    def high(self) -> float:
        return self.profile.high


def compare(stock: Sequence[Pull], other: Sequence[Pull], known: DynoKnown, designs: int = 1) -> Compared:
    """Compare a design with stock over all speeds that their pulls reached.

    Arguments: stock, other: the pulls of each in the order in which they were made; known of the dyno; designs [-]: how
    many are held against this stock.
    Returns: the comparison; without quantities where nothing is alike.
    Raises: NotEnoughData where a side has no pull, or what counts shares no speeds; OutOfRange where one side's torque
    is more than ten times the other's.
    Source: the difference of mean logarithms at each speed; trapezoid rule, linear between samples. At each speed 95 %
    for that speed alone; what is named holds at 95 % for all speeds together, one every 250 rpm.
    """
    drifts = tuple(_drifts(stock, known))
    spoiled = {drift.day for drift in drifts if drift.spoils}
    sides = [[pull for pull in side if pull.day not in spoiled] for side in (stock, other)]
    if not all(sides):
        return Compared(Pairing(()), drifts, known, designs)
    pairing = paired(*sides)
    bare = Compared(pairing, drifts, known, designs)
    if not pairing.groups:
        return bare
    depends_on = _depends_on(pairing, known)
    return replace(bare, depends_on=depends_on) if depends_on else replace(bare, traces=_traces(bare))


def over_band(
    compared: Compared, band: Profile | tuple[float, float] | None = None, judged: int | None = None
) -> BandComparison:
    """Means over a band, or weighted by a profile, and peaks within, of a comparison that has quantities.

    Arguments: compared; band: a profile, or (low, high) [rpm], or None for all of it; judged [-] together, the designs
    where it is not said.
    Returns: figures over the part that the pulls reached.
    Raises: OutOfRange for a band that is empty, or of which less than half was pulled.
    Source: mean value theorem; trapezoid rule, each pull on its own samples. Verdict by `decide`.
    """
    traces = compared.traces
    assert traces is not None
    ends = float(traces.grid[0]), float(traces.grid[-1])
    wanted = band if isinstance(band, Profile) else band_profile(*(band or ends))
    profile, reached = wanted.within(*ends)
    known = compared.known.over_band(compared.ranges)

    def figures(quantity: Quantity, mean: Callable[[Curve, float, float], float]) -> BandFigures:
        weights = compared.pairing.weights
        means = [profile.mean(partial(mean, w.pull.curve)) for w in weights]
        terms = _valued(weights, means)
        stock = sum(-w.coefficient * one for w, one in zip(weights, means, strict=True) if w.coefficient < 0)
        found = decide(difference(terms, known), known, stock, judged or compared.designs, plates=False)
        peaks = [
            peak(*cut_to(traces.grid, side, profile.low, profile.high)) for side in (quantity.stock, quantity.other)
        ]
        return BandFigures(stock, stock + found.change, found, *peaks)

    torque, power = figures(traces.torque, Curve.mean_torque), figures(traces.power, Curve.mean_power)
    return BandComparison(profile, reached, torque, power)


def named_judged(low: float, high: float) -> int:
    """How many speeds count as judged together where a stretch or crossing between two speeds is named.

    Arguments: low, high [rpm].
    Returns: number [-].
    Raises: nothing.
    Source: common practice, no source: one every 250 rpm, and one more.
    """
    return ceil((high - low) / NAMED_EVERY) + 1


def _traces(bare: Compared) -> Traces:
    weights = bare.pairing.weights
    grid = common_grid(bare.pairing.curves)
    torques = [np.interp(grid, w.pull.curve.engine_speed_rpm, w.pull.curve.torque) for w in weights]
    share = np.array([w.coefficient for w in weights])
    change = np.round(100 * share @ np.log(torques), 9)
    _check_apart(grid, change)
    at_speed = _width(weights, bare.known.at_speed(bare.ranges))
    judged = named_judged(float(grid[0]), float(grid[-1]))
    room = np.full(len(grid), at_speed.half_width(1))
    named = np.full(len(grid), at_speed.half_width(judged))
    stock = -np.minimum(share, 0) @ np.array(torques)
    other = np.maximum(share, 0) @ np.array(torques)
    gained, lost = (stretches(grid, change, named, sign) for sign in (1, -1))

    def quantity(scale: Array) -> Quantity:
        base, made = stock * scale, stock * scale * np.expm1(change / 100)
        return Quantity(
            base,
            other * scale,
            made,
            base * room / 100,
            tuple(_in_unit(one, grid, made) for one in gained),
            tuple(_in_unit(one, grid, made) for one in lost),
        )

    return Traces(
        grid,
        quantity(np.ones(len(grid))),
        quantity(grid * (2 * np.pi / 60)),
        tuple(crossings(grid, change, named)),
        *(_climbs(weights, sign) for sign in (-1, 1)),
    )


def _check_apart(grid: Array, change: Array) -> None:
    """Refuse curves of which one is many times the other. Raises OutOfRange."""
    most = int(np.abs(change).argmax())
    if abs(change[most]) > MOST_APART:
        message = f"At {grid[most]:.0f} rpm one side's torque is more than ten times the other's."
        raise OutOfRange("torque", message, "Check the units of both.")


def _in_unit(stretch: Stretch, grid: Array, made: Array) -> Stretch:
    speeds, values = cut_to(grid, made, stretch.low, stretch.high)
    extreme = int(np.abs(values).argmax())
    mean = float(np.trapezoid(values, speeds) / (stretch.high - stretch.low))
    return Stretch(stretch.low, stretch.high, mean, float(values[extreme]), float(speeds[extreme]))


def _climbs(weights: Sequence[Weight], sign: int) -> bool:
    """Whether all counted pulls of a side still climb at their end."""
    return all(still_climbing(w.pull.curve) for w in weights if sign * w.coefficient > 0)


def _width(weights: Sequence[Weight], known: Known) -> Difference:
    return difference(_valued(weights, [1.0] * len(weights)), known)


def _valued(weights: Sequence[Weight], values: Sequence[float]) -> list[Term]:
    known = iter(values)
    return terms_of(weights, lambda _: next(known))


def _humidity(weights: Sequence[Weight]) -> tuple[float, ...]:
    """What unknown humidity leaves of each side; what both sides have in common on one day cancels."""
    sides = [[w.pull for w in weights if sign * w.coefficient > 0] for sign in (-1, 1)]
    most = tuple(max((pull.humidity for pull in side), default=0.0) for side in sides)
    one_day = {pull.day for pull in sides[0]} == {pull.day for pull in sides[1]}
    if one_day and all(pull.humidity > 0 for side in sides for pull in side):
        return ()
    return tuple(half for half in most if half > 0)


def _drifts(stock: Sequence[Pull], known: DynoKnown) -> list[Drift]:
    """Days on which stock was pulled, taken off, and pulled again alike."""
    days: dict[tuple[Hashable, Signature], list[Pull]] = {}
    for pull in stock:
        days.setdefault((pull.day, pull.signature), []).append(pull)
    mounted = [(day, list(by_mount(pulls).values())) for (day, _), pulls in days.items()]
    return [_drift(day, mounts, known) for day, mounts in mounted if len(mounts) > 1]


def _drift(day: Hashable, mounts: Sequence[Sequence[Pull]], known: DynoKnown) -> Drift:
    low, high = common_speeds([pull.curve for group in mounts for pull in group])
    means = [fmean(log_percent(pull.curve.mean_power(low, high)) for pull in group) for group in mounts]
    before = replace(known, mount=without(known.mount, means)).over_band()
    ends = ((-1, mounts[0]), (1, mounts[-1]))
    terms = terms_of(
        [Weight(pull, sign / len(group)) for sign, group in ends for pull in group], lambda c: c.mean_power(low, high)
    )
    found = decide(difference(terms, before), before, 100.0, plates=False)
    return Drift(day, found, found.real and abs(found.change) > MOST_DRIFT)


def _depends_on(pairing: Pairing, known: DynoKnown) -> tuple[str, ...]:
    """Items in which groups differ whose gains do, too."""
    pairs = list(combinations([group for _, group in pairing.groups], 2))
    low, high = common_speeds(pairing.curves)
    for one, two in pairs:
        weights = [*one, *(Weight(w.pull, -w.coefficient) for w in two)]
        terms = terms_of(weights, lambda c: c.mean_power(low, high))
        found = difference(terms, known.over_band())
        if abs(found.value) > found.half_width(len(pairs)):
            return tuple(d.item for d in item_differences(one[0].pull.declared, two[0].pull.declared))
    return ()
