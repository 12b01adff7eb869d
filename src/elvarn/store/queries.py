"""What is asked of the database more than once."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, Select, Uuid, bindparam, exists, func, or_, select
from sqlalchemy.orm import Session, selectinload

from elvarn.core.bench.plan import PlanKind
from elvarn.store.models import (
    Base,
    Build,
    BuildNode,
    DimensionReading,
    Dyno,
    Engine,
    FlowReading,
    Job,
    Part,
    PartPiece,
    PartState,
    Person,
    Photo,
    Plan,
    ProbeReading,
    PullReading,
    Reading,
    ReceivedItem,
    Setup,
    Step,
    Strike,
)


def open_jobs(session: Session) -> Sequence[Job]:
    """Jobs that are not closed, the longest waiting first."""
    return session.scalars(select(Job).where(Job.closed_at.is_(None)).order_by(Job.due_on, Job.created_at)).all()


def closed_jobs(session: Session, most: int) -> Sequence[Job]:
    """Jobs that were handed over, the latest first."""
    wanted = select(Job).where(Job.closed_at.is_not(None)).order_by(Job.closed_at.desc()).limit(most)
    return session.scalars(wanted).all()


def hold_job(session: Session, job_id: UUID) -> None:
    """Wait for whoever is writing readings of this job, and keep others waiting until the transaction ends."""
    session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(str(job_id), 0))))


def builds_of(session: Session, job_id: UUID) -> Sequence[Build]:
    """Builds of a job in the order in which they were made, with their nodes and part states."""
    nodes = selectinload(Build.nodes).selectinload(BuildNode.part_state).selectinload(PartState.part)
    return session.scalars(select(Build).where(Build.job_id == job_id).order_by(Build.sequence).options(nodes)).all()


def parts_of(session: Session, job_id: UUID) -> Sequence[Part]:
    """Parts of a job with their states, in the order in which they came."""
    wanted = select(Part).where(Part.job_id == job_id).order_by(Part.created_at, Part.name)
    return session.scalars(wanted.options(selectinload(Part.states))).all()


def parts_with_states(session: Session, state_ids: Sequence[UUID]) -> Sequence[Part]:
    """Parts to which these states belong, with all their states."""
    owners = select(PartState.part_id).where(PartState.id.in_(state_ids))
    return session.scalars(select(Part).where(Part.id.in_(owners)).options(selectinload(Part.states))).all()


def parts_like(session: Session, part: Part) -> Sequence[Part]:
    """The part, with every other of its maker and number, the oldest first."""
    wanted = select(Part).where(Part.id == part.id)
    if part.number:
        wanted = select(Part).where(Part.number == part.number, Part.maker.is_not_distinct_from(part.maker))
    return session.scalars(wanted.options(selectinload(Part.states)).order_by(Part.created_at)).all()


def piece_link(session: Session, piece_id: UUID) -> PartPiece | None:
    """How a piece belongs to its assembly."""
    return session.scalars(select(PartPiece).where(PartPiece.piece_id == piece_id)).first()


def pieces_of_others(session: Session, part_id: UUID) -> list[tuple[PartPiece, Part]]:
    """Pieces of every other assembly, with the assembly."""
    wanted = select(PartPiece, Part).join(Part, Part.id == PartPiece.part_id).where(PartPiece.part_id != part_id)
    return [(row[0], row[1]) for row in session.execute(wanted.order_by(Part.name, PartPiece.position))]


def numbered_manifolds(session: Session) -> Sequence[Part]:
    """Manifolds that have a number, with their states, the oldest first."""
    wanted = select(Part).where(Part.kind == "manifold", Part.number.is_not(None)).order_by(Part.created_at)
    return session.scalars(wanted.options(selectinload(Part.states))).all()


def titles_of_jobs(session: Session, job_ids: Sequence[UUID]) -> dict[UUID, str]:
    """Titles by id."""
    return {row.id: row.title for row in session.execute(select(Job.id, Job.title).where(Job.id.in_(job_ids)))}


def photo_of_digest(session: Session, digest: str) -> Photo | None:
    """A picture by its content."""
    return session.scalars(select(Photo).where(Photo.file_digest == digest).limit(1)).first()


def photos_of_job(session: Session, job_id: UUID) -> Sequence[Photo]:
    """Pictures of a job, as they came."""
    return session.scalars(select(Photo).where(Photo.job_id == job_id).order_by(Photo.created_at)).all()


def photos_of_parts(session: Session, part_ids: Sequence[UUID]) -> Sequence[Photo]:
    """Pictures of parts, as they came."""
    return session.scalars(select(Photo).where(Photo.part_id.in_(part_ids)).order_by(Photo.created_at)).all()


def items_of(session: Session, job_id: UUID) -> Sequence[ReceivedItem]:
    """What came in with a job, as it was noted."""
    wanted = select(ReceivedItem).where(ReceivedItem.job_id == job_id)
    return session.scalars(wanted.order_by(ReceivedItem.created_at, ReceivedItem.words)).all()


def shelf_parts(session: Session, kind: str | None = None) -> Sequence[Part]:
    """Parts on the shelf with their states, by kind and name; pieces of an assembly lie inside it."""
    pieces = select(PartPiece.piece_id)
    wanted = select(Part).where(Part.job_id.is_(None), Part.id.not_in(pieces)).order_by(Part.kind, Part.name)
    if kind is not None:
        wanted = wanted.where(Part.kind == kind)
    return session.scalars(wanted.options(selectinload(Part.states))).all()


def flows_of_states(session: Session, state_ids: Sequence[UUID]) -> Sequence[FlowReading]:
    """Valid flow readings of these part states, whatever job they were taken in; points of test plans are not among
    them."""
    wanted = select(FlowReading).where(FlowReading.part_state_id.in_(state_ids), FlowReading.plan_id.is_(None))
    return [row for row in session.scalars(wanted.order_by(FlowReading.taken_at)) if row.strike is None]


def flow_readings_of(session: Session, job_id: UUID) -> Sequence[FlowReading]:
    """Flow readings of a job as they were taken, struck ones too; points of test plans are not among them."""
    wanted = select(FlowReading).where(FlowReading.job_id == job_id, FlowReading.plan_id.is_(None))
    return session.scalars(wanted.order_by(FlowReading.taken_at, FlowReading.created_at)).all()


def configured_flows(session: Session, job_id: UUID) -> Sequence[FlowReading]:
    """Flow readings of a job as they were taken, with those of its configuration tests."""
    tests = select(Plan.id).where(Plan.job_id == job_id, Plan.kind == PlanKind.CONFIGURATION)
    wanted = select(FlowReading).where(
        FlowReading.job_id == job_id, or_(FlowReading.plan_id.is_(None), FlowReading.plan_id.in_(tests))
    )
    return session.scalars(wanted.order_by(FlowReading.taken_at, FlowReading.created_at)).all()


def plans_of(session: Session, job_id: UUID) -> Sequence[Plan]:
    """Test plans of a job as they were made."""
    return session.scalars(select(Plan).where(Plan.job_id == job_id).order_by(Plan.created_at)).all()


def flows_of_plan(session: Session, plan_id: UUID) -> Sequence[FlowReading]:
    """Valid flow readings of a test plan, as they were taken."""
    wanted = select(FlowReading).where(FlowReading.plan_id == plan_id).order_by(FlowReading.taken_at)
    return [row for row in session.scalars(wanted) if row.strike is None]


def probes_of_plan(session: Session, plan_id: UUID) -> Sequence[ProbeReading]:
    """Valid probe readings of a test plan, as they were taken."""
    wanted = select(ProbeReading).where(ProbeReading.plan_id == plan_id).order_by(ProbeReading.taken_at)
    return [row for row in session.scalars(wanted) if row.strike is None]


def refits_of_bench(session: Session, bench_id: UUID, most: int) -> Sequence[FlowReading]:
    """The latest valid readings of things that a bench read more than once in a set-up, each put on anew: thing by
    thing, as they were taken."""
    thing = (FlowReading.setup_id, FlowReading.part_state_id, FlowReading.element_kind, FlowReading.cylinder)
    often = func.count().over(partition_by=thing).label("often")
    kept = (
        FlowReading.setup_id.in_(select(Setup.id).where(Setup.bench_id == bench_id)),
        FlowReading.refitted,
        FlowReading.plan_id.is_(None),
        ~exists().where(Strike.reading_id == FlowReading.id),
    )
    again = select(FlowReading.id, often).where(*kept).subquery()
    latest = select(FlowReading).join(again, FlowReading.id == again.c.id).where(again.c.often > 1)
    rows = session.scalars(latest.order_by(FlowReading.taken_at.desc()).limit(most))
    return sorted(rows, key=lambda row: (*(str(getattr(row, column.key)) for column in thing), row.taken_at))


def pulls_of(session: Session, job_id: UUID) -> Sequence[PullReading]:
    """Pulls of a job as they were taken, struck ones too."""
    wanted = select(PullReading).where(PullReading.job_id == job_id)
    return session.scalars(wanted.order_by(PullReading.taken_at, PullReading.created_at)).all()


@dataclass(frozen=True)
class PulledPull:
    """A valid pull without its rows."""

    id: UUID
    measures: str
    marks: list[str]
    standard_in_file: str
    air_temperature_c: float | None
    air_pressure_kpa: float | None
    air_humidity_percent: float | None
    repeatability_percent: float | None


@dataclass(frozen=True)
class PulledBuild:
    """A build with its valid pulls, and what of its job a comparison needs."""

    name: str
    standard: str
    use: str | None
    band_low_rpm: int | None
    band_high_rpm: int | None
    boosted: bool
    pulls: list[PulledPull]


def pulled_builds(session: Session, build_ids: Sequence[UUID]) -> dict[UUID, PulledBuild]:
    """Builds with their valid pulls, by id, in one question to the database. Builds without a pull are left out."""
    found: dict[UUID, PulledBuild] = {}
    for row in session.connection().execute(_PULLED_BUILDS, {"build_ids": list(build_ids)}):
        identifier, name, standard, use, low, high, boosted, *pull = row
        build = found.setdefault(identifier, PulledBuild(name, standard, use, low, high, bool(boosted), []))
        build.pulls.append(PulledPull(*pull))
    return found


def _columns(model: type[Base]) -> Any:
    return model.__table__.c


_build, _job, _engine, _dyno = _columns(Build), _columns(Job), _columns(Engine), _columns(Dyno)
_pull, _reading, _strike = _columns(PullReading), _columns(Reading), _columns(Strike)

# Tables, not mapped classes: this question is asked while a band is dragged.
_PULLED_BUILDS = (
    select(
        _build.id,
        _build.name,
        _job.standard,
        _job.use,
        _job.band_low_rpm,
        _job.band_high_rpm,
        _engine.boosted,
        _pull.id,
        _pull.measures,
        _reading.marks,
        _pull.standard_in_file,
        _pull.air_temperature_c,
        _pull.air_pressure_kpa,
        _pull.air_humidity_percent,
        _dyno.repeatability_percent,
    )
    .select_from(PullReading.__table__)
    .join(Reading.__table__, _reading.id == _pull.id)
    .join(Build.__table__, _build.id == _pull.build_id)
    .join(Job.__table__, _job.id == _build.job_id)
    .join(Dyno.__table__, _dyno.id == _pull.dyno_id)
    .outerjoin(Engine.__table__, _engine.id == _job.engine_id)
    .outerjoin(Strike.__table__, _strike.reading_id == _pull.id)
    .where(_strike.reading_id.is_(None), _build.id == func.any(bindparam("build_ids", type_=ARRAY(Uuid))))
    .order_by(_reading.taken_at)
)


def rows_of_pull(session: Session, pull_id: UUID) -> tuple[list[float], list[float]]:
    """Speed and torque of a pull as they were logged."""
    row = session.execute(select(_pull.engine_speed_rpm, _pull.torque_n_m).where(_pull.id == pull_id)).one()
    return row[0], row[1]


def dimensions_of(session: Session, state_ids: Sequence[UUID]) -> Sequence[DimensionReading]:
    """Dimension readings of these part states that are not struck out."""
    wanted = select(DimensionReading).where(DimensionReading.part_state_id.in_(state_ids))
    return [row for row in session.scalars(wanted.order_by(DimensionReading.taken_at)) if row.strike is None]


def last_setup(session: Session, job_id: UUID | None) -> Setup | None:
    """The set-up that was noted last on a job, or on any; those of a test's points are not among them."""
    wanted = select(Setup).order_by(Setup.created_at.desc()).limit(1)
    if job_id is not None:
        wanted = wanted.where(Setup.job_id == job_id)
    return session.scalars(wanted.where(Setup.id.not_in(_setups_of_points()))).first()


def _setups_of_points() -> Select[UUID]:
    return (
        select(FlowReading.setup_id)
        .where(FlowReading.plan_id.is_not(None))
        .join(Plan)
        .where(FlowReading.setup_id != Plan.setup_id)
    )


def steps_of(session: Session, job_id: UUID) -> Sequence[Step]:
    """Steps of a job, in the order of the rail."""
    return session.scalars(select(Step).where(Step.job_id == job_id).order_by(Step.rail_step, Step.position)).all()


def next_state_sequence(session: Session, part_id: UUID) -> int:
    """Number of the state that the next cut makes."""
    return (session.scalar(select(func.max(PartState.sequence)).where(PartState.part_id == part_id)) or 0) + 1


def next_build_sequence(session: Session, job_id: UUID) -> int:
    """Number of the job's next build."""
    return (session.scalar(select(func.max(Build.sequence)).where(Build.job_id == job_id)) or 0) + 1


def names_of_people(session: Session) -> dict[UUID, str]:
    """Everybody's name by id."""
    return {row.id: row.name for row in session.execute(select(Person.id, Person.name))}
