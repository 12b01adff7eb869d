"""Who works here."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.writes import write_once
from elvarn.service.shop.fields import named
from elvarn.store import queries
from elvarn.store.models import Person


@dataclass(frozen=True)
class PersonView:
    id: UUID
    name: str


@given
class NewPerson:
    name: str


def add_person(session: Session, identifier: UUID, new: NewPerson) -> PersonView:
    """Somebody who works here. A name is taken once."""
    name = named(new.name)
    if queries.name_is_taken(session, name, identifier):
        raise Invalid(f"There is already a {name} here. Add an initial.", path="name")
    row = write_once(session, Person, identifier, new, lambda d: Person(id=identifier, content_digest=d, name=name))
    return PersonView(row.id, row.name)
