"""The port sheet: the manifold unrolled, what each station is to have, and where to take metal next."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.port.level import LevelCut
from elvarn.core.port.next_cut import Cell, Head, Rest
from elvarn.core.port.section import hydraulic_diameter
from elvarn.core.port.target import AreaLaw
from elvarn.core.port.wall import Material
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.job.photos import PhotoView, photos_of_runners
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.port.assembly import Piece, PieceView, pieces_of
from elvarn.service.port.drawn import drawn_mm, outline_in
from elvarn.service.port.grid import CellFacts, Grid, grid_of
from elvarn.service.port.passes import PassSheet, pass_sheet
from elvarn.service.port.plans import LawTakes, Zone
from elvarn.service.port.recipes import FINISHES, Recipe
from elvarn.service.port.shop_recipes import ShopRecipe, newer_words, shop_recipes
from elvarn.service.port.volumes import VolumeView, volumes_of
from elvarn.service.port.words import (
    BARS,
    NEARLY,
    clock_words,
    estimate_words,
    gain_text,
    half_text,
    margin,
    side_of_clock,
)
from elvarn.service.record.job import load_job
from elvarn.store.models import OutlineReading


@dataclass(frozen=True)
class WallView:
    """A wall at an hour of the clock; `reckoned` where metal came off after it was gauged."""

    id: UUID
    hour: float
    mm: units.Shown
    typed: str
    holds: str
    reckoned: bool
    marks: list[str]


@dataclass(frozen=True)
class CutView:
    """A cut at a station: how deep, where round the clock, what wall it leaves and what is in hand there; its depths in
    mm every half hour of the clock from 12 on."""

    depth: units.Shown
    hour: float
    first: float
    last: float
    side: str
    clock: str
    left: units.Shown
    in_hand: units.Shown
    depths_mm: list[float]
    walled: bool


@dataclass(frozen=True)
class PortCell:
    """A station of a runner: areas in mm² as first measured, now, and wanted; what is short; its outline in mm where
    it was traced; `stop` says why no metal may come off."""

    place_mm: float
    before_mm2: float | None
    now_mm2: float | None
    wanted_mm2: float | None
    short: str
    shape: str
    sizes_mm: list[float]
    outline_mm: list[list[float]]
    typed: str
    section_id: UUID | None
    old: bool
    marks: list[str]
    hydraulic: units.Shown | None
    velocity: str
    walls: list[WallView]
    thinnest: units.Shown | None
    stop: str
    cut: CutView | None


@dataclass(frozen=True)
class PortRunner:
    """A runner with its stations in order, what it flows, and what the rest of its work is worth."""

    number: int
    flow: units.Shown | None
    cells: list[PortCell]
    gain: str
    gain_half: str
    unseen: bool
    volume: VolumeView
    jet: bool


@dataclass(frozen=True)
class PortNext:
    """Where to go on: what the answer is, in which cell, and its figures as they are read at the bench."""

    head: Head
    title: str
    place: str
    clock: str
    runner: int | None
    station: int | None
    depth: units.Shown | None
    off: str
    stops: str
    gain: str
    estimate: str


@dataclass(frozen=True)
class PortPlanView:
    """The plan of the part, as it counts; the shop's recipes, and whether the one that it took has a newer version."""

    id: UUID | None
    version: int
    material: str
    material_stated: bool
    stations_mm: list[float]
    law: str
    takes: LawTakes
    reach_mm: float
    least_wall_mm: float | None
    zones: list[Zone]
    jet_runners: list[int]
    recipe: Recipe
    pieces: list[Piece]
    materials: list[str]
    laws: list[str]
    finishes: dict[str, str]
    recipes: list[ShopRecipe]
    newer: str


