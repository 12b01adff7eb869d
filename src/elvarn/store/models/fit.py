"""Fitting: bolts of a flange where they sit, and which of them are tight."""

from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, ForeignKey, String
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.fit.bolt import BoltClass, Into, Lubrication
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
        CheckConstraint("stack_m > 0 and washers_m >= 0 and length_m > 0", name="sizes"),
        CheckConstraint("depth_m > 0", name="depth"),
        CheckConstraint("torque_nm > 0", name="torque"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    name: Mapped[str]
    thread: Mapped[str]
    bolt_class: Mapped[str]
    lubrication: Mapped[str]
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
