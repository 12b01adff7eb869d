"""Jobs, their kinds with the steps that each needs, engines, and steps done or to do."""

from datetime import date, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, Integer, String, UniqueConstraint, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.dyno.correction import Standard
from elvarn.core.port.order import Work
from elvarn.store.models.base import AsTyped, Base, ByPerson, ClientMade, Revised, Versioned, one_of


class KnownStep(Base):
    """A step of the work that the core's list of them knows."""

    __tablename__ = "rail_step"

    word: Mapped[str] = mapped_column(primary_key=True)


class JobKind(Base):
    """A kind of job and its rail: the steps it needs, in order. Written from the core's list when a database is
    brought to the newest schema."""

    __tablename__ = "job_kind"
    __table_args__ = (CheckConstraint("cardinality(rail) > 0", name="rail_filled"),)

    code: Mapped[str] = mapped_column(primary_key=True)
    title: Mapped[str]
    position: Mapped[int] = mapped_column(unique=True)
    rail: Mapped[list[str]] = mapped_column(ARRAY(String))


class Engine(ClientMade, Versioned, AsTyped, Base):
    """An engine in one of its versions: `follows_id` is the one before. `card` holds what else its card says."""

    __tablename__ = "engine"
    __table_args__ = (
        CheckConstraint(one_of("layout", "single", "inline", "vee", "flat"), name="layout"),
        CheckConstraint("cylinder_count between 1 and 16", name="cylinder_count"),
        CheckConstraint("bank_count between 1 and 4 and bank_count <= cylinder_count", name="bank_count"),
        CheckConstraint("bore_mm > 0 and stroke_mm > 0", name="dimensions"),
        CheckConstraint("limit_rpm > 0", name="limit"),
        CheckConstraint("compression_ratio > 1", name="compression"),
        CheckConstraint("inlet_valve_count between 1 and 4", name="inlet_valve_count"),
        CheckConstraint("inlet_valve_mm > 0", name="inlet_valve"),
        CheckConstraint("boost_kpa >= 0", name="boost"),
        CheckConstraint(one_of("fuel", "petrol", "E85", "methanol"), name="fuel"),
        CheckConstraint("injector_cc_min > 0 and injector_rated_kpa > 0 and rail_kpa > 0", name="injector"),
        CheckConstraint("cardinality(firing_order) in (0, cylinder_count)", name="firing_order"),
    )

    name: Mapped[str]
    layout: Mapped[str]
    cylinder_count: Mapped[int]
    bank_count: Mapped[int] = mapped_column(default=1)
    bore_mm: Mapped[float | None]
    stroke_mm: Mapped[float | None]
    limit_rpm: Mapped[int | None]
    boosted: Mapped[bool] = mapped_column(default=False)
    boost_kpa: Mapped[float | None]
    compression_ratio: Mapped[float | None]
    inlet_valve_count: Mapped[int | None]
    inlet_valve_mm: Mapped[float | None]
    fuel: Mapped[str] = mapped_column(default="petrol", server_default="petrol")
    firing_order: Mapped[list[int]] = mapped_column(ARRAY(Integer), default=list, server_default="{}")
    inlet_opens_deg: Mapped[float | None]
    inlet_closes_deg: Mapped[float | None]
    exhaust_opens_deg: Mapped[float | None]
    exhaust_closes_deg: Mapped[float | None]
    cam_lift_mm: Mapped[float | None]
    injector_cc_min: Mapped[float | None]
    injector_rated_kpa: Mapped[float | None]
    rail_kpa: Mapped[float | None]
    card: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    follows_id: Mapped[UUID | None] = mapped_column(ForeignKey("engine.id"))


