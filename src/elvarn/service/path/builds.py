"""Builds given as a whole tree, and parts and dimensions that their elements rest on."""

from collections.abc import Callable
from dataclasses import dataclass, field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.path.tree import Branches, Element, ElementKind, Node, Series
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.record.trees import nodes_of
from elvarn.store import queries
from elvarn.store.models import Build, Job, PartState


@given
class NewNode:
    """A node of a tree: an element names its kind, a series or branches their nodes."""

    type: str
    kind: str | None = None
    label: str = ""
    cylinder: int | None = None
    bank: int | None = None
    part_state_id: UUID | None = None
    nodes: list["NewNode"] = field(default_factory=list)


@given
class NewBuild:
    person_id: UUID
    job_id: UUID
    name: str
    cylinder_count: int
    tree: NewNode
    is_stock: bool = False
    copied_from: UUID | None = None


@given
class Mounting:
    """A part state put at an element, on the version of the build that was seen."""

    version: int
    node_id: UUID
    part_state_id: UUID


def add_build(session: Session, identifier: UUID, new: NewBuild) -> Build:
    """A build given as a whole. Raises Inconsistent for a tree that does not feed each cylinder once."""
    find(session, Job, new.job_id, "job")
    states: dict[int, UUID | None] = {}
    tree = _tree(new.tree, states)
    made = Made(
        new.person_id,
        new.job_id,
        new.name,
        new.cylinder_count,
        tree,
        lambda element: states[id(element)],
        new.is_stock,
        _of_this_job(session, new),
    )
    return keep_build(session, identifier, new, made)


def _of_this_job(session: Session, new: NewBuild) -> UUID | None:
    """The build that it was copied from, where that is of this job and still there."""
    source = session.get(Build, new.copied_from) if new.copied_from else None
    return source.id if source is not None and source.job_id == new.job_id else None


@dataclass(frozen=True)
class Made:
    """A build as it was put together, with the part's state at each element."""

    person_id: UUID
    job_id: UUID
    name: str
    cylinder_count: int
    tree: Node
    state_of: Callable[[Element], UUID | None]
    is_stock: bool = False
    copied_from: UUID | None = None


def keep_build(session: Session, identifier: UUID, command: object, made: Made) -> Build:
    """Keep a build under the job's next number; `command` is the request that asked for it."""

    def make(digest: str) -> Build:
        return Build(
            id=identifier,
            content_digest=digest,
            person_id=made.person_id,
            job_id=made.job_id,
            name=made.name,
            is_stock=made.is_stock,
            sequence=queries.next_build_sequence(session, made.job_id),
            cylinder_count=made.cylinder_count,
            copied_from_id=made.copied_from,
            nodes=nodes_of(made.tree, identifier, made.cylinder_count, made.state_of),
        )

    return write_once(session, Build, identifier, command, make)


def mount_part(session: Session, build_id: UUID, mounting: Mounting) -> Build:
    """Put a part state at an element of a build. Raises Stale where the build was changed meanwhile."""
    build = find_for_edit(session, Build, build_id, "build")
    find(session, PartState, mounting.part_state_id, "part state")
    node = next((node for node in build.nodes if node.id == mounting.node_id and node.element_kind), None)
    if node is None:
        raise Invalid("That element is not in this build. Reload the air path.", path="node_id")
    edit(build, mounting.version, {}, "build")
    node.part_state_id = mounting.part_state_id
    session.flush()
    return build


def _tree(node: NewNode, states: dict[int, UUID | None]) -> Node:
    if node.type == "element":
        try:
            element = Element(ElementKind(node.kind or ""), node.label, node.cylinder, node.bank)
        except ValueError as error:
            raise Invalid(f"'{node.kind}' is no kind of element.", path="tree") from error
        states[id(element)] = node.part_state_id
        return element
    inner = tuple(_tree(child, states) for child in node.nodes)
    if node.type == "series":
        return Series(inner)
    if node.type == "branches":
        return Branches(inner)
    raise Invalid(f"'{node.type}' is no node: element, series or branches.", path="tree")
