"""Pulls, with what a comparison needs of them."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy import ARRAY, Uuid, bindparam, func, select
from sqlalchemy.orm import Session

from elvarn.store.models import Base, Build, Dyno, Engine, Job, PullReading, Reading, Strike


def pulls_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[PullReading]:
    """Pulls of jobs as they were taken, struck ones too."""
    wanted = select(PullReading).where(PullReading.job_id.in_(job_ids))
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
