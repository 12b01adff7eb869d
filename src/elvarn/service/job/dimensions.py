"""Dimensions as they are measured."""

from collections.abc import Callable
from dataclasses import dataclass, field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.path.plausible import SAME_BORE, Doubtful, can_not_be, doubt_across, doubt_dimension
from elvarn.core.path.tree import ElementKind
from elvarn.given import Moment, given
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.store import queries
from elvarn.store.models import DimensionReading, PartState
from elvarn.store.models.reading.dimension import ACROSS
from elvarn.typed import ClockHours

UNLIKELY = "unlikely"
MOST_BARRELS = 16
SAME_PLACE = 0.0005  # m: depths nearer than that are one
DIMENSION_QUANTITIES: dict[str, units.Quantity] = {
    "bore": "length",
    "bore_out": "length",
    "length": "length",
    "volume": "volume",
    "opening": "length",
    "entry_radius": "length",
    "shaft": "length",
    "across": "length",
    "plate": "length",
    "plate_at": "length",
    "wide_open_angle": "angle",
    "closed_angle": "angle",
    "land_in": "length",
    "land_out": "length",
    "groove_depth": "length",
    "groove_width": "length",
}
MADE_SMALLER = {"filled": "Filled here", "insert": "Sleeve fitted", "welded": "Welded up"}
SMALLER = "smaller"
DEEPEST = 1.0  # m


@given
class NewDimension:
    """A measured dimension, as typed ("70 mm", "2 3/4 in", "3.1 L"). What was gauged across a bore says of which
    barrel, how far from its entry face, at which hour of the clock. `accepted` are doubts under which it is kept."""

    person_id: UUID
    job_id: UUID | None
    part_state_id: UUID
    element_kind: str
    quantity: str
    typed: str
    taken_at: Moment
    cylinder: int | None = None
    accepted: list[str] = field(default_factory=list)
    barrel: int | None = None
    place: str | None = None
    hour: ClockHours | None = None


def add_dimension(session: Session, identifier: UUID, new: NewDimension) -> DimensionReading:
    """A measured dimension of a part state. Raises Invalid for one that can't be, Question for one that is unlikely."""
    at = _across(session, new) if new.quantity == ACROSS else None
    make = dimension_row(identifier, new, at)
    if new.element_kind == ElementKind.THROTTLE:
        _check_beside_others(session, new)
    return write_once(session, DimensionReading, identifier, new, make)


@dataclass(frozen=True)
class Across:
    """Where a bore was gauged across, and under which doubts that is kept."""

    place_m: float
    hour: float
    barrel: int
    doubts: list[str]


def dimension_row(identifier: UUID, new: NewDimension, at: Across | None = None) -> Callable[[str], DimensionReading]:
    """A measured dimension, checked, as the row that keeps it once its digest is known. Raises as `add_dimension`."""
    quantity = DIMENSION_QUANTITIES.get(new.quantity)
    if quantity is None:
        raise Invalid(f"'{new.quantity}' is no dimension. Known: {', '.join(DIMENSION_QUANTITIES)}.", path="quantity")
    typed = units.parse(new.typed, quantity, _usual_unit(new.quantity))
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
            marks=sorted({*([UNLIKELY] if doubt else []), *(at.doubts if at else [])}),
            part_state_id=new.part_state_id,
            element_kind=new.element_kind,
            cylinder=new.cylinder,
            quantity=new.quantity,
            figure=typed.figure,
            unit=typed.unit,
            value_si=typed.si,
            barrel=at.barrel if at else None,
            place_m=at.place_m if at else None,
            hour=at.hour if at else None,
        )

    return make


def _across(session: Session, new: NewDimension) -> Across:
    """Where it was gauged. Raises Invalid for a place that can't be, Question for a bore that is out of round or grew
    smaller."""
    place = units.parse(new.place or "", "length", "mm")
    if not 0 <= place.si <= DEEPEST:
        raise Invalid(f"A depth of {new.place} can't be: 0 is the entry face, 1 m the most.", path="place")
    if new.hour is None or not 0 < new.hour <= 12:
        raise Invalid("Give the hour at which the gauge stood: 1 to 12, seen from the entry.", path="hour")
    if new.barrel is None or not 1 <= new.barrel <= MOST_BARRELS:
        raise Invalid(f"There is no barrel {new.barrel or 0}: 1 to {MOST_BARRELS} can be.", path="barrel")
    hour, value = float(new.hour), units.parse(new.typed, "length", "mm").si
    state = find(session, PartState, new.part_state_id, "part state")
    known = [
        row
        for row in queries.dimensions_of(session, [one.id for one in state.part.states])
        if row.quantity == ACROSS
        and (row.barrel, row.element_kind) == (new.barrel, new.element_kind)
        and abs((row.place_m or 0.0) - place.si) < SAME_PLACE
    ]
    here = [row.value_si for row in known if row.part_state_id == state.id and row.hour != hour]
    doubts = []
    seen = doubt_dimension(new.element_kind, ACROSS, value, "m", value) is None
    why = doubt_across(value, here) if seen else ""
    if why:
        if UNLIKELY not in new.accepted:
            keep = Offer(f"Save {new.typed} anyway, flagged", {"accepted": [*new.accepted, UNLIKELY]})
            raise Question(UNLIKELY, f"{why} Gauge it again?", [keep], path="typed")
        doubts.append(UNLIKELY)
    before = [row for row in known if row.hour == hour and row.part_state_id != state.id]
    if before and value < before[-1].value_si - SAME_BORE:
        reasons = [name for name in MADE_SMALLER if name in new.accepted]
        if not reasons and SMALLER not in new.accepted:
            raise _smaller(new, before[-1])
        doubts += reasons or [SMALLER]
    return Across(place.si, hour, new.barrel, doubts)


def _check_beside_others(session: Session, new: NewDimension) -> None:
    """Refuse a size of a throttle that can't be beside what is known of it. Raises Invalid."""
    state = find(session, PartState, new.part_state_id, "part state")
    known = {}
    for row in queries.dimensions_of(session, [one.id for one in state.part.states]):
        if row.element_kind == new.element_kind:
            known["bore" if row.quantity == ACROSS else row.quantity] = row.value_si
    quantity = "bore" if new.quantity == ACROSS else new.quantity
    known[quantity] = units.parse(new.typed, DIMENSION_QUANTITIES[new.quantity], _usual_unit(new.quantity)).si
    why = can_not_be(known)
    if why:
        raise Invalid(why, path="typed")


def _usual_unit(quantity: str) -> str:
    return units.PRESETS["trade"][DIMENSION_QUANTITIES[quantity]]


def _smaller(new: NewDimension, before: DimensionReading) -> Question:
    offers = [Offer(words, {"accepted": [*new.accepted, name]}) for name, words in MADE_SMALLER.items()]
    keep = Offer(f"Save {new.typed} anyway, flagged: gauge again", {"accepted": [*new.accepted, SMALLER]})
    text = (
        f"{new.place} in it was {before.value_si * 1000:.2f} mm across, now {new.typed}: cutting makes it larger. "
        "What made it smaller?"
    )
    return Question(SMALLER, text, [*offers, keep], path="typed")


def _question(doubt: Doubtful, new: NewDimension) -> Question:
    offers = [Offer(f"Use {meant}", {"typed": meant}) for meant in doubt.meant]
    keep = Offer(f"Save {new.typed} anyway, flagged", {"accepted": [*new.accepted, UNLIKELY]})
    return Question(UNLIKELY, f"{doubt.text} Wrong unit?", [*offers, keep], path="typed")
