"""Everything that was read of a part, wherever it was read: what counts, what was struck out, and choosing."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.record.marks import MARKS
from elvarn.service.record.part import PartFacts
from elvarn.service.record.setup import item_words, items_of
from elvarn.service.record.stated import at_reference
from elvarn.service.record.strikes import StruckView, struck_view
from elvarn.service.shop.known import names_of_people
from elvarn.store import queries
from elvarn.store.models import DimensionReading, FlowReading, Part, PartState, Person

DIMENSION_WORDS = {
    "bore_out": "outlet bore", "entry_radius": "entry radius", "plate": "blade's thickness",
    "plate_at": "shaft's middle from the entry face", "wide_open_angle": "blade wide open",
    "closed_angle": "blade closed", "land_in": "land at the entry", "land_out": "land at the outlet",
    "groove_depth": "groove's depth", "groove_width": "groove's width",
}  # fmt: skip
USUAL = ("no radius", "off", "not noted", "")


@dataclass(frozen=True)
class PartReading:
    """A reading of a part: what of it, as it was typed and at the reference depression, how it was set up, by whom and
    when; whether it counts now; with a strike-out."""

    id: UUID
    what: str
    words: str
    setup_id: UUID | None
    setup: str
    person: str
    taken_at: datetime
    marks: list[str]
    counts: bool
    struck: StruckView | None


@given
class CountingChoice:
    """Whose flow readings of a part count: those set up as in this set-up, or with none the part alone as it was set up
    last."""

    person_id: UUID
    setup_id: UUID | None = None


def readings_of_part(session: Session, part: Part, facts: PartFacts, preset: units.Preset) -> list[PartReading]:
    """Every reading of a part in all its states, the latest first."""
    states = {state.id: state.label for state in part.states}
    flows = queries.flows_of_states(session, list(states), struck=True)
    sizes = queries.dimensions_of(session, list(states), struck=True)
    people = names_of_people(session)
    counting = {
        r.id for r in facts.flows if r in facts.readings(r.element_kind, r.cylinder)
    } | facts.counting_dimensions
    found = [_flow(r, states, people, counting, preset) for r in flows]
    found += [_dimension(r, states, people, counting) for r in sizes]
    return sorted(found, key=lambda one: one.taken_at, reverse=True)


def choose_counting(session: Session, state_id: UUID, choice: CountingChoice) -> PartState:
    """Choose which set-up's readings of a part's state count. Raises Invalid where nothing was read in it."""
    find(session, Person, choice.person_id, "person")
    state = find(session, PartState, state_id, "part state")
    if choice.setup_id is not None:
        readings = queries.flows_of_states(session, [state_id])
        if all(reading.setup_id != choice.setup_id for reading in readings):
            raise Invalid("Nothing of this part was read in that set-up. Reload.", path="setup_id")
    state.counting_setup_id = choice.setup_id
    state.counting_by_id, state.counting_at = choice.person_id, datetime.now(UTC)
    session.flush()
    return state


def _flow(
    reading: FlowReading, states: dict[UUID, str], people: dict[UUID, str], counting: set[UUID], preset: units.Preset
) -> PartReading:
    shown = units.show(at_reference(reading), "flow", preset)
    converted = "" if abs(reading.pulled_pa - REFERENCE_DEPRESSION) < 2 else f", read at {reading.pulled_words}"
    what = f"runner {reading.cylinder}" if reading.cylinder else reading.element_kind
    items = [words for words in item_words(items_of(reading.setup)).values() if words not in USUAL]
    setup = ", ".join([*items, reading.setup.bench.name])
    return PartReading(
        reading.id,
        f"{what} flow, {states[reading.part_state_id]}" if len(states) > 1 else f"{what} flow",
        f"{shown.text} {shown.unit}{converted}",
        reading.setup_id,
        setup,
        people[reading.person_id],
        reading.taken_at,
        [MARKS.get(mark, mark) for mark in reading.marks],
        reading.id in counting,
        struck_view(reading, people),
    )


def _dimension(
    reading: DimensionReading, states: dict[UUID, str], people: dict[UUID, str], counting: set[UUID]
) -> PartReading:
    of = f" of runner {reading.cylinder}" if reading.cylinder else ""
    what = DIMENSION_WORDS.get(reading.quantity, reading.quantity)
    if reading.place_m is not None:
        barrel = f", barrel {reading.barrel}" if (reading.barrel or 1) > 1 else ""
        what = f"across at {1000 * reading.place_m:g} mm, {reading.hour:g} o'clock{barrel}"
    when = f", {states[reading.part_state_id]}" if len(states) > 1 else ""
    return PartReading(
        reading.id,
        f"{what}{of}{when}",
        f"{reading.figure:.6g} {units.LABELS.get(reading.unit, reading.unit)}",
        None,
        "",
        people[reading.person_id],
        reading.taken_at,
        [MARKS.get(mark, mark) for mark in reading.marks],
        reading.id in counting,
        struck_view(reading, people),
    )


def unlike(readings: Sequence[PartReading]) -> bool:
    """Whether flow readings that stand were set up in more than one way, so that a choice is to be offered."""
    return len({reading.setup for reading in readings if reading.setup_id and not reading.struck}) > 1
