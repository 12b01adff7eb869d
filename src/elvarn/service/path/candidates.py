"""The candidates for one place of an air path, as they are shown: what stands against each, its gains, its score."""

from dataclasses import dataclass
from typing import Any
from uuid import UUID

import numpy as np

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.engine.tuning import Favoured, against_band
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.path.choice import CRITERIA, USUAL_WEIGHTS, Suits, cost_per_gain, score
from elvarn.core.path.conflict import Conflict, Severity
from elvarn.core.path.passage import Passage
from elvarn.service.path.low_words import low_opening_words
from elvarn.service.path.pool import CRITERIA_NAMES, Pool, band_of, main_passage
from elvarn.service.record.features import Claim, read
from elvarn.service.record.part import main_element


@dataclass(frozen=True)
class ConflictView:
    code: str
    severity: Severity
    text: str
    remedy: str
    minutes: float
    cost: float
    buy: str


@dataclass(frozen=True)
class GainPoint:
    """Air gained at a speed, in percent, between two bounds; None where the loss model can't tell."""

    rpm: int
    low_percent: float | None
    high_percent: float | None


@dataclass(frozen=True)
class Candidate:
    """A part for the place. Gains are bounds over the band; `score` is empty where something hard stands against it;
    `suits` tells how far it can be signed for, `there_now` that it is what is fitted now; `unchecked` what nobody
    stated, what could rule it out first. `at_hand` lie here that nobody has spoken for;
    price, mass and work are of all `pieces` that the place takes; `low_opening` is what a
    throttle passes hardly open; `favours` is the span of speeds that its runners are tuned for, and `tuned` where that
    lies to the band."""

    part_id: UUID
    state_id: UUID
    name: str
    maker: str | None
    bore: units.Shown | None
    advertised_bore: units.Shown | None
    flow: units.Shown | None
    flow_grade: Grade | None
    conflicts: list[ConflictView]
    hard: bool
    gain_low_percent: float | None
    gain_high_percent: float | None
    curve: list[GainPoint]
    price: float | None
    lead_days: int | None
    at_hand: int
    pieces: int
    mass_kg: float | None
    work_minutes: float
    cost: float | None
    over_budget: bool
    cost_per_percent: float | None
    score_percent: float | None
    score_parts: dict[str, float]
    pareto: bool
    suits: Suits
    there_now: bool
    unchecked: list[str]
    could_rule_out: int
    favours: str
    tuned: str
    low_opening: str
    claims: list[Claim]


@dataclass(frozen=True)
class Scored:
    """Score [0..1] of each candidate that nothing hard stands against, what each criterion gives to it, and the marks
    of those that no other beats."""

    total: np.ndarray[Any, Any]
    parts: np.ndarray[Any, Any]
    pareto: np.ndarray[Any, Any]


def scored(pool: Pool, weights: dict[str, float]) -> Scored:
    """The candidates under these weights."""
    here = {name: weights.get(name, 0.0) for name in pool.criteria}
    if any(weights.values()) and not any(here.values()):  # all that was weighed is no criterion at this place
        here = {name: USUAL_WEIGHTS[name] for name in pool.criteria}
    given = np.array([here.get(name, 0.0) for name in CRITERIA_NAMES])
    found = score(pool.alternatives, tuple(CRITERIA.values()), given)
    return Scored(found.total[:-1], found.parts[:-1], pool.pareto(tuple((given > 0).tolist())))


def candidate(pool: Pool, scores: Scored, index: int, preset: units.Preset) -> Candidate:
    """One candidate as it is shown."""
    held = pool.held[index]
    facts, minutes, favours = held.facts, held.minutes, held.favours
    part = facts.part
    among = np.flatnonzero(pool.open_places == index)
    at = int(among[0]) if len(among) else None
    passage = main_passage(facts, main_element(part.kind))
    price = held.price
    cost = None if price is None else price + minutes / 60 * pool.settings.hourly_rate
    low, high = _percent(pool.low[index]), _percent(pool.high[index])
    stated = facts.advertised.bore_mm
    bore = passage.bore_in if passage and passage.grade is not Grade.RULE else None
    return Candidate(
        part_id=part.id,
        state_id=facts.state.id,
        name=part.name,
        maker=part.maker,
        bore=units.show(bore, "length", preset) if bore else None,
        advertised_bore=units.show(stated / 1000, "length", preset) if stated else None,
        flow=shown_flow(passage, preset),
        flow_grade=passage.grade if passage and passage.area is not None else None,
        conflicts=[conflict_view(one, pool.settings.hourly_rate) for one in held.against],
        hard=held.hard,
        gain_low_percent=low,
        gain_high_percent=high,
        curve=[
            GainPoint(rpm, _percent(pool.curve_low[index, n]), _percent(pool.curve_high[index, n]))
            for n, rpm in enumerate(pool.speeds)
        ],
        price=price,
        lead_days=held.lead_days,
        at_hand=0 if held.there_now else held.at_hand,
        pieces=held.pieces,
        mass_kg=held.mass,
        work_minutes=minutes,
        cost=cost,
        over_budget=pool.budget is not None and cost is not None and cost > pool.budget,
        cost_per_percent=_cost_per_percent(price, minutes, pool.settings.hourly_rate, low, high),
        score_percent=None if at is None else round(100 * float(scores.total[at]), 1),
        score_parts={} if at is None else _named_parts(scores, at),
        pareto=at is not None and bool(scores.pareto[at]),
        suits=pool.suits[index],
        there_now=held.there_now,
        unchecked=[one.what for one in held.unchecked],
        could_rule_out=sum(one.decides for one in held.unchecked),
        favours=favoured(favours),
        tuned=against_band(favours, *band_of(pool.path)) if favours else "",
        low_opening=low_opening_words(pool, index, preset),
        claims=[read(Claim, claim) for claim in part.claims],
    )


def favoured(favours: Favoured | None) -> str:
    """The speeds that runners are tuned for, in words; nothing where they are not known."""
    return f"{units.to_fifty(favours.low_rpm)} to {units.to_fifty(favours.high_rpm)} rpm" if favours else ""


def _named_parts(scores: Scored, at: int) -> dict[str, float]:
    return {name: round(100 * float(scores.parts[at, n]), 1) for n, name in enumerate(CRITERIA_NAMES)}


def _cost_per_percent(
    price: float | None, minutes: float, rate: float, low: float | None, high: float | None
) -> float | None:
    if price is None or low is None or high is None or low <= 0:
        return None
    return cost_per_gain(price, minutes, rate, (low + high) / 2)


def conflict_view(one: Conflict, hourly_rate: float) -> ConflictView:
    """A conflict with what its remedy costs."""
    minutes = one.remedy.minutes
    cost = round(minutes / 60 * hourly_rate)
    return ConflictView(one.code, one.severity, one.text, one.remedy.words, minutes, cost, one.remedy.buy)


def shown_flow(passage: Passage | None, preset: units.Preset) -> units.Shown | None:
    """What a passage passes at the reference depression."""
    if passage is None or passage.area is None or not np.isfinite(passage.area):
        return None
    decimals = 1 if passage.grade is Grade.MEASURED else 0
    return units.show(volume_flow_of(passage.area, REFERENCE_DEPRESSION), "flow", preset, decimals)


def _percent(fraction: float) -> float | None:
    return 100 * float(fraction) if np.isfinite(fraction) else None
