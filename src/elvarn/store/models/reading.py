"""Readings: append-only. A wrong one is struck out with a reason, by a row of its own."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Computed, Float, ForeignKey, String
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.constants import INCH_OF_WATER
from elvarn.core.path.tree import ElementKind
from elvarn.store.models.base import Base, ByPerson, one_of
from elvarn.store.models.shop import Bench

CHECKS = ("zero", "leak", "plate", "low", "held")
QUANTITIES = ("bore", "bore_out", "length", "volume", "opening", "entry_radius", "shaft")


class Setup(ByPerson, Base):
    """How a series was flowed. It is never changed: another set-up is another row. Without a job it is of the shelf."""

    __tablename__ = "setup"
    __table_args__ = (
        CheckConstraint("depression_pa > 0", name="depression"),
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
    bench_id: Mapped[UUID] = mapped_column(ForeignKey("bench.id"))
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

    bench: Mapped[Bench] = relationship(lazy="joined")
    checks: Mapped[list["CheckReading"]] = relationship(
        lazy="selectin", foreign_keys="CheckReading.setup_id", order_by="CheckReading.taken_at", viewonly=True
    )


class Reading(ByPerson, Base):
    """A measured figure. `marks` are the doubts under which it was kept."""

    __tablename__ = "reading"
    __table_args__: tuple[CheckConstraint, ...] = (
        CheckConstraint(one_of("kind", "flow", "pull", "dimension", "check", "probe"), name="kind"),
    )

    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"), index=True)
    kind: Mapped[str]
    taken_at: Mapped[datetime]
    marks: Mapped[list[str]] = mapped_column(ARRAY(String), default=list)

    strike: Mapped["Strike | None"] = relationship(lazy="joined")

    __mapper_args__ = {"polymorphic_on": "kind", "polymorphic_identity": "reading"}


class FlowReading(Reading):
    """Flow of one runner, or of a whole element where no cylinder is named: as typed, and in SI. Where the bench sent
    them, `samples` are those that the figure is the mean of, in its unit, `depression_pa` is what the bench pulled then
    and `range_percent` how much of its range it used. `refitted` says that the part was put on anew for it. A point of
    a test plan names its plan, series and place."""

    __tablename__ = "flow_reading"
    __table_args__ = (
        CheckConstraint("flow_m3_s > 0 and flow_m3_s < 'infinity'", name="flow"),
        CheckConstraint("depression_pa > 0", name="depression"),
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint(one_of("element_kind", *ElementKind), name="element_kind"),
        CheckConstraint("(element_kind = 'runner') = (cylinder is not null)", name="runner_has_cylinder"),
    )
    __mapper_args__ = {"polymorphic_identity": "flow"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    setup_id: Mapped[UUID] = mapped_column(ForeignKey("setup.id"))
    part_state_id: Mapped[UUID] = mapped_column(ForeignKey("part_state.id"), index=True)
    element_kind: Mapped[str]
    cylinder: Mapped[int | None]
    typed: Mapped[str]
    figure: Mapped[float]
    unit: Mapped[str]
    flow_m3_s: Mapped[float]
    depression_pa: Mapped[float | None]
    samples: Mapped[list[float]] = mapped_column(ARRAY(Float), default=list, server_default="{}")
    range_percent: Mapped[float | None]
    refitted: Mapped[bool] = mapped_column(default=True, server_default="true")
    plan_id: Mapped[UUID | None] = mapped_column(ForeignKey("test_plan.id"), index=True)
    plan_point: Mapped[int | None]

    setup: Mapped[Setup] = relationship(lazy="joined")

    @property
    def pulled_pa(self) -> float:
        """Depression at which it was read: the bench's own where it told, else that of the set-up."""
        return self.depression_pa or self.setup.depression_pa

    @property
    def pulled_words(self) -> str:
        """The same, as it was taken."""
        if self.depression_pa is not None:
            return f"{self.depression_pa / INCH_OF_WATER:.2f} inH2O"
        return f"{self.setup.depression_figure:g} {self.setup.depression_unit}"