@dataclass(frozen=True)
class PortSheet:
    """Port work on the part whose runners a job is about; `part_id` is None where it has none."""

    part_id: UUID | None
    part: str
    state_id: UUID | None
    state: str
    in_work: bool
    plan: PortPlanView | None
    runners: list[PortRunner]
    pieces: list[PieceView]
    next: PortNext | None
    passes: PassSheet | None
    photos: list[PhotoView]
    margin: list[Sentence]
    cautions: list[str]


def port_sheet(session: Session, job_id: UUID, preset: units.Preset) -> PortSheet:
    """The port sheet of a job."""
    record = load_job(session, job_id)
    grid = grid_of(session, record)
    cautions = CAUTIONS["port"]
    if grid is None:
        return PortSheet(None, "", None, "", False, None, [], [], None, None, [], [], cautions)
    volumes = volumes_of(grid)
    return PortSheet(
        part_id=grid.state.part_id,
        part=grid.state.part.name,
        state_id=grid.state.id,
        state=grid.state.label,
        in_work=grid.state.in_work,
        plan=_plan_view(grid, shop_recipes(session)),
        runners=[_runner(grid, n, volumes[n], preset) for n in range(len(grid.cells))],
        pieces=pieces_of(grid.state.part, grid.plan.row.pieces if grid.plan.row else []),
        next=_next(grid, preset),
        passes=pass_sheet(session, record, grid.state, grid.plan),
        photos=photos_of_runners(session, job_id),
        margin=margin(grid, volumes, preset),
        cautions=cautions,
    )


def _plan_view(grid: Grid, recipes: list[ShopRecipe]) -> PortPlanView:
    plan = grid.plan
    return PortPlanView(
        id=plan.row.id if plan.row else None,
        version=plan.row.version if plan.row else 0,
        material=plan.material,
        material_stated=plan.material_stated,
        stations_mm=[round(1000 * place, 1) for place in plan.stations],
        law=plan.law,
        takes=plan.takes,
        reach_mm=round(1000 * plan.reach, 1),
        least_wall_mm=round(1000 * plan.least_wall, 2) if plan.least_wall else None,
        zones=list(plan.zones),
        jet_runners=list(plan.jet_runners),
        recipe=plan.recipe,
        pieces=[Piece(**one) for one in plan.row.pieces] if plan.row else [],
        materials=list(Material),
        laws=list(AreaLaw),
        finishes=FINISHES,
        recipes=recipes,
        newer=newer_words(plan.recipe, recipes),
    )


def _runner(grid: Grid, n: int, volume: VolumeView, preset: units.Preset) -> PortRunner:
    rest = grid.next.rests[n]
    flow = grid.flows[n]
    return PortRunner(
        number=rest.number,
        flow=units.show(flow, "flow", preset) if flow is not None else None,
        cells=[_cell(grid, facts, cell, flow, preset) for facts, cell in zip(grid.cells[n], rest.cells, strict=True)],
        gain=gain_text(rest, preset),
        gain_half=half_text(rest, preset),
        unseen=rest.unseen,
        volume=volume,
        jet=rest.number in grid.plan.jet_runners,
    )


def _cell(grid: Grid, facts: CellFacts, cell: Cell, flow: float | None, preset: units.Preset) -> PortCell:
    now, last = facts.now, facts.last
    wanted = cell.station.wanted
    thinnest = min((wall.thickness for wall in facts.walls), default=None)
    return PortCell(
        place_mm=round(1000 * facts.place, 1),
        before_mm2=_mm2(facts.before.area) if facts.before else None,
        now_mm2=_mm2(now.area) if now else None,
        wanted_mm2=_mm2(wanted) if wanted is not None else None,
        short=_short(now.area if now else None, wanted),
        shape=last.shape if last else "",
        sizes_mm=[1000 * size for size in last.sizes] if last and last.shape not in ("area", "traced") else [],
        outline_mm=drawn_mm(outline_in(last)) if isinstance(last, OutlineReading) else [],
        typed=last.typed if last else "",
        section_id=last.id if last else None,
        old=last is not None and last.part_state_id != grid.state.id,
        marks=last.marks if last else [],
        hydraulic=units.show(hydraulic_diameter(now), "length", preset) if now else None,
        velocity=f"{flow / now.area:.0f} m/s at {units.reference_depression(preset)}" if now and flow else "",
        walls=[
            WallView(
                wall.reading.id,
                wall.reading.hour,
                units.show(wall.thickness, "length", preset),
                wall.reading.typed,
                wall.reading.holds,
                wall.reckoned,
                wall.reading.marks,
            )
            for wall in facts.walls
        ],
        thinnest=units.show(thinnest, "length", preset) if thinnest is not None else None,
        stop=BARS[cell.station.bar] if cell.station.bar and cell.station.short > NEARLY else "",
        cut=_cut(cell.cut, cell.walled, preset) if cell.cut and cell.cut.depth else None,
    )


