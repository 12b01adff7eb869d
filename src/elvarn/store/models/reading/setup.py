"""A set-up: how a series is flowed."""

from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.store.models.base import AsTyped, Base, ByPerson, one_of
from elvarn.store.models.reading.check import CheckReading
from elvarn.store.models.shop import Bench


class Setup(ByPerson, AsTyped, Base):
    """How a series was flowed. It is never changed: another set-up is another row. Without a job it is of the
    shelf. One that is `alone` is of a single figure of a part: no series goes on in it."""

    __tablename__ = "setup"
    __table_args__ = (
        CheckConstraint("depression_pa > 0", name="depression"),
        CheckConstraint("depression_pa <= 100000", name="most_depression"),
        CheckConstraint(one_of("entry_radius", "none", "clay", "printed", "own"), name="entry_radius"),
        CheckConstraint(one_of("throttle", "off", "as_sold", "ported"), name="throttle"),
        CheckConstraint("air_pressure_kpa between 50 and 110", name="air_pressure"),
        CheckConstraint("air_humidity_percent between 0 and 100", name="air_humidity"),
        CheckConstraint("entry_radius_mm > 0", name="entry_radius_mm"),
        CheckConstraint("opening_percent > 0 and opening_percent <= 100", name="opening"),
        CheckConstraint("valve_lift_mm > 0", name="valve_lift"),
        CheckConstraint("clock_hours > 0 and clock_hours <= 12", name="clock"),
        CheckConstraint(one_of("direction", "in", "out"), name="direction"),
    )

    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"), index=True)
    bench_id: Mapped[UUID] = mapped_column(ForeignKey("bench.id"), index=True)
    depression_figure: Mapped[float]
    depression_unit: Mapped[str]
    depression_pa: Mapped[float]
    entry_radius: Mapped[str]
    throttle: Mapped[str]
    blocked: Mapped[str] = mapped_column(default="")
    air_temperature_c: Mapped[float | None]
    air_pressure_kpa: Mapped[float | None]
    air_humidity_percent: Mapped[float | None]
    mounted: Mapped[str] = mapped_column(default="", server_default="")
    entry_radius_mm: Mapped[float | None]
    opening_percent: Mapped[float | None]
    blade_seen_open: Mapped[bool | None]
    valve_lift_mm: Mapped[float | None]
    flaps: Mapped[str] = mapped_column(default="", server_default="")
    clock_hours: Mapped[float | None]
    clamps: Mapped[str] = mapped_column(default="", server_default="")
    adapter: Mapped[str] = mapped_column(default="", server_default="")
    direction: Mapped[str] = mapped_column(default="in", server_default="in")
    alone: Mapped[bool] = mapped_column(default=False, server_default="false")

    bench: Mapped[Bench] = relationship(lazy="joined")
    checks: Mapped[list["CheckReading"]] = relationship(
        foreign_keys="CheckReading.setup_id", order_by="CheckReading.taken_at", viewonly=True
    )
