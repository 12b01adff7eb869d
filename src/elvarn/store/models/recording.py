"""Pulls as they are recorded live, sample by sample, before one of them is kept as a pull."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey, Index, func, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.store.models.base import Base, ByPerson, within_a_century

Row = list[float | None]


class Recording(ByPerson, Base):
    """A pull that is recorded: whose build on which dyno, what stops it, what was checked before, and how it ended.
    `fields` names the figures of a sample. Once over it is a file like any other."""

    __tablename__ = "recording"
    __table_args__ = (
        CheckConstraint(within_a_century("started_at"), name="started_at"),
        Index("ix_recording_open", "dyno_id", unique=True, postgresql_where=text("ended_at is null")),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("build.id"))
    dyno_id: Mapped[UUID] = mapped_column(ForeignKey("dyno.id"))
    declared: Mapped[dict[str, str]] = mapped_column(JSONB, default=dict)
    limits: Mapped[dict[str, Any]] = mapped_column(JSONB)
    checked: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict)
    line: Mapped[dict[str, Any]] = mapped_column(JSONB)
    fields: Mapped[list[str]] = mapped_column(JSONB)
    started_at: Mapped[datetime]
    stop_asked_at: Mapped[datetime | None]
    ended_at: Mapped[datetime | None]
    ended_how: Mapped[str] = mapped_column(default="", server_default="")
    ended_words: Mapped[str] = mapped_column(default="", server_default="")
    file_digest: Mapped[str | None] = mapped_column(ForeignKey("stored_file.digest"))
    dropped_at: Mapped[datetime | None]


class RecordingPiece(Base):
    """Samples of a recording as they came, each with its figures in the order of the recording's fields."""

    __tablename__ = "recording_piece"

    recording_id: Mapped[UUID] = mapped_column(ForeignKey("recording.id"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    samples: Mapped[list[Row]] = mapped_column(JSONB)
    received_at: Mapped[datetime] = mapped_column(server_default=func.now())