class CheckReading(Reading):
    """What a bench showed of itself: at rest (zero), with everything blanked (leak), with its reference plate on, or of
    the part as it stood after the last figure: at a low depression (low), with the blade pushed to full bore (held).
    A plate whose flow is known calibrates; any plate tells one session from another."""

    __tablename__ = "check_reading"
    __table_args__ = (
        CheckConstraint(one_of("check_kind", *CHECKS), name="check_kind"),
        CheckConstraint("flow_m3_s > -1 and flow_m3_s < 10", name="flow"),
        CheckConstraint("depression_pa > 0", name="depression"),
        CheckConstraint("plate_flow_m3_s > 0", name="plate_flow"),
        CheckConstraint("plate_uncertainty_percent > 0", name="plate_uncertainty"),
        CheckConstraint("check_kind = 'plate' or setup_id is not null", name="of_setup"),
    )
    __mapper_args__ = {"polymorphic_identity": "check"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    bench_id: Mapped[UUID] = mapped_column(ForeignKey("bench.id"), index=True)
    setup_id: Mapped[UUID | None] = mapped_column(ForeignKey("setup.id"), index=True)
    check_kind: Mapped[str]
    typed: Mapped[str]
    figure: Mapped[float]
    unit: Mapped[str]
    flow_m3_s: Mapped[float]
    depression_pa: Mapped[float]
    samples: Mapped[list[float]] = mapped_column(ARRAY(Float), default=list, server_default="{}")
    plate: Mapped[str] = mapped_column(default="", server_default="")
    plate_flow_m3_s: Mapped[float | None]
    plate_uncertainty_percent: Mapped[float | None]

    @property
    def valid(self) -> bool:
        return self.strike is None


class ProbeReading(Reading):
    """A point of a test plan that is no flow: a pitot tube's pressure or a swirl meter's speed. As typed, and in SI."""

    __tablename__ = "probe_reading"
    __table_args__ = (CheckConstraint(one_of("quantity", "pitot", "swirl"), name="quantity"),)
    __mapper_args__ = {"polymorphic_identity": "probe"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    plan_id: Mapped[UUID] = mapped_column(ForeignKey("test_plan.id"), index=True)
    plan_point: Mapped[int]
    quantity: Mapped[str]
    typed: Mapped[str]
    figure: Mapped[float]
    unit: Mapped[str]
    value_si: Mapped[float]


class PullReading(Reading):
    """One dyno sweep: the rows as they stood in the file, in SI, and how the columns were mapped."""

    __tablename__ = "pull_reading"
    __table_args__ = (
        CheckConstraint(one_of("measures", "engine", "wheel"), name="measures"),
        CheckConstraint(one_of("standard_in_file", "observed", "sae_j1349", "iso_1585"), name="standard_in_file"),
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
    row_count: Mapped[int] = mapped_column(Computed("cardinality(engine_speed_rpm)"))


class DimensionReading(Reading):
    """A measured dimension of a part state, of one element of it: as typed, and in SI."""

    __tablename__ = "dimension_reading"
    __table_args__ = (
        CheckConstraint("value_si > 0", name="value"),
        CheckConstraint(
            one_of("quantity", "bore", "bore_out", "length", "volume", "opening", "entry_radius", "shaft"),
            name="quantity",
        ),
        CheckConstraint(one_of("element_kind", *ElementKind), name="element_kind"),
    )
    __mapper_args__ = {"polymorphic_identity": "dimension"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    part_state_id: Mapped[UUID] = mapped_column(ForeignKey("part_state.id"), index=True)
    element_kind: Mapped[str]
    cylinder: Mapped[int | None]
    quantity: Mapped[str]
    figure: Mapped[float]
    unit: Mapped[str]
    value_si: Mapped[float]


class Strike(Base):
    """A reading struck out: who, when and why."""

    __tablename__ = "strike"
    __table_args__ = (CheckConstraint("reason <> ''", name="reason"),)

    reading_id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    person_id: Mapped[UUID] = mapped_column(ForeignKey("person.id"))
    reason: Mapped[str]
    struck_at: Mapped[datetime]
