"""Builds that are named anew, or taken away where nothing rests on them."""

from collections.abc import Callable
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.path.tree import Element, Node, Series
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.sentences import what_rests
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.service.path.builds import NewBuild, NewNode
from elvarn.service.record.trees import tree_of
from elvarn.store import queries
from elvarn.store.models import Build, BuildNode

LONGEST_NAME = 80


@given
class BuildName:
    """A name for a build, on the version that was seen."""

    version: int
    name: str


def rename_build(session: Session, build_id: UUID, change: BuildName) -> Build:
    """Name a build anew. Raises Invalid for no name, or one that another build of the job has; Stale where the build
    was changed meanwhile."""
    build = find_for_edit(session, Build, build_id, "build")
    name = " ".join(change.name.split())
    if not name or len(name) > LONGEST_NAME:
        raise Invalid(f"Name the build, in up to {LONGEST_NAME} letters.", path="name")
    others = {one.name.lower() for one in queries.builds_of(session, [build.job_id]) if one.id != build_id}
    if name.lower() in others:
        raise Invalid(f"Another build is called '{name}'. Choose another name.", path="name")
    edit(build, change.version, {"name": name}, "build")
    session.flush()
    return build


def delete_build(session: Session, build_id: UUID, version: int) -> NewBuild:
    """Take a build away; what makes it anew is given back. Raises Invalid where it is stock or something rests on it;
    Stale where it was changed meanwhile."""
    build = find_for_edit(session, Build, build_id, "build")
    edit(build, version, {}, "build")
    if build.is_stock or build.sequence == min(one.sequence for one in queries.builds_of(session, [build.job_id])):
        raise Invalid(f"'{build.name}' is what all others are held against. It stays.", path="build")
    resting = queries.rests_on_build(session, build_id)
    if resting:
        text = f"{what_rests(resting)} '{build.name}'. Move them to another build first, or rename it."
        raise Invalid(text, path="build")
    undo = _as_it_stands(build)
    queries.drop_build(session, build)
    return undo


def _as_it_stands(build: Build) -> NewBuild:
    """The command that makes a build anew as it is."""
    tree, rows = tree_of(build)
    node = _node(tree, lambda element: rows[id(element)])
    return NewBuild(
        build.person_id, build.job_id, build.name, build.cylinder_count, node, copied_from=build.copied_from_id
    )


def _node(node: Node, row_of: Callable[[Element], BuildNode]) -> NewNode:
    if isinstance(node, Element):
        row = row_of(node)
        return NewNode("element", node.kind, node.label, node.cylinder, node.bank, row.part_state_id)
    kind = "series" if isinstance(node, Series) else "branches"
    return NewNode(kind, nodes=[_node(child, row_of) for child in node.nodes])
