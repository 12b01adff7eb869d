"""Inertia dynos: power of a drum that is spun up, and what smoothing takes from a peak."""

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive

LEAST_WINDOW = 5  # samples of a local parabola


def inertia_power(moment_of_inertia: float, time: Array, drum_speed: Array) -> Array:
    """Power that spins a drum up, at each sample.

    Arguments: moment_of_inertia [kg m²], scalar; time [s] rising, shape (n,); drum_speed [rad/s], shape (n,).
    Returns: power [W], shape (n,).
    Raises: OutOfRange for an inertia not above zero or a time that does not rise; NotEnoughData for fewer than three
    samples.
    Source: definition, P = J ω dω/dt; second-order differences on uneven samples, by NumPy.
    """
    require_positive(inertia=moment_of_inertia)
    if len(time) < 3 or len(time) != len(drum_speed):
        raise NotEnoughData("samples", f"{len(time)} times, {len(drum_speed)} speeds.", "Three of each at least.")
    if not np.all(np.diff(time) > 0):
        raise OutOfRange("time", "The time does not rise.", "Sort the samples by time.")
    rate: Array = np.gradient(drum_speed, time, edge_order=2)
    return moment_of_inertia * drum_speed * rate


def moving_average_bias(curvature: float, step: float, half_width: int) -> float:
    """By how much a moving average lowers the peak of a parabola y = y0 − c x².

    Arguments: curvature [any unit], the c of the parabola; step [any unit] between samples; half_width [-]: samples on
    each side of the middle; scalars.
    Returns: loss [any unit] at the peak.
    Raises: OutOfRange for a step not above zero, or a width below 0.
    Source: derivation: the mean of c (k h)² over k from −m to m is c h² m (m + 1)/3.
    """
    require_positive(step=step)
    if half_width < 0:
        raise OutOfRange("half_width", f"{half_width} samples on each side can't be.", "Enter 0 or more.")
    return curvature * step**2 * half_width * (half_width + 1) / 3


def drum_torque(
    moment_of_inertia: float, time: Array, drum_speed: Array, engine_speed: Array, smoothing: float
) -> tuple[Array, Array]:
    """Engine torque of a pull on an inertia drum, all speeds smoothed alike.

    Arguments: moment_of_inertia [kg m²], scalar; time [s], shape (n,), drum_speed and engine_speed [rad/s], shape (n,),
    NaN where nothing was logged; smoothing [s]: width of the window, scalar.
    Returns: smoothed engine speed [rad/s] and torque [N m], shape (n,), NaN where nothing was logged or nothing turns.
    Raises: OutOfRange for an inertia or width not above zero; NotEnoughData for less than two windows of samples.
    Source: definition, P = J ω dω/dt; smoothed by local parabolas (Savitzky and Golay 1964, by SciPy), which keep a
    peak's height where a moving average lowers it.
    """
    from scipy.signal import savgol_filter  # heavy: only where a drum's file is read

    require_positive(inertia=moment_of_inertia, smoothing=smoothing)
    known = np.isfinite(time) & np.isfinite(drum_speed) & np.isfinite(engine_speed)
    rising = np.flatnonzero(known)[np.append(True, np.diff(time[known]) > 0)] if known.any() else np.array([], int)
    step = float(np.median(np.diff(time[rising]))) if len(rising) > 1 else 0.0
    window = max(2 * round(smoothing / step / 2) + 1, LEAST_WINDOW) if step > 0 else LEAST_WINDOW
    if len(rising) < 2 * window:
        message = f"{len(rising)} samples with time and speeds, for a smoothing over {window}."
        raise NotEnoughData("samples", message, "Log more, or smooth less.")
    even = np.arange(time[rising[0]], time[rising[-1]] + step / 2, step)

    def local(values: Array, derivative: int) -> Array:
        on_even = np.interp(even, time[rising], values[rising])
        smooth = savgol_filter(on_even, window, 2, deriv=derivative, delta=step)
        return np.asarray(np.interp(time, even, smooth))

    power = moment_of_inertia * local(drum_speed, 0) * local(drum_speed, 1)
    speed = np.where(known, local(engine_speed, 0), np.nan)
    turning = np.where(speed > 0, speed, np.nan)
    return speed, power / turning
