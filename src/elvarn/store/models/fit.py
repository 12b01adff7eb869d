"""Fitting: the plan of a swap, what an engine family has, what was noted on the way, and bolts of a flange."""

from datetime import datetime
from enum import StrEnum
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, String
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.fit.bolt import BoltClass, Into, Lubrication
from elvarn.core.fit.drive import Drive
from elvarn.store.models.base import Base, ByPerson, Versioned, one_of


class BoltMap(ByPerson, Versioned, Base):
    """The bolts of one flange of a job: what they are, what they go through and into [m], the torque that somebody
    gives [N·m] with who that is, where each sits, and which were tightened in which round."""

    __tablename__ = "bolt_map"
    __table_args__ = (
        CheckConstraint("name <> ''", name="named"),
        CheckConstraint(one_of("bolt_class", *BoltClass), name="bolt_class"),
        CheckConstraint(one_of("lubrication", *Lubrication), name="lubrication"),
        CheckConstraint(one_of('"into"', *Into), name="into"),
        CheckConstraint(one_of("drive", *Drive), name="drive"),
        CheckConstraint("stack_m > 0 and washers_m >= 0 and length_m > 0", name="sizes"),
        CheckConstraint("depth_m > 0", name="depth"),
        CheckConstraint("torque_nm > 0", name="torque"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    name: Mapped[str]
    thread: Mapped[str]
    bolt_class: Mapped[str]
    lubrication: Mapped[str]
    drive: Mapped[str] = mapped_column(default=Drive.HEX.value, server_default=Drive.HEX.value)
    forming: Mapped[bool] = mapped_column(default=False, server_default="false")
    into: Mapped[str]
    stack_m: Mapped[float]
    washers_m: Mapped[float]
    depth_m: Mapped[float | None]
    length_m: Mapped[float]
    torque_nm: Mapped[float | None]
    torque_typed: Mapped[str] = mapped_column(default="", server_default="")
    torque_source: Mapped[str] = mapped_column(default="", server_default="")
    places: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)
    ticks: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    doubts: Mapped[list[str]] = mapped_column(ARRAY(String), default=list, server_default="{}")


class FitPlan(ByPerson, Versioned, Base):
    """The swap of one build for another: what was decided of its strands, strands and steps of the shop's own, what is
    in the way and what is renewed while it is open, what was counted of the kit, the codes on its labels, and the
    strands as they were when its tasks were written. The newest plan of a job that was not put away counts."""

    __tablename__ = "fit_plan"
    __table_args__ = (CheckConstraint("off_build_id <> on_build_id", name="two_builds"),)

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    off_build_id: Mapped[UUID] = mapped_column(ForeignKey("build.id"))
    on_build_id: Mapped[UUID] = mapped_column(ForeignKey("build.id"))
    family: Mapped[str] = mapped_column(default="", server_default="")
    mock_up: Mapped[bool] = mapped_column(default=False, server_default="false")
    seal: Mapped[str] = mapped_column(default="", server_default="")
    schools: Mapped[dict[str, str]] = mapped_column(JSONB, default=dict, server_default="{}")
    said: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    extras: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    steps: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    in_the_way: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    renewals: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    kit: Mapped[dict[str, int]] = mapped_column(JSONB, default=dict, server_default="{}")
    codes: Mapped[dict[str, str]] = mapped_column(JSONB, default=dict, server_default="{}")
    seen: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    put_away_at: Mapped[datetime | None]


class EngineFamily(ByPerson, Versioned, Base):
    """What engines of a family have on their intake, what is in the way, and what is worth renewing while it is
    open."""

    __tablename__ = "engine_family"
    __table_args__ = (CheckConstraint("name <> ''", name="named"),)

    name: Mapped[str] = mapped_column(unique=True)
    interfaces: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    in_the_way: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    renewals: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")


class NoteKind(StrEnum):
    """What is noted on the way of fitting."""

    CLEARANCE = "clearance"
    CODE = "code"
    CAUSE = "cause"
    BROKEN = "broken"
    IMPRESSION = "impression"


class FitNote(ByPerson, Versioned, Base):
    """Something noted while fitting: a clearance, a fault code, a cause that was looked for, something broken on the
    way, what the driver felt. `said` is what was said of it, by its kind."""

    __tablename__ = "fit_note"
    __table_args__ = (CheckConstraint(one_of("kind", *NoteKind), name="kind"),)

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    kind: Mapped[str]
    said: Mapped[dict[str, Any]] = mapped_column(JSONB)
    photo_id: Mapped[UUID | None] = mapped_column(ForeignKey("photo.id"))
