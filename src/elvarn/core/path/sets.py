"""Sets of parts chosen together: every one that can be made, what each part adds to it, and in which steps it comes."""

from collections.abc import Callable, Iterator, Sequence
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from elvarn.core.arrays import Array
from elvarn.core.validity import Range

AS_IS = -1
EARNS = 0.001  # of the air: a part that adds less to a set is left out of it; choice, no source
SETS = Range("sets", "number of sets held side by side", 1, 20_000, "", "choice, no source")
MEMBERS = Range("members", "number of parts in a set", 1, 6, "", "choice, no source")

Marks = NDArray[np.bool_]
Picks = NDArray[np.intp]
Block = frozenset[int]


def every_set(counts: Sequence[int]) -> Picks:
    """Every set of one choice, or none, from each group.

    Arguments: counts: how many choices each group has.
    Returns: choices, shape (sets, groups), −1 where a group is left as it is; all left is the first row.
    Raises: OutOfRange for no group, or for more sets than 20,000.
    Source: definition.
    """
    sizes = [count + 1 for count in counts]
    number = int(np.prod(sizes, dtype=float)) if sizes else 0
    SETS.check(number)
    return np.indices(sizes).reshape(len(sizes), -1).T - 1


def needless(picks: Picks, gained: Array, can_be: Marks) -> Marks:
    """Sets from which a part can be left out without losing air.

    Arguments: picks: of `every_set`, shape (sets, groups); gained [-], shape (sets,), NaN where unknown; can_be, shape
    (sets,): whether it can be fitted.
    Returns: marks, shape (sets,).
    Raises: nothing.
    Source: definition: a part that adds less than 0.1 % of the air earns no place; choice, no source.
    """
    found = np.zeros(len(picks), dtype=bool)
    for group, stride in enumerate(_strides(picks)):
        changed = np.flatnonzero(picks[:, group] != AS_IS)
        others = changed - (picks[changed, group] + 1) * stride
        found[changed] |= can_be[others] & (gained[changed] - gained[others] < EARNS)
    return found


def _strides(picks: Picks) -> list[int]:
    """By how many rows the next choice of each group stands behind the one before it."""
    sizes = picks.max(axis=0) + 2
    return [int(np.prod(sizes[group + 1 :])) for group in range(picks.shape[1])]


def in_steps(
    members: Sequence[int], can_be: Callable[[Block], bool], gained: Callable[[Block], float]
) -> list[list[int]]:
    """The order in which the parts of a set are bought: as many steps as can be, the most air first.

    Arguments: members: the groups that the set changes, at most 6; can_be: whether a part of the set can be fitted
    alone; gained [-]: its air.
    Returns: steps, each with the groups that have to come together; one step where nothing less can be fitted.
    Raises: OutOfRange for none or more than 6 members.
    Source: definition, by all ordered partitions.
    """
    MEMBERS.check(len(members))
    ways = [way for way in _partitions(tuple(members)) if all(can_be(done) for done in _prefixes(way))]
    ways = ways or [[tuple(members)]]

    def worth(way: list[tuple[int, ...]]) -> tuple[object, ...]:
        airs = [gained(done) for done in _prefixes(way)]
        return len(way), [air if np.isfinite(air) else -np.inf for air in airs]

    return [list(block) for block in max(ways, key=worth)]


def _partitions(left: tuple[int, ...]) -> Iterator[list[tuple[int, ...]]]:
    if not left:
        yield []
    for size in range(1, len(left) + 1):
        for block in combinations(left, size):
            for rest in _partitions(tuple(one for one in left if one not in block)):
                yield [block, *rest]


def _prefixes(way: Sequence[Sequence[int]]) -> list[Block]:
    done: list[Block] = []
    for block in way:
        done.append(frozenset(block) | (done[-1] if done else frozenset()))
    return done
