"""Candidates for a place: scored by weights that the shop sets, marked where no other is better in everything."""

from dataclasses import dataclass
from enum import StrEnum
from math import isnan

import numpy as np
from numpy.typing import NDArray

from elvarn.core.arrays import Array
from elvarn.core.errors import Inconsistent, OutOfRange

# What counts, whether more is better, and the usual weight; the shop's own weights replace these.
CRITERIA = {"gain": True, "tuning": True, "price": False, "work": False, "lead_time": False, "mass": False}
USUAL_WEIGHTS = {"gain": 5.0, "tuning": 3.0, "price": 3.0, "work": 2.0, "lead_time": 1.0, "mass": 1.0}
NOTHING_GAINED = 0.0005  # of the air; choice, no source
UNKNOWN_SCORE = 0.0  # of a criterion that nobody knows: it earns nothing and is said to be unknown


class Suits(StrEnum):
    """How far a candidate can be signed for, the best first: it fits and gains what a pull could show; so, but not all
    is checked; it is what is fitted now; it gains less than a pull could show; its gain is not known; it gains nothing;
    it is worse than what is fitted; something hard stands against it."""

    FITS = "fits"
    UNCHECKED = "unchecked"
    FITTED_NOW = "fitted_now"
    TOO_SMALL = "too_small"
    NOT_KNOWN = "not_known"
    NO_GAIN = "no_gain"
    WORSE = "worse"
    RULED_OUT = "ruled_out"

    @property
    def place(self) -> int:
        """Where it stands among all of them, the best at 0."""
        return list(Suits).index(self)


def suits(low: float, high: float, shown: float, hard: bool, checked: bool) -> Suits:
    """How far a candidate can be signed for.

    Arguments: low, high: bounds of the air that it gains [-], not a number where unknown; shown [-]: the least that
    pulls would show; hard: whether something hard stands against it; checked: whether all that could rule it out is.
    Returns: how far.
    Raises: nothing.
    Source: definition; what is gained is the middle of the bounds.
    """
    if hard:
        return Suits.RULED_OUT
    if isnan(low) or isnan(high):
        return Suits.NOT_KNOWN
    if high < NOTHING_GAINED:
        return Suits.WORSE if high < -NOTHING_GAINED else Suits.NO_GAIN
    if (low + high) / 2 < shown:
        return Suits.TOO_SMALL
    return Suits.FITS if checked else Suits.UNCHECKED


@dataclass(frozen=True)
class Scores:
    """Score [0..1] of each candidate, and what each criterion gives to it (shape candidates × criteria)."""

    total: Array
    parts: Array


def score(values: Array, more_is_better: tuple[bool, ...], weights: Array) -> Scores:
    """Score candidates on several criteria, each scaled between the best and the worst of those that are known.

    Arguments: values [any unit], shape (candidates, criteria), NaN where unknown; more_is_better: of each criterion;
    weights [-], shape (criteria,).
    Returns: scores; a criterion on which all are alike gives full marks to all.
    Raises: Inconsistent for shapes that do not fit; OutOfRange for a negative weight or none above zero.
    Source: weighted sum of scaled criteria: Ehrgott, Multicriteria Optimization, 2nd ed. (2005), ch. 3.
    """
    if values.ndim != 2 or values.shape[1] != len(more_is_better) or weights.shape != (values.shape[1],):
        raise Inconsistent("values", "Criteria, directions and weights differ in number.", "Give one of each.")
    if np.any(weights < 0) or not np.any(weights > 0):
        raise OutOfRange("weights", "A weight is below 0, or all are 0.", "Give at least one above 0.")
    if not len(values):
        return Scores(np.zeros(0), np.zeros((0, values.shape[1])))
    better = np.where(more_is_better, values, -values)
    known = np.isfinite(better)
    low = np.min(np.where(known, better, np.inf), axis=0)
    high = np.max(np.where(known, better, -np.inf), axis=0)
    span = np.where(high > low, high - low, 1.0)
    scaled = np.where(known, np.where(high > low, (better - low) / span, 1.0), UNKNOWN_SCORE)
    parts = scaled * (weights / weights.sum())
    return Scores(parts.sum(axis=1), parts)


def unbeaten(values: Array, more_is_better: tuple[bool, ...], counted: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Which candidates no other beats in the criteria that count.

    Arguments: values [any unit], shape (candidates, criteria), NaN where unknown; more_is_better: of each criterion;
    counted, shape (criteria,): whether it counts.
    Returns: marks, shape (candidates,).
    Raises: nothing.
    Source: as `pareto_front`.
    """
    better = np.where(more_is_better, values, -values)
    return pareto_front(np.where(np.isfinite(better), better, -np.inf)[:, counted])


def pareto_front(better: Array) -> NDArray[np.bool_]:
    """Which candidates no other beats: as good in everything and better in something.

    Arguments: better [any unit], shape (candidates, criteria): more is better, -inf where unknown.
    Returns: marks, shape (candidates,).
    Raises: nothing.
    Source: Ehrgott, Multicriteria Optimization, 2nd ed. (2005), def. 2.1.
    """
    left = np.lexsort(better.T[::-1])[::-1]  # the best in the first criterion first: nothing behind it beats it
    kept = np.zeros(len(better), dtype=bool)
    ranked = better[left]
    while len(left):
        kept[left[0]] = True
        best = ranked[0]
        beaten = np.all(ranked <= best, axis=1) & np.any(ranked < best, axis=1)
        beaten[0] = True
        left, ranked = left[~beaten], ranked[~beaten]
    return kept


def cost_per_gain(price: float, work_minutes: float, hourly_rate: float, gain: float) -> float | None:
    """What a unit of gain costs, parts and work together.

    Arguments: price [money], work_minutes [min], hourly_rate [money/h], gain [any unit]; scalars.
    Returns: cost [money] for a unit of gain, None where there is no gain.
    Raises: OutOfRange for a negative price, work or rate.
    Source: definition.
    """
    for name, value in (("price", price), ("work", work_minutes), ("rate", hourly_rate)):
        if value < 0:
            raise OutOfRange(name, f"The {name} is {value:g}.", "0 or more can be.")
    return (price + work_minutes / 60 * hourly_rate) / gain if gain > 0 else None
