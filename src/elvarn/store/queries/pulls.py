"""Pulls, with what a comparison needs of them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Uuid, bindparam, select
from sqlalchemy.orm import Session

from elvarn.store.models import Base, Build, Dyno, Engine, Job, LogReading, PullCard, PullReading, Reading, Strike

_ALL = 2**31 - 1


def pulls_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[PullReading]:
    """Pulls of jobs as they were made, struck ones too."""
    found = session.scalars(select(PullReading).where(PullReading.job_id.in_(job_ids))).unique().all()
    return sorted(found, key=lambda pull: (pull.card.pulled_at, pull.created_at))


def pulls_of_file(session: Session, digest: str) -> Sequence[PullReading]:
    """Valid pulls that were read from a file of this content."""
    wanted = select(PullReading).where(PullReading.file_digest == digest).order_by(PullReading.created_at)
    return [pull for pull in session.scalars(wanted).unique() if pull.strike is None]


def files_that_were_read(session: Session, digests: Sequence[str]) -> set[str]:
    """Those of some files from which a pull or a log was read, struck ones too."""
    wanted = (select(kind.file_digest).where(kind.file_digest.in_(digests)) for kind in (PullReading, LogReading))
    return {digest for question in wanted for digest in session.scalars(question) if digest}


@dataclass(frozen=True)
class PulledPull:
    """A pull without its rows, with what was last said of it, and whether it was struck out."""

    id: UUID
    job_id: UUID
    marks: list[str]
    struck: bool
    build_id: UUID
    build: str
    is_stock: bool
    sequence: int
    pulled_at: datetime
    label: str
    standard_in_file: str
    air_temperature_c: float | None
    air_pressure_kpa: float | None
    air_humidity_percent: float | None
    declared: dict[str, str]
    dyno_id: UUID
    dyno: str
    dyno_kind: str
    dyno_load: str
    repeatability_percent: float | None
    day_shift_percent: float | None
    engine_id: UUID | None

    @property
    def measures(self) -> str:
        """Whether its power is the engine's or the wheels'."""
        return "engine" if self.dyno_kind == "engine" else "wheel"


@dataclass(frozen=True)
class PulledJob:
    """What of a job a comparison of its pulls needs."""

    standard: str
    use: str | None
    band_low_rpm: int | None
    band_high_rpm: int | None
    boosted: bool
    limit_rpm: float | None
    uses: list[dict[str, Any]]

    @classmethod
    def of(cls, job: Job) -> "PulledJob":
        """The same of a job that is loaded already."""
        engine = job.engine
        boosted, limit = (engine.boosted, engine.limit_rpm) if engine else (False, None)
        return cls(job.standard, job.use, job.band_low_rpm, job.band_high_rpm, bool(boosted), limit, job.uses)


def pulled_job(session: Session, job_id: UUID) -> PulledJob | None:
    """What a comparison needs of a job; None where there is no such job."""
    row = session.connection().execute(_PULLED_JOB, {"job_id": job_id}).first()
    return None if row is None else PulledJob(*row[:4], bool(row[4]), *row[5:])


def pulled_in_job(session: Session, job_id: UUID) -> list[PulledPull]:
    """Pulls of a job in the order in which they were made, struck ones too, in one question to the database."""
    return _pulled(session, _PULLED.where(_reading.job_id == job_id), _ALL)


def pulled_on_dyno(session: Session, dyno_id: UUID, most: int) -> list[PulledPull]:
    """The latest pulls on a dyno in the order in which they were made, struck ones too."""
    return _pulled(session, _PULLED.where(_dyno.id == dyno_id), most)


def rows_of_pull(session: Session, pull_id: UUID) -> tuple[list[float], list[float]]:
    """Speeds and torques of a pull."""
    row = session.execute(
        select(PullReading.engine_speed_rpm, PullReading.torque_n_m).where(PullReading.id == pull_id)
    ).one()
    return row[0], row[1]


def channels_of_pull(session: Session, pull_id: UUID) -> tuple[list[float], dict[str, list[float | None]]]:
    """Speeds of a pull, and what was logged beside, by name; no speeds where nothing was."""
    logged = session.scalar(select(PullReading.channels).where(PullReading.id == pull_id)) or {}
    return (rows_of_pull(session, pull_id)[0], logged) if logged else ([], {})


def _pulled(session: Session, wanted: Any, most: int) -> list[PulledPull]:
    ordered = wanted.order_by(_card.pulled_at.desc(), _reading.created_at.desc()).limit(most)
    return [PulledPull(*row) for row in reversed(session.connection().execute(ordered).all())]


def _columns(model: type[Base]) -> Any:
    return model.__table__.c


_build, _job, _engine, _dyno = _columns(Build), _columns(Job), _columns(Engine), _columns(Dyno)
_pull, _reading, _strike, _card = _columns(PullReading), _columns(Reading), _columns(Strike), _columns(PullCard)
_later = PullCard.__table__.alias("later")

# Tables, not mapped classes: these are asked while a band is dragged.
_PULLED_JOB = (
    select(
        _job.standard, _job.use, _job.band_low_rpm, _job.band_high_rpm, _engine.boosted, _engine.limit_rpm, _job.uses
    )
    .select_from(Job.__table__)
    .outerjoin(Engine.__table__, _engine.id == _job.engine_id)
    .where(_job.id == bindparam("job_id", type_=Uuid))
)
_PULLED = (
    select(
        _pull.id,
        _reading.job_id,
        _reading.marks,
        _strike.reading_id.is_not(None),
        _build.id,
        _build.name,
        _build.is_stock,
        _build.sequence,
        _card.pulled_at,
        _card.label,
        _card.standard_in_file,
        _card.air_temperature_c,
        _card.air_pressure_kpa,
        _card.air_humidity_percent,
        _card.declared,
        _dyno.id,
        _dyno.name,
        _dyno.kind,
        _dyno.load,
        _dyno.repeatability_percent,
        _dyno.day_shift_percent,
        _card.engine_id,
    )
    .select_from(PullReading.__table__)
    .join(Reading.__table__, _reading.id == _pull.id)
    .join(PullCard.__table__, _card.pull_id == _pull.id)
    .join(Build.__table__, _build.id == _card.build_id)
    .join(Dyno.__table__, _dyno.id == _card.dyno_id)
    .outerjoin(Strike.__table__, _strike.reading_id == _pull.id)
    .outerjoin(_later, (_later.c.pull_id == _card.pull_id) & (_later.c.number > _card.number))
    .where(_later.c.id.is_(None))
)
