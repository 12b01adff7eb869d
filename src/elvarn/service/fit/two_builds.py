"""The two builds of a swap; of a job that is only fitting the second one is made in passing, from a name."""

from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.core.path.tree import Element
from elvarn.service.fit.said import NewFitPlan
from elvarn.service.fit.strands import OF_MANIFOLD
from elvarn.service.job.parts import NewPart, part_row
from elvarn.service.kernel.errors import Invalid
from elvarn.service.record.trees import nodes_of, tree_of
from elvarn.store import queries
from elvarn.store.models import Build, Job


def two_builds(session: Session, identifier: UUID, job: Job, new: NewFitPlan) -> tuple[UUID, UUID]:
    """The two builds of a swap; where only names were given, parts and builds are made in passing."""
    builds = {build.id: build for build in queries.builds_of(session, [job.id])}
    for name, value in (("off_build_id", new.off_build_id), ("on_build_id", new.on_build_id)):
        if value is not None and value not in builds:
            raise Invalid("That build is not of this job.", path=name)
    off = builds.get(new.off_build_id) if new.off_build_id else next(iter(builds.values()), None)
    if off is None:
        raise Invalid("Nothing is fitted yet in this job.", path="off_build_id")
    if new.on_build_id is None:
        if not new.on_name.strip():
            raise Invalid("Say what goes on: a build, or the name of the part.", path="on_name")
        return off.id, _in_passing(session, identifier, job, off, new)
    if new.on_build_id == off.id:
        raise Invalid("Both are the same build: nothing to swap.", path="on_build_id")
    return off.id, new.on_build_id


def _in_passing(session: Session, identifier: UUID, job: Job, off: Build, new: NewFitPlan) -> UUID:
    """The build with the manifold that goes on, made of its name alone."""
    name = new.on_name.strip()
    if any(build.name == name for build in queries.builds_of(session, [job.id])):
        raise Invalid(f"A build is called '{name}' already. Choose it instead.", path="on_name")
    part_id, state_id = uuid5(identifier, "part"), uuid5(identifier, "state 1")
    part = NewPart(new.person_id, job.id, "manifold", name, state_id, "as it came")
    session.add(part_row(part_id, part, off.content_digest))
    session.flush()
    tree, rows = tree_of(off)

    def state_of_element(element: Element) -> UUID | None:
        row = rows[id(element)]
        return state_id if element.kind in OF_MANIFOLD else row.part_state_id

    build_id = uuid5(identifier, "build")
    session.add(
        Build(
            id=build_id, content_digest=off.content_digest, person_id=new.person_id, job_id=job.id, name=name,
            sequence=queries.next_build_sequence(session, job.id), cylinder_count=off.cylinder_count,
            copied_from_id=off.id, nodes=nodes_of(tree, build_id, off.cylinder_count, state_of_element),
        )
    )  # fmt: skip
    session.flush()
    return build_id
