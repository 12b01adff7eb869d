"""The shelf: parts with what their makers say beside what was measured here, and castings with what was learned."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from datetime import datetime
from statistics import fmean
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.constants import REFERENCE_DEPRESSION
from elvarn.core.finding import Grade
from elvarn.core.path.passage import volume_flow_of
from elvarn.core.path.tree import ElementKind
from elvarn.service.capture import NewElementFlow, capture_element
from elvarn.service.errors import Invalid
from elvarn.service.facts import PartFacts, load_facts
from elvarn.service.features import Advertised, Claim, PartFeatures, kept, read
from elvarn.service.margin import Sentence, sentence
from elvarn.service.photos import PhotoView, photos_of_parts
from elvarn.service.setups import NewSetup, add_setup
from elvarn.service.stated import at_reference, by_port, flows_by_runner
from elvarn.service.writes import edit, find, find_for_edit
from elvarn.store import queries
from elvarn.store.models import Part

SAME_BORE_PERCENT = 0.5


@dataclass(frozen=True)
class Dimension:
    """A dimension as its maker states it and as it was measured here."""

    name: str
    advertised: units.Shown | None
    measured: units.Shown | None
    difference: str


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
class CastingJob:
    """What one job learned of a casting; flows are means over its runners."""

    job_id: UUID | None
    title: str
    before: units.Shown | None
    after: units.Shown | None
    gain_percent: float | None
    stage: int | None
    note: str


@dataclass(frozen=True)
class Casting:
    """A casting by maker and number, with every job that had it."""

    part_id: UUID
    maker: str
    number: str
    name: str
    jobs: list[CastingJob]
    words: str


@dataclass(frozen=True)
class Shelf:
    parts: list[ShelfCard]
    castings: list[Casting]
    currency: str


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
    note: str
    job_id: UUID | None
    job_title: str | None
    states: list[str]
    dimensions: list[Dimension]
    flows: list[str]
    advertised: Advertised
    features: PartFeatures
    claims: list[Claim]
    pieces: list[AssemblyPiece]
    exchanges: list[ExchangeOffer]
    photos: list[PhotoView]
    margin: list[Sentence]


@dataclass(frozen=True)
class PartEdit:
    """Everything that can be said of a part, on the version that was seen."""

    version: int
    name: str
    maker: str | None = None
    number: str | None = None
    material: str | None = None
    mass_kg: float | None = None
    price: float | None = None
    lead_days: int | None = None
    note: str = ""
    advertised: Advertised = field(default_factory=Advertised)
    features: PartFeatures = field(default_factory=PartFeatures)
    claims: list[Claim] = field(default_factory=list)


@dataclass(frozen=True)
class NewPartFlow:
    """A part read on the bench by itself, on the shelf or in a job: one set-up and one figure."""

    person_id: UUID
    part_state_id: UUID
    element_kind: str
    bench_id: UUID
    depression: str
    typed: str
    taken_at: datetime
    entry_radius: str = "clay"
    cylinder: int | None = None
    job_id: UUID | None = None


def shelf(session: Session, preset: units.Preset, currency: str) -> Shelf:
    """Parts on the shelf, and castings with what was learned of each."""
    parts = queries.shelf_parts(session)
    facts = load_facts(session, [part.states[-1].id for part in parts])
    pictures = photos_of_parts(session, [part.id for part in parts])
    cards = [_card(facts[part.states[-1].id], preset, pictures.get(part.id, [])) for part in parts]
    return Shelf(cards, castings(session, preset), currency)


def castings(session: Session, preset: units.Preset) -> list[Casting]:
    """Every manifold with a number, by maker and number, with what each job measured of it."""
    parts = [part for part in queries.numbered_manifolds(session) if part.number]
    facts = load_facts(session, [state.id for part in parts for state in part.states])
    titles = queries.titles_of_jobs(session, [part.job_id for part in parts if part.job_id])
    groups: dict[tuple[str, str], list[Part]] = {}
    for part in parts:
        groups.setdefault((part.maker or "", part.number or ""), []).append(part)
    return [
        _casting(key, [_casting_job(part, facts, titles, preset) for part in group], group[0])
        for key, group in sorted(groups.items())
    ]


def part_sheet(session: Session, part_id: UUID, preset: units.Preset) -> PartSheet:
    """Everything about one part, with claims beside what was measured."""
    part = find(session, Part, part_id, "part")
    state = part.states[-1]
    facts = load_facts(session, [state.id])[state.id]
    dimensions = _dimensions(facts, preset)
    titles = queries.titles_of_jobs(session, [part.job_id] if part.job_id else [])
    claims = [read(Claim, claim) for claim in part.claims]
    return PartSheet(
        part.id, part.version, state.id, part.kind, part.name, part.maker, part.number, part.material, part.mass_kg,
        part.price, part.lead_days, part.note, part.job_id, titles.get(part.job_id) if part.job_id else None,
        [s.label for s in part.states], dimensions, _flows(facts, preset), facts.advertised, facts.features, claims,
        _pieces(part), _exchanges(session, part), photos_of_parts(session, [part.id]).get(part.id, []),
        _margin(facts, dimensions, claims, preset),
    )  # fmt: skip


def edit_part(session: Session, part_id: UUID, change: PartEdit) -> Part:
    """Change what is said of a part. Raises Stale where somebody else changed it meanwhile."""
    part = find_for_edit(session, Part, part_id, "part")
    if not change.name.strip():
        raise Invalid("The part has no name. Type one.", path="name")
    for name in ("mass_kg", "price", "lead_days"):
        value = getattr(change, name)
        if value is not None and (value < 0 or (name == "mass_kg" and value == 0)):
            raise Invalid(f"A {name.split('_')[0]} of {value:g} can't be.", path=name)
    _check_figures(asdict(change.features), "features")
    _check_figures(asdict(change.advertised), "advertised")
    plain = ("maker", "number", "material", "mass_kg", "price", "lead_days", "note")
    changes = {name: getattr(change, name) for name in plain}
    changes |= {"name": change.name.strip(), "advertised": kept(change.advertised), "features": kept(change.features)}
    changes["claims"] = [asdict(claim) for claim in change.claims]
    edit(part, change.version, changes, "part")
    session.flush()
    return part


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
            raise Invalid(f"A {words} of {value:g} can't be. Measure it again.", path=where)


def flow_of_part(session: Session, identifier: UUID, new: NewPartFlow) -> UUID:
    """Keep a figure of a part by itself. Raises Invalid for a depression or flow that can't be."""
    setup_id = uuid5(identifier, "setup")
    setup = NewSetup(
        person_id=new.person_id,
        job_id=new.job_id,
        bench_id=new.bench_id,
        depression=new.depression,
        entry_radius=new.entry_radius,
    )
    add_setup(session, setup_id, setup)
    flow = NewElementFlow(
        new.person_id,
        None,
        setup_id,
        new.part_state_id,
        new.element_kind,
        new.typed,
        new.taken_at,
        cylinder=new.cylinder,
    )
    return capture_element(session, identifier, flow).id


