"""A place of an air path: which elements are exchanged together there, what stands in front of it and behind it."""

from dataclasses import dataclass, replace

from elvarn.core.path import features as core
from elvarn.core.path.features import PART_KINDS
from elvarn.core.path.tree import ElementKind
from elvarn.service.kernel.errors import Invalid
from elvarn.service.record.features import PartFeatures, SurroundingsSpec, core_features, core_surroundings, read
from elvarn.service.record.job import JobRecord
from elvarn.service.record.part import PartFacts
from elvarn.service.record.solved import SolvedPath
from elvarn.store.models import BuildNode


@dataclass(frozen=True)
class PlaceInPath:
    """`nodes` are exchanged together; the main elements among them, by place in the tree, decide what passes."""

    kind: str
    nodes: list[BuildNode]
    places: tuple[int, ...]
    now: PartFacts | None
    neighbours: core.Neighbours


def place_in(path: SolvedPath, kind: str) -> PlaceInPath:
    """The place of a kind of part in a path. Raises Invalid where the path has none."""
    wanted = (ElementKind.PLENUM, ElementKind.RUNNER) if kind == "manifold" else (kind,)
    nodes = [node for node in path.nodes if node.element_kind in wanted]
    main = ElementKind.RUNNER if kind == "manifold" else kind
    places = tuple(place for place, node in enumerate(path.nodes) if node.element_kind == main)
    if kind not in PART_KINDS or not places:
        raise Invalid(f"This air path has no {kind}. Choose a kind of part that is in it.", path="kind")
    return PlaceInPath(kind, nodes, places, path.known[places[0]], _neighbours(path, nodes))


def kinds_in(path: SolvedPath) -> list[str]:
    """Kinds of part that can be chosen for a path, in the order of the air."""
    found: dict[str, None] = {}
    for node in path.nodes:
        kind = node.element_kind or ""
        found["manifold" if kind in (ElementKind.PLENUM, ElementKind.RUNNER) else kind] = None
    return [kind for kind in found if kind in PART_KINDS]


def pieces_at(place: PlaceInPath, facts: PartFacts) -> int:
    """How many of a part a place takes: a throttle to each bank or cylinder is one each, unless one of it is a set."""
    if place.kind == "manifold":
        return 1
    return -(-len(place.places) // (facts.features.set_of or 1))


def features_of(facts: PartFacts) -> core.Features:
    """Stated features of a part; where a bore was measured, that counts."""
    kind = facts.part.kind
    if kind == "manifold":
        bore_in = facts.dimension(ElementKind.PLENUM, "opening")
        return core_features(facts.features, kind, bore_in, facts.dimension(ElementKind.RUNNER, "bore_out", 1))
    if kind == "filter":  # a box, not a bore: what it meets opens out of it
        return core_features(facts.features, kind)
    bore = facts.dimension(kind, "bore")
    out = facts.dimension(kind, "bore_out") or bore
    stated = facts.advertised.bore_mm
    usual = stated / 1000 if stated else None
    found = core_features(facts.features, kind, bore, out)
    return replace(
        found,
        inlet=found.inlet or (core.Joint(opening=usual) if usual else None),
        outlet=found.outlet or (core.Joint(opening=usual) if usual else None),
    )


def surroundings_of(record: JobRecord) -> core.Surroundings:
    """What the vehicle and the job ask of a part."""
    spec = read(SurroundingsSpec, record.job.surroundings)
    return core_surroundings(spec, record.job.engine, _stock_manifold(record), record.cylinder_count)


def _stock_manifold(record: JobRecord) -> PartFeatures | None:
    """What is stated of the manifold that the engine left the factory with."""
    nodes = record.stock_build.nodes if record.stock_build else ()
    states = (node.part_state_id for node in nodes if node.element_kind == ElementKind.RUNNER)
    known = (record.facts.get(state) for state in states if state is not None)
    return next((facts.features for facts in known if facts is not None), None)


def _neighbours(path: SolvedPath, nodes: list[BuildNode]) -> core.Neighbours:
    """The elements right in front of and right behind the place, on the first cylinder's way."""
    mine = {node.id for node in nodes}
    number = path.routes.cylinders[0]
    way = [place for stage in path.routes.stages[number] for place in stage.ducts[0]]
    inside = [index for index, place in enumerate(way) if path.nodes[place].id in mine]
    if not inside:
        return core.Neighbours()
    before = way[inside[0] - 1] if inside[0] > 0 else None
    behind = way[inside[-1] + 1] if inside[-1] + 1 < len(way) else None
    return core.Neighbours(
        _features(path, before),
        _features(path, behind),
        _named(path, before, "the part in front"),
        _named(path, behind, "the part behind"),
    )


def _features(path: SolvedPath, place: int | None) -> core.Features | None:
    facts = None if place is None else path.known[place]
    return features_of(facts) if facts else None


def _named(path: SolvedPath, place: int | None, otherwise: str) -> str:
    if place is None:
        return otherwise
    node = path.nodes[place]
    if node.element_kind in (ElementKind.PLENUM, ElementKind.RUNNER):
        return "the manifold"
    return f"the {node.label.lower()}"
