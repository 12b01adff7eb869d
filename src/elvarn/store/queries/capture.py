"""A runner's figure into the database: what is asked before it is kept, and keeping it. Whoever is at the bench waits
for it, so that each is one statement, handed to the driver as it is."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from psycopg.rows import namedtuple_row
from sqlalchemy.orm import Session


@dataclass(frozen=True)
class KeptFigure:
    """A valid reading of the same thing in the same state on a bench of the same shop, as it was taken; its flow in
    m³/s at the depression asked for, and whether it was read in the very set-up."""

    id: UUID
    figure: float
    unit: str
    flow: float
    alike: bool


@dataclass(frozen=True)
class CapturePlace:
    """Where a figure is being captured.

    digest: of the request that used this id before; cylinder_count of the job's part, None where there is no such job
    or state; depression_pa of the set-up, None where there is none; ranges of its bench, and what the shop states that
    it repeats within; smallest_bore [m] measured of the runner in this state; kept: what this runner already read;
    others: flow of every runner's reading in this state and the part's first, in m³/s at the depression asked for, by
    the square-root law alone; last_at: when the latest of them in this set-up was taken; of_others: how many of those
    to be replaced are no readings of this runner here.
    """

    digest: str | None
    cylinder_count: int | None
    depression_pa: float | None
    ranges: list[dict[str, Any]]
    repeatability_percent: float | None
    smallest_bore: float | None
    kept: list[KeptFigure]
    others: list[float]
    last_at: datetime | None
    of_others: int


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
    given = {
        "reading_id": reading_id,
        "job_id": job_id,
        "lock": str(job_id),
        "setup_id": setup_id,
        "state_id": state_id,
        "cylinder": cylinder,
        "depression": depression,
        "replaced": replaced,
    }
    row = _held(session, given)
    kept = [KeptFigure(UUID(k["id"]), k["figure"], k["unit"], k["flow"], k["alike"]) for k in row.kept or []]
    return CapturePlace(
        digest=row.digest,
        cylinder_count=row.cylinders,
        depression_pa=row.pulled,
        ranges=row.ranges or [],
        repeatability_percent=row.repeats,
        smallest_bore=row.bore,
        kept=kept,
        others=row.others or [],
        last_at=row.last_at,
        of_others=row.of_others,
    )


def _held(session: Session, given: dict[str, Any]) -> Any:
    """The lock taken and the question answered, in one journey to the database: the question waits there for the
    lock."""
    driver: Any = session.connection().connection.driver_connection
    with driver.pipeline(), driver.cursor() as lock, driver.cursor(row_factory=namedtuple_row) as question:
        lock.execute(_HOLD, given)
        question.execute(_QUESTION, given)
        return question.fetchone()


def keep_figure(session: Session, values: dict[str, Any]) -> None:
    """Insert a runner's reading: its columns by name."""
    session.connection().exec_driver_sql(_KEEP, values)
    session.info["wrote"] = True


_HOLD = "select pg_advisory_xact_lock(hashtextextended(%(lock)s, 0))"

_KEEP = """
    with one as (
        insert into reading (id, content_digest, person_id, job_id, kind, taken_at, marks)
        values (%(id)s, %(content_digest)s, %(person_id)s, %(job_id)s, 'flow', %(taken_at)s, %(marks)s)
        returning id
    )
    insert into flow_reading (id, setup_id, part_state_id, element_kind, cylinder, typed, figure, unit, flow_m3_s,
                              depression_pa, samples, range_percent, refitted)
    select id, %(setup_id)s, %(part_state_id)s, %(element_kind)s, %(cylinder)s, %(typed)s, %(figure)s, %(unit)s,
           %(flow_m3_s)s, %(depression_pa)s, %(samples)s, %(range_percent)s, %(refitted)s
    from one
"""

_QUESTION = """
    with here as (
        select s.* from part_state s join part on part.id = s.part_id
        where s.id = %(state_id)s and (part.job_id = %(job_id)s or exists (
            select from build b join build_node n on n.build_id = b.id join part_state m on m.id = n.part_state_id
            where b.job_id = %(job_id)s and m.part_id = s.part_id))
    ),
    states as (
        select id from here
        union
        (select id from part_state where part_id = (select part_id from here) order by sequence limit 1)
    ),
    rig as (
        select depression_pa, bench.shop, bench.ranges, bench.repeatability_percent as repeats
        from setup join bench on bench.id = bench_id
        where setup.id = %(setup_id)s and setup.job_id = %(job_id)s
    ),
    valid as (
        select *
        from flow_reading
        where part_state_id in (select id from states) and cylinder is not null and plan_id is null
          and id <> all(cast(%(replaced)s as uuid[]))
          and not exists (select from strike where reading_id = flow_reading.id)
    ),
    kept as (
        select valid.id, figure, unit, taken_at, setup_id = %(setup_id)s as alike,
               flow_m3_s * sqrt(%(depression)s / coalesce(valid.depression_pa, setup.depression_pa)) as flow
        from valid
        join reading using (id)
        join setup on setup.id = setup_id
        join bench on bench.id = bench_id
        where cylinder = %(cylinder)s and part_state_id = %(state_id)s and bench.shop = (select shop from rig)
    ),
    bores as (
        select distinct on (quantity) value_si
        from dimension_reading
        join reading using (id)
        join part_state on part_state.id = part_state_id
        join here on part_state.part_id = here.part_id and part_state.sequence <= here.sequence
        where element_kind = 'runner' and cylinder = %(cylinder)s and quantity in ('bore', 'bore_out')
          and not exists (select from strike where reading_id = reading.id)
        order by quantity, part_state.sequence desc, taken_at desc
    )
    select (select content_digest from reading where id = %(reading_id)s) as digest,
           (select cylinder_count from build where job_id = %(job_id)s and exists (select from here)
            order by sequence limit 1) as cylinders,
           rig.depression_pa as pulled,
           rig.ranges,
           rig.repeats,
           (select min(value_si) from bores) as bore,
           (select json_agg(json_build_object('id', id, 'figure', figure, 'unit', unit, 'flow', flow, 'alike', alike)
                            order by taken_at) from kept) as kept,
           (select array_agg(flow_m3_s * sqrt(%(depression)s / coalesce(valid.depression_pa, setup.depression_pa)))
            from valid join setup on setup.id = setup_id) as others,
           (select max(taken_at) from valid join reading using (id) where setup_id = %(setup_id)s) as last_at,
           (select count(*) from reading left join flow_reading using (id)
            where reading.id = any(cast(%(replaced)s as uuid[]))
              and (reading.job_id, cylinder) is distinct from (%(job_id)s::uuid, %(cylinder)s::int)) as of_others
    from (select) as one left join rig on true
"""
