"""Builds copied and varied, pieces exchanged between assemblies, and the difference of two builds in words."""

from collections import OrderedDict
from dataclasses import dataclass, field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.path.difference import Difference, Place, differences
from elvarn.core.path.tree import ElementKind, elements
from elvarn.service.errors import Invalid, NotFound, Stale
from elvarn.service.margin import listed
from elvarn.service.trees import nodes_of, tree_of
from elvarn.service.writes import find, write_once
from elvarn.store import queries
from elvarn.store.models import Build, BuildNode, Part, PartPiece, PartState, Person


@dataclass(frozen=True)
class Swap:
    """A part state at a node of the build that is copied."""

    node_id: UUID
    part_state_id: UUID


@dataclass(frozen=True)
class BuildCopy:
    """A copy of a build under a new name, some of its parts swapped. Without a name it is told by what was swapped."""

    person_id: UUID
    copy_of: UUID
    name: str = ""
    swaps: list[Swap] = field(default_factory=list)


@dataclass(frozen=True)
class PieceExchange:
    """Two pieces change places between the assemblies that they were seen in: sent twice, they change once."""

    person_id: UUID
    one_piece_id: UUID
    one_assembly_id: UUID
    other_piece_id: UUID
    other_assembly_id: UUID


@dataclass(frozen=True)
class BuildDifference:
    """How one build differs from another, a line each."""

    before: str
    after: str
    lines: list[str]


def copy_build(session: Session, identifier: UUID, new: BuildCopy) -> Build:
    """Copy a build, with swaps. A manifold swapped at its plenum or at one runner is swapped as a whole."""
    find(session, Person, new.person_id, "person")
    source = find(session, Build, new.copy_of, "build")
    states = {swap.node_id: find(session, PartState, swap.part_state_id, "part state") for swap in new.swaps}
    swapped = _swapped(source, states)
    tree, rows = tree_of(source)
    existing = queries.builds_of(session, source.job_id)

    def make(digest: str) -> Build:
        return Build(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=source.job_id,
            name=_name(new, states, {build.name for build in existing}, source),
            is_stock=False,
            sequence=queries.next_build_sequence(session, source.job_id),
            cylinder_count=source.cylinder_count,
            nodes=nodes_of(tree, identifier, source.cylinder_count, lambda e: swapped.get(rows[id(e)].id)),
        )

    return write_once(session, Build, identifier, new, make)


def exchange_pieces(session: Session, exchange: PieceExchange) -> None:
    """Let two pieces change places. Raises Invalid where one is no piece, Stale where one moved meanwhile."""
    find(session, Person, exchange.person_id, "person")
    one, other = (_piece(session, piece) for piece in (exchange.one_piece_id, exchange.other_piece_id))
    if exchange.one_assembly_id == exchange.other_assembly_id:
        raise Invalid("Both pieces belong to the same assembly.", path="other_piece_id")
    if (one.part_id, other.part_id) == (exchange.other_assembly_id, exchange.one_assembly_id):
        return
    if (one.part_id, other.part_id) != (exchange.one_assembly_id, exchange.other_assembly_id):
        seen = {"one_assembly_id": exchange.one_assembly_id, "other_assembly_id": exchange.other_assembly_id}
        raise Stale("assemblies", {"one_assembly_id": one.part_id, "other_assembly_id": other.part_id}, seen)
    if one.role != other.role:
        text = f"A piece that is the {one.role or 'piece'} can't take the place of the {other.role or 'piece'}."
        raise Invalid(text, path="other_piece_id")
    links = (
        PartPiece(part_id=one.part_id, piece_id=other.piece_id, position=one.position, role=one.role),
        PartPiece(part_id=other.part_id, piece_id=one.piece_id, position=other.position, role=other.role),
    )
    session.delete(one)
    session.delete(other)
    session.flush()
    session.add_all(links)
    session.flush()


def difference_of(session: Session, before_id: UUID, after_id: UUID) -> BuildDifference:
    """The difference of two builds in words."""
    before, after = find(session, Build, before_id, "build"), find(session, Build, after_id, "build")
    found = differences(_places(before), _places(after))
    return BuildDifference(before.name, after.name, _words(found))


def _places(build: Build) -> list[Place]:
    tree, rows = tree_of(build)
    in_order = (rows[id(element)] for element in elements(tree))
    return [Place(row.element_kind or "", row.label, row.cylinder, _held(row)) for row in in_order]


def _held(row: BuildNode) -> tuple[str, str]:
    """What stands at a node: the part, and its state."""
    state = row.part_state
    if state is None:
        return "nothing chosen", ""
    part = state.part
    return " ".join(word for word in (part.maker, part.name) if word), state.label


def _words(found: list[Difference]) -> list[str]:
    """A line each; what is the same for several runners, or for plenum and runners of a manifold, is told once."""
    told: OrderedDict[str, list[Place]] = OrderedDict()
    for one in found:
        place = one.after or one.before
        if place is not None:
            told.setdefault(_change(one), []).append(place)
    return [f"{_where(places)}: {what}" for what, places in told.items()]


def _change(one: Difference) -> str:
    if one.before is None:
        return f"added: {one.after.holds[0]}" if one.after else ""
    if one.after is None:
        return f"taken out: {one.before.holds[0]}"
    (was, from_state), (now, to_state) = one.before.holds, one.after.holds
    if was == now:
        return f"{now}, {from_state} → {to_state}"
    return f"{was} → {now}"


def _where(places: list[Place]) -> str:
    kinds = {place.kind for place in places}
    if kinds == {ElementKind.PLENUM, ElementKind.RUNNER}:
        return "Manifold"
    if places[0].cylinder is None:
        return listed([place.label for place in places])
    numbers = listed([str(place.cylinder) for place in places])
    return f"{places[0].kind.capitalize()}{'s' if len(places) > 1 else ''} {numbers}"


def _swapped(source: Build, states: dict[UUID, PartState]) -> dict[UUID, UUID | None]:
    found = {node.id: node.part_state_id for node in source.nodes if node.element_kind}
    known = {node.id: node for node in source.nodes}
    for node_id, state in states.items():
        if node_id not in found:
            raise NotFound("That element is not in this build. Reload the air path.")
        for node in source.nodes:
            if node.id == node_id or _same_part(known[node_id], node):
                found[node.id] = state.id
    return found


def _same_part(one: BuildNode, other: BuildNode) -> bool:
    """Plenum and runners of one manifold, or runners of a path whose manifold was not chosen yet."""
    kinds = (ElementKind.PLENUM, ElementKind.RUNNER)
    if one.element_kind not in kinds or other.element_kind not in kinds:
        return False
    return one.part_state_id == other.part_state_id


def _name(new: BuildCopy, states: dict[UUID, PartState], taken: set[str], source: Build) -> str:
    parts: list[Part] = list({state.part_id: state.part for state in states.values()}.values())
    wanted = new.name.strip() or " + ".join(part.name for part in parts) or f"{source.name}, copy"
    name, number = wanted, 2
    while name in taken:
        name, number = f"{wanted} ({number})", number + 1
    return name


def _piece(session: Session, piece_id: UUID) -> PartPiece:
    link = queries.piece_link(session, piece_id)
    if link is None:
        raise Invalid("That piece belongs to no assembly. Make it a piece of one first.", path="one_piece_id")
    return link
