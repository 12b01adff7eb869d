"""Dimensions as measured."""

from uuid import UUID

from sqlalchemy import CheckConstraint, ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from elvarn.core.path.tree import ElementKind
from elvarn.store.models.base import one_of
from elvarn.store.models.reading.base import Reading

ACROSS = "across"
QUANTITIES = (
    "bore", "bore_out", "length", "volume", "opening", "entry_radius", "shaft", ACROSS, "plate", "plate_at",
    "wide_open_angle", "closed_angle", "land_in", "land_out", "groove_depth", "groove_width",
)  # fmt: skip


class DimensionReading(Reading):
    """A measured dimension of a part state, of one element of it: as typed, and in SI (angles in rad). What was gauged
    across a bore says of which barrel, so far from its entry face, at which hour of the clock."""

    __tablename__ = "dimension_reading"
    __table_args__ = (
        CheckConstraint("value_si > 0", name="value"),
        CheckConstraint("value_si <= 20", name="most_value"),
        CheckConstraint(one_of("quantity", *QUANTITIES), name="quantity"),
        CheckConstraint(one_of("element_kind", *ElementKind), name="element_kind"),
        CheckConstraint("place_m between 0 and 2", name="place"),
        CheckConstraint("hour > 0 and hour <= 12", name="hour"),
        CheckConstraint("barrel between 1 and 16", name="barrel"),
        CheckConstraint(
            "(quantity = 'across') = (place_m is not null and hour is not null and barrel is not null)", name="across"
        ),
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
    barrel: Mapped[int | None]
    place_m: Mapped[float | None]
    hour: Mapped[float | None]
