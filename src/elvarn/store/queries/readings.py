"""Flow and dimension readings, and set-ups."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import Select, and_, exists, func, or_, select, union
from sqlalchemy.orm import Session

from elvarn.core.bench.plan import PlanKind
from elvarn.store.models import CheckReading, DimensionReading, FlowReading, Plan, Reading, Setup, Strike


def flows_of_states(session: Session, state_ids: Sequence[UUID], struck: bool = False) -> Sequence[FlowReading]:
    """Flow readings of these part states, whatever job they were taken in, the valid ones or all; points of test plans
    are not among them."""
    wanted = select(FlowReading).where(FlowReading.part_state_id.in_(state_ids), FlowReading.plan_id.is_(None))
    return [row for row in session.scalars(wanted.order_by(FlowReading.taken_at)) if struck or row.strike is None]


def part_open_flows(session: Session, state_ids: Sequence[UUID]) -> Sequence[FlowReading]:
    """Valid flow readings of these part states at a stated opening, points of test plans among them, as they were
    taken."""
    at_opening = FlowReading.setup.has(Setup.opening_percent.is_not(None))
    wanted = select(FlowReading).where(FlowReading.part_state_id.in_(state_ids), at_opening)
    return [row for row in session.scalars(wanted.order_by(FlowReading.taken_at)) if row.strike is None]


def flows_in_jobs(session: Session, job_ids: Sequence[UUID], state_ids: Sequence[UUID]) -> Sequence[FlowReading]:
    """Flow readings of jobs, and those of these part states in whatever job, as they were taken, struck ones too. Of
    test plans only the jobs' configuration tests are among them."""
    tests = select(Plan.id).where(Plan.job_id.in_(job_ids), Plan.kind == PlanKind.CONFIGURATION)
    base, flow = Reading.__table__.c, FlowReading.__table__.c
    either = union(
        select(base.id).where(base.job_id.in_(job_ids), base.kind == "flow"),
        select(flow.id).where(flow.part_state_id.in_(state_ids)),
    )
    wanted = select(FlowReading).where(
        FlowReading.id.in_(either), or_(FlowReading.plan_id.is_(None), FlowReading.plan_id.in_(tests))
    )
    return session.scalars(wanted.order_by(FlowReading.taken_at, FlowReading.created_at)).all()


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


@dataclass(frozen=True)
class AirBeside:
    """The air of the set-up that a check belongs to, as far as it was noted."""

    air_temperature_c: float | None
    air_pressure_kpa: float | None
    air_humidity_percent: float | None


def checks_of(
    session: Session, setup_ids: Sequence[UUID], bench_ids: Sequence[UUID]
) -> Sequence[tuple[CheckReading, AirBeside]]:
    """Checks of these set-ups, every reading of these benches' plates, and the zeros of the set-ups in which those were
    read, each with its air: as they were taken, struck ones too."""
    plates = and_(CheckReading.bench_id.in_(bench_ids), CheckReading.check_kind == "plate")
    of_plates = select(CheckReading.setup_id).where(plates)
    zeros = and_(CheckReading.check_kind == "zero", CheckReading.setup_id.in_(of_plates))
    air = (Setup.air_temperature_c, Setup.air_pressure_kpa, Setup.air_humidity_percent)
    wanted = select(CheckReading, *air).outerjoin(Setup, CheckReading.setup_id == Setup.id)
    rows = session.execute(
        wanted.where(or_(CheckReading.setup_id.in_(setup_ids), plates, zeros)).order_by(CheckReading.taken_at)
    )
    return [(row[0], AirBeside(*row[1:])) for row in rows]


def dimensions_of(session: Session, state_ids: Sequence[UUID], struck: bool = False) -> Sequence[DimensionReading]:
    """Dimension readings of these part states, the valid ones or all."""
    wanted = select(DimensionReading).where(DimensionReading.part_state_id.in_(state_ids))
    return [row for row in session.scalars(wanted.order_by(DimensionReading.taken_at)) if struck or row.strike is None]


def last_setup(session: Session, job_id: UUID | None) -> Setup | None:
    """The set-up that was noted last on a job, or on any; those of a test's points are not among them."""
    wanted = select(Setup).where(~Setup.alone).order_by(Setup.created_at.desc()).limit(1)
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
