"""One dyno sweep made into a curve: rising speeds, one torque at each, what was left out said."""

from dataclasses import dataclass
from functools import cached_property
from math import pi

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.finding import Finding
from elvarn.core.validity import Range

FEWEST_POINTS = 5
HIGHEST_SPEED = Range(
    "engine_speed", "highest speed in the column", 100, 25_000, "", "common practice, no source",
    remedy="Is this the rpm column? Map it.",
)  # fmt: skip
HIGHEST_TORQUE = Range(
    "torque", "highest torque in the column", 0, 100_000, "", "common practice, no source",
    remedy="Is this the torque column, in its unit? Map it.",
)  # fmt: skip
JITTER_SHARE = 0.02  # of the speed range: a fall below it is noise of the speed signal; common practice, no source
DROPOUT_SHARE = 0.5  # of the neighbours' median: below it the signal was lost; common practice, no source
SPIKE_SHARE = 1.5  # of the neighbours' median: above it the signal jumped; common practice, no source
DROPOUT_WINDOW = 9  # points
CONTRADICTION = 0.02  # torque against power


class Area:
    """The area under a piecewise linear curve from its first speed up to another one, by the trapezoid rule, summed
    once."""

    def __init__(self, speeds: Array, values: Array) -> None:
        self._speeds, self._values = speeds, values
        self._sums = np.concatenate(([0.0], np.cumsum(np.diff(speeds) * (values[1:] + values[:-1]) / 2)))

    def __call__(self, speed: float) -> float:
        before = min(max(int(np.searchsorted(self._speeds, speed)) - 1, 0), len(self._speeds) - 2)
        step = speed - self._speeds[before]
        slope = (self._values[before + 1] - self._values[before]) / (self._speeds[before + 1] - self._speeds[before])
        return float(self._sums[before] + step * (self._values[before] + slope * step / 2))


@dataclass(frozen=True)
class Curve:
    """A clean pull: speeds [rpm] rising strictly, torque [N m] and power [W], all shape (n,)."""

    engine_speed_rpm: Array
    torque: Array
    power: Array
    findings: tuple[Finding, ...] = ()

    @property
    def lowest(self) -> float:
        return float(self.engine_speed_rpm[0])

    @property
    def highest(self) -> float:
        return float(self.engine_speed_rpm[-1])

    def mean_torque(self, low: float, high: float) -> float:
        """Mean torque [N m] over a band [rpm] inside the speeds: the integral of the piecewise linear curve."""
        return (self._torque_area(high) - self._torque_area(low)) / (high - low)

    def mean_power(self, low: float, high: float) -> float:
        """Mean power [W] over a band [rpm] inside the speeds."""
        return (self._power_area(high) - self._power_area(low)) / (high - low)

    @cached_property
    def _torque_area(self) -> "Area":
        return Area(self.engine_speed_rpm, self.torque)

    @cached_property
    def _power_area(self) -> "Area":
        return Area(self.engine_speed_rpm, self.power)

    def times(self, factor: float) -> "Curve":
        """The curve with torque and power multiplied by a correction factor [-]."""
        if factor == 1:
            return self
        return Curve(self.engine_speed_rpm, self.torque * factor, self.power * factor, self.findings)


def clean_pull(engine_speed_rpm: Array, torque: Array) -> Curve:
    """Make a curve of the rows of a sweep in the order in which they were logged.

    Arguments: engine_speed_rpm [rpm] and torque [N m], shape (n,), NaN where a cell was empty.
    Returns: the curve. Lost signals are left out, the run-down after the top is cut, unsorted rows are sorted and
    repeated speeds averaged; each is told in a finding.
    Raises: NotEnoughData with fewer than 5 usable speeds; OutOfRange for speeds that no engine turns
    and torques that none gives; Inconsistent for unlike lengths.
    Source: common practice, no source.
    """
    speed, value = np.asarray(engine_speed_rpm, float), np.asarray(torque, float)
    findings: list[Finding] = []
    speed, value = _without_gaps(speed, value, findings)
    _check_speeds(speed)
    HIGHEST_TORQUE.check(float(np.abs(value).max()))
    speed, value = _rising_part(speed, value, findings)
    speed, value = _averaged(speed, value, findings)
    speed, value = _without_jumps(speed, value, findings)
    _check_count(speed)
    return Curve(speed, value, value * speed * (2 * pi / 60), tuple(findings))


