"""The dyno screen: pulls, the designs they are of, how these stand for each use, and the verdict."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.dyno.correction import Standard
from elvarn.core.rail import Step
from elvarn.exchange.pull_out import write_designs
from elvarn.service.dyno.changes import Change, changes_of
from elvarn.service.dyno.declared import ITEMS, DeclaredItem, engine_versions
from elvarn.service.dyno.designs import Designs, designs_from, designs_of
from elvarn.service.dyno.judged import Head, Standing, Table, head_of, standings_of, table_of
from elvarn.service.dyno.logged import about_logged, with_unlike_boost
from elvarn.service.dyno.matrix import MatrixView, matrix_of
from elvarn.service.dyno.parts import about_parts
from elvarn.service.dyno.plate import DesignsPlate, curves_out, plate_of
from elvarn.service.dyno.styles import styles_of
from elvarn.service.dyno.words import about_designs, about_flow, about_trust, what_is_next
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.kernel.errors import NotFound
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import JobRecord, load_job
from elvarn.service.record.strikes import StruckView, struck_view
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries
from elvarn.store.models import Build
from elvarn.store.revision import job_revision


@dataclass(frozen=True)
class PullView:
    """A pull in the list: whose build, when, by whom, in which air, what was declared of it, what changed since the
    pull before, and how it was brought to the basis. `version` is the card's number."""

    id: UUID
    version: int
    build_id: UUID
    build: str
    is_stock: bool
    label: str
    pulled_at: datetime
    session: int
    mount: int
    engine_version: int
    person: str
    dyno_id: UUID
    dyno: str
    measures: str
    standard_in_file: str
    air_temperature_c: float | None
    air_pressure_kpa: float | None
    air_humidity_percent: float | None
    typed: dict[str, str]
    declared: dict[str, str]
    basis: str
    factor: float | None
    changes: Change
    row_count: int
    struck: StruckView | None


@dataclass(frozen=True)
class DesignView:
    """A build of the job. `hue` tells its manifold from the others', `dash` its throttle: 0 are those of
    the first build."""

    build_id: UUID
    name: str
    is_stock: bool
    pulls: int
    hue: int
    dash: int


@dataclass(frozen=True)
class JudgedView:
    """What a band says: the answer, the table over all uses, and the verdict in words."""

    head: Head
    table: Table
    matrix: MatrixView | None
    said: list[Sentence]


@dataclass(frozen=True)
class OfferedUse:
    """A usual use that is not shown by itself, with its band, to begin with."""

    name: str
    low_rpm: float
    high_rpm: float


@dataclass(frozen=True)
class DynoSheet:
    """The dyno screen of a job. Where nothing was pulled there is no plate, and the margin says what is next."""

    pulls: list[PullView]
    designs: list[DesignView]
    items: list[DeclaredItem]
    standard: str
    basis: str
    reference_id: UUID | None
    plate: DesignsPlate | None
    judged: JudgedView | None
    trust: list[Sentence]
    margin: list[Sentence]
    cautions: list[str]
    offered: list[OfferedUse]


@dataclass(frozen=True)
class Asked:
    """What is looked at: the use or the band [rpm], the reference where it is not stock, the standard where it is not
    the job's."""

    use: str = ""
    band: tuple[float, float] | None = None
    reference_id: UUID | None = None
    standard: Standard | None = None


EVERYTHING = Asked()


def dyno_sheet(
    session: Session, shelf: CurveShelf, job_id: UUID, preset: units.Preset, asked: Asked = EVERYTHING
) -> DynoSheet:
    """The dyno screen of a job."""
    record = load_job(session, job_id)
    designs = designs_of(session, shelf, job_id, asked.reference_id, asked.standard, record.job)
    currency = path_settings(session).settings.currency
    return sheet_of(record, preset, designs, currency, asked)


def sheet_of(
    record: JobRecord, preset: units.Preset, designs: Designs | None, currency: str, asked: Asked = EVERYTHING
) -> DynoSheet:
    """The dyno screen of a job that is loaded already, with its designs."""
    chosen, _ = standings_of(designs, asked.use, asked.band) if designs else (None, [])
    logged = about_logged(record.session, designs, chosen, preset) if designs else []
    return DynoSheet(
        pulls=_pull_views(record, designs),
        designs=_design_views(record),
        items=list(ITEMS),
        standard=asked.standard or record.job.standard,
        basis=designs.basis if designs else "",
        reference_id=designs.reference.build_id if designs else None,
        plate=plate_of(designs, preset) if designs else None,
        judged=_judged(record.session, designs, asked, preset, record.builds, currency) if designs else None,
        trust=[*logged, *about_trust(designs)] if designs else [],
        margin=[
            *about_flow(record.pairs.fraction if record.pairs.alike else None, _made(designs, record, chosen)),
            what_is_next(record, designs),
        ],
        cautions=CAUTIONS[Step.DYNO],
        offered=[OfferedUse(*one) for one in designs.offered] if designs else [],
    )