class Job(ByPerson, Versioned, AsTyped, Revised, Base):
    __tablename__ = "job"
    __table_args__ = (
        CheckConstraint("title <> ''", name="titled"),
        CheckConstraint("band_low_rpm > 0 and band_low_rpm < band_high_rpm", name="band"),
        CheckConstraint("(band_low_rpm is null) = (band_high_rpm is null)", name="band_whole"),
        CheckConstraint(one_of("standard", *Standard), name="standard"),
        CheckConstraint("power_wanted_kw > 0", name="power_wanted"),
        CheckConstraint("budget >= 0", name="budget"),
        CheckConstraint("reference_runner between 1 and 16", name="reference_runner"),
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
    standard: Mapped[str] = mapped_column(default=Standard.SAE_J1349.value)
    note: Mapped[str] = mapped_column(default="", server_default="")
    power_wanted_kw: Mapped[float | None]
    budget: Mapped[float | None]
    surroundings: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    reference_runner: Mapped[int | None]
    uses: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    copied_from_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"))
    closed_at: Mapped[datetime | None]
    archived_at: Mapped[datetime | None]
    updated_at: Mapped[datetime] = mapped_column(server_default=func.now(), onupdate=func.now())

    kind: Mapped[JobKind] = relationship(lazy="joined")
    engine: Mapped[Engine | None] = relationship(lazy="joined")


class Task(ByPerson, Versioned, Base):
    """Something done or to do at one step of the rail: what kind of work it is where that has an order, who is to do it
    and when, with whom it is outside and until when, and the doubts under which it was done. One of a swap says of
    which plan and which task of it; `readings` is what was measured at it, the last one at the end."""

    __tablename__ = "step"
    __table_args__ = (
        CheckConstraint(one_of("state", "open", "waiting", "done"), name="state"),
        CheckConstraint("title <> ''", name="titled"),
        CheckConstraint("minutes >= 0", name="minutes"),
        CheckConstraint("(state = 'done') = (done_at is not null)", name="done_when"),
        CheckConstraint(one_of("work", *Work), name="work"),
        CheckConstraint("due_back_on is null or outside <> ''", name="due_back"),
        CheckConstraint("(fit_plan_id is null) = (fit_key is null)", name="of_plan"),
        UniqueConstraint("job_id", "rail_step", "position"),
        UniqueConstraint("fit_plan_id", "fit_key"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    rail_step: Mapped[str] = mapped_column(ForeignKey("rail_step.word"))
    position: Mapped[int]
    title: Mapped[str]
    state: Mapped[str] = mapped_column(default="open")
    minutes: Mapped[float | None]
    result: Mapped[str | None]
    done_at: Mapped[datetime | None]
    done_by_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    work: Mapped[str | None]
    assigned_to_id: Mapped[UUID | None] = mapped_column(ForeignKey("person.id"))
    planned_on: Mapped[date | None]
    outside: Mapped[str] = mapped_column(default="", server_default="")
    due_back_on: Mapped[date | None]
    doubts: Mapped[list[str]] = mapped_column(ARRAY(String), default=list, server_default="{}")
    fit_plan_id: Mapped[UUID | None] = mapped_column(ForeignKey("fit_plan.id"))
    fit_key: Mapped[str | None]
    readings: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")


class ReceivedItem(ByPerson, Versioned, Base):
    """Something that came in with a job, or should have: what the receipt lists and what goes back."""

    __tablename__ = "received_item"
    __table_args__ = (
        CheckConstraint("words <> ''", name="worded"),
        CheckConstraint(one_of("condition", "fine", "worked_on", "broken", "missing"), name="condition"),
        CheckConstraint("not (condition = 'missing' and returned_on is not null)", name="missing_stays"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    words: Mapped[str]
    condition: Mapped[str] = mapped_column(default="fine")
    note: Mapped[str] = mapped_column(default="", server_default="")
    returned_on: Mapped[date | None]


class Photo(ByPerson, Base):
    """A picture of a job or of a part, of one place of a runner in a state, or of a task; the file lies in the data
    folder."""

    __tablename__ = "photo"
    __table_args__ = (
        CheckConstraint("job_id is not null or part_id is not null", name="of_something"),
        CheckConstraint(one_of("media_type", "image/jpeg", "image/png", "image/webp"), name="media_type"),
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint("place_m between 0 and 2", name="place"),
    )

    job_id: Mapped[UUID | None] = mapped_column(ForeignKey("job.id"), index=True)
    part_id: Mapped[UUID | None] = mapped_column(ForeignKey("part.id"), index=True)
    file_digest: Mapped[str] = mapped_column(ForeignKey("stored_file.digest"))
    media_type: Mapped[str]
    caption: Mapped[str] = mapped_column(default="", server_default="")
    part_state_id: Mapped[UUID | None] = mapped_column(ForeignKey("part_state.id"))
    cylinder: Mapped[int | None]
    place_m: Mapped[float | None]
    task_id: Mapped[UUID | None] = mapped_column(ForeignKey("step.id", ondelete="SET NULL"))
