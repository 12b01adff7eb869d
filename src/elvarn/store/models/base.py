"""What all tables share."""

from datetime import datetime
from typing import Any, ClassVar
from uuid import UUID

from sqlalchemy import BigInteger, DateTime, ForeignKey, MetaData, String, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, declared_attr, mapped_column

NAMES = {
    "ix": "ix_%(table_name)s_%(column_0_N_name)s",
    "uq": "uq_%(table_name)s_%(column_0_N_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_N_name)s",
    "pk": "pk_%(table_name)s",
}


class Base(DeclarativeBase):
    metadata = MetaData(naming_convention=NAMES)
    type_annotation_map: ClassVar[dict[Any, Any]] = {datetime: DateTime(timezone=True)}


class ClientMade:
    """A row whose id the client made, with a digest of the request, so that a repeated request is the same request."""

    id: Mapped[UUID] = mapped_column(primary_key=True)
    content_digest: Mapped[str] = mapped_column(String(64))
    created_at: Mapped[datetime] = mapped_column(server_default=func.now())


class ByPerson(ClientMade):
    """A client-made row that says who made it."""

    @declared_attr
    def person_id(cls) -> Mapped[UUID]:  # noqa: N805
        return mapped_column(ForeignKey("person.id"))


class Versioned:
    """A row that is edited: each edit carries the version it was made on."""

    version: Mapped[int] = mapped_column(default=1, server_default="1")


class AsTyped:
    """A row with plain fields: what was typed into them, by their place, as it was typed."""

    typed: Mapped[dict[str, str]] = mapped_column(JSONB, default=dict, server_default="{}")


class Revised:
    """Raised by triggers with every change of what hangs on the row."""

    revision: Mapped[int] = mapped_column(BigInteger, server_default="1", deferred=True)


def within_a_century(column: str) -> str:
    """SQL of a check that a time is one at which somebody may have worked."""
    return f"{column} between timestamptz '2000-01-01' and timestamptz '2100-01-01'"


def one_of(column: str, *words: str) -> str:
    """SQL of a check that a column holds one of these words."""
    quoted = ", ".join(f"'{word}'" for word in words)
    return f"{column} in ({quoted})"