def _design_views(record: JobRecord) -> list[DesignView]:
    return [
        DesignView(b.id, b.name, b.is_stock, len(record.valid_pulls(b)), style.hue, style.dash)
        for b, style in zip(record.builds, styles_of(record.builds), strict=True)
    ]


def designs_csv(session: Session, shelf: CurveShelf, job_id: UUID) -> str:
    """The curves of all designs as a file. Raises NotFound where nothing was pulled."""
    designs = designs_of(session, shelf, job_id)
    if designs is None:
        raise NotFound("Nothing was pulled on this job. Drop a dyno file first.")
    return write_designs(*curves_out(designs))


def judged_band(
    session: Session, shelf: CurveShelf, job_id: UUID, preset: units.Preset, asked: Asked
) -> JudgedView | None:
    """What another band says: asked for while it is chosen, so that pulls and builds are read again only where the job
    has changed. None where nothing was pulled."""
    job, made, builds = shelf.pulled.get(
        (job_id, job_revision(session, job_id)),
        lambda: (
            queries.pulled_job(session, job_id),
            queries.pulled_in_job(session, job_id),
            queries.builds_with_parts(session, job_id),
        ),
    )
    designs = designs_from(session, shelf, job, made, asked.reference_id, asked.standard)
    if designs is None:
        return None
    return _judged(session, designs, asked, preset, builds, path_settings(session).settings.currency)


def _judged(
    session: Session, designs: Designs, asked: Asked, preset: units.Preset, builds: Sequence[Build], currency: str
) -> JudgedView:
    chosen, found = standings_of(designs, asked.use, asked.band)
    matrix = matrix_of(designs, chosen, styles_of(builds), preset)
    said = about_designs(designs, chosen, found, preset)
    said += about_parts(designs, chosen, builds, currency, preset)
    return JudgedView(
        with_unlike_boost(session, designs, chosen, head_of(designs, chosen, preset)),
        table_of(designs, chosen, found, preset),
        matrix,
        [*said, *(matrix.said if matrix else [])],
    )


def _made(designs: Designs | None, record: JobRecord, chosen: Standing | None) -> float | None:
    """What the first build with the manifold that was read after made of it, as a fraction over the chosen use."""
    after = record.after_state
    first = record.stock_build or next(iter(record.builds), None)
    if designs is None or chosen is None or after is None or first is None:
        return None
    if designs.reference.build_id != first.id:
        return None
    built = next((b.id for b in record.builds if any(n.part_state_id == after.id for n in b.nodes)), None)
    found = (band for one, band in chosen.figures if one.design.build_id == built)
    return next((band.power.fraction for band in found), None)


def _pull_views(record: JobRecord, designs: Designs | None) -> list[PullView]:
    based = {one.row.id: (one, pull) for d in (designs.every if designs else ()) for one, pull in d.pairs}
    versions = engine_versions([pull.card.declared for pull in record.pulls])
    changes = changes_of(record)
    sessions: dict[object, int] = {}
    found = []
    for pull, version, change in zip(record.pulls, versions, changes, strict=True):
        card, (one, placed) = pull.card, based.get(pull.id, (None, None))
        key = placed.day if placed else None
        number = sessions.setdefault(key, len(sessions) + 1) if placed else 0
        found.append(
            PullView(
                id=pull.id,
                version=card.number,
                build_id=card.build_id,
                build=record.build_name(card.build_id),
                is_stock=record.stock_build is not None and card.build_id == record.stock_build.id,
                label=card.label,
                pulled_at=card.pulled_at,
                session=number,
                mount=placed.mount if placed else 0,
                engine_version=version,
                person=record.people[pull.person_id],
                dyno_id=card.dyno_id,
                dyno=card.dyno.name,
                measures=card.dyno.measures,
                standard_in_file=card.standard_in_file,
                air_temperature_c=card.air_temperature_c,
                air_pressure_kpa=card.air_pressure_kpa,
                air_humidity_percent=card.air_humidity_percent,
                typed=card.typed,
                declared=card.declared,
                basis=one.standard.label if one else Standard.of(card.standard_in_file).label,
                factor=one.factor if one else None,
                changes=change,
                row_count=pull.row_count,
                struck=struck_view(pull, record.people),
            )
        )
    return found
