"""A runner's figure into the database: what is asked before it is kept, and keeping it. Whoever is at the bench waits
for it, so that each is one statement."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import inspect, text
from sqlalchemy.orm import Session

from elvarn.store.models import FlowReading


@dataclass(frozen=True)
class KeptFigure:
    """A valid reading of the same runner in the same state on a bench of the same shop, as it was taken."""

    id: UUID
    figure: float
    unit: str


@dataclass(frozen=True)
class CapturePlace:
    """Where a figure is being captured.

    digest: of the request that used this id before; cylinder_count of the job's part, None where there is no such job
    or state; depression_pa of the set-up, None where there is none; ranges of its bench; smallest_bore [m] measured of
    the runner in this state; kept: what this runner already read; others: flow of every runner's reading in this state
    and the part's first, in m³/s at the depression asked for, by the square-root law alone; last_at: when the latest of
    them in this set-up was taken.
    """

    digest: str | None
    cylinder_count: int | None
    depression_pa: float | None
    ranges: list[dict[str, Any]]
    smallest_bore: float | None
    kept: list[KeptFigure]
    others: list[float]
    last_at: datetime | None


def capture_place(
    session: Session,
    reading_id: UUID,
    job_id: UUID,
    setup_id: UUID,
    state_id: UUID,
    cylinder: int,
    depression: float,
    replaced: list[UUID],
) -> CapturePlace:
    """The place of a capture, held for this job until the transaction ends. Readings of tests, struck ones and those
    that are to be replaced are left out."""
    session.connection().execute(_HOLD, {"job": str(job_id)})
    given = {
        "reading_id": reading_id,
        "job_id": job_id,
        "setup_id": setup_id,
        "state_id": state_id,
        "cylinder": cylinder,
        "depression": depression,
        "replaced": replaced,
    }
    row = session.connection().execute(_QUESTION, given).one()
    kept = [KeptFigure(UUID(k["id"]), k["figure"], k["unit"]) for k in row.kept or []]
    return CapturePlace(
        row.digest, row.cylinders, row.pulled, row.ranges or [], row.bore, kept, row.others or [], row.last_at
    )


def keep_figure(session: Session, reading: FlowReading) -> None:
    """Insert a runner's reading."""
    columns = inspect(FlowReading).columns
    values = {column.key: getattr(reading, column.key) for column in columns}
    session.connection().execute(_KEEP, values)
    session.info["wrote"] = True


# With the lock: one plan of the question a connection. Planning it anew for each figure takes longer than answering it.
_HOLD = text("""
    select pg_advisory_xact_lock(hashtextextended(:job, 0)),
           set_config('plan_cache_mode', 'force_generic_plan', true)
""")

_KEEP = text("""
    with one as (
        insert into reading (id, content_digest, person_id, job_id, kind, taken_at, marks)
        values (:id, :content_digest, :person_id, :job_id, 'flow', :taken_at, :marks)
        returning id
    )
    insert into flow_reading (id, setup_id, part_state_id, element_kind, cylinder, typed, figure, unit, flow_m3_s,
                              depression_pa, samples, range_percent, refitted)
    select id, :setup_id, :part_state_id, :element_kind, :cylinder, :typed, :figure, :unit, :flow_m3_s,
           :depression_pa, :samples, :range_percent, :refitted
    from one
""")

_QUESTION = text("""
    with here as (select * from part_state where id = :state_id),
    states as (
        select id from here
        union
        (select id from part_state where part_id = (select part_id from here) order by sequence limit 1)
    ),
    rig as (
        select depression_pa, bench.shop, bench.ranges
        from setup join bench on bench.id = bench_id
        where setup.id = :setup_id
    ),
    valid as (
        select *
        from flow_reading
        where part_state_id in (select id from states) and cylinder is not null and plan_id is null
          and id <> all(cast(:replaced as uuid[]))
          and not exists (select from strike where reading_id = flow_reading.id)
    ),
    kept as (
        select valid.id, figure, unit, taken_at
        from valid
        join reading using (id)
        join setup on setup.id = setup_id
        join bench on bench.id = bench_id
        where cylinder = :cylinder and part_state_id = :state_id and bench.shop = (select shop from rig)
    ),
    bores as (
        select distinct on (quantity) value_si
        from dimension_reading
        join reading using (id)
        join part_state on part_state.id = part_state_id
        join here on part_state.part_id = here.part_id and part_state.sequence <= here.sequence
        where element_kind = 'runner' and cylinder = :cylinder and quantity in ('bore', 'bore_out')
          and not exists (select from strike where reading_id = reading.id)
        order by quantity, part_state.sequence desc, taken_at desc
    )
    select (select content_digest from reading where id = :reading_id) as digest,
           (select cylinder_count from build where job_id = :job_id and exists (select from here)
            order by sequence limit 1) as cylinders,
           rig.depression_pa as pulled,
           rig.ranges,
           (select min(value_si) from bores) as bore,
           (select json_agg(json_build_object('id', id, 'figure', figure, 'unit', unit) order by taken_at)
            from kept) as kept,
           (select array_agg(flow_m3_s * sqrt(:depression / coalesce(valid.depression_pa, setup.depression_pa)))
            from valid join setup on setup.id = setup_id) as others,
           (select max(taken_at) from valid join reading using (id) where setup_id = :setup_id) as last_at
    from (select) as one left join rig on true
""")
