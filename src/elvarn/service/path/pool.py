"""Everything about the candidates for a place of an air path that does not hang on the weights."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.errors import NotEnoughData
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.path.choice import CRITERIA, unbeaten
from elvarn.core.path.conflicts import Conflict, Severity, conflicts
from elvarn.core.path.engine_losses import Draw
from elvarn.core.path.passage import Passage
from elvarn.core.path.pinch import pinch_before_runners
from elvarn.core.path.substitutes import Substitutes, gains_of
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.once import let_go
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.engine import mass_flow
from elvarn.service.record.job import load_job
from elvarn.service.record.on_shelf import on_shelf
from elvarn.service.record.part import PartFacts, main_element
from elvarn.service.record.places import PlaceInPath, features_of, kinds_in, place_in, surroundings_of
from elvarn.service.record.solved import Ask, SolvedPath, boost_factor, solved_path
from elvarn.service.shop.settings import PathSettings, path_settings

CURVE_POINTS = 9
NOTHING_GAINED = 0.0005  # of the air
CRITERIA_NAMES = tuple(CRITERIA)


@dataclass(frozen=True)
class Pool:
    """Everything about the candidates that does not hang on the weights."""

    path: SolvedPath
    place: PlaceInPath
    settings: PathSettings
    settings_version: int
    budget: float | None
    facts: list[PartFacts]
    against: list[tuple[Conflict, ...]]
    low: np.ndarray[Any, Any]
    high: np.ndarray[Any, Any]
    curve_low: np.ndarray[Any, Any]
    curve_high: np.ndarray[Any, Any]
    speeds: list[int]
    values: np.ndarray[Any, Any]
    open_places: np.ndarray[Any, Any]
    idle: np.ndarray[Any, Any]
    _marks: dict[tuple[bool, ...], np.ndarray[Any, Any]] = field(default_factory=dict, init=False)

    @cached_property
    def alternatives(self) -> np.ndarray[Any, Any]:
        """What is scored, to leave all as it is among them, as the last: it gains and costs nothing."""
        return np.vstack((self.values, _left_alone(self.values)))

    def pareto(self, counted: tuple[bool, ...]) -> np.ndarray[Any, Any]:
        """Marks of those that no other beats in the criteria that count; what gains nothing has none."""
        if counted not in self._marks:
            found = unbeaten(self.alternatives, tuple(CRITERIA.values()), np.array(counted))
            self._marks[counted] = found[:-1] & ~self.idle
        return self._marks[counted]

    @cached_property
    def part_ids(self) -> list[UUID]:
        return [one.part.id for one in self.facts]


def make_pool(session: Session, curves: CurveShelf, job_id: UUID, kind: str | None, build_id: UUID | None) -> Pool:
    """The candidates for a place; without a kind, for the place that costs most in front of the manifold. To be kept:
    the session lets go of its rows."""
    record = load_job(session, job_id)
    build = next((b for b in record.builds if b.id == build_id), record.latest_build)
    if build is None:
        raise Invalid("The job has no air path yet. Take its part in first.", path="build")
    path = solved_path(session, curves, record, build, Ask(), changed=False)
    place = place_in(path, kind or _worst(path))
    view = path_settings(session)
    facts = on_shelf(session, place.kind)
    around = surroundings_of(record)
    against = [conflicts(features_of(one), place.neighbours, around) for one in facts]
    speeds = _speeds(path)
    low, high = _gains(path, place, facts, speeds)
    inside = [_inside(path, speed) for speed in speeds]
    values, open_places = _values(facts, against, _mean(low, inside), _mean(high, inside))
    idle = np.nan_to_num(_mean(high, inside)[open_places], nan=1.0) < NOTHING_GAINED
    let_go(session)
    return Pool(
        path, place, view.settings, view.version, record.job.budget, facts, against,
        _mean(low, inside), _mean(high, inside), low, high, speeds, values, open_places, idle,
    )  # fmt: skip


def _worst(path: SolvedPath) -> str:
    """The kind of part that costs most in front of the manifold: the first to look at."""
    worst = pinch_before_runners(path.losses) if path.losses else None
    kind = worst.row.kind if worst else "throttle"
    known = kinds_in(path)
    return kind if kind in known else known[0] if known else "manifold"


def _gains(
    path: SolvedPath, place: PlaceInPath, facts: Sequence[PartFacts], speeds: Sequence[int]
) -> tuple[np.ndarray[Any, Any], np.ndarray[Any, Any]]:
    """Bounds of the air gained, shape (candidates, speeds), NaN where it can't be told."""
    nothing = np.full((len(facts), len(speeds)), np.nan)
    if path.engine is None or path.filling is None or not facts:
        return nothing, nothing
    given = _substitutes(path, place, facts)
    filling, engine = path.filling, path.engine
    draws = [Draw(mass_flow(engine, filling, speed), STANDARD_AIR, engine.strokes) for speed in speeds]
    try:
        found = gains_of(path.routes, path.passages, given, draws)
    except NotEnoughData:
        return nothing, nothing
    return np.column_stack([one.low for one in found]), np.column_stack([one.high for one in found])


