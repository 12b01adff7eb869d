"""Parts that are wanted, for a job or for the shelf: until they are ordered, here and fitted."""

from datetime import date
from enum import StrEnum
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.store.models.base import Base, ByPerson, Versioned, one_of


class WantState(StrEnum):
    """How far a wanted part is."""

    WANTED = "wanted"
    ORDERED = "ordered"
    HERE = "here"
    FITTED = "fitted"
    DROPPED = "dropped"


class WantedPart(ByPerson, Versioned, Base):
    """So many of a part of the shelf, for a job, or for the shelf where it names none."""

    __tablename__ = "wanted_part"
    __table_args__ = (
        CheckConstraint("count between 1 and 1000", name="count"),
        CheckConstraint(one_of("state", *WantState), name="state"),
    )

    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"), index=True)
    part_id: Mapped[UUID] = mapped_column(ForeignKey("part.id"), index=True)
    count: Mapped[int]
    state: Mapped[str] = mapped_column(default=WantState.WANTED, server_default="wanted")
    ordered_on: Mapped[date | None]
    expected_on: Mapped[date | None]
