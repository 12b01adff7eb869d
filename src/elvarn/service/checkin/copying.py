"""A job like an earlier one."""

from datetime import UTC, datetime
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.checkin.engine import copied_engine
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.trees import nodes_of, tree_of
from elvarn.store import queries
from elvarn.store.models import Build, Job, Part, PartState, Person


@given
class JobCopy:
    """A job like an earlier one: its kind, engine, goal and first build; nothing that was measured."""

    person_id: UUID
    copy_of: UUID
    customer: str | None = None
    title: str | None = None


def copy_job(session: Session, identifier: UUID, new: JobCopy) -> Job:
    """A new job like an earlier one. Parts are new: another box of the same casting came in."""
    find(session, Person, new.person_id, "person")
    source = find(session, Job, new.copy_of, "job")

    def make(digest: str) -> Job:
        engine = copied_engine(session, identifier, source.engine_id)
        return Job(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            kind_code=source.kind_code,
            title=(new.title or f"{source.title}, again").strip(),
            customer=new.customer,
            engine_id=engine.id if engine else None,
            use=source.use,
            band_low_rpm=source.band_low_rpm,
            band_high_rpm=source.band_high_rpm,
            received_on=datetime.now(UTC).date(),
            standard=source.standard,
            power_wanted_kw=source.power_wanted_kw,
            budget=source.budget,
            surroundings=dict(source.surroundings),
            typed=dict(source.typed),
            copied_from_id=source.id,
        )

    job = write_once(session, Job, identifier, new, make)
    if not queries.builds_of(session, [identifier]):
        _copy_first_build(session, job, source.id, new.person_id)
    return job


def _copy_first_build(session: Session, job: Job, source_id: UUID, person_id: UUID) -> None:
    first = next(iter(queries.builds_of(session, [source_id])), None)
    if first is None:
        return
    states: dict[UUID, UUID] = {}
    for part in queries.parts_of(session, [source_id]):
        copied = _copied_part(session, job, part, person_id)
        states |= {state.id: copied for state in part.states}
    build = Build(
        id=uuid5(job.id, "build 1"),
        content_digest=job.content_digest,
        person_id=person_id,
        job_id=job.id,
        name=first.name,
        is_stock=first.is_stock,
        sequence=1,
        cylinder_count=first.cylinder_count,
    )
    tree, rows = tree_of(first)

    def state_of(element: object) -> UUID | None:
        kept = rows[id(element)].part_state_id
        return states.get(kept, kept) if kept else None

    session.add(build)
    session.flush()
    session.add_all(nodes_of(tree, build.id, first.cylinder_count, state_of))
    session.flush()


def _copied_part(session: Session, job: Job, part: Part, person_id: UUID) -> UUID:
    """The same part come in once more, as received. Returns its state."""
    identifier = uuid5(job.id, str(part.id))
    state = PartState(
        id=uuid5(identifier, "state 1"),
        content_digest=job.content_digest,
        person_id=person_id,
        sequence=1,
        label="as received",
    )
    names = ("kind", "name", "maker", "number", "material", "mass_kg", "advertised", "features")
    values = {name: getattr(part, name) for name in names}
    session.add(
        Part(
            id=identifier,
            content_digest=job.content_digest,
            person_id=person_id,
            job_id=job.id,
            states=[state],
            **values,
        )
    )
    session.flush()
    return state.id
