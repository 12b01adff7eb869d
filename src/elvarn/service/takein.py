"""Take a job in: the part or engine it is about, its first build, and edits of what was said."""

from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.path.tree import Element, ElementKind, Node, posted_manifold, usual_path
from elvarn.service.engine_edit import NewEngine, add_engine
from elvarn.service.errors import Invalid
from elvarn.service.features import Surroundings, kept
from elvarn.service.trees import nodes_of, with_state
from elvarn.service.writes import edit, find, find_for_edit, write_once
from elvarn.store import queries
from elvarn.store.models import Build, Job, JobKind, Part, PartState, Person

MOST_CYLINDERS = 16
STAGE_WORDS = {0: "gasket match", 1: "stage 1, clean-up", 2: "stage 2, entries and curves", 3: "stage 3, cut open"}


@dataclass(frozen=True)
class NewJob:
    """What has to be said of a new job; a part that came by post needs no engine."""

    person_id: UUID
    kind: str
    part: str
    runner_count: int
    customer: str | None = None
    part_maker: str | None = None
    part_number: str | None = None
    title: str | None = None
    engine: NewEngine | None = None
    use: str | None = None
    band_low_rpm: int | None = None
    band_high_rpm: int | None = None
    received_on: date | None = None
    due_on: date | None = None
    power_wanted: str | None = None
    budget: float | None = None
    surroundings: Surroundings = field(default_factory=Surroundings)


@dataclass(frozen=True)
class JobEdit:
    """Everything that can be said of a job, on the version that was seen."""

    version: int
    title: str
    customer: str | None
    use: str | None
    band_low_rpm: int | None
    band_high_rpm: int | None
    due_on: date | None
    standard: str
    note: str
    power_wanted: str | None = None
    budget: float | None = None
    surroundings: Surroundings = field(default_factory=Surroundings)


@dataclass(frozen=True)
class Reference:
    """The runner that stands for the others on the bench; none where all are read."""

    version: int
    runner: int | None


@dataclass(frozen=True)
class NewState:
    """A part after cutting."""

    person_id: UUID
    part_id: UUID
    stage: int | None = None
    label: str | None = None


@dataclass(frozen=True)
class Closing:
    version: int
    closed: bool


def take_in(session: Session, identifier: UUID, new: NewJob) -> Job:
    """Make a job with its part, the part's first state and its first build. Sent twice, it is made once."""
    find(session, Person, new.person_id, "person")
    kind = session.get(JobKind, new.kind)
    if kind is None:
        raise Invalid(f"'{new.kind}' is no kind of job.", path="kind")
    _check(new)

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
            power_wanted_kw=_power(new.power_wanted),
            budget=_budget(new.budget),
            surroundings=kept(new.surroundings),
        )

    job = write_once(session, Job, identifier, new, make)
    if not queries.parts_of(session, identifier):
        _first_part_and_build(session, job, new)
    return job


def edit_job(session: Session, identifier: UUID, change: JobEdit) -> Job:
    """Change what was said of a job. Raises Stale where somebody else changed it meanwhile."""
    job = find_for_edit(session, Job, identifier, "job")
    if not change.title.strip():
        raise Invalid("The job's name is empty. Type one.", path="title")
    _check_band(change.band_low_rpm, change.band_high_rpm)
    if change.standard not in ("observed", "sae_j1349", "iso_1585"):
        raise Invalid(f"'{change.standard}' is no correction.", path="standard")
    names = ("customer", "use", "band_low_rpm", "band_high_rpm", "due_on", "standard", "note")
    changes = {"title": change.title.strip(), **{name: getattr(change, name) for name in names}}
    changes |= {"power_wanted_kw": _power(change.power_wanted), "budget": _budget(change.budget)}
    edit(job, change.version, {**changes, "surroundings": kept(change.surroundings)}, "job")
    session.flush()
    return job


def close_job(session: Session, identifier: UUID, closing: Closing) -> Job:
    """Hand a job over, or open it again."""
    job = find_for_edit(session, Job, identifier, "job")
    edit(job, closing.version, {"closed_at": datetime.now(UTC) if closing.closed else None}, "job")
    session.flush()
    return job


