"""The air path of a build as the core solves it, as it is or changed in thought."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from math import inf, isfinite
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.errors import NotEnoughData
from elvarn.core.finding import Grade
from elvarn.core.gas.air import STANDARD_AIR, density_ideal
from elvarn.core.path.charge import COOLING, EFFICIENCY, USUAL_COOLING, USUAL_EFFICIENCY, Charge, denser_air
from elvarn.core.path.compressor_map import CompressorMap, corrected_flow
from elvarn.core.path.engine_losses import Draw, EngineLosses, drops_to_plenum, engine_losses
from elvarn.core.path.passage import Geometry, Passage, estimated, with_bore
from elvarn.core.path.port_flow import PortFlow, port_flow
from elvarn.core.path.routes import Routes, routes
from elvarn.core.path.tree import ElementKind
from elvarn.given import given
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.engine import FULL, EngineFacts, Filling, engine_facts, filling_of, mass_flow
from elvarn.service.record.features import map_of
from elvarn.service.record.job import JobRecord
from elvarn.service.record.part import PartFacts, load_facts
from elvarn.service.record.trees import tree_of
from elvarn.service.shop.settings import PathSettings, path_settings
from elvarn.store.models import Build, BuildNode

LEAST_RPM = 1000
SPEED_STEP_RPM = 50
CHARGING = ("compressor", "cooler")
COMPRESSOR, COOLER = ElementKind.COMPRESSOR, ElementKind.COOLER
BEHIND_COMPRESSOR = (
    ElementKind.THROTTLE,
    ElementKind.ADAPTER,
    ElementKind.PLENUM,
    ElementKind.RUNNER,
    ElementKind.HEAD,
)


@given
class Change:
    """One what-if: another bore at a node, or another part at it."""

    node_id: UUID
    bore_mm: float | None = None
    part_state_id: UUID | None = None


@given
class Ask:
    """What is asked of a path: engine speed, or one port on the bench; and what is changed in thought."""

    rpm: float | None = None
    bench: bool = False
    cylinder: int = 1
    changes: list[Change] = field(default_factory=list)


@dataclass(frozen=True)
class SolvedPath:
    """A path with what is known of the part at each place, its passages, and what was solved of it. With changes in
    thought, the parts and passages are those thought of. `copied`: whose bore stands, by place, for that of a runner of
    which none was measured."""

    record: JobRecord
    build: Build
    routes: Routes
    nodes: list[BuildNode]
    known: list[PartFacts | None]
    passages: list[Passage | None]
    settings: PathSettings
    engine: EngineFacts | None
    filling: Filling | None
    rpm: int
    losses: EngineLosses | None
    cylinder: int
    changed: frozenset[int] = frozenset()
    copied: Mapping[int, int] = field(default_factory=dict)
    draw: Draw | None = None

    @cached_property
    def port(self) -> PortFlow | None:
        """What the bench draws through the port that was asked for, or the first; None where too little is known."""
        number = self.cylinder if self.cylinder in self.routes.stages else self.routes.cylinders[0]
        try:
            return port_flow(self.routes, self.passages, number, REFERENCE_DEPRESSION)
        except NotEnoughData:
            return None

    @property
    def ends_at(self) -> str:
        """What the drop is told up to: the plenum, or in a path without one what each cylinder has for itself."""
        if any(element.kind is ElementKind.PLENUM for element in self.routes.elements):
            return "the plenum"
        own = next((e.kind for e in self.routes.elements if e.cylinder is not None), ElementKind.RUNNER)
        return f"the {own.value}s"

    def dimension(self, place: int, quantity: str) -> float | None:
        """A dimension [SI] of the element at a place, of the part that stands there."""
        known, node = self.known[place], self.nodes[place]
        return known.dimension(node.element_kind or "", quantity, node.cylinder) if known else None


def solved_path(
    session: Session,
    curves: CurveShelf,
    record: JobRecord,
    build: Build,
    ask: Ask,
    *,
    changed: bool,
    ratio: float | None = None,
) -> SolvedPath:
    """Solve a build's path as it is, or with the changes asked for; a compressor makes the `ratio` that is given, else
    what holds the boost at the plenum."""
    tree, rows = tree_of(build)
    found = routes(tree)
    nodes = [rows[id(element)] for element in found.elements]
    settings = path_settings(session).settings
    changes = {change.node_id: change for change in ask.changes} if changed else {}
    facts = record.facts | load_facts(session, [c.part_state_id for c in changes.values() if c.part_state_id])
    known = [_known(node, facts, changes.get(node.id)) for node in nodes]
    places = frozenset(place for place, node in enumerate(nodes) if node.id in changes)
    passages = [_passage(*pair, changes.get(pair[0].id)) for pair in zip(nodes, known, strict=True)]
    passages, copied = _with_sisters(nodes, passages)
    engine = engine_facts(record.job.engine)
    filling, losses, rpm, draw = None, None, 0, None
    if engine is not None and engine.row.cylinder_count == build.cylinder_count:
        rpm = _speed(engine, record, ask.rpm)
        pulls = [*record.valid_pulls(record.stock_build), *record.valid_pulls(build)]
        charge = charge_of(found, known, engine, ratio)
        names = {b.id: b.name for b in record.builds}
        filling = filling_of(session, curves, engine, charge, pulls, settings.filling_percent, names)
        draw = Draw(mass_flow(engine, filling, rpm, charge), STANDARD_AIR, engine.strokes, charge)
        losses = engine_losses(found, passages, draw, settings.share_limit_percent / 100)
        mapped = mapped_efficiency(known, draw, losses.ratio)
        if charge is not None and mapped is not None:
            charge = replace(charge, efficiency=EFFICIENCY.nearest(mapped))
            draw = Draw(mass_flow(engine, filling, rpm, charge), STANDARD_AIR, engine.strokes, charge)
            losses = engine_losses(found, passages, draw, settings.share_limit_percent / 100)
    return SolvedPath(
        record, build, found, nodes, known, passages, settings, engine, filling, rpm, losses, ask.cylinder, places,
        copied, draw,
    )  # fmt: skip


def charge_of(
    found: Routes, known: Sequence[PartFacts | None], engine: EngineFacts, ratio: float | None = None
) -> Charge | None:
    """What compressor and cooler make of the air behind them; None without boost. As their parts state it, else as is
    usual; in a path without a compressor one is thought of in front of the throttle, with a cooler."""
    if not engine.boost:
        return None
    at = {kind: [n for n, one in enumerate(found.elements) if one.kind is kind] for kind in (COMPRESSOR, COOLER)}
    efficiency, cooling = (least_stated(known, name) for name in ("efficiency_percent", "cooling_percent"))
    if not at[COMPRESSOR]:
        behind = frozenset(n for n, one in enumerate(found.elements) if one.kind in BEHIND_COMPRESSOR)
        return Charge(engine.boost, behind, ratio=ratio)
    return Charge(
        engine.boost,
        frozenset(at[COMPRESSOR]),
        USUAL_EFFICIENCY if efficiency is None else EFFICIENCY.nearest(efficiency / 100),
        0.0 if not at[COOLER] else USUAL_COOLING if cooling is None else COOLING.nearest(cooling / 100),
        frozenset(at[COOLER]),
        ratio,
    )


def compressor_maps(known: Sequence[PartFacts | None]) -> list[CompressorMap]:
    """The maps of a path's compressors, one of each part."""
    points = {facts.part.id: facts.features.map_points for facts in known if facts and facts.part.kind == COMPRESSOR}
    return [map_of(of_part) for of_part in points.values() if of_part]


