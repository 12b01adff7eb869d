"""Sets of parts for a path, one of each kind or what is there now: all that can be made, with what each gains and what
stands against its parts beside each other."""

from collections.abc import Hashable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from functools import cached_property
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.arrays import Array
from elvarn.core.engine.tuning import outside_band
from elvarn.core.errors import NotEnoughData
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.path.choice import CRITERIA, Suits, pareto_front, suits
from elvarn.core.path.conflict import Conflict, Severity
from elvarn.core.path.conflicts import conflicts
from elvarn.core.path.engine_losses import Draw
from elvarn.core.path.features import Neighbours
from elvarn.core.path.sets import AS_IS, Picks, every_set, needless
from elvarn.core.path.substitutes import gains_of_sets
from elvarn.core.path.unchecked import Unchecked
from elvarn.service.kernel.memo import Memo
from elvarn.service.path.candidate_sheet import kept_pool
from elvarn.service.path.held import Held, minutes_of, stands_against
from elvarn.service.path.pool import Pool, band_of, substitutes
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.engine import mass_flow
from elvarn.service.record.places import features_of, kinds_in, place_in, surroundings_of
from elvarn.service.record.solved import CHARGING
from elvarn.store.revision import whole_revision

MOST_KINDS = 4
MOST_EACH = 6
FITTING = 4  # of them that fit beside what is there now, where there are so many
SPEEDS = 5
NOT_TAKEN_IN = ("head", *CHARGING)  # sets are held against each other by what passes, not by how warm it is


@dataclass(frozen=True)
class Member:
    """A part of a set at its place: what stands against it there, and what is not checked. `group` and `choice` tell
    which it is."""

    group: int
    choice: int
    held: Held
    against: tuple[Conflict, ...]
    unchecked: tuple[Unchecked, ...]

    @property
    def hard(self) -> bool:
        return any(one.severity is Severity.HARD for one in self.against)

    @property
    def minutes(self) -> float:
        return minutes_of(self.against) * self.held.pieces


@dataclass(frozen=True)
class Sets:
    """All sets that can be made of the best candidates of each kind. `pools`: of the kinds that are exchanged, in the
    order of the air, `choices` the candidates of each; `low`, `high` [-], shape (sets,): bounds of the air gained over
    the band."""

    pools: list[Pool]
    choices: list[list[int]]
    picks: Picks
    low: Array
    high: Array
    members: dict[int, list[Member]]

    @property
    def first(self) -> Pool:
        return self.pools[0]

    @cached_property
    def middle(self) -> Array:
        return np.asarray((self.low + self.high) / 2)

    def row_of(self, pick: Sequence[int]) -> int:
        """The number of a set."""
        return int(np.flatnonzero((self.picks == np.array(pick)).all(axis=1))[0])

    def hard(self, row: int) -> bool:
        return any(member.hard for member in self.members[row])

    @cached_property
    def suits(self) -> list[Suits]:
        """How far each set can be signed for: as a part can."""
        found = []
        for row, members in self.members.items():
            checked = not any(one.decides for member in members for one in member.unchecked)
            of_set = suits(self.low[row], self.high[row], self.first.shown, self.hard(row), checked)
            found.append(Suits.FITTED_NOW if not members else of_set)
        return found

    @cached_property
    def needless(self) -> np.ndarray[Any, np.dtype[np.bool_]]:
        """Sets in which a part adds nothing."""
        can_be = np.array([not self.hard(row) for row in range(len(self.picks))], dtype=bool)
        return needless(self.picks, self.middle, can_be)

    @cached_property
    def values(self) -> Array:
        """What is scored of each set, shape (sets, criteria), NaN where unknown."""
        return np.array([self._row(row) for row in range(len(self.picks))])

    def _row(self, row: int) -> list[float]:
        figures = {
            "gain": 100 * self.middle[row],
            "tuning": self._tuning(row),
            "price": _sum(member.held.price for member in self.members[row]),
            "work": sum(member.minutes for member in self.members[row]),
            "lead_time": max((_number(member.held.lead_days) for member in self.members[row]), default=0.0),
            "mass": self._heavier(row),
        }
        return [float(figures[name]) for name in CRITERIA]

    def _tuning(self, row: int) -> float:
        """Where the set's runners are tuned to the band, as a manifold's."""
        pool = next((pool for pool in self.pools if pool.place.kind == "manifold"), None)
        if pool is None:
            return 0.0
        mine = (member.held for member in self.members[row] if member.held.facts.part.kind == "manifold")
        held = next(mine, next((one for one in pool.held if one.there_now), None))
        favours = held.favours if held else None
        return -outside_band(favours, *band_of(pool.path)) if favours else np.nan

    def _heavier(self, row: int) -> float:
        total = 0.0
        for member in self.members[row]:
            fitted = (one.mass for one in self.pools[member.group].held if one.there_now)
            total += _number(member.held.mass) - _number(next(fitted, None))
        return total


