"""Builds copied and varied, pieces exchanged between assemblies, and the difference of two builds in words."""

from collections.abc import Sequence
from dataclasses import field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.path.shapes import named_paths, with_element, without
from elvarn.core.path.tree import Element, ElementKind, Node
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.service.kernel.find import find
from elvarn.service.path.builds import Made, keep_build
from elvarn.service.record.trees import in_order, tree_of
from elvarn.store import queries
from elvarn.store.models import Build, BuildNode, Job, Part, PartState, Person


@given
class Swap:
    """A part state at a node of the build that is copied."""

    node_id: UUID
    part_state_id: UUID


@given
class Insertion:
    """An element put in behind or in front of another."""

    node_id: UUID
    kind: str
    before: bool = False


@given
class BuildCopy:
    """A copy of a build, some of its parts swapped, one element put in or taken out. Without a name it is told by what
    was changed."""

    person_id: UUID
    copy_of: UUID
    name: str = ""
    swaps: list[Swap] = field(default_factory=list)
    put_in: Insertion | None = None
    taken_out: UUID | None = None


@given
class ShapedBuild:
    """A build of one of the usual shapes, with the job's manifold at its plenums and runners."""

    person_id: UUID
    job_id: UUID
    shape: str


def copy_build(session: Session, identifier: UUID, new: BuildCopy) -> Build:
    """Copy a build, with swaps. A manifold swapped at its plenum or at one runner is swapped as a whole."""
    find(session, Person, new.person_id, "person")
    source = find(session, Build, new.copy_of, "build")
    states = {swap.node_id: find(session, PartState, swap.part_state_id, "part state") for swap in new.swaps}
    swapped = _swapped(source, states)
    tree, rows = tree_of(source)
    reshaped = _reshaped(tree, {row.id: place for place, row in enumerate(in_order(tree, rows))}, new)
    existing = queries.builds_of(session, [source.job_id])

    def state_of(element: Element) -> UUID | None:
        row = rows.get(id(element))
        return swapped.get(row.id) if row else None

    name = _name(new, states, {build.name for build in existing}, source)
    made = Made(new.person_id, source.job_id, name, source.cylinder_count, reshaped, state_of, copied_from=source.id)
    return keep_build(session, identifier, new, made)


def shapes_for(session: Session, job_id: UUID) -> list[str]:
    """Names of the shapes that a job's engine can have."""
    job, builds = find(session, Job, job_id, "job"), queries.builds_of(session, [job_id])
    return list(_shapes(job, builds)) if builds else []


def shaped_build(session: Session, identifier: UUID, new: ShapedBuild) -> Build:
    """A build of a usual shape. Raises Invalid for one that this engine can't have."""
    find(session, Person, new.person_id, "person")
    job, builds = find(session, Job, new.job_id, "job"), queries.builds_of(session, [new.job_id])
    shapes = _shapes(job, builds) if builds else {}
    if new.shape not in shapes:
        raise Invalid(f"This engine can't have '{new.shape}'. Known: {', '.join(shapes)}.", path="shape")
    runner = next((node for node in builds[0].nodes if node.element_kind == ElementKind.RUNNER), None)
    manifold = runner.part_state_id if runner else None
    name = _free(new.shape, {build.name for build in builds})

    def state_of(element: Element) -> UUID | None:
        return manifold if element.kind in (ElementKind.PLENUM, ElementKind.RUNNER) else None

    made = Made(new.person_id, new.job_id, name, builds[0].cylinder_count, shapes[new.shape], state_of)
    return keep_build(session, identifier, new, made)


def _shapes(job: Job, builds: Sequence[Build]) -> dict[str, Node]:
    engine, boosted = job.engine, bool(job.engine and job.engine.boosted)
    bank_count = engine.bank_count if engine else 1
    banks: dict[int, list[int]] = {}
    for node in builds[0].nodes:
        if node.element_kind == ElementKind.RUNNER and node.cylinder is not None and node.bank is not None:
            banks.setdefault(node.bank, []).append(node.cylinder)
    as_stock = [sorted(banks[number]) for number in sorted(banks)] if len(banks) == bank_count > 1 else []
    return named_paths(builds[0].cylinder_count, bank_count, boosted, as_stock)


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
