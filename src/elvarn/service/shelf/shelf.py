"""The shelf: parts as cards, a page at a time, found by words, kind, maker and fit; and castings."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import volume_flow_of
from elvarn.core.path.features import PART_KINDS
from elvarn.given import given
from elvarn.service.job.photos import PhotoView, photos_of_parts
from elvarn.service.path.held import held_against
from elvarn.service.record.castings import Casting, castings
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import load_job
from elvarn.service.record.on_shelf import on_shelf
from elvarn.service.record.part import PartFacts, facts_of_parts, main_element, main_flow
from elvarn.service.record.places import kinds_in, place_in
from elvarn.service.record.solved import Ask, solved_path
from elvarn.service.record.stock import Stock, stocks_of
from elvarn.service.shelf.dimensions import Dimension, dimensions_of
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries

PAGE = 60  # cards


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
    here: int
    left_over: int
    mass_kg: float | None
    bore: Dimension
    flow: units.Shown | None
    flow_grade: Grade | None
    boost_kpa: float | None
    claims: int
    photo_digest: str | None


@dataclass(frozen=True)
class KindCount:
    kind: str
    count: int


@dataclass(frozen=True)
class Shelf:
    """A page of the parts that are found, by kind and name; how many are found of the kind that is looked for, and of
    each; the makers of all that lies here; how many were put away."""

    parts: list[ShelfCard]
    found: int
    put_away: int
    page: int
    pages: int
    kinds: list[KindCount]
    makers: list[str]
    currency: str


@given
class ShelfAsked:
    """What is looked for: every word; a kind; a maker; what nothing hard stands against in a job's air path; the part
    that is at a state; those put away instead of those that lie here."""

    find: str = ""
    kind: str | None = None
    maker: str | None = None
    fits: UUID | None = None
    state: UUID | None = None
    page: int = 1
    archived: bool = False


def shelf(session: Session, curves: CurveShelf, asked: ShelfAsked, preset: units.Preset) -> Shelf:
    """A page of the shelf; behind the last page stands the last one."""
    among = None if asked.fits is None else _fitting(session, curves, asked.fits)
    search = queries.ShelfSearch(tuple(asked.find.split()), asked.kind, asked.maker, among, asked.state, asked.archived)
    counts = queries.count_on_shelf(session, search)
    found = counts.get(asked.kind, 0) if asked.kind else sum(counts.values())
    pages = max(1, ceil(found / PAGE))
    page = min(max(asked.page, 1), pages)
    parts = queries.shelf_page(session, search, PAGE, PAGE * (page - 1))
    facts = facts_of_parts(session, parts, [part.states[-1].id for part in parts])
    pictures = photos_of_parts(session, [part.id for part in parts])
    stocks = stocks_of(session, parts)
    return Shelf(
        parts=[_card(facts[part.states[-1].id], stocks[part.id], preset, pictures.get(part.id, [])) for part in parts],
        found=found,
        put_away=queries.count_put_away(session),
        page=page,
        pages=pages,
        kinds=[KindCount(kind, counts[kind]) for kind in PART_KINDS if kind in counts],
        makers=queries.makers_on_shelf(session),
        currency=path_settings(session).settings.currency,
    )


def cast(session: Session, preset: units.Preset) -> list[Casting]:
    """Castings with what was learned of each."""
    parts = queries.numbered_manifolds(session)
    facts = facts_of_parts(session, parts, [state.id for part in parts for state in part.states])
    return castings(session, parts, facts, preset)


def _fitting(session: Session, curves: CurveShelf, job_id: UUID) -> list[UUID]:
    """Parts that nothing hard stands against in the job's latest air path."""
    record = load_job(session, job_id)
    build = record.latest_build
    if build is None:
        return []
    path = solved_path(session, curves, record, build, Ask(), changed=False)
    places = [place_in(path, kind) for kind in kinds_in(path)]
    held = [one for place in places for one in held_against(path, place, on_shelf(session, place.kind))]
    return [one.facts.part.id for one in held if not one.hard]


def _card(facts: PartFacts, stock: Stock, preset: units.Preset, photos: Sequence[PhotoView]) -> ShelfCard:
    part, flow = facts.part, main_flow(facts)
    passage = facts.passage(main_element(part.kind), 1 if part.kind == "manifold" else None)
    shown, grade = (units.show(flow, "flow", preset), Grade.MEASURED) if flow else (None, None)
    if shown is None and passage is not None and passage.area:
        shown, grade = units.show(volume_flow_of(passage.area, REFERENCE_DEPRESSION), "flow", preset, 0), passage.grade
    return ShelfCard(
        part.id, facts.state.id, part.kind, part.name, part.maker, part.number, part.material, part.price,
        part.lead_days, stock.here, stock.left_over, part.mass_kg, dimensions_of(facts, preset)[0], shown, grade,
        facts.features.boost_kpa, len(part.claims), photos[0].digest if photos else None,
    )  # fmt: skip
