"""Cylinders draw in turn: what that does to the loss of an element that carries their air."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import pi

import numpy as np

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, require_positive
from elvarn.core.validity import Range

ASSUMED_INLET_DURATION_DEG = 220.0  # crank angle of effective opening where no cam is known; common practice, no source
CYCLE_DEG = 720.0
OPENING = Range("duration", "inlet's opening", 90, 400, "°", "common practice, no source")
GRID_DEG = 1.0


@dataclass(frozen=True)
class Strokes:
    """When the cylinders draw: crank angle [°] at which each begins, by its number, and for how long [°]."""

    begins_deg: dict[int, float]
    duration_deg: float = ASSUMED_INLET_DURATION_DEG


def even_strokes(
    cylinder_count: int, firing_order: Sequence[int] = (), duration_deg: float = ASSUMED_INLET_DURATION_DEG
) -> Strokes:
    """Strokes of an engine that fires evenly.

    Arguments: cylinder_count [-], firing_order: cylinder numbers, in the order of their numbers where it is empty;
    duration_deg [°]: effective inlet opening.
    Returns: strokes.
    Raises: Inconsistent for an order that does not name each cylinder once; OutOfRange for a duration outside 90 to
    400°.
    Source: four-stroke cycle of 720°.
    """
    order = tuple(firing_order) or tuple(range(1, cylinder_count + 1))
    check_firing_order(order, cylinder_count)
    OPENING.check(duration_deg)
    interval = CYCLE_DEG / cylinder_count
    return Strokes({number: index * interval for index, number in enumerate(order)}, duration_deg)


def check_firing_order(order: Sequence[int], cylinder_count: int) -> None:
    """Refuse a firing order that does not name each cylinder once.

    Arguments: order: cylinder numbers; cylinder_count [-].
    Returns: nothing.
    Raises: Inconsistent naming the cylinders twice in it, missing from it or beyond the engine.
    Source: definition.
    """
    twice = sorted({n for n in order if list(order).count(n) > 1})
    missing = sorted(set(range(1, cylinder_count + 1)) - set(order))
    beyond = sorted(n for n in set(order) if not 1 <= n <= cylinder_count)
    for numbers, words in ((twice, "stands twice in"), (missing, "is missing from"), (beyond, "does not belong in")):
        if numbers:
            listed = ", ".join(map(str, numbers))
            raise Inconsistent("firing_order", f"Cylinder {listed} {words} the firing order.", "Name each once.")


def drawing_factor(strokes: Strokes, cylinders: Sequence[int]) -> float:
    """Mean loss of the air over the loss that the same air would have in a steady stream.

    Each cylinder draws as a half sine over its inlet's opening; the loss goes with the square of the sum and is
    averaged over the air, so the factor is <Q³>/<Q>³.
    Arguments: strokes; cylinders: whose air passes the element.
    Returns: factor [-]; 1 for a steady stream, π²/6 (720/duration)² for one cylinder alone.
    Raises: Inconsistent for no cylinder or one without a stroke.
    Source: derivation; held in the tests against the closed form for one cylinder.
    """
    if not cylinders or any(number not in strokes.begins_deg for number in cylinders):
        raise Inconsistent("cylinders", "The element feeds no cylinder of this engine.", "Check its place in the path.")
    if len(cylinders) == 1:
        return pi**2 / 6 * (CYCLE_DEG / strokes.duration_deg) ** 2
    return _summed(tuple(sorted(strokes.begins_deg[number] for number in cylinders)), strokes.duration_deg)


def peak_over_mean(strokes: Strokes, cylinders: Sequence[int]) -> float:
    """The most that flows at any moment of the cycle over the mean of the same air.

    Arguments: strokes; cylinders: whose air passes the element.
    Returns: ratio [-]; 1 for a steady stream, π/2 · 720/duration for one cylinder alone.
    Raises: Inconsistent for no cylinder or one without a stroke.
    Source: derivation from the half sines of `drawing_factor`.
    """
    if not cylinders or any(number not in strokes.begins_deg for number in cylinders):
        raise Inconsistent("cylinders", "The element feeds no cylinder of this engine.", "Check its place in the path.")
    if len(cylinders) == 1:
        return pi / 2 * CYCLE_DEG / strokes.duration_deg
    flow = _drawn(tuple(sorted(strokes.begins_deg[number] for number in cylinders)), strokes.duration_deg)
    return float(np.max(flow) / np.mean(flow))


def steady_equivalent(runner_flow: float, cylinder_count: int, factor: float) -> float:
    """A runner's figure as that of a whole-engine element with the same loss at the same air.

    Whole-engine and per-runner figures can't be compared straight: each runner passes its cylinder's air in a part
    of the cycle.
    Arguments: runner_flow [m³/s] of one runner on the bench, cylinder_count [-], factor [-]: of `drawing_factor`.
    Returns: volume flow [m³/s].
    Raises: OutOfRange for values not above zero.
    Source: Bernoulli: the loss at mean flow Q/N is factor (Q/N)²/A²; equal to Q²/A_e² for A_e = N A/√factor.
    """
    require_positive(runner_flow=runner_flow, cylinder_count=cylinder_count, factor=factor)
    return float(cylinder_count * runner_flow / factor**0.5)


@lru_cache(maxsize=256)
def _summed(begins: tuple[float, ...], duration: float) -> float:
    flow = _drawn(begins, duration)
    return float(np.mean(flow**3) / np.mean(flow) ** 3)


@lru_cache(maxsize=256)
def _drawn(begins: tuple[float, ...], duration: float) -> Array:
    """Flow over the cycle, a degree apart: the sum of the half sines."""
    angle = np.arange(0.0, CYCLE_DEG, GRID_DEG)
    flow = np.zeros_like(angle)
    for begin in begins:
        inside = (angle - begin) % CYCLE_DEG
        flow += np.where(inside < duration, np.sin(pi * inside / duration), 0.0)
    return flow
