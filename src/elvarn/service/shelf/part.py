"""Everything about one part: what is advertised beside what was measured, and edits of what is said of it."""

from dataclasses import asdict, dataclass, field
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.path.charge import COOLING, EFFICIENCY
from elvarn.exchange.shelf_file import MOST_HERE
from elvarn.given import given
from elvarn.service.job.photos import PhotoView, photos_of_parts
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import there
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.service.record.features import Advertised, Claim, PartFeatures, kept, read
from elvarn.service.record.part import load_facts
from elvarn.service.record.stock import Stock, stocks_of
from elvarn.service.shelf.dimensions import Dimension, dimensions_of
from elvarn.service.shelf.drawn import DrawnPart, drawn
from elvarn.service.shelf.readings import PartReading, readings_of_part, unlike
from elvarn.service.shelf.words import part_words
from elvarn.service.shop.settings import check_currency
from elvarn.store import queries
from elvarn.store.models import Part
from elvarn.typed import Count, Days, Kilograms, Money, typed_texts


@dataclass(frozen=True)
class AssemblyPiece:
    id: UUID
    name: str
    role: str
    state: str
    stage: int | None


@dataclass(frozen=True)
class ExchangeOffer:
    """A piece of the same role in another assembly, to change places with."""

    piece_id: UUID
    assembly_id: UUID
    role: str
    words: str


@dataclass(frozen=True)
class PartSheet:
    """Everything about one part."""

    id: UUID
    version: int
    state_id: UUID
    kind: str
    name: str
    maker: str | None
    number: str | None
    material: str | None
    mass_kg: float | None
    price: float | None
    lead_days: int | None
    stock: Stock
    left_over: int
    note: str
    typed: dict[str, str]
    job_id: UUID | None
    job_title: str | None
    archived: bool
    states: list[str]
    dimensions: list[Dimension]
    readings: list[PartReading]
    unlike: bool
    counting_setup_id: UUID | None
    advertised: Advertised
    features: PartFeatures
    claims: list[Claim]
    pieces: list[AssemblyPiece]
    exchanges: list[ExchangeOffer]
    photos: list[PhotoView]
    drawn: DrawnPart
    margin: list[Sentence]


@given
class PartEdit:
    """Everything that can be said of a part, on the version that was seen; without a number of what lies here, that
    stays as it is."""

    version: int
    name: str
    maker: str | None = None
    number: str | None = None
    material: str | None = None
    mass_kg: Kilograms | None = None
    price: Money | None = None
    lead_days: Days | None = None
    note: str = ""
    advertised: Advertised = field(default_factory=Advertised)
    features: PartFeatures = field(default_factory=PartFeatures)
    claims: list[Claim] = field(default_factory=list)
    on_hand: Count | None = None


def part_sheet(session: Session, part_id: UUID, preset: units.Preset) -> PartSheet:
    """Everything about one part, with claims beside what was measured."""
    part = there(queries.part_with_its_states(session, part_id), part_id, "part")
    state = part.states[-1]
    facts = load_facts(session, [state.id])[state.id]
    dimensions = dimensions_of(facts, preset)
    readings = readings_of_part(session, part, facts, preset)
    titles = queries.titles_of_jobs(session, [part.job_id]) if part.job_id else {}
    claims = [read(Claim, claim) for claim in part.claims]
    stock = stocks_of(session, [part])[part.id]
    return PartSheet(
        part.id, part.version, state.id, part.kind, part.name, part.maker, part.number, part.material, part.mass_kg,
        part.price, part.lead_days, stock, stock.left_over, part.note, part.typed, part.job_id,
        titles.get(part.job_id) if part.job_id else None, part.archived_at is not None,
        [s.label for s in part.states], dimensions, readings, unlike(readings),
        state.counting_setup_id, facts.advertised, facts.features, claims,
        _pieces(part), _exchanges(session, part), photos_of_parts(session, [part.id]).get(part.id, []),
        drawn(facts, preset), part_words(facts, dimensions, claims, preset),
    )  # fmt: skip