def kept_sets(
    session: Session, curves: CurveShelf, kept: Memo[Hashable, Any], job_id: UUID, build_id: UUID | None, today: date
) -> Sets:
    """The sets for a job's build, made once for the day and as long as everything stands as it is. Raises Invalid
    where it has no air path."""
    found: Sets = kept.get(
        ("sets", job_id, build_id, today, whole_revision(session)),
        lambda: _of_job(session, curves, kept, job_id, build_id, today),
    )
    return found


def _of_job(
    session: Session, curves: CurveShelf, kept: Memo[Hashable, Any], job_id: UUID, build_id: UUID | None, today: date
) -> Sets:
    first = kept_pool(session, curves, kept, job_id, None, build_id, today)
    kinds = [kind for kind in kinds_in(first.path) if kind not in NOT_TAKEN_IN]
    pools = [kept_pool(session, curves, kept, job_id, kind, build_id, today) for kind in kinds]
    return make_sets([pool for pool in pools if _known_now(pool)] or pools[:1])


def make_sets(pools: Sequence[Pool]) -> Sets:
    """Sets of the best candidates of those kinds that promise most."""
    worth = {n: _best(pool, picked) for n, pool in enumerate(pools) if (picked := _worth_holding(pool))}
    taken = sorted(sorted(worth, key=lambda n: -worth[n])[:MOST_KINDS]) or [0]
    chosen = [pools[n] for n in taken]
    choices = [_worth_holding(pool) for pool in chosen]
    picks = every_set([len(of_kind) for of_kind in choices])
    low, high = _gains(chosen, choices, picks)
    low[0] = high[0] = 0.0
    return Sets(chosen, choices, picks, low, high, _members(chosen, choices, picks))


def _known_now(pool: Pool) -> bool:
    passages = (pool.path.passages[place] for place in pool.place.places)
    return all(passage is not None and passage.area is not None for passage in passages)


def _best(pool: Pool, picked: Sequence[int]) -> float:
    return float(max((pool.low[n] + pool.high[n]) / 2 for n in picked))


def _worth_holding(pool: Pool) -> list[int]:
    """Up to MOST_EACH candidates that nothing about engine, vehicle or rules rules out, and that no other beats; the
    most air first. What stands against one beside the parts that are fitted now may be gone in a set; it doesn't crowd
    out those that fit beside them."""
    around = surroundings_of(pool.path.record)
    known = [n for n in range(len(pool.held)) if np.isfinite(pool.low[n]) and not pool.held[n].there_now]
    free = [n for n in known if not _ruled_out(pool.held[n], around)]
    fitting = _unbeaten(pool, [n for n in free if not pool.held[n].hard])
    others = [n for n in _unbeaten(pool, free) if n not in fitting]
    spare = max(MOST_EACH - len(fitting), MOST_EACH - FITTING)
    taken = [*fitting[: MOST_EACH - min(len(others), spare)], *others[:spare]]
    return sorted(taken, key=lambda n: -(pool.low[n] + pool.high[n]))


def _unbeaten(pool: Pool, free: Sequence[int]) -> list[int]:
    """Of these candidates those that none of them beats, the most air first."""
    if not free:
        return []
    middle = (pool.low + pool.high) / 2
    less = [[_number(pool.held[n].price), _number(pool.held[n].lead_days)] for n in free]
    tuned = [pool.held[n].favours for n in free]
    inside = [-outside_band(one, *band_of(pool.path)) if one else -np.inf for one in tuned]
    better = np.column_stack((middle[list(free)], inside, -np.nan_to_num(np.array(less), nan=np.inf)))
    once = np.unique(better, axis=0, return_index=True)[1]  # of parts that are alike in all of it, one stands for all
    front = [free[n] for n in once if pareto_front(better)[n]]
    return sorted(front, key=lambda n: -middle[n])


