"""A set of parts as it is shown: what it gains, costs and waits for, step by step."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from functools import cached_property
from math import inf
from typing import Any
from uuid import UUID

import numpy as np

from elvarn.core.engine.tuning import against_band
from elvarn.core.path.choice import CRITERIA, USUAL_WEIGHTS, Suits, score
from elvarn.core.path.conflict import Severity
from elvarn.core.path.sets import AS_IS, in_steps
from elvarn.service.path.candidates import ConflictView, conflict_view, favoured
from elvarn.service.path.pool import CRITERIA_NAMES, band_of
from elvarn.service.path.sets import Member, Sets

SHOWN = 3


class Why(StrEnum):
    """Why a set is shown."""

    PRIORITIES = "your priorities"
    MOST_AIR = "most air"
    LEAST_MONEY = "least money"
    OTHER_PLACES = "other places"
    AS_IT_IS = "as it is"


@dataclass(frozen=True)
class SetPart:
    """A part of a set: where it stands, what stands against it beside the others, what nobody stated; of a manifold the
    speeds that it favours and where they lie to the band. `node_ids`: of the elements that it is mounted at."""

    kind: str
    node_ids: list[UUID]
    part_id: UUID
    state_id: UUID
    name: str
    maker: str | None
    price: float | None
    lead_days: int | None
    at_hand: int
    pieces: int
    work_minutes: float
    conflicts: list[ConflictView]
    unchecked: list[str]
    favours: str
    tuned: str


@dataclass(frozen=True)
class SetStep:
    """What is bought and fitted together, and where that leaves the engine before the next comes: air gained over all
    as it is, and what was spent until then. `only_for_now`: what is bought for this step and useless after the last."""

    kinds: list[str]
    names: list[str]
    gain_low_percent: float | None
    gain_high_percent: float | None
    spent: float | None
    only_for_now: list[str]


@dataclass(frozen=True)
class SetView:
    """A set; without parts, all as it is. `cost`: price and work, None where a price isn't known. `ready_on`: when the
    last part can be here if it is ordered today."""

    key: str
    why: Why
    name: str
    parts: list[SetPart]
    gain_low_percent: float | None
    gain_high_percent: float | None
    price: float | None
    work_minutes: float
    cost: float | None
    lead_days: int | None
    ready_on: date | None
    over_budget: bool
    late: bool
    buys: list[str]
    suits: Suits
    score_percent: float
    steps: list[SetStep]


class Reckoner:
    """Reads money, days and steps off the sets, for one day."""

    def __init__(self, sets: Sets, today: date) -> None:
        self.sets, self.today = sets, today
        self.rate = sets.first.settings.hourly_rate
        self.budget = sets.first.budget
        self.due_on = sets.first.path.record.job.due_on

    def price(self, members: Iterable[Member]) -> float | None:
        prices = [member.held.price for member in members]
        return None if None in prices else float(sum(price or 0.0 for price in prices))

    def cost(self, row: int) -> float | None:
        members = self.sets.members[row]
        price = self.price(members)
        return None if price is None else price + sum(member.minutes for member in members) / 60 * self.rate

    def lead_days(self, row: int) -> int | None:
        days = [member.held.lead_days for member in self.sets.members[row]]
        return None if None in days else max((day or 0 for day in days), default=0)

    def over_budget(self, row: int) -> bool:
        cost = self.cost(row)
        return self.budget is not None and cost is not None and cost > self.budget

    def late(self, row: int) -> bool:
        days = self.lead_days(row)
        return self.due_on is not None and bool(days) and self.today + timedelta(days=days or 0) > self.due_on

    @cached_property
    def totals(self) -> np.ndarray[Any, Any]:
        """Score [0..1] of each set that can be fitted, by the shop's weights; 0 of others."""
        weights = USUAL_WEIGHTS | self.sets.first.settings.weights
        given = np.array([weights.get(name, 0.0) for name in CRITERIA_NAMES])
        totals = np.zeros(len(self.sets.picks))
        open_rows = [row for row in range(len(totals)) if not self.sets.hard(row)]
        totals[open_rows] = score(self.sets.values[open_rows], tuple(CRITERIA.values()), given).total
        return totals

    def within(self, row: int) -> bool:
        """Whether a set keeps to budget and date."""
        return not (self.over_budget(row) or self.late(row))

    def best(self) -> dict[int, Why]:
        """The sets worth a look, and all as it is among them, in their order, each with why it is shown: the first by
        priorities, the most air with runners no farther from the band than now, the least money, then the next that
        change other places."""
        sets = self.sets
        rows = [n for n in range(1, len(sets.picks)) if not (sets.hard(n) or sets.needless[n])]
        rows = [n for n in rows if sets.suits[n] not in (Suits.WORSE, Suits.NO_GAIN)]
        rows.sort(key=self._order)
        found = {rows[0]: Why.PRIORITIES} if rows else {}
        last = max(sets.suits[rows[0]].place, Suits.UNCHECKED.place) if rows else 0
        able = [n for n in rows if self.within(n) and sets.suits[n].place <= last]
        tuned = [n for n in able if not self._off_band(n)]
        if tuned:
            found.setdefault(max(tuned, key=lambda n: (sets.middle[n], -(self.cost(n) or inf))), Why.MOST_AIR)
        if able:
            found.setdefault(min(able, key=lambda n: (self.cost(n) or inf, -sets.middle[n])), Why.LEAST_MONEY)
        for row in rows:
            if len(found) < SHOWN and self._changes(row) not in map(self._changes, found):
                found[row] = Why.OTHER_PLACES
        return dict(sorted({**found, 0: Why.AS_IT_IS}.items(), key=lambda one: self._order(one[0])))

    def _off_band(self, row: int) -> bool:
        """Whether a set's runners are tuned farther from the band than those of now: there flow alone gains nothing."""
        tuning = CRITERIA_NAMES.index("tuning")
        there, now = self.sets.values[row, tuning], self.sets.values[0, tuning]
        return bool(there < (now if np.isfinite(now) else 0.0))

    def _order(self, row: int) -> tuple[Any, ...]:
        """Within budget and date first, then by how far it can be signed for, then by score."""
        return not self.within(row), self.sets.suits[row].place, -self.totals[row], -self.sets.middle[row]

    def _changes(self, row: int) -> frozenset[int]:
        return frozenset(np.flatnonzero(self.sets.picks[row] != AS_IS).tolist())