def contradictions(engine_speed_rpm: Array, torque: Array, power: Array) -> tuple[float, float] | None:
    """Where torque and power of one file disagree most, if by more than 2 %.

    Arguments: engine_speed_rpm [rpm], torque [N m], power [W], shape (n,).
    Returns: (speed [rpm], relative disagreement [-]) of the median row that disagrees, or None. Single bad rows are
    not told: more than a tenth of the rows must disagree.
    Raises: Inconsistent for unlike lengths.
    Source: work of a rotation, P = 2 pi n M; the limit of 2 % is common practice, no source.
    """
    if not len(engine_speed_rpm) == len(torque) == len(power):
        raise Inconsistent("columns", "Speed, torque and power differ in length.", "Check the file.")
    expected = torque * engine_speed_rpm * (2 * pi / 60)
    usable = np.isfinite(expected) & np.isfinite(power) & (expected > 0) & (power > 0)
    if not usable.any():
        return None
    off = power[usable] / expected[usable] - 1
    wrong = np.abs(off) > CONTRADICTION
    if wrong.mean() <= 0.1:
        return None
    rows = np.flatnonzero(wrong)
    middle = rows[np.argsort(off[wrong])[len(rows) // 2]]
    return float(engine_speed_rpm[usable][middle]), float(off[middle])


def _without_gaps(speed: Array, value: Array, findings: list[Finding]) -> tuple[Array, Array]:
    if len(speed) != len(value):
        raise Inconsistent("columns", f"{len(speed)} speeds, {len(value)} torques.", "Give as many of both.")
    kept = np.isfinite(speed) & np.isfinite(value)
    lost = int((~kept).sum())
    if lost:
        findings.append(Finding("empty_cells", f"{lost} rows without speed or torque were left out."))
    _check_count(speed[kept])
    backwards = kept & (np.where(np.isfinite(speed), speed, 0.0) < 0)
    if backwards.any():
        text = f"{int(backwards.sum())} rows with a speed below 0 were left out. Check the rpm column."
        findings.append(Finding("negative_speed", text, doubt=True))
        kept &= ~backwards
        _check_count(speed[kept])
    return speed[kept], value[kept]


def _check_speeds(speed: Array) -> None:
    HIGHEST_SPEED.check(float(np.abs(speed).max()))


def _rising_part(speed: Array, value: Array, findings: list[Finding]) -> tuple[Array, Array]:
    jitter = JITTER_SHARE * (speed.max() - speed.min())
    steps = np.diff(speed)
    top = int(speed.argmax())
    if not (steps < 0).any():
        return speed, value
    if not (steps > 0).any():
        findings.append(Finding("listed_downwards", "The rows run from high to low speed; they were turned round."))
        return speed[::-1], value[::-1]
    before_top = speed[: top + 1]
    rises = bool((np.maximum.accumulate(before_top) - before_top <= jitter).all())
    after_top = speed[top:]
    falls = bool((after_top - np.minimum.accumulate(after_top) <= jitter).all())
    if rises and falls and top >= FEWEST_POINTS - 1:
        cut = len(speed) - top - 1
        if cut:
            findings.append(Finding("run_down", f"Removed {cut} coast-down rows."))
        speed, value = speed[: top + 1], value[: top + 1]
    else:
        findings.append(Finding("unsorted", "Sorted by rpm."))
    order = np.argsort(speed, kind="stable")
    return speed[order], value[order]


def _averaged(speed: Array, value: Array, findings: list[Finding]) -> tuple[Array, Array]:
    distinct, place, count = np.unique(speed, return_inverse=True, return_counts=True)
    repeated = int((count - 1).sum())
    if not repeated:
        return distinct, value
    findings.append(Finding("repeated_speed", f"{repeated} rows repeat a speed; their torque was averaged."))
    return distinct, np.bincount(place, weights=value) / count


def _without_jumps(speed: Array, value: Array, findings: list[Finding]) -> tuple[Array, Array]:
    _check_count(speed)
    half = DROPOUT_WINDOW // 2
    padded = np.pad(value, half, mode="edge")
    neighbours = np.median(np.lib.stride_tricks.sliding_window_view(padded, DROPOUT_WINDOW), axis=1)
    lost = (value <= 0) | (value < DROPOUT_SHARE * neighbours)
    spiked = value > SPIKE_SHARE * np.abs(neighbours)
    for code, word, found in (("dropouts", "dropout", lost), ("spikes", "spike", spiked)):
        if found.any():
            findings.append(Finding(code, _left_out(word, speed[found]), doubt=True))
    kept = ~(lost | spiked)
    return speed[kept], value[kept]


def _left_out(word: str, speeds: Array) -> str:
    where = ", ".join(f"{rpm:,.0f}" for rpm in speeds[:3])
    count = f"{len(speeds)} {word}{'s' if len(speeds) > 1 else ''}"
    return f"{count} left out (at {where} rpm{' and more' if len(speeds) > 3 else ''})."


def _check_count(speed: Array) -> None:
    if len(speed) < FEWEST_POINTS:
        rows = "row" if len(speed) == 1 else "rows"
        raise NotEnoughData(
            "rows", f"The pull has {len(speed)} usable {rows}.", f"A curve needs {FEWEST_POINTS} speeds or more."
        )
