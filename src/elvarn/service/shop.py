"""The shop: who is at the bench, benches, dynos and kinds of job."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.service.errors import Invalid
from elvarn.service.writes import edit, find_for_edit, write_once
from elvarn.store.models import Bench, Dyno, JobKind, Person


@dataclass(frozen=True)
class PersonView:
    id: UUID
    name: str


@dataclass(frozen=True)
class BenchView:
    id: UUID
    name: str
    repeatability_percent: float | None
    session_shift_percent: float | None
    version: int


@dataclass(frozen=True)
class DynoView:
    id: UUID
    name: str
    measures: str
    repeatability_percent: float | None
    version: int


@dataclass(frozen=True)
class KindView:
    code: str
    title: str
    rail: list[str]


@dataclass(frozen=True)
class ShopView:
    people: list[PersonView]
    benches: list[BenchView]
    dynos: list[DynoView]
    kinds: list[KindView]
    presets: dict[str, dict[str, str]]


@dataclass(frozen=True)
class NewPerson:
    name: str


@dataclass(frozen=True)
class NewBench:
    name: str
    repeatability_percent: float | None = None
    session_shift_percent: float | None = None


@dataclass(frozen=True)
class NewDyno:
    name: str
    measures: str
    repeatability_percent: float | None = None


@dataclass(frozen=True)
class BenchEdit:
    version: int
    name: str
    repeatability_percent: float | None
    session_shift_percent: float | None


def shop_view(session: Session) -> ShopView:
    """Everything that the choosers on the screens offer."""
    people = session.scalars(select(Person).order_by(Person.created_at, Person.name))
    benches = session.scalars(select(Bench).order_by(Bench.created_at, Bench.name))
    dynos = session.scalars(select(Dyno).order_by(Dyno.created_at, Dyno.name))
    kinds = session.scalars(select(JobKind).order_by(JobKind.position))
    return ShopView(
        [PersonView(p.id, p.name) for p in people],
        [_bench_view(b) for b in benches],
        [DynoView(d.id, d.name, d.measures, d.repeatability_percent, d.version) for d in dynos],
        [KindView(k.code, k.title, list(k.rail)) for k in kinds],
        {
            preset: {quantity: units.LABELS.get(unit, unit) for quantity, unit in chosen.items()}
            for preset, chosen in units.PRESETS.items()
        },
    )


def add_person(session: Session, identifier: UUID, new: NewPerson) -> PersonView:
    """Somebody who works here. A name is taken once."""
    name = _named(new.name)
    if session.scalar(select(Person.id).where(Person.name == name, Person.id != identifier)):
        raise Invalid(f"There is already a {name} here. Add an initial.", path="name")
    row = write_once(session, Person, identifier, new, lambda d: Person(id=identifier, content_digest=d, name=name))
    return PersonView(row.id, row.name)


def add_bench(session: Session, identifier: UUID, new: NewBench) -> BenchView:
    """A flow bench."""
    _check_percent(new.repeatability_percent, "repeatability_percent")

    def make(digest: str) -> Bench:
        return Bench(
            id=identifier,
            content_digest=digest,
            name=_named(new.name),
            repeatability_percent=new.repeatability_percent,
            session_shift_percent=new.session_shift_percent,
        )

    return _bench_view(write_once(session, Bench, identifier, new, make))


def edit_bench(session: Session, identifier: UUID, change: BenchEdit) -> BenchView:
    """Set what a bench repeats within, once it was learned."""
    _check_percent(change.repeatability_percent, "repeatability_percent")
    row = find_for_edit(session, Bench, identifier, "bench")
    changes = {
        "name": _named(change.name),
        "repeatability_percent": change.repeatability_percent,
        "session_shift_percent": change.session_shift_percent,
    }
    edit(row, change.version, changes, "bench")
    session.flush()
    return _bench_view(row)


def add_dyno(session: Session, identifier: UUID, new: NewDyno) -> DynoView:
    """A dyno, at the engine or at the wheels."""
    if new.measures not in ("engine", "wheel"):
        raise Invalid("A dyno measures at the 'engine' or at the 'wheel'.", path="measures")
    _check_percent(new.repeatability_percent, "repeatability_percent")

    def make(digest: str) -> Dyno:
        return Dyno(
            id=identifier,
            content_digest=digest,
            name=_named(new.name),
            measures=new.measures,
            repeatability_percent=new.repeatability_percent,
        )

    row = write_once(session, Dyno, identifier, new, make)
    return DynoView(row.id, row.name, row.measures, row.repeatability_percent, row.version)


def _bench_view(row: Bench) -> BenchView:
    return BenchView(row.id, row.name, row.repeatability_percent, row.session_shift_percent, row.version)


def _named(name: str) -> str:
    if not name.strip():
        raise Invalid("The name is empty. Type one.", path="name")
    return name.strip()


def _check_percent(value: float | None, path: str) -> None:
    if value is not None and not 0 < value <= 20:
        raise Invalid(
            f"{value:g} % can't be a repeatability. Enter above 0 and at most 20, or leave it empty.", path=path
        )