def mapped_efficiency(known: Sequence[PartFacts | None], draw: Draw, ratio: float) -> float | None:
    """Efficiency by the map at what the compressor does; None without one, or beside it. Several compressors share the
    air."""
    maps = compressor_maps(known)
    if not maps or draw.charge is None or not isfinite(ratio):
        return None
    count = sum(1 for facts in known if facts is not None and facts.part.kind == COMPRESSOR)
    flow = corrected_flow(draw.mass_flow, draw.weather) / max(1, count)
    found = [one.efficiency(flow, ratio) for one in maps]
    return None if None in found else min(one for one in found if one is not None)


def least_stated(known: Sequence[PartFacts | None], name: str) -> float | None:
    """A figure that is stated of compressor or cooler, the least where there are several; None where it isn't."""
    found = (getattr(facts.features, name) for facts in known if facts is not None and facts.part.kind in CHARGING)
    return min((value for value in found if value is not None), default=None)


def absolute_at_plenum(path: SolvedPath) -> float:
    """The pressure [Pa] that the drop up to the plenum is a part of: outside, with the boost above it."""
    return STANDARD_AIR.pressure + (path.engine.boost if path.engine else 0.0)


def losses_air(path: SolvedPath) -> float | None:
    """Air that the engine draws, as volume of outside air."""
    return None if path.draw is None else path.draw.mass_flow / density_ideal(STANDARD_AIR)


def drops_over_speed(path: SolvedPath) -> tuple[list[int], list[float | None]]:
    """Speeds in steps of 50 rpm, and the drop up to the plenum at each, in Pa; None where it can not pass the air."""
    if path.engine is None or path.filling is None or path.draw is None:
        return [], []
    speeds = np.arange(LEAST_RPM, highest_speed(path.engine, path.record) + 1, SPEED_STEP_RPM)
    at_full = mass_flow(path.engine, FULL, 1.0, path.draw.charge)
    flows = at_full * speeds * np.interp(speeds, path.filling.speed_rpm, path.filling.efficiency)
    drops = drops_to_plenum(path.routes, path.passages, flows, path.draw)
    return speeds.tolist(), [float(drop) if np.isfinite(drop) else None for drop in drops]


