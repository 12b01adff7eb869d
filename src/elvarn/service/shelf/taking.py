"""Parts of a dropped file taken onto the shelf, many at once: new ones with their figures, changes of those that lie
here."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from datetime import datetime
from typing import Any
from uuid import UUID, uuid5

from pydantic import ValidationError
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.gas.discharge import round_area
from elvarn.core.path.tree import ElementKind
from elvarn.exchange.shelf_file import ShelfRecord
from elvarn.service.bench.asking import ALL_DOUBTS, Beside, ask
from elvarn.service.bench.element import NewElementFlow
from elvarn.service.bench.reading import reading_of
from elvarn.service.bench.setups import NewSetup, setup_row
from elvarn.service.bench.taken import figure_of
from elvarn.service.job import dimensions
from elvarn.service.job import parts as job_parts
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import digest_of
from elvarn.service.record.features import Advertised, Claim, PartFeatures, kept, read
from elvarn.service.record.part import main_element
from elvarn.service.shelf.incoming import Held, Standing, against_shelf, key_of, records_of
from elvarn.service.shelf.out import UNITS
from elvarn.store import queries
from elvarn.store.bulk import lay_down
from elvarn.store.models import Bench, Part, Reading, Setup

COUNTED = ("lead_days", "on_hand")  # whole numbers
USUAL_DEPRESSION = 28  # inH2O of a flow that doesn't say


@dataclass(frozen=True)
class ShelfImport:
    """What came of a file: parts that were added, those that were changed, and those that were left as they are."""

    added: list[str] = field(default_factory=list)
    changed: list[str] = field(default_factory=list)
    here_already: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class _Taking:
    """Who takes, when, and on which bench what was flowed was read."""

    session: Session
    person_id: UUID
    taken_at: datetime
    bench: Bench | None
    setups: dict[float, Setup] = field(default_factory=dict)
    parts: list[Part] = field(default_factory=list)
    readings: list[Reading] = field(default_factory=list)


def import_shelf(
    session: Session,
    run: Run,
    name: str,
    content: bytes,
    person_id: UUID,
    bench_id: UUID | None,
    taken_at: datetime,
    rows: Sequence[int] | None = None,
) -> ShelfImport:
    """Parts of a dropped file, all or none; without `rows` (from 1) those that are new. Raises Invalid naming the row
    and what is wrong with it."""
    records = records_of(run, name, content)
    if bench_id is None and any(record.flow_cfm for record in records):
        raise Invalid(f"{name} holds measured flows. Choose the bench they were read on.", path="bench_id")
    queries.hold_shelf(session)  # the same file, dropped twice at once, lays its parts there once
    bench = find(session, Bench, bench_id, "bench") if bench_id else None
    taking, result = _Taking(session, person_id, taken_at, bench), ShelfImport()
    for number, held in enumerate(against_shelf(session, records), start=1):
        wanted = held.standing is Standing.NEW if rows is None else number in rows
        if wanted and held.standing is Standing.NEW:
            _add(taking, held.record)
            result.added.append(held.record.name)
        elif wanted and held.standing is Standing.DIFFERS:
            _change(taking, held)
            result.changed.append(held.record.name)
        elif held.standing is not Standing.NEW:
            result.here_already.append(held.record.name)
    session.flush()  # what is changed, and set-ups
    lay_down(session, taking.parts)
    lay_down(session, [state for part in taking.parts for state in part.states])
    lay_down(session, taking.readings)
    return result


def _add(taking: _Taking, record: ShelfRecord) -> None:
    key = key_of(record.kind, record.maker, record.number, record.name)
    identifier = uuid5(taking.person_id, f"{key} {taking.taken_at.isoformat()}")
    state = uuid5(identifier, "state 1")
    new = job_parts.NewPart(
        taking.person_id, None, record.kind, record.name, state, "as it came",
        record.maker or None, record.number or None, record.material or None,
    )  # fmt: skip
    part = job_parts.part_row(identifier, new, digest_of(new))
    part.mass_kg, part.price, part.note = record.mass_kg, record.price, record.note
    part.lead_days = None if record.lead_days is None else round(record.lead_days)
    part.on_hand = round(record.on_hand or 0)
    part.advertised, part.features, part.claims = {}, {}, []
    _say(part, record, {"advertised": record.advertised, "features": record.features, "claims": record.claims})
    part.states[0].part_id = identifier
    taking.parts.append(part)
    _measure(taking, record, state, identifier, record.measured)
    if record.flow_cfm is not None:
        _flow(taking, record, state, identifier)


def _change(taking: _Taking, held: Held) -> None:
    """Say of a part what the file says otherwise; what was measured otherwise is one more reading."""
    assert held.here is not None
    part, changes = held.here.part, held.changes
    plain = ("material", "note", "mass_kg", "price", "lead_days", "on_hand")
    for name in (name for name in plain if name in changes):
        setattr(part, name, round(changes[name]) if name in COUNTED else changes[name])
    part.typed = {place: text for place, text in part.typed.items() if place not in changes}
    said = {group: getattr(part, group) | _of(changes, group) for group in ("advertised", "features")}
    _say(part, held.record, said | ({"claims": changes["claims"]} if "claims" in changes else {}))
    part.version += 1
    identifier = uuid5(part.id, taking.taken_at.isoformat())
    _measure(taking, held.record, held.here.state.id, identifier, _of(changes, "measured"))
    if "flow_cfm" in changes:
        _flow(taking, held.record, held.here.state.id, identifier)


def _of(changes: dict[str, Any], group: str) -> dict[str, Any]:
    return {place.removeprefix(f"{group}."): value for place, value in changes.items() if place.startswith(f"{group}.")}


def _say(part: Part, record: ShelfRecord, said: dict[str, Any]) -> None:
    try:
        part.advertised = kept(read(Advertised, said["advertised"])) if said["advertised"] else {}
        part.features = kept(read(PartFeatures, said["features"])) if said["features"] else {}
        if "claims" in said:
            part.claims = [asdict(read(Claim, claim)) for claim in said["claims"]]
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(map(str, first["loc"]))
        raise Invalid(f"{record.name}: {where}: {first['msg']}.", path="file") from error


def _measure(taking: _Taking, record: ShelfRecord, state: UUID, identifier: UUID, measured: dict[str, float]) -> None:
    kind = main_element(record.kind)
    cylinder = 1 if record.kind == "manifold" else None
    for name, figure in measured.items():
        quantity = name.rsplit("_", 1)[0]
        of_plenum = record.kind == "manifold" and quantity == "volume"
        element, of = ("plenum", None) if of_plenum else (kind, cylinder)
        new = dimensions.NewDimension(
            taking.person_id, None, state, element, quantity, f"{figure:g} {UNITS[name]}", taking.taken_at, of,
            [dimensions.UNLIKELY],
        )  # fmt: skip
        taking.readings.append(dimensions.dimension_row(uuid5(identifier, name), new)(digest_of(new)))


def _flow(taking: _Taking, record: ShelfRecord, state: UUID, identifier: UUID) -> None:
    kind = ElementKind(main_element(record.kind))
    setup = _setup(taking, record.depression_inh2o or USUAL_DEPRESSION)
    new = NewElementFlow(
        taking.person_id, None, setup.id, state, kind, f"{record.flow_cfm:g} cfm", taking.taken_at,
        cylinder=1 if record.kind == "manifold" else None, accepted=list(ALL_DOUBTS),
    )  # fmt: skip
    figure = figure_of(new.typed, new.default_unit, None)
    row = reading_of(uuid5(identifier, "flow"), digest_of(new), new, kind, figure)
    bores = [record.measured.get(name) for name in ("bore_mm", "bore_out_mm")]
    bore = min((one for one in bores if one), default=None)
    stated = record.advertised.get("flow_cfm")
    others = [units.to_si(stated, "cfm", "flow")] if stated else []
    row.marks = ask(new, figure, Beside(
        record.name, (), others, "what its maker states", setup.depression_pa,
        round_area(bore / 1000) if bore else None, setup.bench.ranges, setup.bench.repeatability_percent,
    ))  # fmt: skip
    row.refitted = True
    taking.readings.append(row)


def _setup(taking: _Taking, depression: float) -> Setup:
    """One set-up for all that was flowed at a depression: each part alone, with a radius."""
    assert taking.bench is not None
    if depression not in taking.setups:
        new = NewSetup(
            person_id=taking.person_id, job_id=None, bench_id=taking.bench.id, depression=f"{depression:g} inH2O",
            entry_radius="clay", throttle="off",
        )  # fmt: skip
        identifier = uuid5(taking.person_id, f"{taking.taken_at.isoformat()} {taking.bench.id} {depression:g}")
        setup = setup_row(identifier, new, alone=True)(digest_of(new))
        setup.bench = taking.bench
        taking.session.add(setup)
        taking.setups[depression] = setup
    return taking.setups[depression]