def choose_reference(session: Session, identifier: UUID, chosen: Reference) -> Job:
    """Read one runner for all of them, or all again."""
    job = find_for_edit(session, Job, identifier, "job")
    count = max((build.cylinder_count for build in queries.builds_of(session, identifier)), default=0)
    if chosen.runner is not None and not 1 <= chosen.runner <= count:
        raise Invalid(f"There is no runner {chosen.runner}; this part has {count}.", path="runner")
    edit(job, chosen.version, {"reference_runner": chosen.runner}, "job")
    session.flush()
    return job


def cut_part(session: Session, identifier: UUID, new: NewState) -> PartState:
    """Note that a part was cut: a new state, and the build that has it."""
    part = find(session, Part, new.part_id, "part")
    if new.stage is not None and new.stage not in STAGE_WORDS:
        raise Invalid(f"There is no stage {new.stage}; 0 to 3 are known.", path="stage")
    label = (new.label or STAGE_WORDS.get(new.stage if new.stage is not None else -1) or "after port work").strip()

    def make(digest: str) -> PartState:
        return PartState(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            part_id=part.id,
            sequence=queries.next_state_sequence(session, part.id),
            label=label,
            stage=new.stage,
        )

    state = write_once(session, PartState, identifier, new, make)
    if part.job_id is not None:
        _build_with(session, part.job_id, state, new.person_id)
    return state


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
    tree: Node = posted_manifold(new.runner_count) if posted else usual_path(new.runner_count, banks)
    session.add_all([part, state, build])
    session.flush()
    session.add_all(nodes_of(tree, build.id, new.runner_count, lambda element: _manifold(element, state)))
    session.flush()


def _manifold(element: Element, state: PartState) -> UUID | None:
    return state.id if element.kind in (ElementKind.PLENUM, ElementKind.RUNNER) else None


def _build_with(session: Session, job_id: UUID, state: PartState, person_id: UUID) -> None:
    identifier = uuid5(state.id, "build")
    if session.get(Build, identifier) is not None:
        return
    builds = queries.builds_of(session, job_id)
    names = {build.name for build in builds}
    name = state.label if state.label not in names else f"{state.label} ({state.sequence})"
    with_part = (
        b for b in reversed(builds) if any(n.part_state and n.part_state.part_id == state.part_id for n in b.nodes)
    )
    last = next(with_part, builds[-1])
    build = Build(
        id=identifier,
        content_digest=state.content_digest,
        person_id=person_id,
        job_id=job_id,
        name=name,
        is_stock=False,
        sequence=queries.next_build_sequence(session, job_id),
        cylinder_count=last.cylinder_count,
    )
    session.add(build)
    session.flush()
    session.add_all(with_state(last, identifier, state))
    session.flush()


def _power(typed: str | None) -> float | None:
    """Power as typed ("290", "290 hp", "215 kW"), in kW."""
    if not typed or not typed.strip():
        return None
    power = units.parse(typed, "power", units.PRESETS["trade"]["power"]).si
    if not 1e3 <= power <= 2e6:
        raise Invalid(f"A power of {typed} can't be wanted of one engine. Enter 1 to 2000 kW.", path="power_wanted")
    return power / 1000


def _budget(budget: float | None) -> float | None:
    if budget is not None and budget < 0:
        raise Invalid(f"A budget of {budget:g} can't be. Enter 0 or more.", path="budget")
    return budget


def _check(new: NewJob) -> None:
    if not new.part.strip():
        raise Invalid("The part has no name. Type what came in.", path="part")
    if not 1 <= new.runner_count <= MOST_CYLINDERS:
        raise Invalid(f"{new.runner_count} runners can't be. Enter 1 to {MOST_CYLINDERS}.", path="runner_count")
    if new.engine is not None and not 1 <= new.engine.bank_count <= min(4, new.runner_count):
        raise Invalid(f"{new.engine.bank_count} banks can't be.", path="engine.bank_count")
    _check_band(new.band_low_rpm, new.band_high_rpm)


def _check_band(low: int | None, high: int | None) -> None:
    if (low is None) != (high is None):
        raise Invalid("The band has one end only. Enter both speeds, or none.", path="band_high_rpm")
    if low is not None and high is not None and not 0 < low < high:
        raise Invalid(f"The band {low} to {high} rpm is empty. Enter the lower speed first.", path="band_low_rpm")