def main_element(kind: str) -> str:
    """The element of a part that its main bore is of."""
    return ElementKind.RUNNER if kind == "manifold" else kind


def measured(facts: PartFacts, quantity: str) -> float | None:
    """A dimension of a part's main element; of a manifold the smallest over its runners, its volume the plenum's."""
    if facts.part.kind != "manifold":
        return facts.dimension(facts.part.kind, quantity)
    if quantity in ("volume", "opening"):
        return facts.dimension(ElementKind.PLENUM, quantity)
    cylinders = {d.cylinder for d in facts.dimensions if d.element_kind == ElementKind.RUNNER}
    found = [facts.dimension(ElementKind.RUNNER, quantity, cylinder) for cylinder in cylinders]
    return min((value for value in found if value is not None), default=None)


def measured_flow(facts: PartFacts) -> float | None:
    """Mean flow of the main element in m³/s at the reference depression."""
    kind = main_element(facts.part.kind)
    kept_readings = [at_reference(r) for r in facts.flows if r.element_kind == kind]
    return fmean(kept_readings) if kept_readings else None


def _card(facts: PartFacts, preset: units.Preset, photos: Sequence[PhotoView]) -> ShelfCard:
    part, flow = facts.part, measured_flow(facts)
    passage = facts.passage(main_element(part.kind), 1 if part.kind == "manifold" else None)
    shown, grade = (units.show(flow, "flow", preset), Grade.MEASURED) if flow else (None, None)
    if shown is None and passage is not None and passage.area:
        shown, grade = units.show(volume_flow_of(passage.area, REFERENCE_DEPRESSION), "flow", preset, 0), passage.grade
    return ShelfCard(
        part.id, facts.state.id, part.kind, part.name, part.maker, part.number, part.material, part.price,
        part.lead_days, part.mass_kg, _dimensions(facts, preset)[0], shown, grade, facts.features.boost_kpa,
        len(part.claims), photos[0].digest if photos else None,
    )  # fmt: skip


def _dimensions(facts: PartFacts, preset: units.Preset) -> list[Dimension]:
    stated = facts.advertised
    rows: list[tuple[str, str, float | None, units.Quantity]] = [
        ("Bore", "bore", stated.bore_mm, "length"),
        ("Bore at the outlet", "bore_out", stated.bore_out_mm, "length"),
        ("Length", "length", stated.length_mm, "length"),
        ("Volume", "volume", stated.volume_l, "volume"),
        ("Opening", "opening", None, "length"),
    ]
    found = []
    for name, quantity, figure, kind in rows:
        here = measured(facts, quantity)
        if name != "Bore" and here is None and figure is None:
            continue
        advertised = figure / 1000 if figure is not None else None
        found.append(
            Dimension(
                name,
                units.show(advertised, kind, preset) if advertised else None,
                units.show(here, kind, preset) if here else None,
                _difference(advertised, here, kind, preset),
            )
        )
    return found


