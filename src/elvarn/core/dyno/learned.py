"""What a dyno's pulls repeat within: as stated or assumed, with its own repeats beside."""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass
from itertools import groupby
from statistics import fmean

import numpy as np

from elvarn.core.difference import MATTERS, REST, Known, Term, difference, log_percent
from elvarn.core.dyno.assumed import DAY, MOUNT, POINT, PULL, PULL_LIMIT_SCATTERS
from elvarn.core.dyno.curves import common_speeds
from elvarn.core.dyno.pairing import Pull, by_mount
from elvarn.core.dyno.pull import Curve
from elvarn.core.errors import NotEnoughData, require_positive
from elvarn.core.statistics.scatter import Scatter, learned, learned_beside_slips

POINTS = 60  # speeds at which repeats are held against each other; choice, no source


@dataclass(frozen=True)
class DynoKnown:
    """Scatters of a dyno [log percent]: of a pull's mean over a band, of a pull at one speed, of a mount, of a day; and
    what difference [%] matters to the shop."""

    pull: Scatter
    point: Scatter
    mount: Scatter
    day: Scatter
    matters: float = MATTERS

    def over_band(self, ranges: tuple[float, ...] = ()) -> Known:
        """What is known of means over a band; ranges [%] within which something else may be out."""
        return Known(self.pull, self.day, REST, self.mount, ranges=ranges, matters=self.matters)

    def at_speed(self, ranges: tuple[float, ...] = ()) -> Known:
        """What is known of one speed."""
        return Known(self.point, self.day, REST, self.mount, ranges=ranges, matters=self.matters)


def learned_dyno(
    things: Sequence[Sequence[Pull]] = (),
    limit_percent: float | None = None,
    day_percent: float | None = None,
    matters: float = MATTERS,
) -> DynoKnown:
    """What a dyno is known to repeat within.

    Arguments: things: the pulls of each design that were made alike, in order; limit_percent: what two pulls of one
    mount differ by at most 19 times in 20, and day_percent what days differ by (standard deviation), both [%], where
    the shop states them; matters [%].
    Returns: what is known.
    Raises: OutOfRange for a stated value not above zero.
    Source: ISO 5725-6, limit of repeatability 2.8 s; else as `learned_beside_slips`. At one speed too a pull counts
    once, whatever the number of speeds.
    """
    stated = limit_percent / PULL_LIMIT_SCATTERS if limit_percent is not None else PULL
    mounts = [group for thing in things for group in by_mount(thing).values()]
    return DynoKnown(
        learned_beside_slips(stated, [_means(group) for group in mounts]),
        learned(POINT * stated / PULL, [pair for group in mounts for pair in _at_speeds(group)]),
        learned(MOUNT, [day for thing in things for day in _mounts_by_day(thing)]),
        learned(day_percent if day_percent is not None else DAY, [_days(thing) for thing in things]),
        matters,
    )


def shown_by(known: DynoKnown, pulls: int) -> float:
    """The least gain in power over a band that so many pulls of each of two designs show, in one session.

    Arguments: known; pulls [-] of each design, which is fitted once.
    Returns: gain [%].
    Raises: OutOfRange for no pulls.
    Source: as `difference`: the half-width at 95 % of a difference of nothing.
    """
    require_positive(pulls=pulls)
    terms = [
        Term(log_percent(1.0), sign / pulls, side, (side, number), "session", side)
        for side, sign in (("now", -1), ("other", 1))
        for number in range(pulls)
    ]
    return difference(terms, known.over_band()).half_width(1)


def _means(group: Sequence[Pull]) -> list[float]:
    """Mean power of each over the speeds that all reach, in log percent; nothing where they share none."""
    mean = _mean_of(group)
    return [mean(pull.curve) for pull in group] if mean else []


def _mean_of(group: Sequence[Pull]) -> Callable[[Curve], float] | None:
    try:
        low, high = common_speeds([pull.curve for pull in group])
    except NotEnoughData:
        return None
    return lambda curve: log_percent(curve.mean_power(low, high))


def _at_speeds(group: Sequence[Pull]) -> list[tuple[float, float]]:
    """A pair for each repeat, that differs by what the repeat adds to the scatter at one speed, root mean square over
    the speeds."""
    if len(group) < 2 or _mean_of(group) is None:
        return []
    low, high = common_speeds([pull.curve for pull in group])
    speeds = np.linspace(low, high, POINTS)
    logs = np.array([100 * np.log(np.interp(speeds, p.curve.engine_speed_rpm, p.curve.power)) for p in group])
    added = [(logs[j] - logs[:j].mean(axis=0)) * np.sqrt(j / (j + 1)) for j in range(1, len(logs))]
    return [(0.0, float(np.sqrt(2 * np.mean(w**2)))) for w in added]


def _mounts_by_day(thing: Sequence[Pull]) -> list[list[float]]:
    mean = _mean_of(thing)
    if mean is None:
        return []
    means = {key: fmean(mean(p.curve) for p in group) for key, group in by_mount(thing).items()}
    return [[means[key] for key in keys] for _, keys in groupby(means, key=_day)]


def _days(thing: Sequence[Pull]) -> list[float]:
    return [fmean(mounts) for mounts in _mounts_by_day(thing)]


def _day(key: tuple[Hashable, int]) -> Hashable:
    return key[0]
