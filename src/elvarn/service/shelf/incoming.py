"""Parts of a dropped file held against the shelf: which are new, which lie here as they are, which differ in what."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from sqlalchemy.orm import Session

from elvarn.exchange.shelf_file import ShelfRecord, read_shelf
from elvarn.exchange.table import TableError
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.record.part import PartFacts, facts_of_parts
from elvarn.service.shelf.out import record_of
from elvarn.store import queries
from elvarn.store.models import Part

SAME = 1e-6  # relative: what is written with ten digits comes back the same
SAID = ("material", "note", "mass_kg", "price", "lead_days", "on_hand", "claims")
READ = ("flow_cfm", "depression_inh2o")
GROUPS = ("advertised", "measured", "features")


class Standing(StrEnum):
    """How a row of a file stands to the shelf."""

    NEW = "new"
    SAME = "same"
    DIFFERS = "differs"
    TWICE = "twice"


@dataclass(frozen=True)
class Difference:
    """In what a part of the file differs from the one that lies here, both as words."""

    field: str
    here: str
    file: str


@dataclass(frozen=True)
class IncomingRow:
    """A part of the file, numbered from 1, and how it stands to the shelf; `twice` is one that an earlier row names."""

    row: int
    kind: str
    name: str
    maker: str
    number: str
    standing: Standing
    differences: list[Difference]


@dataclass(frozen=True)
class Incoming:
    """What a file would bring: every row that is not the same, and how many are of each standing."""

    rows: list[IncomingRow]
    new: int
    same: int
    differs: int
    twice: int


@dataclass(frozen=True)
class Held:
    """A record of the file beside the part that lies here, with what they differ in."""

    record: ShelfRecord
    standing: Standing
    here: PartFacts | None
    changes: dict[str, Any]


def preview(session: Session, run: Run, name: str, content: bytes) -> Incoming:
    """What a file would bring to the shelf; nothing is kept. Raises Invalid naming the row and what is wrong."""
    held = against_shelf(session, records_of(run, name, content))
    rows = [
        IncomingRow(
            number, one.record.kind, one.record.name, one.record.maker, one.record.number, one.standing,
            _differences(one),
        )
        for number, one in enumerate(held, start=1)
        if one.standing is not Standing.SAME
    ]  # fmt: skip
    counts = {standing: sum(1 for one in held if one.standing is standing) for standing in Standing}
    return Incoming(rows, *(counts[one] for one in (Standing.NEW, Standing.SAME, Standing.DIFFERS, Standing.TWICE)))


def records_of(run: Run, name: str, content: bytes) -> list[ShelfRecord]:
    """The parts of a file, read apart. Raises Invalid naming the row and what is wrong with it."""
    try:
        return run(read_shelf, name, content)
    except TableError as error:
        raise Invalid(f"{name}: {error}", path="file") from error


def against_shelf(session: Session, records: Sequence[ShelfRecord]) -> list[Held]:
    """Each record beside the part of the same kind, maker, number and name that lies here. What a file doesn't say of a
    part is no difference."""
    parts = {key_of(part.kind, part.maker, part.number, part.name): part for part in queries.shelf_parts(session)}
    keys = [key_of(record.kind, record.maker, record.number, record.name) for record in records]
    named = [parts[key] for key in dict.fromkeys(keys) if key in parts]
    facts = facts_of_parts(session, named, [part.states[-1].id for part in named]) if named else {}
    seen: set[str] = set()
    found = []
    for key, record in zip(keys, records, strict=True):
        part = parts.get(key)
        if key in seen:
            found.append(Held(record, Standing.TWICE, None, {}))
        elif part is None:
            found.append(Held(record, Standing.NEW, None, {}))
        else:
            here = facts[part.states[-1].id]
            changes = _changes(record_of(part, here), record)
            found.append(Held(record, Standing.DIFFERS if changes else Standing.SAME, here, changes))
        seen.add(key)
    return found


def key_of(kind: str, maker: str | None, number: str | None, name: str) -> str:
    """By what a part of a file is known again."""
    return "|".join(word.strip().lower() for word in (kind, maker or "", number or "", name))


def _changes(here: ShelfRecord, there: ShelfRecord) -> dict[str, Any]:
    """What the file says otherwise, by its place ("price", "advertised.bore_mm")."""
    found = {name: getattr(there, name) for name in SAID if getattr(there, name) not in (None, "", [])}
    for group in GROUPS:
        found |= {f"{group}.{name}": value for name, value in getattr(there, group).items() if value is not None}
    if there.flow_cfm is not None and not (_alike(here.flow_cfm, there.flow_cfm) and _alike_depression(here, there)):
        found |= {"flow_cfm": there.flow_cfm}
    return {place: value for place, value in found.items() if not _alike(_at(here, place), value)}


def _alike_depression(here: ShelfRecord, there: ShelfRecord) -> bool:
    return there.depression_inh2o is None or _alike(here.depression_inh2o, there.depression_inh2o)


def _at(record: ShelfRecord, place: str) -> Any:
    group, _, name = place.partition(".")
    return getattr(record, group).get(name) if name else getattr(record, group)


def _alike(one: Any, other: Any) -> bool:
    if isinstance(one, int | float) and isinstance(other, int | float) and not isinstance(one, bool):
        return abs(one - other) <= SAME * max(abs(one), abs(other))
    if isinstance(one, dict) and isinstance(other, dict):
        return all(_alike(one.get(name), other.get(name)) for name in {*one, *other} if other.get(name) is not None)
    if isinstance(one, list) and isinstance(other, list):
        return len(one) == len(other) and all(map(_alike, one, other))
    return bool(one == other)


def _differences(one: Held) -> list[Difference]:
    if one.here is None:
        return []
    part: Part = one.here.part
    here = record_of(part, one.here)
    return [Difference(_named(place), _words(_at(here, place)), _words(value)) for place, value in one.changes.items()]


def _named(place: str) -> str:
    """A field as it is called: "advertised bore, mm"."""
    group, _, name = place.partition(".")
    if group == "flow_cfm":
        return "measured flow, CFM"
    words = "lead_time_days" if group == "lead_days" else name or group
    for unit, written in (("_mm", ", mm"), ("_kg", ", kg"), ("_l", ", L"), ("_kpa", ", kPa"), ("_days", ", days")):
        words = words.removesuffix(unit) + written if words.endswith(unit) else words
    return f"{group + ' ' if name and group != 'features' else ''}{words}".replace("_", " ")


def _words(value: Any) -> str:
    if value is None:
        return "–"
    if isinstance(value, float):
        return f"{value:.6g}"
    if isinstance(value, list):
        return "; ".join(_words(one) for one in value) or "none"
    if isinstance(value, dict):
        return " ".join(_words(one) for one in value.values() if one is not None)
    return str(value)
