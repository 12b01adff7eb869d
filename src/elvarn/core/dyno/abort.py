"""Limits at which a pull is stopped: lean mixture, injectors that never close, knock, heat, oil without pressure."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import inf

IN_A_ROW = 3  # samples beyond a limit before the pull is stopped: one alone may be noise; common practice, no source
UNDER_LOAD_SHARE = 0.5  # of the highest torque so far; common practice, no source
WIDE_OPEN_PERCENT = 90.0  # of the throttle; common practice, no source
OIL_FROM_RPM = 2000.0  # below it oil pressure is the idle's; common practice, no source
STARTED_RPM = 800.0  # a sweep has begun once the speed has risen by so much; common practice, no source
FALL_SHARE = 0.08  # of the rise: a fall beyond it ends the sweep, as in a file; common practice, no source

Sample = Mapping[str, float]


@dataclass(frozen=True)
class AbortLimits:
    """What stops a pull; None is not watched. Leanest mixture under load [lambda], injector duty [%], ignition taken
    back for knock [deg], coolant and oil temperature [°C], least oil pressure [kPa] above 2,000 rpm."""

    leanest: float | None = 0.95
    most_duty: float | None = 95.0
    most_retard: float | None = 5.0
    hottest_coolant: float | None = 110.0
    hottest_oil: float | None = 140.0
    least_oil_pressure: float | None = 150.0


@dataclass(frozen=True)
class Breach:
    """A limit that was broken: of which channel, the value, the limit, and the speed [rpm] at which."""

    channel: str
    value: float
    limit: float
    engine_speed_rpm: float


def breach_in(samples: Sequence[Sample], limits: AbortLimits, highest_torque: float) -> Breach | None:
    """The limit that the last samples break, all of them.

    Arguments: samples as they came, of which the last three count: "speed" [rpm], "torque" [N m], and of the channels
    those that are known, by the name and in the unit of CHANNELS; limits; highest_torque [N m] so far.
    Returns: the first limit that is broken, or None. A channel that is not known breaks none.
    Raises: nothing.
    Source: common practice, no source: mixture counts under load alone, oil pressure above idle.
    """
    last = samples[-IN_A_ROW:]
    if len(last) < IN_A_ROW:
        return None
    found = [_broken(sample, limits, highest_torque) for sample in last]
    return next((b for b in found[-1] if all(any(b.channel == o.channel for o in other) for other in found)), None)


class SweepWatch:
    """Tells when a sweep has been made and is over: the speed rose by 800 rpm or more, and has fallen by 8 % of that
    rise since. The same fall ends a sweep of a file; common practice, no source."""

    def __init__(self) -> None:
        self._bottom, self._top = inf, -inf

    def take(self, engine_speed_rpm: float) -> bool:
        """One more speed [rpm], as it came; whether the sweep is over now."""
        begun = self._top - self._bottom >= STARTED_RPM
        if not begun and engine_speed_rpm < self._bottom:
            self._bottom = self._top = engine_speed_rpm
        self._top = max(self._top, engine_speed_rpm)
        rise = self._top - self._bottom
        return rise >= STARTED_RPM and engine_speed_rpm < self._top - FALL_SHARE * rise


def _broken(sample: Sample, limits: AbortLimits, highest_torque: float) -> list[Breach]:
    speed = sample["speed"]
    return [
        Breach(channel, sample[channel], limit, speed)
        for channel, limit, beyond in _watched(sample, limits, highest_torque)
        if limit is not None and channel in sample and beyond * (sample[channel] - limit) > 0
    ]


def _watched(sample: Sample, limits: AbortLimits, highest_torque: float) -> Iterator[tuple[str, float | None, int]]:
    """Channels that count now, each with its limit and on which side of it the harm lies."""
    if _under_load(sample, highest_torque):
        yield "mixture_lambda", limits.leanest, 1
    yield "duty_percent", limits.most_duty, 1
    yield "retard_deg", limits.most_retard, 1
    yield "coolant_c", limits.hottest_coolant, 1
    yield "oil_c", limits.hottest_oil, 1
    if sample["speed"] > OIL_FROM_RPM:
        yield "oil_kpa", limits.least_oil_pressure, -1


def _under_load(sample: Sample, highest_torque: float) -> bool:
    if "throttle_percent" in sample:
        return sample["throttle_percent"] >= WIDE_OPEN_PERCENT and sample["torque"] > 0
    return sample["torque"] > max(UNDER_LOAD_SHARE * highest_torque, 0.0)
