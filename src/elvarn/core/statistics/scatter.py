"""A scatter as far as it is known: what is assumed of it counts like a few repeats, its own repeats count beside, and a
slip among them does not spoil it.

Everything is in log percent, 100 ln(reading), so that a standard deviation is a percentage of the reading.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from math import inf, sqrt
from statistics import fmean, median

from scipy.special import fdtri

from elvarn.core.errors import require_positive

ASSUMED_WEIGHT = 4  # repeats that an assumed value is worth: 9 shops in 10 lie between 0.65 and 2.4 times it; a choice
LATEST = 40  # repeats from which is learned; choice, no source: an instrument ages
HUBER_SQUARE, HUBER_SHARE = 2.705543, 0.831268  # η² and 1/ξ² for one degree of freedom: ISO 13528:2015, Annex C.4
FAR_OFF, FAR_OFF_PAIR = 4.0, 4.65  # scatters from the median, and of two from each other; choice, no source
FEW_REPEATS, FEW_WIDER = 3, 2.0
SLIPS_SHARE = 0.05  # of the repeats; more are no slips: it is the instrument. Choice, no source
LATE = 10  # repeats that tell whether it got worse; choice, no source
SURE = 0.99


@dataclass(frozen=True)
class Scatter:
    """Standard deviation [% of reading] and its degrees of freedom, those that the assumed value is worth among them.

    `own` is how many repeats of its own are in it, `slips` which readings were left out (group, place in it), `worse`
    whether the latest repeats alone count because they scatter more.
    """

    value: float
    freedom: float
    own: int = 0
    slips: tuple[tuple[int, int], ...] = ()
    worse: bool = False


def learned(assumed: float, groups: Sequence[Sequence[float]]) -> Scatter:
    """A scatter from its own repeats beside what is assumed of it: no slip, and no doubt about slips.

    Arguments: assumed [%] of reading; groups [%], each the logarithms of what one thing read again.
    Returns: the scatter.
    Raises: OutOfRange for an assumed value not above zero.
    Source: Gelman and others, Bayesian Data Analysis, 2.6: a scaled inverse χ² prior.
    """
    require_positive(assumed=assumed)
    return _plain(assumed, [w for group in groups for w in residuals(group)])


def without(scatter: Scatter, group: Sequence[float]) -> Scatter:
    """A scatter as it would be without one group that it was plainly learned from: the group can be judged by it.

    Arguments: scatter, of `learned`; group [%], the logarithms of what one thing read again.
    Returns: the scatter; the same where it has not so many repeats of its own.
    Raises: nothing.
    Source: as `learned`: squares of repeats add up.
    """
    own = residuals(group)
    square = scatter.value**2 * scatter.freedom - sum(w * w for w in own)
    if scatter.own < len(own) or square <= 0:
        return scatter
    freedom = scatter.freedom - len(own)
    return Scatter(sqrt(square / freedom), freedom, scatter.own - len(own))


def learned_beside_slips(assumed: float, groups: Sequence[Sequence[float]]) -> Scatter:
    """The same from the latest repeats, with slips among them left out, and with the very latest alone where they
    scatter more than those before.

    Arguments: assumed [%] of reading; groups [%], each the logarithms of what one thing read again, the oldest first.
    Returns: the scatter, with what was left out.
    Raises: OutOfRange for an assumed value not above zero.
    Source: ISO 13528:2015, Annex C.4, Algorithm S, anchored by the assumed value.
    """
    require_positive(assumed=assumed)
    first = _first_of_latest(groups, LATEST)
    found = _without_slips(assumed, groups[first:])
    later = _first_of_latest(groups[first:], LATE)
    shown = replace(found, slips=tuple((group + first, place) for group, place in found.slips))
    if not any(residuals(group) for group in groups[first : first + later]):
        return shown
    old, late = (_without_slips(assumed, part) for part in (groups[first:][:later], groups[first:][later:]))
    if late.value**2 <= old.value**2 * fdtri(late.freedom, old.freedom, SURE):
        return shown
    return replace(late, slips=tuple((group + first + later, place) for group, place in late.slips), worse=True)


def residuals(group: Sequence[float]) -> list[float]:
    """What each repeat of a thing adds to its scatter: as many as repeats beyond the first, the one farthest off last.

    Arguments: group [%], logarithms as they were read.
    Returns: residuals [%]; their squares sum to those about the mean.
    Raises: nothing.
    Source: derivation: Helmert's transformation.
    """
    if len(group) < 2:
        return []
    middle = median(group)
    farthest = max(range(len(group)), key=lambda place: abs(group[place] - middle))
    ordered = [y for place, y in enumerate(group) if place != farthest] + [group[farthest]]
    return [(ordered[j] - fmean(ordered[:j])) * sqrt(j / (j + 1)) for j in range(1, len(ordered))]


def anchored(assumed: float, weight: float, squares: Sequence[float]) -> float:
    """A scatter that no single repeat can pull far.

    Arguments: assumed [%] of reading; weight [-]: repeats that it is worth, 0 for none; squares [-] of the residuals in
    per cent.
    Returns: standard deviation [%] of reading; 0 where none fits.
    Raises: nothing.
    Source: ISO 13528:2015, Annex C.4: the fixed point of Algorithm S with one degree of freedom a residual, exact.
    """
    falling = sorted(squares, reverse=True)
    rest = sum(falling)
    for cut in range(len(falling) + 1):
        room = weight + len(falling) - HUBER_SQUARE / HUBER_SHARE * cut
        square = (weight * assumed**2 + rest / HUBER_SHARE) / room if room > 0 else inf
        following = falling[cut] if cut < len(falling) else 0.0
        if room > 0 and following <= HUBER_SQUARE * square:
            return sqrt(square)
        rest -= following
    return 0.0


def far_off(groups: Sequence[Sequence[float]], scatter: float) -> Iterator[tuple[int, int]]:
    """Readings that are no repeats of the others of their thing.

    Arguments: groups [%], each the logarithms of what one thing read again; scatter [%] of reading.
    Returns: group and place in it; of two, the second.
    Raises: nothing.
    Source: common practice, no source: more than four scatters from the median, two more than 4.65 from each other.
    """
    for number, group in enumerate(groups):
        if len(group) == 2 and abs(group[1] - group[0]) > FAR_OFF_PAIR * scatter:
            yield number, 1
        elif len(group) > 2:
            middle = median(group)
            yield from ((number, place) for place, y in enumerate(group) if abs(y - middle) > FAR_OFF * scatter)


def _without_slips(assumed: float, groups: Sequence[Sequence[float]]) -> Scatter:
    squares = [w * w for group in groups for w in residuals(group)]
    slips = tuple(far_off(groups, _scale(assumed, squares)))
    if len(slips) > max(1.0, SLIPS_SHARE * len(squares)):
        slips = ()  # so many are no slips: it is the instrument
    kept = [[y for place, y in enumerate(group) if (number, place) not in slips] for number, group in enumerate(groups)]
    return replace(_plain(assumed, [w for group in kept for w in residuals(group)][-LATEST:]), slips=slips)


def _scale(assumed: float, squares: Sequence[float]) -> float:
    with_assumed = anchored(assumed, ASSUMED_WEIGHT, squares)
    if len(squares) <= FEW_REPEATS:
        return FEW_WIDER * with_assumed
    return max(with_assumed, anchored(assumed, 0, squares))


def _plain(assumed: float, own: Sequence[float]) -> Scatter:
    freedom = ASSUMED_WEIGHT + len(own)
    return Scatter(sqrt((ASSUMED_WEIGHT * assumed**2 + sum(w * w for w in own)) / freedom), freedom, len(own))


def _first_of_latest(groups: Sequence[Sequence[float]], wanted: int) -> int:
    """The first of the latest groups that together hold as many repeats."""
    held = 0
    for number in range(len(groups) - 1, -1, -1):
        held += max(len(groups[number]) - 1, 0)
        if held >= wanted:
            return number
    return 0
