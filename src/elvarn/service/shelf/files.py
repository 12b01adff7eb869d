"""The shelf out and in: a table or JSON becomes parts, their dimensions and their figures."""

from dataclasses import asdict, dataclass, field
from datetime import datetime
from uuid import UUID, uuid5

from pydantic import ValidationError
from sqlalchemy.orm import Session

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER
from elvarn.exchange.shelf_file import ShelfRecord, read_shelf, write_shelf_json, write_shelf_table
from elvarn.exchange.table import TableError
from elvarn.service.bench import element as bench_element
from elvarn.service.bench.asking import ALL_DOUBTS
from elvarn.service.job import dimensions
from elvarn.service.job import parts as job_parts
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.record.features import Advertised, Claim, PartFeatures, kept, read
from elvarn.service.record.part import PartFacts, load_facts, main_dimension, main_element
from elvarn.store import queries
from elvarn.store.models import Part

UNITS = {"bore_mm": "mm", "bore_out_mm": "mm", "length_mm": "mm", "volume_l": "L"}


@dataclass(frozen=True)
class ShelfImport:
    """What came of a file: parts that were added, and those that lay here already and were left as they are."""

    added: list[str] = field(default_factory=list)
    here_already: list[str] = field(default_factory=list)


def shelf_csv(session: Session) -> str:
    """Every part on the shelf as a table."""
    return write_shelf_table(_records(session))


def shelf_json(session: Session) -> str:
    """Every part on the shelf as JSON, with features and claims."""
    return write_shelf_json(_records(session))


def import_shelf(
    session: Session, run: Run, name: str, content: bytes, person_id: UUID, bench_id: UUID | None, taken_at: datetime
) -> ShelfImport:
    """Parts of a dropped file, all or none. Raises Invalid naming the row and what is wrong with it."""
    try:
        records = run(read_shelf, name, content)
    except TableError as error:
        raise Invalid(f"{name}: {error}", path="file") from error
    if bench_id is None and any(record.flow_cfm for record in records):
        raise Invalid(f"{name} holds measured flows. Choose the bench they were read on.", path="bench_id")
    queries.hold_shelf(session)  # the same file, dropped twice at once, lays its parts there once
    known = {_key(part.kind, part.maker, part.number, part.name) for part in queries.shelf_parts(session)}
    result = ShelfImport()
    for record in records:
        key = _key(record.kind, record.maker, record.number, record.name)
        if key in known:
            result.here_already.append(record.name)
            continue
        known.add(key)
        _add(session, record, key, person_id, bench_id, taken_at)
        result.added.append(record.name)
    return result


def _add(session: Session, record: ShelfRecord, key: str, person: UUID, bench: UUID | None, taken_at: datetime) -> None:
    identifier = uuid5(person, f"{key} {taken_at.isoformat()}")
    state = uuid5(identifier, "state 1")
    new = job_parts.NewPart(
        person, None, record.kind, record.name, state, "as it came",
        record.maker or None, record.number or None, record.material or None,
    )  # fmt: skip
    part = job_parts.add_part(session, identifier, new)
    part.mass_kg, part.price, part.note = record.mass_kg, record.price, record.note
    part.lead_days = None if record.lead_days is None else round(record.lead_days)
    try:
        part.advertised = kept(read(Advertised, record.advertised))
        part.features = kept(read(PartFeatures, record.features))
        part.claims = [asdict(read(Claim, claim)) for claim in record.claims]
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"]))
        raise Invalid(f"{record.name}: {where}: {first['msg']}.", path="file") from error
    session.flush()
    _add_readings(session, record, state, identifier, person, bench, taken_at)


def _add_readings(
    session: Session,
    record: ShelfRecord,
    state: UUID,
    identifier: UUID,
    person: UUID,
    bench: UUID | None,
    taken_at: datetime,
) -> None:
    kind = main_element(record.kind)
    cylinder = 1 if record.kind == "manifold" else None
    for name, figure in record.measured.items():
        quantity = name.rsplit("_", 1)[0]
        element, of = ("plenum", None) if record.kind == "manifold" and quantity == "volume" else (kind, cylinder)
        dimension = dimensions.NewDimension(
            person, None, state, element, quantity, f"{figure:g} {UNITS[name]}", taken_at, of, ["unlikely"]
        )
        dimensions.add_dimension(session, uuid5(identifier, name), dimension)
    if record.flow_cfm is not None and bench is not None:
        flow = bench_element.NewPartFlow(
            person, state, kind, bench, f"{record.depression_inh2o or 28:g} inH2O", f"{record.flow_cfm:g} cfm",
            taken_at, cylinder=cylinder, accepted=list(ALL_DOUBTS),
        )  # fmt: skip
        bench_element.flow_of_part(session, uuid5(identifier, "flow"), flow)


def _records(session: Session) -> list[ShelfRecord]:
    parts = queries.shelf_parts(session)
    facts = load_facts(session, [part.states[-1].id for part in parts])
    return [_record(part, facts[part.states[-1].id]) for part in parts]


def _record(part: Part, facts: PartFacts) -> ShelfRecord:
    measured = {}
    for name in UNITS:
        value = main_dimension(facts, name.rsplit("_", 1)[0])
        if value is not None:
            measured[name] = round(value * 1000, 6)
    last = next((r for r in reversed(facts.flows) if r.element_kind == main_element(part.kind)), None)
    return ShelfRecord(
        part.kind, part.name, part.maker or "", part.number or "", part.material or "", part.note, part.mass_kg,
        part.price, part.lead_days, dict(part.advertised), measured,
        round(last.flow_m3_s / CUBIC_FOOT_PER_MINUTE, 4) if last else None,
        round(last.pulled_pa / INCH_OF_WATER, 4) if last else None,
        dict(part.features), list(part.claims),
    )  # fmt: skip


def _key(kind: str, maker: str | None, number: str | None, name: str) -> str:
    return "|".join(word.strip().lower() for word in (kind, maker or "", number or "", name))
