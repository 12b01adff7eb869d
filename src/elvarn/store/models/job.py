"""Jobs, their kinds with the steps that each needs, engines, and steps done or to do."""

from datetime import date, datetime
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, String, UniqueConstraint, func
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.store.models.base import Base, ByPerson, ClientMade, Versioned, one_of

RAIL = ("takein", "path", "bench", "port", "fit", "dyno", "handover")


class JobKind(Base):
    """A kind of job and its rail: the steps it needs, in order."""

    __tablename__ = "job_kind"
    __table_args__ = (
        CheckConstraint(f"rail <@ array[{', '.join(repr(step) for step in RAIL)}]::varchar[]", name="rail_known"),
        CheckConstraint("cardinality(rail) > 0", name="rail_filled"),
    )

    code: Mapped[str] = mapped_column(primary_key=True)
    title: Mapped[str]
    position: Mapped[int] = mapped_column(unique=True)
    rail: Mapped[list[str]] = mapped_column(ARRAY(String))


class Engine(ClientMade, Versioned, Base):
    __tablename__ = "engine"
    __table_args__ = (
        CheckConstraint(one_of("layout", "single", "inline", "vee", "flat"), name="layout"),
        CheckConstraint("cylinder_count between 1 and 16", name="cylinder_count"),
        CheckConstraint("bank_count between 1 and 4 and bank_count <= cylinder_count", name="bank_count"),
        CheckConstraint("bore_mm > 0 and stroke_mm > 0", name="dimensions"),
        CheckConstraint("limit_rpm > 0", name="limit"),
    )

    name: Mapped[str]
    layout: Mapped[str]
    cylinder_count: Mapped[int]
    bank_count: Mapped[int] = mapped_column(default=1)
    bore_mm: Mapped[float | None]
    stroke_mm: Mapped[float | None]
    limit_rpm: Mapped[int | None]
    boosted: Mapped[bool] = mapped_column(default=False)


class Job(ByPerson, Versioned, Base):
    __tablename__ = "job"
    __table_args__ = (
        CheckConstraint("title <> ''", name="titled"),
        CheckConstraint("band_low_rpm > 0 and band_low_rpm < band_high_rpm", name="band"),
        CheckConstraint("(band_low_rpm is null) = (band_high_rpm is null)", name="band_whole"),
        CheckConstraint(one_of("standard", "observed", "sae_j1349", "iso_1585"), name="standard"),
    )

    kind_code: Mapped[str] = mapped_column(ForeignKey("job_kind.code"))
    title: Mapped[str]
    customer: Mapped[str | None]
    engine_id: Mapped[UUID | None] = mapped_column(ForeignKey("engine.id"))
    use: Mapped[str | None]
    band_low_rpm: Mapped[int | None]
    band_high_rpm: Mapped[int | None]
    received_on: Mapped[date | None]
    due_on: Mapped[date | None]
    standard: Mapped[str] = mapped_column(default="sae_j1349")
    note: Mapped[str] = mapped_column(default="", server_default="")
    closed_at: Mapped[datetime | None]
    updated_at: Mapped[datetime] = mapped_column(server_default=func.now(), onupdate=func.now())

    kind: Mapped[JobKind] = relationship(lazy="joined")
    engine: Mapped[Engine | None] = relationship(lazy="joined")


class Step(ByPerson, Versioned, Base):
    """Something done or to do at one step of the rail."""

    __tablename__ = "step"
    __table_args__ = (
        CheckConstraint(one_of("rail_step", *RAIL), name="rail_step"),
        CheckConstraint(one_of("state", "open", "waiting", "done"), name="state"),
        CheckConstraint("title <> ''", name="titled"),
        CheckConstraint("minutes >= 0", name="minutes"),
        CheckConstraint("(state = 'done') = (done_at is not null)", name="done_when"),
        UniqueConstraint("job_id", "rail_step", "position"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    rail_step: Mapped[str]
    position: Mapped[int]
    title: Mapped[str]
    state: Mapped[str] = mapped_column(default="open")
    minutes: Mapped[float | None]
    result: Mapped[str | None]
    done_at: Mapped[datetime | None]
    done_by_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
