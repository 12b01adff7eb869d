"""Sheets that were handed over."""

from datetime import datetime
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.store.models.base import Base, within_a_century


class HandedSheet(Base):
    """The sheet as the customer got it: the page as a file, its headlines, and the method by which they were made."""

    __tablename__ = "handed_sheet"
    __table_args__ = (CheckConstraint(within_a_century("handed_at"), name="handed_at"),)

    id: Mapped[UUID] = mapped_column(primary_key=True)
    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    person_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    file_digest: Mapped[str] = mapped_column(ForeignKey("stored_file.digest"))
    headlines: Mapped[list[str]] = mapped_column(JSONB)
    units: Mapped[str]
    method_version: Mapped[str]
    handed_at: Mapped[datetime]