def _substitutes(path: SolvedPath, place: PlaceInPath, facts: Sequence[PartFacts]) -> Substitutes:
    kind = main_element(place.kind)
    factor = boost_factor(path.engine, kind)
    passages = [main_passage(one, kind) for one in facts]

    def column(name: str, times: float = 1.0) -> np.ndarray[Any, Any]:
        values = [getattr(passage, name) if passage else None for passage in passages]
        return np.array([np.nan if value is None else value * times for value in values])

    return Substitutes(place.places, column("area", factor), column("bore_in"), column("bore_out"))


def main_passage(facts: PartFacts, kind: str) -> Passage | None:
    """A part's passage; of a manifold the first runner that is known."""
    if kind != main_element("manifold"):
        return facts.passage(kind)
    numbers = [d.cylinder for d in facts.dimensions] + [r.cylinder for r in facts.flows]
    cylinders = sorted({number for number in numbers if number is not None})
    known = (facts.passage(kind, cylinder) for cylinder in cylinders)
    return next((passage for passage in known if passage is not None), facts.passage(kind))


def _values(
    facts: Sequence[PartFacts],
    against: Sequence[tuple[Conflict, ...]],
    low: np.ndarray[Any, Any],
    high: np.ndarray[Any, Any],
) -> tuple[np.ndarray[Any, Any], np.ndarray[Any, Any]]:
    """What is scored of the candidates that nothing hard stands against, and their places among all."""
    open_places = np.array([n for n, found in enumerate(against) if not is_hard(found)], dtype=int)

    def figure(value: float | None) -> float:
        return np.nan if value is None else float(value)

    rows = [
        (
            100 * (low[n] + high[n]) / 2,
            figure(facts[n].part.price),
            figure(facts[n].part.lead_days),
            figure(facts[n].part.mass_kg),
            minutes_of(against[n]),
        )
        for n in open_places
    ]
    return np.array(rows, dtype=float).reshape(len(rows), len(CRITERIA)), open_places


def _left_alone(values: np.ndarray[Any, Any]) -> np.ndarray[Any, Any]:
    """The row of leaving all as it is: nothing gained, paid, waited or worked; no heavier than the lightest."""
    masses = values[:, CRITERIA_NAMES.index("mass")]
    known = masses[np.isfinite(masses)]
    lightest = float(known.min()) if len(known) else np.nan
    return np.array([lightest if name == "mass" else 0.0 for name in CRITERIA_NAMES])


def is_hard(found: Sequence[Conflict]) -> bool:
    return any(one.severity is Severity.HARD for one in found)


def minutes_of(found: Sequence[Conflict]) -> float:
    return sum(one.remedy.minutes for one in found if one.severity is not Severity.INFORMATION)


def band_of(path: SolvedPath) -> tuple[int, int]:
    """The band that matters: the job's, else the upper part of the engine's range."""
    job = path.record.job
    if job.band_low_rpm and job.band_high_rpm:
        return job.band_low_rpm, job.band_high_rpm
    limit = path.engine.limit_rpm if path.engine else 6500
    return round(limit * 0.6 / 100) * 100, limit


def _inside(path: SolvedPath, speed: int) -> bool:
    low, high = band_of(path)
    return low <= speed <= high


def _speeds(path: SolvedPath) -> list[int]:
    """Speeds of the curves: across the range, the band's ends among them."""
    low, high = band_of(path)
    top = max(high, path.engine.limit_rpm if path.engine else high)
    return sorted({*np.linspace(1500, top, CURVE_POINTS - 2).astype(int).tolist(), low, high})


def _mean(gains: np.ndarray[Any, Any], inside: Sequence[bool]) -> np.ndarray[Any, Any]:
    return np.asarray(gains[:, np.array(inside)].mean(axis=1))
