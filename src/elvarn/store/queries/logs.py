"""Logs of the engine computer."""

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn.store.models import LogReading


def logs_of(session: Session, job_id: UUID) -> Sequence[LogReading]:
    """Logs of a job as they were made, struck ones too."""
    wanted = select(LogReading).where(LogReading.job_id == job_id).order_by(LogReading.taken_at, LogReading.created_at)
    return session.scalars(wanted).all()


def rows_of_log(session: Session, log_id: UUID) -> tuple[list[float], dict[str, list[float | None]]]:
    """Speeds of a log, and its channels by name."""
    wanted = select(LogReading.engine_speed_rpm, LogReading.channels).where(LogReading.id == log_id)
    row = session.execute(wanted).one()
    return row[0], row[1]
