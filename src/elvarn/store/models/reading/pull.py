"""Pulls."""

from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Computed, Float, ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.dyno.correction import Standard
from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading
from elvarn.store.models.shop import Dyno


class PullReading(Reading):
    """One dyno sweep: the rows as they stood in the file, in SI, and how the columns were mapped."""

    __tablename__ = "pull_reading"
    __table_args__ = (
        CheckConstraint(one_of("measures", "engine", "wheel"), name="measures"),
        CheckConstraint(one_of("standard_in_file", *Standard), name="standard_in_file"),
        CheckConstraint("cardinality(engine_speed_rpm) = cardinality(torque_n_m)", name="same_length"),
        CheckConstraint("cardinality(engine_speed_rpm) >= 5", name="rows"),
        CheckConstraint("air_pressure_kpa between 50 and 110", name="air_pressure"),
        CheckConstraint("air_humidity_percent between 0 and 100", name="air_humidity"),
    )
    __mapper_args__ = {"polymorphic_identity": "pull"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    build_id: Mapped[UUID] = mapped_column(ForeignKey("build.id"), index=True)
    dyno_id: Mapped[UUID] = mapped_column(ForeignKey("dyno.id"))
    label: Mapped[str]
    measures: Mapped[str]
    file_digest: Mapped[str | None] = mapped_column(ForeignKey("stored_file.digest"))
    mapping: Mapped[dict[str, Any]] = mapped_column(JSONB)
    standard_in_file: Mapped[str]
    air_temperature_c: Mapped[float | None]
    air_pressure_kpa: Mapped[float | None]
    air_humidity_percent: Mapped[float | None]
    engine_speed_rpm: Mapped[list[float]] = mapped_column(ARRAY(Float), deferred=True)
    torque_n_m: Mapped[list[float]] = mapped_column(ARRAY(Float), deferred=True)
    dyno: Mapped[Dyno] = relationship(lazy="joined")
    row_count: Mapped[int] = mapped_column(Computed("cardinality(engine_speed_rpm)"))
