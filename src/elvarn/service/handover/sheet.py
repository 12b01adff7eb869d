"""The sheet for the customer: what was flowed before and after, what it gave, what was changed."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core import METHOD_VERSION
from elvarn.service.bench.sheet import BenchSheet, sheet_of
from elvarn.service.dyno.sheet import DynoSheet
from elvarn.service.dyno.sheet import sheet_of as dyno_sheet_of
from elvarn.service.job.cautions import AID
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import JobRecord, load_job
from elvarn.store import queries


@dataclass(frozen=True)
class SheetRow:
    """A runner on paper: bars are shares of the widest figure, from 0 to 1."""

    runner: str
    before: str
    after: str
    gain: str
    percent: str
    judgement: str
    bar_before: float
    bar_after: float


@dataclass(frozen=True)
class FlowSheet:
    """The one-page flow sheet, every figure as text. Strings are empty where there is nothing to say."""

    job_id: UUID
    title: str
    customer: str
    subtitle: str
    made_on: str
    unit: str
    basis: str
    before_label: str
    after_label: str
    rows: list[SheetRow]
    mean: SheetRow | None
    spread_before: str
    spread_after: str
    said: list[Sentence]
    dyno_said: list[Sentence]
    setup: list[tuple[str, str]]
    method_version: str
    caution: str
    closed: bool
    version: int


def flow_sheet(session: Session, shelf: CurveShelf, job_id: UUID, preset: units.Preset, made_on: date) -> FlowSheet:
    """The sheet of a job as it would print on this day."""
    setup = queries.last_setup(session, job_id)
    record = load_job(session, job_id)
    sheet = sheet_of(record, setup, session, preset)
    job = record.job
    dyno = dyno_sheet_of(record, session, shelf, preset) if record.pulls else None
    engine = f"{job.engine.name} · " if job.engine else ""
    return FlowSheet(
        job_id=job.id,
        title=job.title,
        customer=job.customer or "",
        subtitle=f"{engine}{sheet.part}",
        made_on=f"{made_on.day} {made_on:%B %Y}",
        unit=sheet.unit,
        basis=sheet.basis,
        before_label=sheet.before_label,
        after_label=sheet.after_label or "",
        rows=_rows(sheet),
        mean=_mean_row(sheet),
        spread_before=sheet.mean.spread_before or "",
        spread_after=sheet.mean.spread_after or "",
        said=[s for s in sheet.margin if s.tone != "next"],
        dyno_said=_dyno_said(dyno),
        setup=[*_setup(sheet, dyno), *_work(record)],
        method_version=METHOD_VERSION,
        caution=AID,
        closed=job.closed_at is not None,
        version=job.version,
    )


def _dyno_said(dyno: DynoSheet | None) -> list[Sentence]:
    """Verdict, trust and what the engine made of the flow, where two designs were compared."""
    if dyno is None or dyno.comparison is None:
        return []
    flow = [s for s in dyno.margin if s.tone != "next"]
    return [*dyno.comparison.said, *flow, *dyno.comparison.trust]


def _rows(sheet: BenchSheet) -> list[SheetRow]:
    means = [side.mean.value for rung in sheet.rungs for side in (rung.before, rung.after) if side.mean]
    widest = max(means, default=1.0)
    return [
        SheetRow(
            str(rung.cylinder),
            rung.before.mean.text if rung.before.mean else "–",
            rung.after.mean.text if rung.after.mean else "–",
            rung.gain.gain.text if rung.gain else "",
            rung.gain.percent if rung.gain else "",
            rung.gain.words if rung.gain else rung.unlike,
            rung.before.mean.value / widest if rung.before.mean else 0.0,
            rung.after.mean.value / widest if rung.after.mean else 0.0,
        )
        for rung in sheet.rungs
    ]


def _mean_row(sheet: BenchSheet) -> SheetRow | None:
    mean = sheet.mean
    if mean.before is None:
        return None
    gain = mean.gain
    return SheetRow(
        "Average",
        mean.before.text,
        mean.after.text if mean.after else "–",
        gain.gain.text if gain else "",
        gain.percent if gain else "",
        f"±{gain.half_width.text} {gain.half_width.unit}, {gain.words}" if gain else mean.unlike,
        0.0,
        0.0,
    )


def _work(record: JobRecord) -> list[tuple[str, str]]:
    """What was changed, and who read the figures."""
    states = [s.label for part in record.parts for s in part.states if s.sequence > 1]
    readers = sorted({record.people[reading.person_id] for reading in record.flows if reading.strike is None})
    rows = (("Work done", ", ".join(states)), ("Readings by", ", ".join(readers)))
    return [(name, words) for name, words in rows if words]


def _setup(sheet: BenchSheet, dyno: DynoSheet | None) -> list[tuple[str, str]]:
    rows: list[tuple[str, str]] = []
    if sheet.setup is not None:
        setup = sheet.setup
        unit = units.LABELS.get(setup.depression_unit, setup.depression_unit)
        taken = f"{setup.depression.removesuffix('.0')} {unit}"
        rows += [
            ("Bench", setup.bench),
            ("Depression", taken if taken == sheet.stated_at else f"{taken}, stated at {sheet.stated_at}"),
            *((name.capitalize(), words) for name, words in setup.words.items()),
            ("Air", setup.air or "not noted"),
        ]
    if dyno is not None and dyno.comparison is not None:
        rows.append(("Dyno", f"{dyno.pulls[-1].dyno}, {dyno.comparison.basis}"))
    return rows
