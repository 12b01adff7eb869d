"""The sheet of candidates for a place of a job's air path, and their order under other weights."""

from collections.abc import Hashable
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.path.choice import CRITERIA, USUAL_WEIGHTS
from elvarn.service.kernel.memo import Memo
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.path.candidate_words import candidates_margin
from elvarn.service.path.candidates import Candidate, candidate, scored, shown_flow
from elvarn.service.path.pool import CRITERIA_NAMES, Pool, band_of, make_pool
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.places import kinds_in
from elvarn.store.revision import whole_revision

MONEY = "money"
LABELS = {
    "gain": ("air gain", "%"),
    "tuning": ("tuned speed", "nearness to the band"),
    "price": ("price", MONEY),
    "work": ("fitting time", "min"),
    "lead_time": ("lead time", "days"),
    "mass": ("weight", "kg"),
}


@dataclass(frozen=True)
class CriterionView:
    """What candidates are weighed by: its name, how it is called, its unit, which way is better, and its weight."""

    name: str
    label: str
    unit: str
    more_is_better: bool
    weight: float


@dataclass(frozen=True)
class CandidateSheet:
    """The candidates for a place, by how far they can be signed for and by their score; `shown_percent` is the least
    gain in air that three pulls of each would show."""

    build_id: UUID
    build: str
    kind: str
    kinds: list[str]
    node_ids: list[UUID]
    now: str
    now_flow: units.Shown | None
    band: str
    band_low_rpm: int
    band_high_rpm: int
    rpm_low: int
    rpm_high: int
    candidates: list[Candidate]
    criteria: list[CriterionView]
    shown_percent: float
    settings_version: int
    currency: str
    budget: float | None
    margin: list[Sentence]


@dataclass(frozen=True)
class Rank:
    """Where one candidate stands under other weights."""

    part_id: UUID
    score_percent: float
    score_parts: dict[str, float]
    pareto: bool


def candidate_sheet(pool: Pool, preset: units.Preset) -> CandidateSheet:
    """The candidates for a place of a build, by the shop's weights."""
    weights = USUAL_WEIGHTS | pool.settings.weights
    scores = scored(pool, weights)
    rows = [candidate(pool, scores, index, preset) for index in range(len(pool.held))]
    rows.sort(key=lambda row: (row.suits.place, -(row.score_percent or 0.0), row.name))
    job, now = pool.path.record.job, pool.place.now
    band = band_of(pool.path)
    return CandidateSheet(
        build_id=pool.path.build.id,
        build=pool.path.build.name,
        kind=pool.place.kind,
        kinds=kinds_in(pool.path),
        node_ids=[node.id for node in pool.place.nodes],
        now=" ".join(word for word in (now.part.maker, now.part.name) if word) if now else "no part chosen",
        now_flow=shown_flow(pool.path.passages[pool.place.places[0]], preset),
        band=f"{band[0]} to {band[1]} rpm",
        band_low_rpm=band[0],
        band_high_rpm=band[1],
        rpm_low=pool.speeds[0],
        rpm_high=pool.speeds[-1],
        candidates=rows,
        criteria=[_criterion(name, weights[name], pool.settings.currency) for name in pool.criteria],
        shown_percent=round(100 * pool.shown, 2),
        settings_version=pool.settings_version,
        currency=pool.settings.currency,
        budget=job.budget,
        margin=candidates_margin(pool, rows),
    )


def _criterion(name: str, weight: float, currency: str) -> CriterionView:
    label, unit = LABELS[name]
    return CriterionView(name, label, currency if unit == MONEY else unit, CRITERIA[name], weight)


def standings(pool: Pool, weights: dict[str, float]) -> list[Rank]:
    """The same candidates under other weights, while they are being chosen: nothing is kept of it."""
    scores = scored(pool, weights)
    order = np.lexsort((-scores.total, pool.order))
    ids = [pool.part_ids[place] for place in pool.open_places[order].tolist()]
    totals, marks = np.round(100 * scores.total[order], 1).tolist(), scores.pareto[order].tolist()
    parts = [dict(zip(CRITERIA_NAMES, row, strict=True)) for row in np.round(100 * scores.parts[order], 1).tolist()]
    return list(map(Rank, ids, totals, parts, marks))


def kept_pool(
    session: Session,
    curves: CurveShelf,
    kept: Memo[Hashable, Any],
    job_id: UUID,
    kind: str | None,
    build_id: UUID | None,
    today: date,
) -> Pool:
    """The pool of candidates for a place, made once for the day and as long as everything stands as it is."""
    found: Pool = kept.get(
        ("candidates", job_id, kind, build_id, today, whole_revision(session)),
        lambda: make_pool(session, curves, job_id, kind, build_id, today),
    )
    return found
