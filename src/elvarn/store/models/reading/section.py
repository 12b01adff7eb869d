"""Sections across a runner, and the walls round it, as they were measured."""

from uuid import UUID

from sqlalchemy import ARRAY, CheckConstraint, Float, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.port.wall import Place
from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading

SHAPES = ("round", "oval", "ellipse", "rectangle", "d", "area")


class SectionReading(Reading):
    """A section of a runner of a part state, so far from its entry: as typed, its shape, and its sizes [m], of an area
    alone [m²]."""

    __tablename__ = "section_reading"
    __table_args__ = (
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint("place_m between 0 and 2", name="place"),
        CheckConstraint(one_of("shape", *SHAPES), name="shape"),
        CheckConstraint("cardinality(sizes) between 1 and 3 and 0 <= all (sizes)", name="sizes"),
    )
    __mapper_args__ = {"polymorphic_identity": "section"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    part_state_id: Mapped[UUID] = mapped_column(ForeignKey("part_state.id"), index=True)
    cylinder: Mapped[int]
    place_m: Mapped[float]
    typed: Mapped[str]
    shape: Mapped[str]
    sizes: Mapped[list[float]] = mapped_column(ARRAY(Float))


class WallReading(Reading):
    """A wall of a runner of a part state, so far from its entry, at an hour of the clock as seen from there; what it
    holds."""

    __tablename__ = "wall_reading"
    __table_args__ = (
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint("place_m between 0 and 2", name="place"),
        CheckConstraint("hour > 0 and hour <= 12", name="hour"),
        CheckConstraint(one_of("holds", *Place), name="holds"),
        CheckConstraint("thickness_m > 0 and thickness_m <= 0.1", name="thickness"),
    )
    __mapper_args__ = {"polymorphic_identity": "wall"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    part_state_id: Mapped[UUID] = mapped_column(ForeignKey("part_state.id"), index=True)
    cylinder: Mapped[int]
    place_m: Mapped[float]
    hour: Mapped[float]
    holds: Mapped[str]
    typed: Mapped[str]
    thickness_m: Mapped[float]
