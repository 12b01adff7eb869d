"""Flow readings."""

from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column, relationship

from elvarn.core.constants import INCH_OF_WATER
from elvarn.core.path.tree import ElementKind
from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading
from elvarn.store.models.reading.setup import Setup


class FlowReading(Reading):
    """Flow of one runner, or of a whole element where no cylinder is named: as typed, and in SI. Where the bench sent
    them, `samples` are those that the figure is the mean of, in its unit, `depression_pa` is what the bench pulled then
    and `range_percent` how much of its range it used. `refitted` says that the part was put on anew for it. A point of
    a test plan names its plan, series and place."""

    __tablename__ = "flow_reading"
    __table_args__ = (
        CheckConstraint("flow_m3_s > 0 and flow_m3_s < 'infinity'", name="flow"),
        CheckConstraint("depression_pa > 0", name="depression"),
        CheckConstraint("flow_m3_s < 10", name="most_flow"),
        CheckConstraint("depression_pa <= 100000", name="most_depression"),
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint(one_of("element_kind", *ElementKind), name="element_kind"),
        CheckConstraint("(element_kind = 'runner') = (cylinder is not null)", name="runner_has_cylinder"),
    )
    __mapper_args__ = {"polymorphic_identity": "flow"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    setup_id: Mapped[UUID] = mapped_column(ForeignKey("setup.id"), index=True)
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
