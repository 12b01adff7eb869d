"""A log of the engine computer, without torque: where it was at full throttle, and what its manifold read at rest."""

from dataclasses import dataclass

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.dyno.detect import Sweep, driven, sweeps

AT_REST_RPM = 50.0  # below it the engine stands; common practice, no source
FEWEST_AT_REST = 5  # samples; choice, no source
UNIFORM_KPA = 0.5  # within which a pressure at rest is one; choice, no source


@dataclass(frozen=True)
class Rest:
    """What the manifold read with the engine off: pressure outside [kPa], from so many samples."""

    pressure: float
    samples: int


def full_throttle(engine_speed_rpm: Array, throttle: Array | None, manifold: Array | None) -> list[Sweep]:
    """Stretches of rising speed at full throttle.

    Arguments: engine_speed_rpm [rpm], shape (n,), throttle [%] and manifold [kPa], shape (n,), NaN where nothing was
    logged; the last two None where they were not.
    Returns: the stretches, in the order in which they were logged.
    Raises: nothing.
    Source: common practice, no source: by the throttle where it was logged, else by the manifold's pressure.
    """
    opened = throttle if throttle is not None else manifold
    found = (driven(sweep, engine_speed_rpm, opened) for sweep in sweeps(engine_speed_rpm))
    return [sweep for sweep in found if sweep is not None]


def at_rest(engine_speed_rpm: Array, manifold: Array | None) -> Rest | None:
    """What the manifold read while the engine stood: the zero of its drop, with the sensor's own error in it.

    Arguments: engine_speed_rpm [rpm], shape (n,), and manifold [kPa], shape (n,), NaN where nothing was logged.
    Returns: the reading, or None where the engine never stood for five samples at one pressure.
    Raises: nothing.
    Source: common practice, no source.
    """
    if manifold is None:
        return None
    standing = manifold[(np.nan_to_num(engine_speed_rpm, nan=1e9) < AT_REST_RPM) & np.isfinite(manifold)]
    if len(standing) < FEWEST_AT_REST or float(np.ptp(standing)) > UNIFORM_KPA:
        return None
    return Rest(float(np.median(standing)), len(standing))
