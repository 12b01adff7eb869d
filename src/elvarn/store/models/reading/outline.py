"""Outlines as they were traced: of a runner, its gasket, the head's port, the opening of the plenum, the throttle."""

from typing import Any
from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.port.meeting import Of
from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading
from elvarn.store.models.reading.section import SectionReading

SOURCES = ("picture", "file", "hand")


class OutlineReading(Reading):
    """An outline beside a part state, as seen from the entry: its points and marks [m], y up; so far from the entry
    where it is of a runner, else 0; how far its edge may lie off [m]; where it came from, and how the picture was
    measured."""

    __tablename__ = "outline_reading"
    __table_args__ = (
        CheckConstraint(one_of("of", *Of), name="of"),
        CheckConstraint("cylinder between 1 and 16", name="cylinder"),
        CheckConstraint("place_m between 0 and 2", name="place"),
        CheckConstraint("case of when 'runner' then cylinder is not null else place_m = 0 end", name="at"),
        CheckConstraint("area_m2 > 0 and perimeter_m > 0", name="sizes"),
        CheckConstraint("edge_m >= 0", name="edge"),
        CheckConstraint(one_of("source", *SOURCES), name="source"),
    )
    __mapper_args__ = {"polymorphic_identity": "outline"}

    id: Mapped[UUID] = mapped_column(ForeignKey("reading.id"), primary_key=True)
    part_state_id: Mapped[UUID] = mapped_column(ForeignKey("part_state.id"), index=True)
    of: Mapped[str]
    cylinder: Mapped[int | None]
    place_m: Mapped[float]
    points_m: Mapped[list[list[float]]] = mapped_column(JSONB)
    marks_m: Mapped[list[list[float]]] = mapped_column(JSONB)
    area_m2: Mapped[float]
    perimeter_m: Mapped[float]
    edge_m: Mapped[float | None]
    source: Mapped[str]
    file_digest: Mapped[str | None]
    scale: Mapped[dict[str, Any] | None] = mapped_column(JSONB)

    @property
    def shape(self) -> str:
        """As a section of a runner is told."""
        return "traced"

    @property
    def sizes(self) -> list[float]:
        return [self.area_m2, self.perimeter_m]

    @property
    def typed(self) -> str:
        return f"traced, {1e6 * self.area_m2:.0f} mm²"


AnySection = SectionReading | OutlineReading  # of a runner: by its sizes, or traced
