"""The dyno screen: pulls, the designs they are of, the comparison with stock and the verdict."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.correction import Standard
from elvarn.core.rail import Step
from elvarn.service.dyno.comparison import ComparisonView, basis_of, compare_builds
from elvarn.service.dyno.words import about_flow, what_is_next
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import JobRecord, load_job
from elvarn.service.record.strikes import StruckView
from elvarn.store.models import Build, PullReading


@dataclass(frozen=True)
class PullView:
    """A pull in the list: whose build, when, by whom, and how it was brought to the standard."""

    id: UUID
    build_id: UUID
    build: str
    is_stock: bool
    label: str
    taken_at: datetime
    person: str
    dyno: str
    measures: str
    basis: str
    row_count: int
    struck: StruckView | None


@dataclass(frozen=True)
class DesignView:
    """A build that was pulled, to choose from."""

    build_id: UUID
    name: str
    is_stock: bool
    pulls: int


@dataclass(frozen=True)
class DynoSheet:
    """The dyno screen of a job. Without two designs there is no comparison, and the margin says what is next."""

    pulls: list[PullView]
    designs: list[DesignView]
    stock: DesignView | None
    other: DesignView | None
    comparison: ComparisonView | None
    margin: list[Sentence]
    cautions: list[str]


def dyno_sheet(
    session: Session, shelf: CurveShelf, job_id: UUID, preset: units.Preset, other_id: UUID | None = None
) -> DynoSheet:
    """The dyno screen: the chosen or latest other design against stock, over the job's band."""
    return sheet_of(load_job(session, job_id), session, shelf, preset, other_id)


def sheet_of(
    record: JobRecord, session: Session, shelf: CurveShelf, preset: units.Preset, other_id: UUID | None = None
) -> DynoSheet:
    """The dyno screen of a job that is loaded already."""
    stock = _reference(record)
    other = _other(record, stock, other_id)
    comparison = None
    if stock and other and record.valid_pulls(stock) and record.valid_pulls(other):
        comparison = compare_builds(session, shelf, stock.id, other.id, preset)
    made = comparison.band.power_fraction if comparison and comparison.band else None
    return DynoSheet(
        pulls=[_pull_view(record, pull) for pull in record.pulls],
        designs=[_design(record, build) for build in record.builds],
        stock=_design(record, stock) if stock else None,
        other=_design(record, other) if other else None,
        comparison=comparison,
        margin=[
            *about_flow(record.pairs.fraction if record.pairs.alike else None, made),
            what_is_next(record, stock, other),
        ],
        cautions=CAUTIONS[Step.DYNO],
    )


def _reference(record: JobRecord) -> Build | None:
    """The stock build, or, where a job has none, the first."""
    return record.stock_build or (record.builds[0] if record.builds else None)


def _other(record: JobRecord, stock: Build | None, wanted: UUID | None) -> Build | None:
    others = [build for build in record.builds if stock is None or build.id != stock.id]
    chosen = next((build for build in others if build.id == wanted), None)
    pulled = [build for build in others if record.valid_pulls(build)]
    return chosen or (pulled[-1] if pulled else (others[-1] if others else None))


def _design(record: JobRecord, build: Build) -> DesignView:
    return DesignView(build.id, build.name, build.is_stock, len(record.valid_pulls(build)))


def _pull_view(record: JobRecord, pull: PullReading) -> PullView:
    build = next(b for b in record.builds if b.id == pull.build_id)
    strike = pull.strike
    has_weather = pull.air_temperature_c is not None and pull.air_pressure_kpa is not None
    basis = basis_of(pull.standard_in_file, record.job.standard, has_weather=has_weather)
    return PullView(
        pull.id,
        build.id,
        build.name,
        build.is_stock,
        pull.label,
        pull.taken_at,
        record.people[pull.person_id],
        pull.dyno.name,
        pull.measures,
        Standard.of(basis).label,
        pull.row_count,
        StruckView(strike.reason, record.people[strike.person_id], strike.struck_at) if strike else None,
    )
