"""The unrolled manifold: what was measured at each station of each runner, as it counts now."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.arrays import Array
from elvarn.core.bench.gain import smallest_gain_shown
from elvarn.core.bench.pairs import alike_with_last
from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.errors import CoreError
from elvarn.core.port.level import Gauged
from elvarn.core.port.next_cut import NextCut, RunnerNow, Station, next_cut
from elvarn.core.port.section import Section, equal_diameter
from elvarn.core.port.target import target_areas
from elvarn.core.port.wall import Place
from elvarn.core.port.worth import BELL, Record
from elvarn.service.port.plans import PlanFacts, plan_facts, runner_length
from elvarn.service.port.proof import record_of_casting
from elvarn.service.port.typed import section_of
from elvarn.service.record.job import JobRecord
from elvarn.service.record.refits import sides_of
from elvarn.service.record.trust import learned_of, trust_of
from elvarn.store import queries
from elvarn.store.models import AnySection, FlowReading, Part, PartState, WallReading

SAME_PLACE = 0.0005  # m
THINNEST = 0.0001  # m: of a wall that is reckoned to be gone


@dataclass(frozen=True)
class WallNow:
    """A wall as it counts: as gauged, or where metal came off since, at least what can be left of it."""

    reading: WallReading
    thickness: float
    reckoned: bool


@dataclass(frozen=True)
class CellFacts:
    """What was measured at a station of a runner: its sections in order, its walls as they count now and as they were
    gauged over time."""

    cylinder: int
    place: float
    sections: Sequence[AnySection]
    walls: Sequence[WallNow]
    history: Sequence[WallReading]

    @property
    def before(self) -> Section | None:
        return _section(self.sections[0]) if self.sections else None

    @property
    def now(self) -> Section | None:
        return _section(self.sections[-1]) if self.sections else None

    @property
    def last(self) -> AnySection | None:
        return self.sections[-1] if self.sections else None

    @property
    def gauged(self) -> tuple[Gauged, ...]:
        return tuple(Gauged(w.reading.hour, w.thickness, Place(w.reading.holds)) for w in self.walls)


@dataclass(frozen=True)
class Grid:
    """All of it: the plan, the cells by runner and station, what each is to have [m²], and where to cut next. `why`
    says what the law of the areas lacks; `shop_temperature` [K] is what was last noted at the bench."""

    record: JobRecord
    state: PartState
    plan: PlanFacts
    cells: tuple[tuple[CellFacts, ...], ...]
    wanted: Array
    why: CoreError | None
    flows: tuple[float | None, ...]
    showable: float | None
    proof: Record
    shop_temperature: float | None

    @cached_property
    def next(self) -> NextCut:
        return next_cut(self._runners(), self.proof, self.showable)

    def dimension(self, quantity: str, cylinder: int) -> float | None:
        """What was measured of a runner as it is now, in SI; where a cut left it alone, before that."""
        facts = self.record.facts.get(self.state.id)
        return facts.dimension("runner", quantity, cylinder) if facts else None

    def _runners(self) -> list[RunnerNow]:
        length = max(runner_length(self.record, self.state), self.plan.stations[-1] if self.plan.stations else 0.0)
        least = self.plan.least_wall
        found = []
        for row, targets, flow in zip(self.cells, self.wanted, self.flows, strict=True):
            stations = tuple(
                Station(
                    cell.place,
                    cell.now.area if cell.now else None,
                    float(target) if target > 0 else None,
                    tuple(Gauged(w.hour, w.thickness, w.place, least) for w in cell.gauged),
                    self.plan.bar(cell.cylinder, cell.place, length),
                )
                for cell, target in zip(row, targets, strict=True)
            )
            found.append(RunnerNow(row[0].cylinder, stations, flow, self._entry(row)))
        return found

    def _entry(self, row: Sequence[CellFacts]) -> float:
        """Radius over bore of a runner's entry, where it was measured; else as with a radius on it."""
        radius = self.dimension("entry_radius", row[0].cylinder)
        first = row[0].now
        return radius / equal_diameter(first.area) if radius and first else BELL


