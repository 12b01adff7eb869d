"""Builds given as a whole tree, and parts and dimensions that their elements rest on."""

from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.path.plausible import Doubtful, doubt_dimension
from elvarn.core.path.tree import Branches, Element, ElementKind, Node, Series
from elvarn.service.errors import Invalid, Offer, Question
from elvarn.service.trees import nodes_of
from elvarn.service.writes import edit, find, find_for_edit, write_once
from elvarn.store import queries
from elvarn.store.models import Build, DimensionReading, Job, Part, PartPiece, PartState

UNLIKELY = "unlikely"
DIMENSION_QUANTITIES: dict[str, units.Quantity] = {
    "bore": "length",
    "bore_out": "length",
    "length": "length",
    "volume": "volume",
    "opening": "length",
    "entry_radius": "length",
    "shaft": "length",
}


@dataclass(frozen=True)
class NewNode:
    """A node of a tree: an element names its kind, a series or branches their nodes."""

    type: str
    kind: str | None = None
    label: str = ""
    cylinder: int | None = None
    bank: int | None = None
    part_state_id: UUID | None = None
    nodes: list["NewNode"] = field(default_factory=list)


@dataclass(frozen=True)
class NewBuild:
    person_id: UUID
    job_id: UUID
    name: str
    cylinder_count: int
    tree: NewNode
    is_stock: bool = False


@dataclass(frozen=True)
class Mounting:
    """A part state put at an element, on the version of the build that was seen."""

    version: int
    node_id: UUID
    part_state_id: UUID


@dataclass(frozen=True)
class NewPart:
    """A part with its first state; `piece_of` names the part that it is a piece of, and `role` which."""

    person_id: UUID
    job_id: UUID | None
    kind: str
    name: str
    state_id: UUID
    state_label: str = "as received"
    maker: str | None = None
    number: str | None = None
    material: str | None = None
    piece_of: UUID | None = None
    role: str = ""


@dataclass(frozen=True)
class NewDimension:
    """A measured dimension, as typed ("70 mm", "2 3/4 in", "3.1 L"). `accepted` are doubts under which it is kept."""

    person_id: UUID
    job_id: UUID | None
    part_state_id: UUID
    element_kind: str
    quantity: str
    typed: str
    taken_at: datetime
    cylinder: int | None = None
    accepted: list[str] = field(default_factory=list)


def add_build(session: Session, identifier: UUID, new: NewBuild) -> Build:
    """A build given as a whole. Raises Inconsistent for a tree that does not feed each cylinder once."""
    find(session, Job, new.job_id, "job")
    states: dict[int, UUID | None] = {}
    tree = _tree(new.tree, states)

    def make(digest: str) -> Build:
        return Build(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            name=new.name,
            is_stock=new.is_stock,
            sequence=queries.next_build_sequence(session, new.job_id),
            cylinder_count=new.cylinder_count,
            nodes=nodes_of(tree, identifier, new.cylinder_count, lambda element: states[id(element)]),
        )

    return write_once(session, Build, identifier, new, make)


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


def add_part(session: Session, identifier: UUID, new: NewPart) -> Part:
    """A part with its first state."""

    def make(digest: str) -> Part:
        return Part(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            kind=new.kind,
            name=new.name,
            maker=new.maker,
            number=new.number,
            material=new.material,
            states=[
                PartState(
                    id=new.state_id,
                    content_digest=digest,
                    person_id=new.person_id,
                    sequence=1,
                    label=new.state_label,
                )
            ],
        )

    part = write_once(session, Part, identifier, new, make)
    if new.piece_of is not None and session.get(PartPiece, (new.piece_of, identifier)) is None:
        whole = find(session, Part, new.piece_of, "part")
        session.add(PartPiece(part_id=whole.id, piece_id=identifier, position=len(whole.pieces), role=new.role))
        session.flush()
    return part


def add_dimension(session: Session, identifier: UUID, new: NewDimension) -> DimensionReading:
    """A measured dimension of a part state."""
    quantity = DIMENSION_QUANTITIES.get(new.quantity)
    if quantity is None:
        raise Invalid(f"'{new.quantity}' is no dimension. Known: {', '.join(DIMENSION_QUANTITIES)}.", path="quantity")
    typed = units.parse(new.typed, quantity, units.PRESETS["trade"][quantity])
    if typed.si <= 0:
        raise Invalid(f"A dimension of {new.typed} can't be. Measure again.", path="typed")
    doubt = doubt_dimension(new.element_kind, new.quantity, typed.figure, typed.unit, typed.si)
    if doubt is not None and UNLIKELY not in new.accepted:
        raise _question(doubt, new)

    def make(digest: str) -> DimensionReading:
        return DimensionReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            taken_at=new.taken_at,
            marks=[UNLIKELY] if doubt else [],
            part_state_id=new.part_state_id,
            element_kind=new.element_kind,
            cylinder=new.cylinder,
            quantity=new.quantity,
            figure=typed.figure,
            unit=typed.unit,
            value_si=typed.si,
        )

    return write_once(session, DimensionReading, identifier, new, make)


def _question(doubt: Doubtful, new: NewDimension) -> Question:
    offers = [Offer(f"I meant {meant}", {"typed": meant}) for meant in doubt.meant]
    keep = Offer(f"Keep {new.typed}, marked", {"accepted": [*new.accepted, UNLIKELY]})
    return Question(UNLIKELY, f"{doubt.text} Was another unit meant?", [*offers, keep], path="typed")


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
