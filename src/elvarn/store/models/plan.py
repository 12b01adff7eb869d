"""Test plans: which points are flowed, in which order."""

from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.bench.plan import PlanKind
from elvarn.core.path.tree import ElementKind
from elvarn.store.models.base import Base, ByPerson, one_of
from elvarn.store.models.reading.setup import Setup


class Plan(ByPerson, Base):
    """A test on one element or runner: `series` are what is compared, `places` the values along the axis of its kind,
    `points` pairs of both in the order in which they are flowed. A series says what it changes of the plan's set-up."""

    __tablename__ = "test_plan"
    __table_args__ = (
        CheckConstraint(one_of("kind", *PlanKind), name="kind"),
        CheckConstraint(one_of("element_kind", *ElementKind), name="element_kind"),
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint("(element_kind = 'runner') = (cylinder is not null)", name="runner_has_cylinder"),
    )

    job_id: Mapped[UUID] = mapped_column(ForeignKey("job.id"), index=True)
    kind: Mapped[str]
    title: Mapped[str]
    setup_id: Mapped[UUID] = mapped_column(ForeignKey("setup.id"))
    element_kind: Mapped[str]
    cylinder: Mapped[int | None]
    series: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)
    places: Mapped[list[float]] = mapped_column(ARRAY(Float))
    points: Mapped[list[list[int]]] = mapped_column(JSONB)
    bore_m: Mapped[float | None]

    setup: Mapped[Setup] = relationship(lazy="joined")
