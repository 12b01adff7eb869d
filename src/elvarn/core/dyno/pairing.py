"""Which pulls of two designs are held against each other, and with what weight."""

from collections.abc import Callable, Hashable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from elvarn.core.difference import Term, log_percent
from elvarn.core.dyno.pull import Curve
from elvarn.core.errors import NotEnoughData
from elvarn.core.likeness import Signature, item_differences, signature_of

WEATHER = "weather"


@dataclass(frozen=True)
class Pull:
    """A pull in a comparison: its curve on the basis that all have; the day, and the mount within it, in which it was
    made; what was declared of it; whether its weather is known, and the half-range [%] that humidity not known leaves.
    """

    curve: Curve
    day: Hashable
    mount: int = 0
    declared: Mapping[str, str] = field(default_factory=dict)
    weather: bool = True
    humidity: float = 0.0

    @cached_property
    def signature(self) -> Signature:
        """What pulls that are alike have in common."""
        return signature_of(self.declared)


@dataclass(frozen=True)
class Weight:
    """A pull and its coefficient in the difference: negative on stock's side."""

    pull: Pull
    coefficient: float

    @property
    def cell(self) -> Hashable:
        """Side, day and mount: more pulls of it would tell more."""
        return self.coefficient > 0, self.pull.day, self.pull.mount


@dataclass(frozen=True)
class Pairing:
    """What counts of two designs: groups of weights, each of pulls that are alike, with its share; how many pulls were
    left out; and where nothing is alike, in which items the last pulls differ."""

    groups: tuple[tuple[float, tuple[Weight, ...]], ...]
    left_out: int = 0
    unlike: tuple[str, ...] = ()

    @property
    def weights(self) -> list[Weight]:
        """All of it in one difference."""
        return [Weight(w.pull, share * w.coefficient) for share, group in self.groups for w in group]

    @property
    def curves(self) -> list[Curve]:
        return [weight.pull.curve for _, group in self.groups for weight in group]


def paired(stock: Sequence[Pull], other: Sequence[Pull]) -> Pairing:
    """Which pulls of a design are held against which of stock.

    Arguments: stock, other: the pulls of each, one at least, in the order in which they were made.
    Returns: the pairing: by days that both share, else mean of day means against mean of day means.
    Raises: NotEnoughData for a side without a pull.
    Source: definition; what is alike is weighted with n1 n2/(n1 + n2), as in the variance of a mean. Across days
    nothing is alike whose weather is not known.
    """
    if not stock or not other:
        raise NotEnoughData("pulls", "A side has no pull.", "Pull both.")
    sides = _by_signature(stock), _by_signature(other)
    found: list[tuple[float, tuple[Weight, ...]]] = []
    for signature in (s for s in sides[0] if s in sides[1]):
        group = _weighed(sides[0][signature], sides[1][signature])
        if group:
            found.append((_weight(group), group))
    total = sum(weight for weight, _ in found)
    groups = tuple((weight / total, group) for weight, group in found)
    counted = sum(len(group) for _, group in groups)
    if groups:
        return Pairing(groups, len(stock) + len(other) - counted)
    items = tuple(d.item for d in item_differences(stock[-1].declared, other[-1].declared))
    return Pairing((), len(stock) + len(other), items or (WEATHER,))


def terms_of(weights: Iterable[Weight], value: Callable[[Curve], float]) -> list[Term]:
    """The terms of a difference in some figure of each curve.

    Arguments: weights; value [any unit, above zero] of a curve.
    Returns: terms, one a pull.
    Raises: OutOfRange for a value not above zero.
    Source: definition.
    """
    return [
        Term(
            log_percent(value(one.pull.curve)),
            one.coefficient,
            cell=one.cell,
            setup=place,
            session=one.pull.day,
            mount=(one.pull.day, one.pull.mount),
        )
        for place, one in enumerate(weights)
    ]


def by_mount(pulls: Sequence[Pull]) -> dict[tuple[Hashable, int], list[Pull]]:
    """Pulls by day and mount, in order.

    Arguments: pulls.
    Returns: pulls of each mount.
    Raises: nothing.
    Source: definition.
    """
    found: dict[tuple[Hashable, int], list[Pull]] = {}
    for pull in pulls:
        found.setdefault((pull.day, pull.mount), []).append(pull)
    return found


def _weighed(stock: Sequence[Pull], other: Sequence[Pull]) -> tuple[Weight, ...]:
    sides = _by_day(stock), _by_day(other)
    shared = [day for day in sides[0] if day in sides[1]]
    if shared:
        sizes = {day: len(sides[0][day]) * len(sides[1][day]) for day in shared}
        weights = {day: size / (len(sides[0][day]) + len(sides[1][day])) for day, size in sizes.items()}
        shares = {day: weight / sum(weights.values()) for day, weight in weights.items()}
        return tuple(
            weight
            for day in shared
            for side, sign in zip(sides, (-1, 1), strict=True)
            for weight in _mount_mean(side[day], sign * shares[day])
        )
    known = [[p for p in side if p.weather] for side in (stock, other)]
    if not all(known):
        return ()
    return tuple(weight for pulls, sign in zip(known, (-1, 1), strict=True) for weight in day_mean(pulls, sign))


def day_mean(pulls: Sequence[Pull], sign: float) -> list[Weight]:
    """Mean over days, each the mean of its mounts.

    Arguments: pulls, one at least; sign [-]: what the weights sum to.
    Returns: weights, one a pull.
    Raises: nothing.
    Source: definition.
    """
    days = _by_day(pulls)
    return [weight for group in days.values() for weight in _mount_mean(group, sign / len(days))]


def _mount_mean(pulls: Sequence[Pull], share: float) -> Iterator[Weight]:
    """Mean of a day's mounts, each the mean of its pulls."""
    mounts = by_mount(pulls)
    for group in mounts.values():
        yield from (Weight(pull, share / len(mounts) / len(group)) for pull in group)


def _weight(group: Sequence[Weight]) -> float:
    after = sum(weight.coefficient > 0 for weight in group)
    return after * (len(group) - after) / len(group)


def _by_day(pulls: Sequence[Pull]) -> dict[Hashable, list[Pull]]:
    found: dict[Hashable, list[Pull]] = {}
    for pull in pulls:
        found.setdefault(pull.day, []).append(pull)
    return found


def _by_signature(pulls: Sequence[Pull]) -> dict[Signature, list[Pull]]:
    found: dict[Signature, list[Pull]] = {}
    for pull in pulls:
        found.setdefault(pull.signature, []).append(pull)
    return found