def grid_of(session: Session, record: JobRecord) -> Grid | None:
    """The grid of the part whose runners a job is about, None where there is none."""
    first = record.before_state
    if first is None or not record.cylinder_count:
        return None
    state = max(first.part.states, key=lambda one: one.sequence)
    ids = [one.id for one in first.part.states]
    order = {one.id: one.sequence for one in first.part.states}
    sections = sorted(queries.sections_of(session, ids), key=lambda r: (order[r.part_state_id], r.taken_at))
    walls = sorted(queries.walls_of(session, ids), key=lambda r: (order[r.part_state_id], r.taken_at))
    plan = plan_facts(session, record, state, [*sections, *walls])
    cells = tuple(
        tuple(_cell(number, place, sections, walls) for place in plan.stations)
        for number in range(1, record.cylinder_count + 1)
    )
    readings = _read_last(record, first.part)
    flows = _flows(record, readings)
    wanted, why = _wanted(record, plan, cells, flows)
    showable = _showable(session, readings, flows)
    proof = record_of_casting(session, first.part)
    return Grid(record, state, plan, cells, wanted, why, flows, showable, proof, _shop_temperature(record))


def areas_of(cells: Sequence[Sequence[CellFacts]]) -> Array:
    """Areas as they are now [m²], NaN where nothing was measured."""
    return np.array([[cell.now.area if cell.now else np.nan for cell in row] for row in cells])


def _cell(number: int, place: float, sections: Sequence[AnySection], walls: Sequence[WallReading]) -> CellFacts:
    own = [row for row in sections if row.cylinder == number and abs(row.place_m - place) < SAME_PLACE]
    history = [row for row in walls if row.cylinder == number and abs(row.place_m - place) < SAME_PLACE]
    by_hour = {row.hour: row for row in history}
    return CellFacts(number, place, own, [_wall_now(row, own) for _, row in sorted(by_hour.items())], history)


def _wall_now(row: WallReading, sections: Sequence[AnySection]) -> WallNow:
    """The wall as gauged; where the section grew since, as if all of that had come off this side."""
    then = [s for s in sections if s.taken_at <= row.taken_at] or list(sections[:1])
    since = [s for s in sections if s.taken_at > row.taken_at]
    if not then or not since:
        return WallNow(row, row.thickness_m, False)
    grown = equal_diameter(_section(since[-1]).area) - equal_diameter(_section(then[-1]).area)
    if grown <= 0:
        return WallNow(row, row.thickness_m, False)
    return WallNow(row, max(row.thickness_m - grown, THINNEST), True)


def _section(row: AnySection) -> Section:
    return section_of(row.shape, row.sizes)


def _read_last(record: JobRecord, part: Part) -> dict[int, list[FlowReading]]:
    """The readings of the latest state of which runners were read: a stage in work has none yet."""
    for state in sorted(part.states, key=lambda one: one.sequence, reverse=True):
        readings = {n: rows for n, rows in record.runner_readings(state).items() if rows}
        if readings:
            return readings
    return {}


def _flows(record: JobRecord, readings: dict[int, list[FlowReading]]) -> tuple[float | None, ...]:
    """What each runner flows, as it was read last [m³/s at the reference depression]."""
    [side] = sides_of(readings)
    return tuple(alike_with_last(side[n]) if side.get(n) else None for n in range(1, record.cylinder_count + 1))


def _wanted(
    record: JobRecord,
    plan: PlanFacts,
    cells: Sequence[Sequence[CellFacts]],
    flows: Sequence[float | None],
) -> tuple[Array, CoreError | None]:
    now = areas_of(cells)
    nothing = np.full(now.shape, np.nan)
    if not plan.stations or np.isnan(now).all():
        return nothing, None
    try:
        return target_areas(plan.target(record.job.engine), plan.stations, now, flows), None
    except CoreError as error:
        return nothing, error


def _showable(session: Session, readings: dict[int, list[FlowReading]], flows: Sequence[float | None]) -> float | None:
    read = [flow for flow in flows if flow is not None]
    return showable_of(session, [row for one in readings.values() for row in one], sum(read) / len(read) if read else 0)


def showable_of(session: Session, readings: Sequence[FlowReading], flow: float | None) -> float | None:
    """The least difference in a flow that the bench can show, read once before and once after in one session [m³/s]."""
    rows = sorted(readings, key=lambda row: row.taken_at)
    if not rows or flow is None:
        return None
    bench = rows[-1].setup.bench
    trust = trust_of(bench, learned_of(session, bench), rows, [])
    return smallest_gain_shown(trust.known, near=True) * flow


def _shop_temperature(record: JobRecord) -> float | None:
    """The air of the last set-up of which it was noted [K]."""
    noted = [r.setup.air_temperature_c for r in record.flows if r.setup.air_temperature_c is not None]
    return noted[-1] + ZERO_CELSIUS if noted else None
