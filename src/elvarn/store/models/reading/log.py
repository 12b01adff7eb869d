"""Logs of the engine computer."""

from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading


class LogReading(Reading):
    """What an engine computer logged of a build, without torque: the rows at full throttle as they stood in the file,
    with their channels, and the pressure outside with where it is from."""

    __tablename__ = "log_reading"
    __table_args__ = (
        CheckConstraint("cardinality(engine_speed_rpm) >= 5", name="rows"),
        CheckConstraint("outside_kpa between 50 and 120", name="outside"),
        CheckConstraint(one_of("outside_from", "", "logged", "at_rest", "typed"), name="outside_from"),
    )
    __mapper_args__ = {"polymorphic_identity": "log"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("build.id"), index=True)
    file_digest: Mapped[str] = mapped_column(ForeignKey("stored_file.digest"))
    label: Mapped[str] = mapped_column(default="", server_default="")
    stretches: Mapped[list[list[int]]] = mapped_column(JSONB)
    outside_kpa: Mapped[float | None]
    outside_from: Mapped[str] = mapped_column(default="", server_default="")
    engine_speed_rpm: Mapped[list[float]] = mapped_column(ARRAY(Float), deferred=True)
    channels: Mapped[dict[str, Any]] = mapped_column(JSONB, deferred=True)
