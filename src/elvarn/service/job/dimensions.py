"""Dimensions as they are measured."""

from collections.abc import Callable
from dataclasses import field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.path.plausible import Doubtful, doubt_dimension
from elvarn.given import Moment, given
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.writes import write_once
from elvarn.store.models import DimensionReading

UNLIKELY = "unlikely"
DIMENSION_QUANTITIES: dict[str, units.Quantity] = {
    "bore": "length",
    "bore_out": "length",
    "length": "length",
    "volume": "volume",
    "opening": "length",
    "entry_radius": "length",
    "shaft": "length",
}


@given
class NewDimension:
    """A measured dimension, as typed ("70 mm", "2 3/4 in", "3.1 L"). `accepted` are doubts under which it is kept."""

    person_id: UUID
    job_id: UUID | None
    part_state_id: UUID
    element_kind: str
    quantity: str
    typed: str
    taken_at: Moment
    cylinder: int | None = None
    accepted: list[str] = field(default_factory=list)


def add_dimension(session: Session, identifier: UUID, new: NewDimension) -> DimensionReading:
    """A measured dimension of a part state. Raises Invalid for one that can't be, Question for one that is unlikely."""
    return write_once(session, DimensionReading, identifier, new, dimension_row(identifier, new))


def dimension_row(identifier: UUID, new: NewDimension) -> Callable[[str], DimensionReading]:
    """A measured dimension, checked, as the row that keeps it once its digest is known. Raises as `add_dimension`."""
    quantity = DIMENSION_QUANTITIES.get(new.quantity)
    if quantity is None:
        raise Invalid(f"'{new.quantity}' is no dimension. Known: {', '.join(DIMENSION_QUANTITIES)}.", path="quantity")
    typed = units.parse(new.typed, quantity, units.PRESETS["trade"][quantity])
    if typed.si <= 0:
        raise Invalid(f"A dimension of {new.typed} can't be: it must be above 0. Measure it again.", path="typed")
    doubt = doubt_dimension(new.element_kind, new.quantity, typed.figure, typed.unit, typed.si)
    if doubt is not None and UNLIKELY not in new.accepted:
        raise _question(doubt, new)

    def make(digest: str) -> DimensionReading:
        return DimensionReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            taken_at=new.taken_at,
            marks=[UNLIKELY] if doubt else [],
            part_state_id=new.part_state_id,
            element_kind=new.element_kind,
            cylinder=new.cylinder,
            quantity=new.quantity,
            figure=typed.figure,
            unit=typed.unit,
            value_si=typed.si,
        )

    return make


def _question(doubt: Doubtful, new: NewDimension) -> Question:
    offers = [Offer(f"Use {meant}", {"typed": meant}) for meant in doubt.meant]
    keep = Offer(f"Save {new.typed} anyway, flagged", {"accepted": [*new.accepted, UNLIKELY]})
    return Question(UNLIKELY, f"{doubt.text} Wrong unit?", [*offers, keep], path="typed")
