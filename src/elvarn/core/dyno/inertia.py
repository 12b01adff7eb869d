"""Inertia dynos: power of a drum that is spun up, and what smoothing takes from a peak."""

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import NotEnoughData, OutOfRange, require_positive


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