def set_view(reckoner: Reckoner, row: int, why: Why) -> SetView:
    """A set as it is shown."""
    sets, days = reckoner.sets, reckoner.lead_days(row)
    members = sets.members[row]
    return SetView(
        key="-".join(str(pick + 1) for pick in sets.picks[row].tolist()),
        why=why,
        name=" + ".join(member.held.facts.part.name for member in members) or "as it is",
        parts=[_part(sets, member, reckoner.rate) for member in members],
        gain_low_percent=_percent(sets.low[row]),
        gain_high_percent=_percent(sets.high[row]),
        price=reckoner.price(members),
        work_minutes=sum(member.minutes for member in members),
        cost=reckoner.cost(row),
        lead_days=days,
        ready_on=reckoner.today + timedelta(days=days) if days is not None and members else None,
        over_budget=reckoner.over_budget(row),
        late=reckoner.late(row),
        buys=sorted(_buys(members)),
        suits=sets.suits[row],
        score_percent=round(100 * float(reckoner.totals[row]), 1),
        steps=_steps(reckoner, row) if members else [],
    )


def _part(sets: Sets, member: Member, rate: float) -> SetPart:
    pool, facts = sets.pools[member.group], member.held.facts
    return SetPart(
        kind=pool.place.kind,
        node_ids=[node.id for node in pool.place.nodes],
        part_id=facts.part.id,
        state_id=facts.state.id,
        name=facts.part.name,
        maker=facts.part.maker,
        price=member.held.price,
        lead_days=member.held.lead_days,
        at_hand=member.held.at_hand,
        pieces=member.held.pieces,
        work_minutes=member.minutes,
        conflicts=[conflict_view(one, rate) for one in member.against],
        unchecked=[one.what for one in member.unchecked],
        favours=favoured(member.held.favours),
        tuned=against_band(member.held.favours, *band_of(pool.path)) if member.held.favours else "",
    )


def _steps(reckoner: Reckoner, row: int) -> list[SetStep]:
    sets = reckoner.sets
    pick = sets.picks[row].tolist()
    changed = [group for group, choice in enumerate(pick) if choice != AS_IS]

    def row_after(done: frozenset[int]) -> int:
        return sets.row_of([choice if group in done else AS_IS for group, choice in enumerate(pick)])

    order = in_steps(
        changed, lambda done: not sets.hard(row_after(done)), lambda done: float(sets.middle[row_after(done)])
    )
    done: frozenset[int] = frozenset()
    found = []
    for block in order:
        done |= frozenset(block)
        found.append(_step(reckoner, row_after(done), [n for n in changed if n in block], _buys(sets.members[row])))
    return found


def _step(reckoner: Reckoner, row: int, block: Sequence[int], wanted_at_last: set[str]) -> SetStep:
    sets = reckoner.sets
    new = [member for member in sets.members[row] if member.group in block]
    return SetStep(
        kinds=[sets.pools[group].place.kind for group in block],
        names=[member.held.facts.part.name for member in new],
        gain_low_percent=_percent(sets.low[row]),
        gain_high_percent=_percent(sets.high[row]),
        spent=reckoner.cost(row),
        only_for_now=sorted(_buys(sets.members[row]) - wanted_at_last),
    )


def _buys(members: Sequence[Member]) -> set[str]:
    """What has to be bought besides the parts."""
    soft = [one for member in members for one in member.against if one.severity is Severity.SOFT]
    return {one.remedy.buy for one in soft if one.remedy.buy}


def _percent(fraction: float) -> float | None:
    return 100 * float(fraction) if np.isfinite(fraction) else None