def edit_part(session: Session, part_id: UUID, change: PartEdit) -> Part:
    """Change what is said of a part. Raises Stale where somebody else changed it meanwhile."""
    part = find_for_edit(session, Part, part_id, "part")
    if not change.name.strip():
        raise Invalid("Name the part.", path="name")
    for name in ("mass_kg", "price", "lead_days"):
        value = getattr(change, name)
        if value is not None and (value < 0 or (name == "mass_kg" and value == 0)):
            raise Invalid(f"A {name.split('_')[0]} can't be {value:g}. Enter {_least(name)}.", path=name)
    check_currency(session, change.price, "price")
    _check_figures(asdict(change.features), "features")
    _check_figures(asdict(change.advertised), "advertised")
    _check_charging(change.features)
    plain = ("maker", "number", "material", "mass_kg", "price", "lead_days", "note")
    changes = {name: getattr(change, name) for name in plain}
    changes |= {"name": change.name.strip(), "advertised": kept(change.advertised), "features": kept(change.features)}
    changes["claims"] = [asdict(claim) for claim in change.claims]
    changes["typed"] = typed_texts(change)
    if change.on_hand is not None:
        changes["on_hand"] = _counted(change.on_hand)
    edit(part, change.version, changes, "part")
    session.flush()
    return part


def _counted(number: int) -> int:
    """How many lie here. Raises Invalid for what can't."""
    if not 0 <= number <= MOST_HERE:
        raise Invalid(f"{number} can't lie here. Count again: 0 to {MOST_HERE}.", path="on_hand")
    return number


def _least(name: str) -> str:
    return "a mass above 0" if name == "mass_kg" else "0 or more"


def _check_charging(features: PartFeatures) -> None:
    """Refuse what no compressor or cooler is. Raises Invalid naming its place."""
    for name, value, seen in (
        ("efficiency_percent", features.efficiency_percent, EFFICIENCY),
        ("cooling_percent", features.cooling_percent, COOLING),
    ):
        if value is not None and value / 100 not in seen:
            text = f"A {seen.name} of {value:g} % can't be: {seen.words} can be."
            raise Invalid(text, path=f"features.{name}")
    if features.ratio_limit is not None and features.ratio_limit < 1:
        text = f"A pressure ratio of {features.ratio_limit:g} can't be: a compressor makes 1 or more."
        raise Invalid(text, path="features.ratio_limit")


def _check_figures(spec: dict[str, Any], path: str) -> None:
    """Refuse a dimension below zero, wherever it stands in what is said. Raises Invalid naming its place."""
    for name, value in spec.items():
        where = f"{path}.{name}"
        if isinstance(value, dict):
            _check_figures(value, where)
        elif isinstance(value, list):
            for index, one in enumerate(value):
                if isinstance(one, dict):
                    _check_figures(one, f"{where}.{index}")
        elif isinstance(value, int | float) and value < 0:
            words = name.rsplit("_", 1)[0].replace("_", " ")
            raise Invalid(f"A {words} can't be {value:g}, it is 0 or more. Measure it again.", path=where)


def _pieces(part: Part) -> list[AssemblyPiece]:
    links = sorted(part.pieces, key=lambda link: link.position)
    return [
        AssemblyPiece(link.piece.id, link.piece.name, link.role, last.label, last.stage)
        for link in links
        if (last := link.piece.states[-1])
    ]


def _exchanges(session: Session, part: Part) -> list[ExchangeOffer]:
    roles = {link.role for link in part.pieces}
    if not roles:
        return []
    return [
        ExchangeOffer(link.piece_id, whole.id, link.role, f"{link.piece.name} of {whole.name}")
        for link, whole in queries.pieces_of_others(session, part.id)
        if link.role in roles
    ]
