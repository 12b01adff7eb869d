"""The sheet of outlines: what was traced, where it meets, and what stands in the stream."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.arrays import Array
from elvarn.core.port.meeting import NAMES, Of
from elvarn.core.port.section import hydraulic_diameter
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.port.drawn import drawn_mm, outline_in
from elvarn.service.port.grid import Grid, grid_of
from elvarn.service.port.meetings import Meeting, NoMeeting, meetings_of
from elvarn.service.port.outline_words import headline, hour_text, name_of, outline_margin, where
from elvarn.service.port.plans import USUAL_LENGTH
from elvarn.service.record.job import load_job
from elvarn.store import queries
from elvarn.store.models import OutlineReading

EXIT_WITHIN = 0.5  # of the runner's length: what is traced beyond is its exit


@dataclass(frozen=True)
class OutlineView:
    """An outline as it was traced [mm, y up, from its centre]; `within` is by how much its area may be off."""

    id: UUID
    of: str
    name: str
    cylinder: int | None
    place_mm: float | None
    area_mm2: float
    perimeter_mm: float
    hydraulic: units.Shown
    within: str
    points_mm: list[list[float]]
    marks_mm: list[list[float]]
    source: str
    digest: str | None
    flags: list[str]


@dataclass(frozen=True)
class PairView:
    """Which two outlines meet, of which runner."""

    title: str
    runner: int | None
    front: UUID
    behind: UUID
    front_name: str
    behind_name: str


@dataclass(frozen=True)
class MeetingView:
    """Two outlines that meet: the answer, its figures, and the edge behind round the clock [mm], above nought where it
    steps back; `behind_mm` is the one behind as it lies on the one in front. `why` says why they can't be laid."""

    pair: PairView
    lip: units.Shown | None
    told: bool
    centred: bool
    headline: str
    place: str
    hour: float | None
    lip_mm2: float
    larger: str
    target: str
    clock_mm: list[float]
    behind_mm: list[list[float]]
    why: str


@dataclass(frozen=True)
class OutlineSheet:
    """Outlines beside the part whose runners a job is about; `part_id` is None where it has none."""

    part_id: UUID | None
    part: str
    state_id: UUID | None
    state: str
    runners: int
    exit_mm: float
    kinds: dict[str, str]
    outlines: list[OutlineView]
    meetings: list[MeetingView]
    margin: list[Sentence]


def outline_sheet(session: Session, job_id: UUID, preset: units.Preset) -> OutlineSheet:
    """The outlines of a job's part over all its states, and what they say."""
    record = load_job(session, job_id)
    grid = grid_of(session, record)
    kinds = {of.value: NAMES[of] for of in Of}
    if grid is None:
        return OutlineSheet(None, "", None, "", 0, 0.0, kinds, [], [], [])
    rows = outlines_beside(session, grid)
    length = _length(grid)
    found = meetings_of(rows, record.cylinder_count, EXIT_WITHIN * length)
    return OutlineSheet(
        part_id=grid.state.part_id,
        part=grid.state.part.name,
        state_id=grid.state.id,
        state=grid.state.label,
        runners=record.cylinder_count,
        exit_mm=round(1000 * length, 1),
        kinds=kinds,
        outlines=[_view(row, preset) for row in rows],
        meetings=[_met(one, grid, preset) if isinstance(one, Meeting) else _unmet(one) for one in found],
        margin=outline_margin(found, rows, grid.state, preset),
    )


def _length(grid: Grid) -> float:
    """How far in a runner ends [m]: as its length was measured, else its last station."""
    measured = [grid.dimension("length", row[0].cylinder) for row in grid.cells]
    last = max(grid.plan.stations, default=0.0)
    return max((one for one in measured if one), default=last or USUAL_LENGTH)


def outlines_beside(session: Session, grid: Grid) -> list[OutlineReading]:
    """The outlines beside the grid's part, in the order of its states and of their tracing."""
    order = {one.id: one.sequence for one in grid.state.part.states}
    found = queries.outlines_of(session, list(order))
    return sorted(found, key=lambda row: (order[row.part_state_id], row.taken_at))


def wanted_of(grid: Grid, row: OutlineReading) -> float | None:
    """What the target asks of the place where an outline was traced [m²]."""
    if row.of != Of.RUNNER or row.cylinder is None or row.cylinder > len(grid.cells):
        return None
    for cell, wanted in zip(grid.cells[row.cylinder - 1], grid.wanted[row.cylinder - 1], strict=True):
        if abs(cell.place - row.place_m) < 0.0005 and wanted > 0:
            return float(wanted)
    return None


def _view(row: OutlineReading, preset: units.Preset) -> OutlineView:
    outline = outline_in(row)
    share = 100 * row.edge_m * row.perimeter_m / row.area_m2 if row.edge_m is not None else None
    return OutlineView(
        id=row.id,
        of=row.of,
        name=name_of(row),
        cylinder=row.cylinder,
        place_mm=round(1000 * row.place_m, 1) if row.of == Of.RUNNER else None,
        area_mm2=round(1e6 * row.area_m2, 1),
        perimeter_mm=round(1e3 * row.perimeter_m, 1),
        hydraulic=units.show(hydraulic_diameter(outline), "length", preset),
        within=f"±{share:.1f} %" if share is not None else "",
        points_mm=drawn_mm(outline),
        marks_mm=[[round(1000 * x, 3), round(1000 * y, 3)] for x, y in row.marks_m],
        source=row.source,
        digest=row.file_digest,
        flags=row.marks,
    )


def _met(one: Meeting, grid: Grid, preset: units.Preset) -> MeetingView:
    found, lip = one.found, one.found.lip if one.lip_told else None
    wanted = wanted_of(grid, one.front)
    larger = found.behind / found.front - 1
    return MeetingView(
        pair=_pair(one),
        lip=units.show(lip.depth, "length", preset) if lip else None,
        told=one.lip_told,
        centred=one.apart is None,
        headline=headline(one, preset),
        place=_place(one) if lip else "",
        hour=lip.hour if lip else None,
        lip_mm2=round(1e6 * found.in_stream, 1),
        larger=f"{abs(100 * larger):.1f} % {'larger' if larger >= 0 else 'smaller'}",
        target=f"{1e6 * wanted:.0f} mm²" if wanted else "",
        clock_mm=[round(1000 * out, 3) for out in _listed(found.clock)],
        behind_mm=drawn_mm(one.laid),
        why="",
    )


def _unmet(one: NoMeeting) -> MeetingView:
    return MeetingView(
        pair=_pair(one), lip=None, told=False, centred=False, headline="not laid", place="", hour=None, lip_mm2=0.0,
        larger="", target="", clock_mm=[], behind_mm=[], why=str(one.why),
    )  # fmt: skip


def _pair(one: Meeting | NoMeeting) -> PairView:
    front, behind = NAMES[Of(one.front.of)], NAMES[Of(one.behind.of)]
    whose = f", runner {one.runner}" if one.runner else ""
    title = f"{behind.capitalize()} behind {front}{whose}"
    return PairView(title, one.runner, one.front.id, one.behind.id, front, behind)


def _place(one: Meeting) -> str:
    lip = one.found.lip
    assert lip is not None
    if lip.all_round:
        return where(lip)
    return f"{where(lip)}, {hour_text(lip.first)} to {hour_text(lip.last)}"


def _listed(values: Array) -> Sequence[float]:
    return [float(one) for one in values]
