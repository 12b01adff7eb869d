"""Pulls."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Computed, Float, ForeignKey, UniqueConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.dyno.correction import Standard
from elvarn.store.models.base import AsTyped, Base, ByPerson, one_of, within_a_century
from elvarn.store.models.reading.base import Reading
from elvarn.store.models.shop import Dyno


class PullReading(Reading):
    """One dyno sweep: the rows as they stood in the file, in SI, and how the columns were mapped; `channels` holds what
    was logged beside, row by row. What else is said of it stands on its cards, of which the last counts."""

    __tablename__ = "pull_reading"
    __table_args__ = (
        CheckConstraint("cardinality(engine_speed_rpm) = cardinality(torque_n_m)", name="same_length"),
        CheckConstraint("cardinality(engine_speed_rpm) >= 5", name="rows"),
    )
    __mapper_args__ = {"polymorphic_identity": "pull"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    file_digest: Mapped[str | None] = mapped_column(ForeignKey("stored_file.digest"))
    mapping: Mapped[dict[str, Any]] = mapped_column(JSONB)
    engine_speed_rpm: Mapped[list[float]] = mapped_column(ARRAY(Float), deferred=True)
    torque_n_m: Mapped[list[float]] = mapped_column(ARRAY(Float), deferred=True)
    channels: Mapped[dict[str, list[float | None]]] = mapped_column(
        JSONB, default=dict, server_default="{}", deferred=True
    )
    row_count: Mapped[int] = mapped_column(Computed("cardinality(engine_speed_rpm)"))

    cards: Mapped[list["PullCard"]] = relationship(order_by="PullCard.number", lazy="joined")

    @property
    def card(self) -> "PullCard":
        """What is said of it now."""
        return self.cards[-1]


class PullCard(ByPerson, AsTyped, Base):
    """What is said of a pull: whose build, when, on which dyno, in which air, on which basis its file stands, which
    version of the engine ran, and what was declared of its set-up. Another card with the next number says it anew;
    none is changed."""

    __tablename__ = "pull_card"
    __table_args__ = (
        UniqueConstraint("pull_id", "number"),
        CheckConstraint(within_a_century("pulled_at"), name="pulled_at"),
        CheckConstraint("number >= 1", name="number"),
        CheckConstraint(one_of("standard_in_file", *Standard), name="standard_in_file"),
        CheckConstraint("air_pressure_kpa between 50 and 110", name="air_pressure"),
        CheckConstraint("air_humidity_percent between 0 and 100", name="air_humidity"),
    )

    pull_id: Mapped[UUID] = mapped_column(ForeignKey("pull_reading.id"))
    number: Mapped[int]
    pulled_at: Mapped[datetime]
    build_id: Mapped[UUID] = mapped_column(ForeignKey("build.id"), index=True)
    dyno_id: Mapped[UUID] = mapped_column(ForeignKey("dyno.id"))
    label: Mapped[str] = mapped_column(default="", server_default="")
    standard_in_file: Mapped[str]
    air_temperature_c: Mapped[float | None]
    air_pressure_kpa: Mapped[float | None]
    air_humidity_percent: Mapped[float | None]
    engine_id: Mapped[UUID | None] = mapped_column(ForeignKey("engine.id"))
    declared: Mapped[dict[str, str]] = mapped_column(JSONB, default=dict, server_default="{}")

    dyno: Mapped[Dyno] = relationship(lazy="joined")
