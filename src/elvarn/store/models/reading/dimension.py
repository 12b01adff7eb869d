"""Dimensions as measured."""

from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.path.tree import ElementKind
from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading

QUANTITIES = ("bore", "bore_out", "length", "volume", "opening", "entry_radius", "shaft")


class DimensionReading(Reading):
    """A measured dimension of a part state, of one element of it: as typed, and in SI."""

    __tablename__ = "dimension_reading"
    __table_args__ = (
        CheckConstraint("value_si > 0", name="value"),
        CheckConstraint("value_si <= 20", name="most_value"),
        CheckConstraint(one_of("quantity", *QUANTITIES), name="quantity"),
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
