"""Port work on a part of a job: what it is to become, and who was at which runner for how long."""

from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey, Integer, UniqueConstraint
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.port.target import AreaLaw
from elvarn.core.port.wall import Material
from elvarn.store.models.base import Base, ByPerson, Versioned, one_of


class PortPlan(ByPerson, Versioned, Base):
    """What a part of a job is to become: its stations [m from the entry], the law of its areas with what that takes,
    where no metal may come off, the pieces that a runner goes through, and the recipe as this job has it."""

    __tablename__ = "port_plan"
    __table_args__ = (
        UniqueConstraint("job_id", "part_id"),
        CheckConstraint(one_of("material", *Material), name="material"),
        CheckConstraint(one_of("law", *AreaLaw), name="law"),
        CheckConstraint("reach_m between 0 and 2", name="reach"),
        CheckConstraint("least_wall_m between 0 and 0.1", name="least_wall"),
        CheckConstraint("cardinality(stations_m) <= 40", name="stations"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    part_id: Mapped[UUID] = mapped_column(ForeignKey("part.id"), index=True)
    material: Mapped[str]
    stations_m: Mapped[list[float]] = mapped_column(ARRAY(Float))
    law: Mapped[str]
    law_takes: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")
    reach_m: Mapped[float]
    least_wall_m: Mapped[float | None]
    zones: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    jet_runners: Mapped[list[int]] = mapped_column(ARRAY(Integer), default=list, server_default="{}")
    pieces: Mapped[list[dict[str, Any]]] = mapped_column(JSONB, default=list, server_default="[]")
    recipe: Mapped[dict[str, Any]] = mapped_column(JSONB, default=dict, server_default="{}")


class PortRecipe(ByPerson, Base):
    """A version of a recipe of the shop: what a stage is made of, under the shop's own name."""

    __tablename__ = "port_recipe"
    __table_args__ = (
        UniqueConstraint("name", "number"),
        CheckConstraint("name <> ''", name="named"),
        CheckConstraint("number >= 1", name="number"),
    )

    name: Mapped[str]
    number: Mapped[int]
    recipe: Mapped[dict[str, Any]] = mapped_column(JSONB)


class PortPass(ByPerson, Versioned, Base):
    """One round of a stage on one runner: seconds spent so far, since when the watch runs, when it was done, and how
    many tools it wore out."""

    __tablename__ = "port_pass"
    __table_args__ = (
        UniqueConstraint("part_state_id", "cylinder", "round"),
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint("round <> ''", name="round"),
        CheckConstraint("seconds between 0 and 360000", name="seconds"),
        CheckConstraint("worn between 0 and 99", name="worn"),
        CheckConstraint("running_since is null or done_at is null", name="runs_or_done"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    part_state_id: Mapped[UUID] = mapped_column(ForeignKey("part_state.id"), index=True)
    cylinder: Mapped[int]
    round: Mapped[str]
    seconds: Mapped[float] = mapped_column(default=0, server_default="0")
    running_since: Mapped[datetime | None]
    done_at: Mapped[datetime | None]
    inspected: Mapped[list[str]] = mapped_column(JSONB, default=list, server_default="[]")
    worn: Mapped[int] = mapped_column(default=0, server_default="0")