def air_gained(as_is: SolvedPath, thought: SolvedPath) -> tuple[float, float] | None:
    """Air gained by what is thought of, as fractions between two bounds: with each jet lost, and with the jets carried
    on, the compressor's ratio as it is, and the air as warm as compressor and cooler leave it; None where nothing is
    thought of or the loss model can't tell."""
    before, after = as_is.losses, thought.losses
    if before is None or after is None or before is after:
        return None
    pairs = ((before.end, after.end), (before.end_carried, after.end_carried))
    if not all(one > 0 and other > 0 for one, other in pairs):
        return None
    denser, draws = 1.0, (as_is.draw, thought.draw)
    if draws[0] and draws[1] and draws[0].charge and draws[1].charge:
        outside = draws[0].weather.temperature
        denser = float(denser_air(draws[0].charge, draws[1].charge, np.array([before.ratio]), outside)[0])
    low, high = sorted(denser * other / one - 1 for one, other in pairs)
    return low, high


def highest_speed(engine: EngineFacts | None, record: JobRecord) -> int:
    """The end of the speed slider."""
    band = record.job.band_high_rpm or 0
    return max(engine.limit_rpm if engine else 7000, band)


def _speed(engine: EngineFacts, record: JobRecord, asked: float | None) -> int:
    usual = record.job.band_high_rpm or round(engine.limit_rpm * 0.9)
    return round(min(max(asked or usual, LEAST_RPM), highest_speed(engine, record)))


def _known(node: BuildNode, facts: dict[UUID, PartFacts], change: Change | None) -> PartFacts | None:
    state = change.part_state_id if change and change.part_state_id else node.part_state_id
    return facts.get(state) if state else None


def _passage(node: BuildNode, known: PartFacts | None, change: Change | None) -> Passage | None:
    """What an element passes, with what is changed in thought."""
    kind = node.element_kind or ""
    passage = known.passage(kind, node.cylinder) if known else None
    if passage is None and known and node.cylinder is not None:
        passage = _of_any_runner(known, kind)
    if passage is None and kind in (ElementKind.PLENUM, ElementKind.COMPRESSOR):
        passage = Passage(inf, inf, inf, Grade.ESTIMATED)
    if change is None or change.bore_mm is None:
        return passage
    return _with_bore(passage, kind, change.bore_mm / 1000, known, node)


def _with_sisters(
    nodes: list[BuildNode], passages: list[Passage | None]
) -> tuple[list[Passage | None], dict[int, int]]:
    """Runners that were read but not measured have the bore of the first sister in the same part that was: a runner is
    seldom measured alone for its size, and all are widened together. By place, whose bore it is."""
    measured: dict[UUID, tuple[int, Passage]] = {}
    for node, passage in zip(nodes, passages, strict=True):
        if node.cylinder is not None and node.part_state_id is not None and passage and passage.bore_in:
            measured.setdefault(node.part_state_id, (node.cylinder, passage))
    found, copied = list(passages), {}
    for place, (node, passage) in enumerate(zip(nodes, passages, strict=True)):
        sister = measured.get(node.part_state_id) if node.part_state_id and node.cylinder is not None else None
        if passage is None or passage.bore_in or sister is None:
            continue
        number, like = sister
        found[place] = replace(passage, bore_in=like.bore_in, bore_out=passage.bore_out or like.bore_out)
        copied[place] = number
    return found, copied


def _of_any_runner(known: PartFacts, kind: str) -> Passage | None:
    """A manifold of which one runner was read or measured stands for the others, as an estimate."""
    cylinders = {d.cylinder for d in known.dimensions} | {r.cylinder for r in known.flows}
    found = [known.passage(kind, cylinder) for cylinder in sorted(n for n in cylinders if n is not None)]
    best = next((passage for passage in found if passage is not None), None)
    return replace(best, grade=Grade.ESTIMATED) if best else known.passage(kind)


def _with_bore(
    passage: Passage | None, kind: str, bore: float, known: PartFacts | None, node: BuildNode
) -> Passage | None:
    """The same element with another bore, by its own model."""
    if passage is None or not passage.bore_in or known is None:
        length = known.dimension(kind, "length", node.cylinder) if known else None
        return estimated(kind, Geometry(bore, None, length))
    before = known.geometry(kind, passage.bore_in, passage.bore_out, node.cylinder)
    return with_bore(kind, passage, before, bore)