def _ruled_out(held: Held, around: Any) -> bool:
    found = conflicts(features_of(held.facts), Neighbours(), around)
    return any(one.severity is Severity.HARD for one in found)


def _gains(pools: Sequence[Pool], choices: Sequence[Sequence[int]], picks: Picks) -> tuple[Array, Array]:
    """Bounds of the air gained by each set, as the mean over the band; not a number where it can't be told."""
    path = pools[0].path
    nothing = np.full(len(picks), np.nan)
    if path.engine is None or path.filling is None:
        return nothing, nothing.copy()
    engine, filling, charge = path.engine, path.filling, path.draw.charge if path.draw else None
    speeds = np.linspace(*band_of(path), SPEEDS)
    draws = [Draw(mass_flow(engine, filling, rpm, charge), STANDARD_AIR, engine.strokes, charge) for rpm in speeds]
    given = [
        substitutes(pool.place, [pool.held[n].facts for n in of_kind])
        for pool, of_kind in zip(pools, choices, strict=True)
    ]
    try:
        found = gains_of_sets(path.routes, path.passages, given, picks, draws)
    except NotEnoughData:
        return nothing, nothing.copy()
    return np.mean([one.low for one in found], axis=0), np.mean([one.high for one in found], axis=0)


def _members(pools: Sequence[Pool], choices: Sequence[Sequence[int]], picks: Picks) -> dict[int, list[Member]]:
    """The parts of each set, held against each other. Where two of a set meet, the one in front tells."""
    seen: dict[tuple[int, ...], Member] = {}
    meet = _who_meets_whom(pools)
    found: dict[int, list[Member]] = {}
    for row, pick in enumerate(picks.tolist()):
        found[row] = []
        for group, choice in enumerate(pick):
            if choice == AS_IS:
                continue
            sides = tuple(pick[other] if other is not None else AS_IS for other in meet[group])
            key = (group, choice, *sides)
            if key not in seen:
                seen[key] = _member(pools, choices, group, choice, meet[group], sides)
            found[row].append(seen[key])
    return found


def _member(
    pools: Sequence[Pool],
    choices: Sequence[Sequence[int]],
    group: int,
    choice: int,
    others: tuple[int | None, int | None],
    sides: tuple[int, ...],
) -> Member:
    pool = pools[group]
    held = pool.held[choices[group][choice]]
    around, now = surroundings_of(pool.path.record), pool.place.now
    borne = conflicts(features_of(now), pool.place.neighbours, around) if now else ()
    at = pool.place.neighbours
    before, behind = sides
    if before != AS_IS:
        at = replace(at, before=None)
    if behind != AS_IS and others[1] is not None:
        part = pools[others[1]].held[choices[others[1]][behind]].facts
        at = replace(at, behind=features_of(part), behind_name=f"the {part.part.name}")
    return Member(group, choice, held, *stands_against(held.facts, at, around, borne))


def _who_meets_whom(pools: Sequence[Pool]) -> list[tuple[int | None, int | None]]:
    """Which of the exchanged kinds stands right in front of each, and right behind it."""
    path = pools[0].path
    at = {place: n for n, pool in enumerate(pools) for place in _all_places(pool)}
    way = [place for stage in path.routes.stages[path.routes.cylinders[0]] for place in stage.ducts[0]]
    found: list[tuple[int | None, int | None]] = []
    for n, pool in enumerate(pools):
        inside = [index for index, place in enumerate(way) if place in _all_places(pool)]
        first, last = (inside[0], inside[-1]) if inside else (0, len(way) - 1)
        before = at.get(way[first - 1]) if first > 0 else None
        behind = at.get(way[last + 1]) if last + 1 < len(way) else None
        found.append((before if before != n else None, behind if behind != n else None))
    return found


def _all_places(pool: Pool) -> set[int]:
    """Places of a pool's nodes in the path: of a manifold its plenum's too."""
    mine = {node.id for node in place_in(pool.path, pool.place.kind).nodes}
    return {place for place, node in enumerate(pool.path.nodes) if node.id in mine}


def _number(value: float | None) -> float:
    return np.nan if value is None else float(value)


def _sum(values: Any) -> float:
    return float(sum(_number(value) for value in values))
