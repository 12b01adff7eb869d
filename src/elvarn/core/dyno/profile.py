"""Where an engine is used: shares of its full-throttle time over engine speed, from a band, gears or a log."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import NotEnoughData, OutOfRange

LEAST_REACHED = 0.5  # of the time: of less a mean says nothing of the use; choice, no source
BIN_RPM = 250.0  # of a log; choice, no source
FEWEST_SAMPLES = 20  # of a log at full throttle; choice, no source
FULL_THROTTLE = 0.9  # of the widest in a log; common practice, no source


@dataclass(frozen=True)
class Share:
    """Speeds [rpm] between which a share [-] of the time is spent, evenly."""

    low: float
    high: float
    share: float


@dataclass(frozen=True)
class Profile:
    """Shares of the time at full throttle; they add up to 1, and may lie over each other, as gears do."""

    shares: tuple[Share, ...]

    @cached_property
    def low(self) -> float:
        return min(one.low for one in self.shares)

    @cached_property
    def high(self) -> float:
        return max(one.high for one in self.shares)

    def within(self, low: float, high: float) -> tuple["Profile", float]:
        """The part between two speeds, and the share of the time that it holds.

        Arguments: low, high [rpm].
        Returns: the profile of that part, adding up to 1 again, and its share [-] of the whole.
        Raises: OutOfRange where it holds less than half of the time.
        Source: definition.
        """
        cut = [Share(max(s.low, low), min(s.high, high), s.share) for s in self.shares if s.low < high and s.high > low]
        kept = [
            Share(one.low, one.high, one.share * (one.high - one.low) / (whole.high - whole.low))
            for one, whole in zip(cut, (s for s in self.shares if s.low < high and s.high > low), strict=True)
        ]
        reached = sum(one.share for one in kept)
        if reached < LEAST_REACHED:
            message = f"Of {self.low:.0f} to {self.high:.0f} rpm less than half was pulled"
            message = message if kept else f"{self.low:.0f} to {self.high:.0f} rpm was not pulled"
            remedy = "Choose a band within, or pull further."
            raise OutOfRange("band", f"{message}: the pulls share {low:.0f} to {high:.0f} rpm.", remedy)
        return Profile(tuple(Share(one.low, one.high, one.share / reached) for one in kept)), reached

    def mean(self, over: Callable[[float, float], float]) -> float:
        """The mean over the time, of what `over` says of the mean between two speeds [rpm]."""
        return sum(one.share * over(one.low, one.high) for one in self.shares)

    def density(self, speeds: Array) -> Array:
        """Share of the time a rpm [1/rpm] at speeds [rpm], shape (n,)."""
        found = np.zeros(len(speeds))
        for one in self.shares:
            found[(speeds >= one.low) & (speeds < one.high)] += one.share / (one.high - one.low)
        return found


@dataclass(frozen=True)
class Shift:
    """A shift up: the gear [-] that comes, counted from 1, and the engine speed [rpm] at which it begins."""

    gear: int
    engine_speed_rpm: float


def band_profile(low: float, high: float) -> Profile:
    """A band of speeds that are all used alike.

    Arguments: low, high [rpm].
    Returns: the profile.
    Raises: OutOfRange for an empty band.
    Source: definition; its mean is the band average.
    """
    if not 0 < low < high:
        raise OutOfRange("band", f"{low:.0f} to {high:.0f} rpm is no band.", "Enter two speeds, the lower first.")
    return Profile((Share(low, high, 1.0),))


def shifts_of(ratios: Sequence[float], shift_rpm: float) -> list[Shift]:
    """Where the engine stands after each shift up.

    Arguments: ratios [-] of the gears that are used, first to last, falling; shift_rpm [rpm].
    Returns: a shift for each gear but the first.
    Raises: OutOfRange for fewer than two gears, or ratios that do not fall.
    Source: derivation: the wheel keeps its speed, so the engine's falls by the ratio of the ratios.
    """
    if len(ratios) < 2:
        raise OutOfRange("gears", f"{len(ratios)} gear is no shift.", "Enter the ratios of two gears or more.")
    for gear, (one, following) in enumerate(pairwise(ratios), start=1):
        if not one > following > 0:
            message = f"Gear {gear + 1} has {following:g} after {one:g}."
            raise OutOfRange("gears", message, "Enter ratios that fall from the first gear to the last.")
    return [Shift(g, shift_rpm * ratios[g - 1] / ratios[g - 2]) for g in range(2, len(ratios) + 1)]


def gear_profile(ratios: Sequence[float], shift_rpm: float, away_rpm: float) -> Profile:
    """The speeds that an engine runs through when it accelerates through its gears.

    Arguments: ratios [-] of the gears that are used, falling; shift_rpm [rpm] of every shift; away_rpm [rpm] at which
    it pulls away in the first of them.
    Returns: a share for each gear: from where the shift leaves the engine to the next shift, even within the gear.
    Raises: OutOfRange as `shifts_of`, or for speeds that are no order.
    Source: derivation: a force at the wheel of torque times ratio i gives dt = m r² / (i² T) dn, so a gear takes
    a time as its span of speeds over the square of its ratio; torque is taken as even within a gear.
    """
    if not 0 < away_rpm < shift_rpm:
        message = f"It pulls away at {away_rpm:.0f} and shifts at {shift_rpm:.0f} rpm."
        raise OutOfRange("away_rpm", message, "Enter a speed below the shift's.")
    begins = [away_rpm, *(shift.engine_speed_rpm for shift in shifts_of(ratios, shift_rpm))]
    times = [(shift_rpm - begin) / ratio**2 for begin, ratio in zip(begins, ratios, strict=True)]
    return Profile(tuple(Share(b, shift_rpm, t / sum(times)) for b, t in zip(begins, times, strict=True)))


def log_profile(engine_speed_rpm: Array, seconds: Array | None = None, throttle: Array | None = None) -> Profile:
    """The speeds at which an engine was at full throttle in a log.

    Arguments: engine_speed_rpm [rpm], shape (n,), NaN where nothing was logged; seconds [s] of each sample, where they
    are known, else all last alike; throttle [any unit], where it was logged, else all of it counts.
    Returns: shares in steps of 250 rpm.
    Raises: NotEnoughData with fewer than 20 samples at full throttle.
    Source: definition; full throttle is 90 % of the widest in the log, common practice, no source.
    """
    usable = np.isfinite(engine_speed_rpm) & (engine_speed_rpm > 0)
    if throttle is not None and np.isfinite(throttle).any():
        usable &= np.nan_to_num(throttle) >= FULL_THROTTLE * float(np.nanmax(throttle))
    lasting = _lasting(engine_speed_rpm, seconds)
    usable &= lasting > 0
    if int(usable.sum()) < FEWEST_SAMPLES:
        message = f"The log holds {int(usable.sum())} samples at full throttle."
        raise NotEnoughData("log", message, f"{FEWEST_SAMPLES} at least are needed.")
    steps = np.floor(engine_speed_rpm[usable] / BIN_RPM)
    distinct, place = np.unique(steps, return_inverse=True)
    spent = np.bincount(place, weights=lasting[usable])
    return Profile(
        tuple(
            Share(float(step * BIN_RPM), float((step + 1) * BIN_RPM), float(time / spent.sum()))
            for step, time in zip(distinct, spent, strict=True)
        )
    )


def _lasting(engine_speed_rpm: Array, seconds: Array | None) -> Array:
    """How long each sample stands for; a gap in the log is nobody's."""
    if seconds is None or not np.isfinite(seconds).any():
        return np.ones(len(engine_speed_rpm))
    steps = np.diff(seconds, append=np.nan)
    usual = float(np.nanmedian(steps[steps > 0])) if (steps > 0).any() else 1.0
    return np.where((steps > 0) & (steps < 5 * usual), steps, np.where(np.isfinite(seconds), usual, 0.0))
