"""Builds copied and varied, pieces exchanged between assemblies, and the difference of two builds in words."""

from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.path.difference import Difference, Place, differences
from elvarn.core.path.shapes import named_paths, with_element, without
from elvarn.core.path.tree import Element, ElementKind, Node, elements
from elvarn.service.errors import Invalid, NotFound, Stale
from elvarn.service.margin import listed
from elvarn.service.trees import nodes_of, tree_of
from elvarn.service.writes import find, write_once
from elvarn.store import queries
from elvarn.store.models import Build, BuildNode, Job, Part, PartPiece, PartState, Person


@dataclass(frozen=True)
class Swap:
    """A part state at a node of the build that is copied."""

    node_id: UUID
    part_state_id: UUID


@dataclass(frozen=True)
class Insertion:
    """An element put in behind or in front of another."""

    node_id: UUID
    kind: str
    before: bool = False


@dataclass(frozen=True)
class BuildCopy:
    """A copy of a build, some of its parts swapped, one element put in or taken out. Without a name it is told by what
    was changed."""

    person_id: UUID
    copy_of: UUID
    name: str = ""
    swaps: list[Swap] = field(default_factory=list)
    put_in: Insertion | None = None
    taken_out: UUID | None = None


@dataclass(frozen=True)
class ShapedBuild:
    """A build of one of the usual shapes, with the job's manifold at its plenums and runners."""

    person_id: UUID
    job_id: UUID
    shape: str


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
    reshaped = _reshaped(tree, {row.id: place for place, row in enumerate(_in_order(tree, rows))}, new)
    existing = queries.builds_of(session, source.job_id)

    def state_of(element: Element) -> UUID | None:
        row = rows.get(id(element))
        return swapped.get(row.id) if row else None

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
            nodes=nodes_of(reshaped, identifier, source.cylinder_count, state_of),
        )

    return write_once(session, Build, identifier, new, make)


def shapes_for(session: Session, job_id: UUID) -> list[str]:
    """Names of the shapes that a job's engine can have."""
    job, builds = find(session, Job, job_id, "job"), queries.builds_of(session, job_id)
    return list(_shapes(job, builds)) if builds else []


def shaped_build(session: Session, identifier: UUID, new: ShapedBuild) -> Build:
    """A build of a usual shape. Raises Invalid for one that this engine can't have."""
    find(session, Person, new.person_id, "person")
    job, builds = find(session, Job, new.job_id, "job"), queries.builds_of(session, new.job_id)
    shapes = _shapes(job, builds) if builds else {}
    if new.shape not in shapes:
        raise Invalid(f"This engine can't have '{new.shape}'. Known: {', '.join(shapes)}.", path="shape")
    runner = next((node for node in builds[0].nodes if node.element_kind == ElementKind.RUNNER), None)
    manifold = runner.part_state_id if runner else None
    taken = {build.name for build in builds}

    def make(digest: str) -> Build:
        return Build(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            name=_free(new.shape, taken),
            is_stock=False,
            sequence=queries.next_build_sequence(session, new.job_id),
            cylinder_count=builds[0].cylinder_count,
            nodes=nodes_of(
                shapes[new.shape],
                identifier,
                builds[0].cylinder_count,
                lambda element: manifold if element.kind in (ElementKind.PLENUM, ElementKind.RUNNER) else None,
            ),
        )

    return write_once(session, Build, identifier, new, make)


def _shapes(job: Job, builds: Sequence[Build]) -> dict[str, Node]:
    return named_paths(builds[0].cylinder_count, job.engine.bank_count if job.engine else 1)


def _in_order(tree: Node, rows: dict[int, BuildNode]) -> list[BuildNode]:
    return [rows[id(element)] for element in elements(tree)]


def _reshaped(tree: Node, places: dict[UUID, int], new: BuildCopy) -> Node:
    wanted = [node_id for node_id in (new.taken_out, new.put_in.node_id if new.put_in else None) if node_id]
    if any(node_id not in places for node_id in wanted):
        raise NotFound("That element is not in this build. Reload the air path.")
    if new.taken_out is not None:
        tree = without(tree, places[new.taken_out])
    if new.put_in is not None:
        try:
            element = Element(ElementKind(new.put_in.kind), new.put_in.kind.capitalize())
        except ValueError as error:
            raise Invalid(f"'{new.put_in.kind}' is no kind of element.", path="put_in.kind") from error
        tree = with_element(tree, places[new.put_in.node_id], element, before=new.put_in.before)
    return tree


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
    in_order = _in_order(*tree_of(build))
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
    told = " + ".join(part.name for part in parts)
    if new.put_in is not None:
        told = f"{source.name}, with {new.put_in.kind}"
    elif new.taken_out is not None:
        label = next((node.label for node in source.nodes if node.id == new.taken_out), "element")
        told = f"{source.name}, without {label.lower()}"
    return _free(new.name.strip() or told or f"{source.name}, copy", taken)


def _free(wanted: str, taken: set[str]) -> str:
    name, number = wanted, 2
    while name in taken:
        name, number = f"{wanted} ({number})", number + 1
    return name


def _piece(session: Session, piece_id: UUID) -> PartPiece:
    link = queries.piece_link(session, piece_id)
    if link is None:
        raise Invalid("That piece belongs to no assembly. Make it a piece of one first.", path="one_piece_id")
    return link
