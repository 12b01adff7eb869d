"""Test plans: which points are flowed, in which order."""

from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.bench.plan import Measured, PlanKind, Stop
from elvarn.core.path.tree import ElementKind
from elvarn.store.models.base import Base, ByPerson, one_of
from elvarn.store.models.reading.setup import Setup


class Plan(ByPerson, Base):
    """A test on one element or runner: `series` are what is compared, `places` openings or lifts, `clocks` positions
    round an opening, `points` the stops of the core in the order in which they are flowed. A series says what it
    changes of the plan's set-up."""

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
    clocks: Mapped[list[float]] = mapped_column(ARRAY(Float), default=list, server_default="{}")
    points: Mapped[list[dict[str, Any]]] = mapped_column(JSONB)
    bore_m: Mapped[float | None]

    setup: Mapped[Setup] = relationship(lazy="joined")

    @property
    def stops(self) -> list[Stop]:
        """The points as the core knows them."""
        return [Stop(**{**point, "measured": Measured(point["measured"])}) for point in self.points]
