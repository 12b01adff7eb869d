"""Readings of a pitot tube or a swirl meter."""

from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading


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