def _cut(cut: LevelCut, walled: bool, preset: units.Preset) -> CutView:
    return CutView(
        units.show(cut.depth, "length", preset),
        cut.hour,
        cut.first,
        cut.last,
        side_of_clock(cut),
        clock_words(cut),
        units.show(cut.left, "length", preset),
        units.show(max(cut.in_hand, 0.0), "length", preset),
        [round(1000 * depth, 3) for depth in cut.depths],
        walled,
    )


def _next(grid: Grid, preset: units.Preset) -> PortNext:
    found = grid.next
    if found.runner is None or found.station is None:
        return PortNext(found.head, "", "", "", None, None, None, "", "", "", "")
    rest = found.rests[found.runner - 1]
    cell = rest.cells[found.station]
    cut = cell.cut if found.head is Head.CUT else None
    place = f"{1000 * cell.station.place:.0f} mm in"
    facts = grid.cells[found.runner - 1][found.station]
    return PortNext(
        head=found.head,
        title=f"Runner {found.runner}",
        place=f"{place}, {side_of_clock(cut)}" if cut else place,
        clock=clock_words(cut) if cut else "",
        runner=found.runner,
        station=found.station,
        depth=units.show(cut.depth, "length", preset) if cut else None,
        off=_off(cut) if cut else "",
        stops=" · ".join(_stops(facts, cut, cell.walled, preset)) if cut else "",
        gain=_share(cell, rest, preset),
        estimate=estimate_words(grid),
    )


def _off(cut: LevelCut) -> str:
    return "all round" if cut.first == cut.last else f"off the {side_of_clock(cut)}"


def _stops(facts: CellFacts, cut: LevelCut, walled: bool, preset: units.Preset) -> list[str]:
    least = units.show(max(cut.left - cut.in_hand, 0.0), "length", preset)
    in_hand = units.show(max(cut.in_hand, 0.0), "length", preset)
    words = [f"wall {least.text} {least.unit}", f"{in_hand.text} {in_hand.unit} in hand"]
    if walled:
        words.append("the wall ends it short of the target")
    if any(wall.reckoned for wall in facts.walls):
        words.append("gauge the wall again first")
    return words


def _share(cell: Cell, rest: Rest, preset: units.Preset) -> str:
    """A cell's share of its runner's gain, with the same relative half-range."""
    half = abs(cell.share) * rest.half / rest.gain if rest.gain else 0.0
    if rest.flow_gain is None or not rest.gain:
        return f"{units.percent_text(cell.share)} ±{100 * half:.1f} %"
    flow = rest.flow_gain / rest.gain
    gain = units.show_difference(cell.share * flow, "flow", preset)
    return f"{gain.text} ±{units.show(half * flow, 'flow', preset).text} {gain.unit}"


def _short(now: float | None, wanted: float | None) -> str:
    if now is None or wanted is None:
        return ""
    missing = wanted - now
    return f"−{1e6 * missing:.0f}" if missing > NEARLY else "on"


def _mm2(area: float) -> float:
    return round(1e6 * area, 1)
