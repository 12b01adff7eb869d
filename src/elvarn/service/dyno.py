"""The dyno screen: pulls, the designs they are of, the comparison with stock and the verdict."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.finding import Grade
from elvarn.service.bench import StruckView
from elvarn.service.comparison import STANDARD_WORDS, ComparisonView, basis_of, compare_builds
from elvarn.service.curves import CurveShelf
from elvarn.service.margin import Sentence, sentence
from elvarn.service.record import JobRecord, load_job
from elvarn.store.models import Build, Dyno, PullReading


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


def dyno_sheet(
    session: Session, shelf: CurveShelf, job_id: UUID, preset: units.Preset, other_id: UUID | None = None
) -> DynoSheet:
    """The dyno screen: the chosen or latest other design against stock, over the job's band."""
    record = load_job(session, job_id)
    stock = _reference(record)
    other = _other(record, stock, other_id)
    comparison = None
    if stock and other and record.valid_pulls(stock) and record.valid_pulls(other):
        comparison = compare_builds(session, shelf, stock.id, other.id, preset)
    return DynoSheet(
        pulls=[_pull_view(record, pull, session) for pull in record.pulls],
        designs=[_design(record, build) for build in record.builds],
        stock=_design(record, stock) if stock else None,
        other=_design(record, other) if other else None,
        comparison=comparison,
        margin=[*_about_flow(record, comparison), _next(record, stock, other)],
    )


def _about_flow(record: JobRecord, comparison: ComparisonView | None) -> list[Sentence]:
    """What the bench showed beside what the engine made of it."""
    gain = record.flow_gain()
    if gain is None or comparison is None or comparison.band is None:
        return []
    made = units.percent_text(comparison.band.power_fraction)
    text = f"The bench showed {units.percent_text(gain)} flow; the engine made {made} power of it."
    return [sentence(text, Grade.COMPUTED)]


def _next(record: JobRecord, stock: Build | None, other: Build | None) -> Sentence:
    stock_pulls, other_pulls = record.valid_pulls(stock), record.valid_pulls(other)
    if not stock_pulls:
        text = "Pull stock before anything comes off, and drop the file here."
    elif other is None:
        text = "Stock is kept. Note the cut on Bench, and the ported build can be pulled."
    elif not other_pulls:
        text = f"Pull {other.name} on the same fuel and day, and drop the file here."
    elif max(p.taken_at for p in stock_pulls) < min(p.taken_at for p in other_pulls):
        text = "Pull stock again at the end: it shows what the day did."
    else:
        text = "Print the sheet for the customer."
    return sentence(text, Grade.RULE, "next")


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


def _pull_view(record: JobRecord, pull: PullReading, session: Session) -> PullView:
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
        session.get_one(Dyno, pull.dyno_id).name,
        pull.measures,
        STANDARD_WORDS[basis],
        pull.row_count,
        StruckView(strike.reason, record.people[strike.person_id], strike.struck_at) if strike else None,
    )
