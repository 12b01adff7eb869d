"""The shelf: parts as cards, and castings."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.service.job.photos import PhotoView, photos_of_parts
from elvarn.service.record.castings import Casting, castings
from elvarn.service.record.part import PartFacts, facts_of_parts, main_element, main_flow
from elvarn.service.shelf.dimensions import Dimension, dimensions_of
from elvarn.store import queries


@dataclass(frozen=True)
class ShelfCard:
    """A part as it lies on the shelf."""

    id: UUID
    state_id: UUID
    kind: str
    name: str
    maker: str | None
    number: str | None
    material: str | None
    price: float | None
    lead_days: int | None
    mass_kg: float | None
    bore: Dimension
    flow: units.Shown | None
    flow_grade: Grade | None
    boost_kpa: float | None
    claims: int
    photo_digest: str | None


@dataclass(frozen=True)
class Shelf:
    parts: list[ShelfCard]
    castings: list[Casting]
    currency: str


def shelf(session: Session, preset: units.Preset, currency: str) -> Shelf:
    """Parts on the shelf, and castings with what was learned of each."""
    parts, cast = queries.shelf_parts(session), queries.numbered_manifolds(session)
    states = [part.states[-1].id for part in parts] + [state.id for part in cast for state in part.states]
    both = {part.id: part for part in (*parts, *cast)}
    facts = facts_of_parts(session, list(both.values()), states)
    pictures = photos_of_parts(session, [part.id for part in parts])
    cards = [_card(facts[part.states[-1].id], preset, pictures.get(part.id, [])) for part in parts]
    return Shelf(cards, castings(session, cast, facts, preset), currency)


def _card(facts: PartFacts, preset: units.Preset, photos: Sequence[PhotoView]) -> ShelfCard:
    part, flow = facts.part, main_flow(facts)
    passage = facts.passage(main_element(part.kind), 1 if part.kind == "manifold" else None)
    shown, grade = (units.show(flow, "flow", preset), Grade.MEASURED) if flow else (None, None)
    if shown is None and passage is not None and passage.area:
        shown, grade = units.show(volume_flow_of(passage.area, REFERENCE_DEPRESSION), "flow", preset, 0), passage.grade
    return ShelfCard(
        part.id, facts.state.id, part.kind, part.name, part.maker, part.number, part.material, part.price,
        part.lead_days, part.mass_kg, dimensions_of(facts, preset)[0], shown, grade, facts.features.boost_kpa,
        len(part.claims), photos[0].digest if photos else None,
    )  # fmt: skip
