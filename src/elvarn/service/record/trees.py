"""Trees of the core kept as nodes of a build, and back."""

from collections.abc import Callable, Iterable
from uuid import UUID, uuid5

from elvarn.core.path.tree import Branches, Element, ElementKind, Node, Series, check_tree, elements
from elvarn.store.models import Build, BuildNode, PartState

StateOf = Callable[[Element], UUID | None]


def nodes_of(tree: Node, build_id: UUID, cylinder_count: int, state_of: StateOf) -> list[BuildNode]:
    """A checked tree as nodes. Their ids follow from the build's, so that a repeated request makes the same ones."""
    check_tree(tree, cylinder_count)
    made: list[BuildNode] = []

    def keep(node: Node, place: str, parent: BuildNode | None, position: int) -> None:
        row = BuildNode(
            id=uuid5(build_id, place),
            build_id=build_id,
            parent_id=parent.id if parent else None,
            parent_type=parent.node_type if parent else None,
            position=position,
            node_type=_type_of(node),
            label="",
        )
        made.append(row)
        if isinstance(node, Element):
            row.element_kind, row.label = node.kind.value, node.label
            row.cylinder, row.bank, row.part_state_id = node.cylinder, node.bank, state_of(node)
        else:
            for index, child in enumerate(node.nodes):
                keep(child, f"{place}.{index}", row, index)

    keep(tree, "0", None, 0)
    return made


def tree_of(build: Build) -> tuple[Node, dict[int, BuildNode]]:
    """The tree of a build, and the node of each element by the element's identity."""
    children: dict[UUID | None, list[BuildNode]] = {}
    for row in sorted(build.nodes, key=lambda row: row.position):
        children.setdefault(row.parent_id, []).append(row)
    nodes: dict[int, BuildNode] = {}

    def read(row: BuildNode) -> Node:
        if row.node_type == "element":
            element = Element(ElementKind(row.element_kind or ""), row.label, row.cylinder, row.bank)
            nodes[id(element)] = row
            return element
        inner = tuple(read(child) for child in children.get(row.id, []))
        return Series(inner) if row.node_type == "series" else Branches(inner)

    return read(children[None][0]), nodes


def with_state(build: Build, new_id: UUID, state: PartState) -> list[BuildNode]:
    """The nodes of a build again, for another build in which a part stands at another state."""
    tree, nodes = tree_of(build)

    def state_of(element: Element) -> UUID | None:
        kept = nodes[id(element)].part_state
        return state.id if kept is not None and kept.part_id == state.part_id else (kept.id if kept else None)

    return nodes_of(tree, new_id, build.cylinder_count, state_of)


def runner_states(builds: Iterable[Build]) -> list[tuple[Build, UUID]]:
    """Each build with the state of the part that its runners belong to."""
    found = []
    for build in builds:
        for row in build.nodes:
            if row.element_kind == ElementKind.RUNNER and row.part_state_id is not None:
                found.append((build, row.part_state_id))
                break
    return found


def _type_of(node: Node) -> str:
    if isinstance(node, Element):
        return "element"
    return "series" if isinstance(node, Series) else "branches"


def in_order(tree: Node, rows: dict[int, BuildNode]) -> list[BuildNode]:
    return [rows[id(element)] for element in elements(tree)]
