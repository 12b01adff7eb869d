"""The air path of a build as it is drawn: its tree with bores, lengths and what each element passes."""

from dataclasses import dataclass, field
from uuid import NAMESPACE_OID, UUID, uuid5

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.gas.discharge import isentropic_volume_flow, round_area
from elvarn.core.path.tree import Element, ElementKind, Node, Series
from elvarn.service.record.job import JobRecord
from elvarn.service.record.trees import tree_of
from elvarn.store.models import Build, BuildNode


@dataclass(frozen=True)
class PathElement:
    """An element as drawn. Dimensions are in mm and litres, empty where nobody measured them.

    `flow` is what was measured at the reference depression; `ceiling`, where nothing was, the most that its bore can
    pass: an estimate.
    """

    node_id: UUID
    kind: str
    label: str
    cylinder: int | None
    bank: int | None
    bore_mm: float | None
    bore_out_mm: float | None
    length_mm: float | None
    volume_l: float | None
    flow: units.Shown | None
    ceiling: units.Shown | None
    cut: bool
    part_id: UUID | None
    part_state_id: UUID | None


@dataclass(frozen=True)
class PathNode:
    """A node as drawn: an element, or a series or branches of nodes."""

    type: str
    element: PathElement | None = None
    nodes: list["PathNode"] = field(default_factory=list)


def air_path(record: JobRecord, build: Build, preset: units.Preset) -> PathNode:
    """The tree of a build with what is known of each element."""
    tree, rows = tree_of(build)

    def drawn(node: Node) -> PathNode:
        if isinstance(node, Element):
            return PathNode("element", _element(record, rows[id(node)], preset))
        kind = "series" if isinstance(node, Series) else "branches"
        return PathNode(kind, None, [drawn(child) for child in node.nodes])

    return drawn(tree)


def bare_path(tree: Node, place: str = "0") -> PathNode:
    """A tree of which nothing is known yet."""
    if isinstance(tree, Element):
        identifier = uuid5(NAMESPACE_OID, place)
        nothing = (None,) * 6
        return PathNode(
            "element",
            PathElement(
                identifier, tree.kind, tree.label, tree.cylinder, tree.bank, *nothing, cut=False, part_id=None,
                part_state_id=None,
            ),
        )  # fmt: skip
    kind = "series" if isinstance(tree, Series) else "branches"
    return PathNode(kind, None, [bare_path(child, f"{place}.{n}") for n, child in enumerate(tree.nodes)])


def smallest_area(record: JobRecord, node: BuildNode) -> float | None:
    """Area of the smallest measured section of an element, in m², or None where none was measured."""
    bores = [record.dimension(node, quantity) for quantity in ("bore", "bore_out")]
    measured = [bore for bore in bores if bore is not None]
    return round_area(min(measured)) if measured else None


def _element(record: JobRecord, row: BuildNode, preset: units.Preset) -> PathElement:
    flow = record.element_flow(row)
    area = smallest_area(record, row)
    ceiling = None
    if flow is None and area is not None and row.element_kind != ElementKind.PLENUM:
        ceiling = isentropic_volume_flow(area, REFERENCE_DEPRESSION, STANDARD_AIR)
    volume = record.dimension(row, "volume")
    return PathElement(
        node_id=row.id,
        kind=row.element_kind or "",
        label=row.label,
        cylinder=row.cylinder,
        bank=row.bank,
        bore_mm=_mm(record.dimension(row, "bore")),
        bore_out_mm=_mm(record.dimension(row, "bore_out")),
        length_mm=_mm(record.dimension(row, "length")),
        volume_l=None if volume is None else volume * 1000,
        flow=None if flow is None else units.show(flow, "flow", preset),
        ceiling=None if ceiling is None else units.show(ceiling, "flow", preset, 0),
        cut=row.part_state is not None and row.part_state.sequence > 1,
        part_id=row.part_state.part_id if row.part_state is not None else None,
        part_state_id=row.part_state_id,
    )


def _mm(metres: float | None) -> float | None:
    return None if metres is None else metres * 1000
