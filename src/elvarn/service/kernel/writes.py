"""Writes that may be sent twice and count once, and edits that notice each other."""

import hashlib
from collections.abc import Callable
from typing import Any
from uuid import UUID

from pydantic_core import to_json
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from elvarn.service.kernel.errors import IdReused, Stale
from elvarn.service.kernel.find import Row, there


def digest_of(command: Any) -> str:
    """Digest of a command's content, the same for the same request."""
    return hashlib.sha256(to_json(command, fallback=str)).hexdigest()


def write_once(session: Session, kind: type[Row], identifier: UUID, command: Any, make: Callable[[str], Row]) -> Row:
    """Make the row unless this very request made it before. Raises IdReused where the id came with other content."""
    digest = digest_of(command)
    existing = session.get(kind, identifier)
    if existing is None:
        try:
            with session.begin_nested():
                row = make(digest)
                session.add(row)
                session.flush()
            return row
        except IntegrityError:
            existing = session.get(kind, identifier, populate_existing=True)
            if existing is None:
                raise
    if getattr(existing, "content_digest", None) != digest:
        raise IdReused(f"The id {identifier} was used before for something else. Send it with a new id.")
    return existing


def find_for_edit(session: Session, kind: type[Row], identifier: UUID, what: str) -> Row:
    """The row of this id, held until the transaction ends, so that of two edits at once the second sees the first."""
    row = session.get(kind, identifier, with_for_update={"of": kind}, populate_existing=True)
    return there(row, identifier, what)


def edit(row: Any, version: int, changes: dict[str, Any], what: str) -> None:
    """Change a row made on this version. Raises Stale with both versions where it was changed meanwhile."""
    if row.version != version:
        current = {name: getattr(row, name) for name in changes}
        raise Stale(what, {**current, "version": row.version}, {**changes, "version": version})
    for name, value in changes.items():
        setattr(row, name, value)
    row.version = version + 1
