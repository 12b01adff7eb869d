"""A row by its id, or the word that it is not here."""

from typing import TypeVar
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.service.kernel.errors import NotFound
from elvarn.store.models.base import Base

Row = TypeVar("Row", bound=Base)


def find(session: Session, kind: type[Row], identifier: UUID, what: str) -> Row:
    """The row of this id. Raises NotFound naming what was looked for."""
    return there(session.get(kind, identifier), identifier, what)


def there(row: Row | None, identifier: UUID, what: str) -> Row:
    if row is None:
        raise NotFound(f"There is no {what} {identifier}. It may have been opened from an old link.")
    return row
