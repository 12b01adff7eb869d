"""A job as it comes in: the part or engine it is about, and its first build."""

from dataclasses import dataclass, field
from datetime import UTC, datetime
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.core.path.shapes import ONE_PLENUM, named_paths
from elvarn.core.path.tree import Element, ElementKind, Node, posted_manifold
from elvarn.given import Day, given
from elvarn.service.checkin.engine import NewEngine, add_engine, no_banks
from elvarn.service.checkin.job import budget_of, check_band, job_texts, power_of
from elvarn.service.job.drawn_path import PathNode, bare_path
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.features import SurroundingsSpec, kept
from elvarn.service.record.trees import nodes_of
from elvarn.service.shop.settings import check_currency
from elvarn.store import queries
from elvarn.store.models import Build, Job, JobKind, Part, PartState, Person
from elvarn.typed import Count, Money, Rpm

MOST_CYLINDERS = 16


@given
class NewJob:
    """What has to be said of a new job; a part that came by post needs no engine."""

    person_id: UUID
    kind: str
    part: str
    runner_count: Count
    customer: str | None = None
    part_maker: str | None = None
    part_number: str | None = None
    title: str | None = None
    engine: NewEngine | None = None
    use: str | None = None
    band_low_rpm: Rpm | None = None
    band_high_rpm: Rpm | None = None
    received_on: Day | None = None
    due_on: Day | None = None
    power_wanted: str | None = None
    budget: Money | None = None
    surroundings: SurroundingsSpec = field(default_factory=SurroundingsSpec)
    shape: str = ONE_PLENUM
    banks: list[list[int]] = field(default_factory=list)


@dataclass(frozen=True)
class ShapeView:
    """An air path that stock can have, by its name, as it is drawn."""

    name: str
    path: PathNode


def shapes(runner_count: int, bank_count: int, boosted: bool, banks: list[list[int]]) -> list[ShapeView]:
    """The air paths that an engine can have left the factory with. Raises Invalid for banks that can't be."""
    _check_banks(bank_count, runner_count)
    found = named_paths(runner_count, bank_count, boosted, banks)
    return [ShapeView(name, bare_path(tree)) for name, tree in found.items()]


def banks_of(typed: list[str]) -> list[list[int]]:
    """Cylinders of each bank as they are typed ("1 3 5 7", "2, 4"). Raises Invalid naming what is no cylinder."""
    found = []
    for bank in typed:
        words = bank.replace(",", " ").split()
        wrong = next((word for word in words if not word.isdecimal()), None)
        if wrong is not None:
            raise Invalid(f"'{wrong}' is no cylinder. Type numbers: 1 3 5 7.", path="banks")
        found.append([int(word) for word in words])
    return [bank for bank in found if bank]


def take_in(session: Session, identifier: UUID, new: NewJob) -> Job:
    """Make a job with its part, the part's first state and its first build. Sent twice, it is made once."""
    find(session, Person, new.person_id, "person")
    kind = session.get(JobKind, new.kind)
    if kind is None:
        raise Invalid(f"'{new.kind}' is no kind of job.", path="kind")
    _check(new)
    check_currency(session, new.budget, "budget")

    def make(digest: str) -> Job:
        engine = add_engine(session, identifier, new.engine, new.runner_count)
        return Job(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            kind_code=new.kind,
            title=(new.title or new.part).strip(),
            customer=new.customer or None,
            engine_id=engine.id if engine else None,
            use=new.use,
            band_low_rpm=new.band_low_rpm,
            band_high_rpm=new.band_high_rpm,
            received_on=new.received_on or datetime.now(UTC).date(),
            due_on=new.due_on,
            power_wanted_kw=power_of(new.power_wanted),
            budget=budget_of(new.budget),
            surroundings=kept(new.surroundings),
            typed=job_texts(new, new.power_wanted),
        )

    job = write_once(session, Job, identifier, new, make)
    if not queries.parts_of(session, [identifier]):
        _first_part_and_build(session, job, new)
    return job


def _first_part_and_build(session: Session, job: Job, new: NewJob) -> None:
    part = Part(
        id=uuid5(job.id, "part"),
        content_digest=job.content_digest,
        person_id=new.person_id,
        job_id=job.id,
        kind="manifold",
        name=new.part.strip(),
        maker=new.part_maker,
        number=new.part_number,
    )
    state = PartState(
        id=uuid5(job.id, "state 1"),
        content_digest=job.content_digest,
        person_id=new.person_id,
        part_id=part.id,
        sequence=1,
        label="as received",
    )
    posted = job.kind_code == "port_by_post"
    build = Build(
        id=uuid5(job.id, "build 1"),
        content_digest=job.content_digest,
        person_id=new.person_id,
        job_id=job.id,
        name="as received" if posted else "stock",
        is_stock=not posted,
        sequence=1,
        cylinder_count=new.runner_count,
    )
    banks = new.engine.bank_count if new.engine else 1
    boosted = new.engine is not None and new.engine.boosted
    tree: Node = posted_manifold(new.runner_count)
    if not posted:
        tree = named_paths(new.runner_count, banks, boosted, new.banks)[new.shape]
    session.add_all([part, state, build])
    session.flush()
    session.add_all(nodes_of(tree, build.id, new.runner_count, lambda element: _manifold(element, state)))
    session.flush()


def _manifold(element: Element, state: PartState) -> UUID | None:
    return state.id if element.kind in (ElementKind.PLENUM, ElementKind.RUNNER) else None


def _check(new: NewJob) -> None:
    if not new.part.strip():
        raise Invalid("Name the part.", path="part")
    if not 1 <= new.runner_count <= MOST_CYLINDERS:
        raise Invalid(f"Enter 1 to {MOST_CYLINDERS} runners.", path="runner_count")
    if new.engine is not None:
        _check_banks(new.engine.bank_count, new.runner_count)
    known = named_paths(new.runner_count, new.engine.bank_count if new.engine else 1, banks=new.banks)
    if new.shape not in known:
        raise Invalid(f"This engine can't have '{new.shape}'. Known: {', '.join(known)}.", path="shape")
    check_band(new.band_low_rpm, new.band_high_rpm)


def _check_banks(bank_count: int, runner_count: int) -> None:
    if not 1 <= bank_count <= min(4, runner_count):
        raise Invalid(no_banks(bank_count, runner_count), path="engine.bank_count")
