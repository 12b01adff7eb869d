"""Builds that are named anew, or taken away where nothing rests on them."""

from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.sentences import listed
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.store import queries
from elvarn.store.models import Build

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


def delete_build(session: Session, build_id: UUID, version: int) -> None:
    """Take a build away. Raises Invalid where it is stock or something rests on it; Stale where it was changed
    meanwhile."""
    build = find_for_edit(session, Build, build_id, "build")
    edit(build, version, {}, "build")
    if build.is_stock or build.sequence == min(one.sequence for one in queries.builds_of(session, [build.job_id])):
        raise Invalid(f"'{build.name}' is what all others are held against. It stays.", path="build")
    resting = queries.rests_on_build(session, build_id)
    if resting:
        words = listed([f"{count} {name}{'s' if count > 1 else ''}" for name, count in resting.items()])
        rest = "rests" if sum(resting.values()) == 1 else "rest"
        raise Invalid(
            f"{words} {rest} on '{build.name}'. Move them to another build first, or rename it.", path="build"
        )
    queries.drop_build(session, build)
