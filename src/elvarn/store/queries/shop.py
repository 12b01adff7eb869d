"""People, benches, dynos, kinds of job."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import Bench, Dyno, JobKind, Person


def names_of_people(session: Session) -> dict[UUID, str]:
    """Everybody's name by id."""
    return {row.id: row.name for row in session.execute(select(Person.id, Person.name))}


def people(session: Session) -> Sequence[Person]:
    """Everybody who works here, as they came."""
    return session.scalars(select(Person).order_by(Person.created_at, Person.name)).all()


def benches(session: Session) -> Sequence[Bench]:
    """Every flow bench, as it came."""
    return session.scalars(select(Bench).order_by(Bench.created_at, Bench.name)).all()


def dynos(session: Session) -> Sequence[Dyno]:
    """Every dyno, as it came."""
    return session.scalars(select(Dyno).order_by(Dyno.created_at, Dyno.name)).all()


def job_kinds(session: Session) -> Sequence[JobKind]:
    """Kinds of job, in their order."""
    return session.scalars(select(JobKind).order_by(JobKind.position)).all()


def name_is_taken(session: Session, name: str, by_other_than: UUID) -> bool:
    """Whether somebody else has this name."""
    return session.scalar(select(Person.id).where(Person.name == name, Person.id != by_other_than)) is not None