def _difference(stated: float | None, here: float | None, kind: units.Quantity, preset: units.Preset) -> str:
    if not stated or not here or abs(here / stated - 1) * 100 < SAME_BORE_PERCENT:
        return ""
    shown = units.show_difference(here - stated, kind, preset)
    return f"{shown.text} {shown.unit}"


def _flows(facts: PartFacts, preset: units.Preset) -> list[str]:
    found = []
    for reading in facts.flows:
        shown = units.show(at_reference(reading), "flow", preset)
        where = f"runner {reading.cylinder}" if reading.cylinder else reading.element_kind
        taken = reading.pulled_words
        converted = "" if abs(reading.pulled_pa - REFERENCE_DEPRESSION) < 2 else f", read at {taken}"
        found.append(f"{where}: {shown.text} {shown.unit}{converted}, {reading.taken_at:%Y-%m-%d}")
    return found


def _margin(
    facts: PartFacts, dimensions: Sequence[Dimension], claims: Sequence[Claim], preset: units.Preset
) -> list[Sentence]:
    said = []
    for one in dimensions:
        if one.difference and one.advertised and one.measured:
            text = f"{one.name}: advertised {one.advertised.text} {one.advertised.unit}, measured here "
            text += f"[{one.measured.text} {one.measured.unit}](dimension-{one.name}) ({one.difference})."
            said.append(sentence(text, Grade.MEASURED, "doubt"))
    flow, stated = measured_flow(facts), facts.advertised.flow_cfm
    if stated:
        shown = units.show(units.to_si(stated, "cfm", "flow"), "flow", preset, 0)
        text = f"Its maker says {shown.text} {shown.unit}"
        if flow:
            here, apart = units.show(flow, "flow", preset), flow / units.to_si(stated, "cfm", "flow") - 1
            text += f"; this bench read {here.text} {here.unit}, {units.percent_text(apart)}"
        text += ". Two benches differ; a ratio on one bench does not."
        said.append(sentence(text, Grade.MEASURED if flow else Grade.RULE, "doubt" if flow else "plain"))
    for claim in claims:
        needs = f" It needs {claim.needs} for that." if claim.needs else ""
        text = f"Its seller says: {claim.words.rstrip('.')}.{needs} Nobody has measured that here."
        said.append(sentence(text, Grade.RULE))
    if not facts.flows:
        said.append(sentence("Flow it on your bench: press F.", Grade.RULE, "next"))
    return said


def _pieces(part: Part) -> list[AssemblyPiece]:
    links = sorted(part.pieces, key=lambda link: link.position)
    return [
        AssemblyPiece(link.piece.id, link.piece.name, link.role, last.label, last.stage)
        for link in links
        if (last := link.piece.states[-1])
    ]


def _exchanges(session: Session, part: Part) -> list[ExchangeOffer]:
    roles = {link.role for link in part.pieces}
    return [
        ExchangeOffer(link.piece_id, whole.id, link.role, f"{link.piece.name} of {whole.name}")
        for link, whole in queries.pieces_of_others(session, part.id)
        if link.role in roles
    ]


def _casting_job(part: Part, facts: dict[UUID, PartFacts], titles: dict[UUID, str], preset: units.Preset) -> CastingJob:
    first, last = part.states[0], part.states[-1]
    before, after = _mean(facts.get(first.id)), _mean(facts.get(last.id)) if last.id != first.id else None
    gain = None
    if before and after:
        both = sorted(set(before) & set(after))
        gain = fmean(after[n] for n in both) / fmean(before[n] for n in both) - 1 if both else None
    return CastingJob(
        part.job_id,
        titles.get(part.job_id, "on the shelf") if part.job_id else "on the shelf",
        units.show(fmean(before.values()), "flow", preset) if before else None,
        units.show(fmean(after.values()), "flow", preset) if after else None,
        100 * gain if gain is not None else None,
        last.stage,
        part.note,
    )


def _mean(facts: PartFacts | None) -> dict[int, float]:
    runners = [reading for reading in facts.flows if reading.cylinder is not None] if facts else []
    return {cylinder: fmean(flows) for cylinder, flows in flows_by_runner(by_port(runners)).items()}


def _casting(key: tuple[str, str], jobs: list[CastingJob], first: Part) -> Casting:
    gains = [job.gain_percent for job in jobs if job.gain_percent is not None]
    words = f"{len(jobs)} seen"
    if gains:
        span = f"{min(gains):.1f}" if len(gains) == 1 else f"{min(gains):.1f} to {max(gains):.1f}"
        words += f"; cut, the runners gained {span} %"
    return Casting(first.id, key[0], key[1], first.name, jobs, words)
