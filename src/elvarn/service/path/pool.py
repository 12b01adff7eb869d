"""Everything about the candidates for a place of an air path that does not hang on the weights."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property
from uuid import UUID

import numpy as np
from numpy.typing import NDArray
from sqlalchemy.orm import Session

from elvarn.core.arrays import Array
from elvarn.core.dyno.learned import learned_dyno, shown_by
from elvarn.core.engine.tuning import outside_band
from elvarn.core.errors import NotEnoughData
from elvarn.core.finding import Grade
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.path.choice import CRITERIA, Suits, suits, unbeaten
from elvarn.core.path.engine_losses import Draw
from elvarn.core.path.passage import Passage
from elvarn.core.path.pinch import pinch_before_runners
from elvarn.core.path.substitutes import Substitutes, gains_of
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.once import let_go
from elvarn.service.path.charging import denser_by
from elvarn.service.path.held import Held, as_had, held_against
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.engine import mass_flow
from elvarn.service.record.job import JobRecord, load_job
from elvarn.service.record.low_opening import LowOpening, low_openings
from elvarn.service.record.on_shelf import on_shelf
from elvarn.service.record.part import PartFacts, main_element
from elvarn.service.record.places import PlaceInPath, kinds_in, place_in
from elvarn.service.record.solved import Ask, SolvedPath, solved_path
from elvarn.service.record.stock import Stock, stocks_of
from elvarn.service.shop.settings import PathSettings, path_settings

CURVE_POINTS = 9
PULLS_EACH = 3  # of each of two designs: what a gain that is ranked first has to be shown by; choice, no source
CRITERIA_NAMES = tuple(CRITERIA)
SIGNED = (Suits.FITS,)  # what may stand on the short list


@dataclass(frozen=True)
class Pool:
    """Everything about the candidates that does not hang on the weights. `shown` is the least gain [-] that pulls would
    show; `criteria` are those that the kind of part has."""

    path: SolvedPath
    place: PlaceInPath
    settings: PathSettings
    settings_version: int
    budget: float | None
    held: list[Held]
    shown: float
    low: Array
    high: Array
    curve_low: Array
    curve_high: Array
    speeds: list[int]
    values: Array
    open_places: NDArray[np.intp]
    suits: list[Suits]
    low_openings: list[LowOpening | None]
    _marks: dict[tuple[bool, ...], NDArray[np.bool_]] = field(default_factory=dict, init=False)

    @property
    def criteria(self) -> tuple[str, ...]:
        """Criteria that count at this place: runners are tuned, nothing else is."""
        return tuple(name for name in CRITERIA if name != "tuning" or self.place.kind == "manifold")

    @cached_property
    def alternatives(self) -> Array:
        """What is scored, to leave all as it is among them, as the last: it gains and costs nothing."""
        return np.vstack((self.values, _left_alone(self.values)))

    @cached_property
    def order(self) -> NDArray[np.intp]:
        """How far each of those that are scored can be signed for, as a number: the best first."""
        return np.array([self.suits[place].place for place in self.open_places], dtype=np.intp)

    def pareto(self, counted: tuple[bool, ...]) -> NDArray[np.bool_]:
        """Marks of those that no other beats in the criteria that count, of those that can be signed for."""
        if counted not in self._marks:
            found = unbeaten(self.alternatives, tuple(CRITERIA.values()), np.array(counted))
            signed = np.array([self.suits[place] in SIGNED for place in self.open_places], dtype=bool)
            self._marks[counted] = found[:-1] & signed
        return self._marks[counted]

    @property
    def low_opening_now(self) -> LowOpening | None:
        """Hardly open, what is fitted now passes."""
        return next((self.low_openings[n] for n, one in enumerate(self.held) if one.there_now), None)

    @cached_property
    def by_part(self) -> dict[UUID, Held]:
        """The candidates by their part."""
        return {one.facts.part.id: one for one in self.held}

    @cached_property
    def part_ids(self) -> list[UUID]:
        return [one.facts.part.id for one in self.held]


def make_pool(
    session: Session, curves: CurveShelf, job_id: UUID, kind: str | None, build_id: UUID | None, today: date
) -> Pool:
    """The candidates for a place; without a kind, for the place that costs most in front of the manifold. To be kept:
    the session lets go of its rows."""
    record = load_job(session, job_id)
    build = next((b for b in record.builds if b.id == build_id), record.latest_build)
    if build is None:
        raise Invalid("The job has no air path yet. Take its part in first.", path="build")
    path = solved_path(session, curves, record, build, Ask(), changed=False)
    place = place_in(path, kind or _worst(path))
    view = path_settings(session)
    shelf = on_shelf(session, place.kind)
    stocks = stocks_of(session, [one.part for one in shelf])
    held = [as_had(one, stocks.get(one.facts.part.id, Stock()), today) for one in held_against(path, place, shelf)]
    facts = [one.facts for one in held]
    speeds = _speeds(path)
    curve_low, curve_high = _gains(path, place, facts, speeds)
    there = np.array([one.there_now for one in held], dtype=bool)
    known = path.engine is not None and path.filling is not None
    curve_low[there] = curve_high[there] = 0.0 if known else np.nan
    inside = [_inside(path, speed) for speed in speeds]
    low, high = _mean(curve_low, inside), _mean(curve_high, inside)
    shown = _shown(record) / 100
    values, open_places = _values(held, (low + high) / 2, band_of(path))
    suited = [
        Suits.FITTED_NOW if one.there_now else suits(low[n], high[n], shown, one.hard, one.checked)
        for n, one in enumerate(held)
    ]
    hardly_open = low_openings(session, facts)
    let_go(session)
    return Pool(
        path, place, view.settings, view.version, record.job.budget, held, shown, low, high, curve_low, curve_high,
        speeds, values, open_places, suited, hardly_open,
    )  # fmt: skip


def _shown(record: JobRecord) -> float:
    """The least gain [%] that pulls would show: on the job's dyno as far as it is stated, else on a usual one."""
    dyno = record.pulls[-1].card.dyno if record.pulls else None
    stated = (dyno.repeatability_percent, dyno.day_shift_percent) if dyno else (None, None)
    return shown_by(learned_dyno((), *stated), PULLS_EACH)


