"""Full throttle and rest in a log of the engine computer."""

import numpy as np
import pytest

from elvarn.core.dyno.detect import Sweep
from elvarn.core.dyno.engine_log import at_rest, full_throttle

REST, IDLE, SWEEP = np.zeros(20), np.full(60, 900.0), np.linspace(2000, 7000, 200)
SPEED = np.concatenate((REST, IDLE, SWEEP, np.linspace(7000, 1500, 60), np.linspace(1500, 6500, 150)))
THROTTLE = np.concatenate((np.zeros(20), np.full(60, 3.0), np.full(200, 99.0), np.zeros(60), np.full(150, 30.0)))


def test_stretches_at_full_throttle_are_found_by_the_throttle():
    """The second rise is at part throttle: by the widest within it, it is a stretch too; its manifold tells."""
    found = full_throttle(SPEED, THROTTLE, None)
    assert (found[0].first, found[0].last) == (80, 279)
    assert (found[0].low, found[0].high) == (2000, 7000)


def test_without_a_throttle_the_manifold_tells():
    manifold = np.where(THROTTLE > 90, 97.0, 35.0)
    manifold[100:110] = 60.0
    (first, *_) = full_throttle(SPEED, None, manifold)
    assert (first.first, first.last) == (80, 279)


def test_without_either_the_rise_counts():
    assert isinstance(full_throttle(SPEED, None, None)[0], Sweep)


def test_the_manifold_at_rest_is_the_pressure_outside_with_its_sensors_error():
    manifold = np.full(len(SPEED), 40.0)
    manifold[:20] = 99.2 + 0.1 * np.sin(np.arange(20))
    rest = at_rest(SPEED, manifold)
    assert (rest.pressure, rest.samples) == (pytest.approx(99.2, abs=0.1), 20)
    manifold[:20] = np.linspace(99, 60, 20)
    assert at_rest(SPEED, manifold) is None
    assert at_rest(SPEED[20:], manifold[20:]) is None
    assert at_rest(SPEED, None) is None