def _worst(path: SolvedPath) -> str:
    """The kind of part that costs most in front of the manifold: the first to look at."""
    worst = pinch_before_runners(path.losses) if path.losses else None
    kind = worst.row.kind if worst else "throttle"
    known = kinds_in(path)
    return kind if kind in known else known[0] if known else "manifold"


def _gains(
    path: SolvedPath, place: PlaceInPath, facts: Sequence[PartFacts], speeds: Sequence[int]
) -> tuple[Array, Array]:
    """Bounds of the air gained, shape (candidates, speeds), NaN where it can't be told."""
    nothing = np.full((len(facts), len(speeds)), np.nan)
    if path.engine is None or path.filling is None or not facts:
        return nothing, nothing
    given = substitutes(place, facts)
    filling, engine = path.filling, path.engine
    charge = path.draw.charge if path.draw else None
    draws = [Draw(mass_flow(engine, filling, speed, charge), STANDARD_AIR, engine.strokes, charge) for speed in speeds]
    try:
        found = gains_of(path.routes, path.passages, given, draws, denser_by(path, place, facts, draws))
    except NotEnoughData:
        return nothing, nothing
    return np.column_stack([one.low for one in found]), np.column_stack([one.high for one in found])


def substitutes(place: PlaceInPath, facts: Sequence[PartFacts]) -> Substitutes:
    """Parts as they would stand at a place."""
    kind = main_element(place.kind)
    passages = [main_passage(one, kind) for one in facts]

    def column(name: str) -> Array:
        values = [getattr(passage, name) if passage else None for passage in passages]
        return np.array([np.nan if value is None else value for value in values])

    areas = [column(name) for name in ("area", "low", "high")]
    estimated = np.array([passage is not None and passage.grade is not Grade.MEASURED for passage in passages])
    return Substitutes(place.places, areas[0], areas[1], areas[2], estimated, column("bore_in"), column("bore_out"))


def main_passage(facts: PartFacts, kind: str) -> Passage | None:
    """A part's passage; of a manifold the first runner that is known."""
    if kind != main_element("manifold"):
        return facts.passage(kind)
    numbers = [d.cylinder for d in facts.dimensions] + [r.cylinder for r in facts.flows]
    cylinders = sorted({number for number in numbers if number is not None})
    known = (facts.passage(kind, cylinder) for cylinder in cylinders)
    return next((passage for passage in known if passage is not None), facts.passage(kind))


def _values(held: Sequence[Held], gained: Array, band: tuple[int, int]) -> tuple[Array, NDArray[np.intp]]:
    """What is scored of the candidates that nothing hard stands against, and their places among all. What is fitted now
    costs nothing more."""
    open_places = np.array([n for n, one in enumerate(held) if not one.hard], dtype=np.intp)
    rows = [_row(held[n], gained[n], band) for n in open_places]
    return np.array(rows, dtype=float).reshape(len(rows), len(CRITERIA)), open_places


def _row(one: Held, gained: float, band: tuple[int, int]) -> list[float]:
    inside = None if one.favours is None else -outside_band(one.favours, *band)
    figures: dict[str, float | None] = {"gain": 100 * gained, "tuning": inside}
    figures |= {"price": one.price, "lead_time": one.lead_days, "mass": one.mass, "work": one.minutes}
    found = (figures[name] for name in CRITERIA)
    return [np.nan if figure is None else float(figure) for figure in found]


def _left_alone(values: Array) -> Array:
    """The row of leaving all as it is: nothing gained, paid, waited or worked; no heavier than the lightest."""
    masses = values[:, CRITERIA_NAMES.index("mass")]
    known = masses[np.isfinite(masses)]
    lightest = float(known.min()) if len(known) else np.nan
    return np.array([lightest if name == "mass" else 0.0 for name in CRITERIA_NAMES])


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


def _mean(gains: Array, inside: Sequence[bool]) -> Array:
    return np.asarray(gains[:, np.array(inside)].mean(axis=1))
