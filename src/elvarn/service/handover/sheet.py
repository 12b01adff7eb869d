"""The sheet for the customer: what was flowed before and after, what it gave, what was changed."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core import METHOD_VERSION
from elvarn.core.finding import Grade
from elvarn.service.bench.sheet import BenchSheet, GainView, Rung, SideView, sheet_of
from elvarn.service.checkin.received import Item, items_of
from elvarn.service.dyno.judged import head_of
from elvarn.service.dyno.logged import with_unlike_boost
from elvarn.service.dyno.sheet import DynoSheet
from elvarn.service.dyno.sheet import sheet_of as dyno_sheet_of
from elvarn.service.fit.signing import not_signed_off
from elvarn.service.handover.closing import HandedView, handed_of
from elvarn.service.handover.designs import DesignRow, Draw, Pulled, design_rows, plate_on_paper, pulled_of
from elvarn.service.handover.path_rows import PathOnPaper, path_on_paper
from elvarn.service.job.cautions import AID
from elvarn.service.kernel.sentences import Sentence, listed, sentence
from elvarn.service.record.curves import CurveShelf
from elvarn.service.record.job import JobRecord, load_job
from elvarn.service.record.setup import SetupView, setup_view
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries
from elvarn.store.models import PartState

ROOM = 0.12  # of the span: beside the outermost marks of the ladder
LEAST_SPAN = 0.04  # of the level: a ladder of like runners is not blown up


@dataclass(frozen=True)
class SheetRow:
    """A runner on paper, or a mean. Places on the ladder run from 0 to 1, empty where nothing was read. `refits` is how
    many readings stand behind before and after."""

    runner: str
    before: str
    after: str
    gain: str
    half_width: str
    percent: str
    judgement: str
    refits: str = ""
    at_before: float | None = None
    at_after: float | None = None


@dataclass(frozen=True)
class Headline:
    """An answer in large: its figure, and what it is of. Where nothing can be compared there is no figure."""

    figure: str
    words: str

    @property
    def told(self) -> str:
        return f"{self.figure} {self.words}".strip()


@dataclass(frozen=True)
class SetupRow:
    """An item of the set-up as it was before and after; `differs` where that is not the same."""

    name: str
    before: str
    after: str
    differs: bool


@dataclass(frozen=True)
class FlowSheet:
    """The flow sheet, every figure as text. Strings are empty where there is nothing to say."""

    job_id: UUID
    shop: str
    address: str
    title: str
    customer: str
    subtitle: str
    made_on: str
    headlines: list[Headline]
    unit: str
    basis: str
    before_label: str
    after_label: str
    rows: list[SheetRow]
    means: list[SheetRow]
    spread_before: str
    spread_after: str
    said: list[Sentence]
    dyno_said: list[Sentence]
    designs: list[DesignRow]
    designs_unit: str
    plate: str
    plate_basis: str
    path: PathOnPaper | None
    setup: list[SetupRow]
    work: list[tuple[str, str]]
    method_version: str
    caution: str
    not_signed_off: str
    closed: bool
    handed: list[HandedView]
    version: int

    @property
    def told(self) -> list[str]:
        """Its headlines as text."""
        return [one.told for one in self.headlines]


def flow_sheet(
    session: Session, shelf: CurveShelf, job_id: UUID, preset: units.Preset, made_on: date, draw: Draw
) -> FlowSheet:
    """The sheet of a job as it would print on this day; `draw` makes the plate of the designs' curves."""
    record = load_job(session, job_id)
    sheet = sheet_of(record, queries.last_setup(session, job_id), session, preset)
    job, settings = record.job, path_settings(session).settings
    pulled = pulled_of(session, shelf, job_id, job)
    plate = plate_on_paper(pulled, preset) if pulled else None
    dyno = dyno_sheet_of(record, preset, pulled.designs, settings.currency) if pulled else None
    read = [rung for rung in sheet.rungs if rung.before.mean or rung.after.mean]
    headlines = [*_flow_headline(sheet, len(read)), *_power_headline(session, pulled, preset)]
    return FlowSheet(
        job_id=job.id,
        shop=settings.shop_name,
        address=settings.shop_address,
        title=job.title,
        customer=job.customer or "",
        subtitle=f"{f'{job.engine.name} · ' if job.engine else ''}{sheet.part}",
        made_on=f"{made_on.day} {made_on:%B %Y}",
        headlines=headlines,
        unit=sheet.unit,
        basis=sheet.basis,
        before_label=sheet.before_label,
        after_label=sheet.after_label or "",
        rows=_rows(read),
        means=_means(sheet),
        spread_before=sheet.mean.spread_before or "",
        spread_after=sheet.mean.spread_after or "",
        said=[*(s for s in sheet.margin if s.paper), *_about_parts(items_of(session, job_id))],
        dyno_said=_dyno_said(dyno),
        designs=design_rows(pulled, preset) if pulled and len(pulled.designs.others) > 1 else [],
        designs_unit=units.LABELS.get(units.PRESETS[preset]["power"], units.PRESETS[preset]["power"]),
        plate=draw(plate) if plate else "",
        plate_basis=pulled.designs.basis if pulled else "",
        path=path_on_paper(session, shelf, record, preset),
        setup=_setups(record, sheet),
        work=_work(record, dyno),
        method_version=METHOD_VERSION,
        caution=AID,
        not_signed_off=not_signed_off(session, job_id),
        closed=job.closed_at is not None,
        handed=handed_of(session, job_id, [one.told for one in headlines], preset),
        version=job.version,
    )


def _flow_headline(sheet: BenchSheet, read: int) -> Iterator[Headline]:
    """The answer on top: the mean gain with its word, or that there is none."""
    mean = sheet.mean
    if mean.unlike:
        yield Headline("", f"Flow {mean.unlike}")
    elif mean.gain is not None:
        of = sum(1 for rung in sheet.rungs if rung.gain)
        where = f"average over {of} of {len(sheet.rungs)} runners" if of > 1 else "one runner"
        width = f"±{mean.gain.half_width.text} {mean.gain.half_width.unit}"
        words = f"{where} ({mean.gain.percent}), {mean.gain.words}, {width}"
        yield Headline(f"{mean.gain.gain.text} {mean.gain.gain.unit}", words)
    elif mean.before is not None:
        yield Headline(f"{mean.before.text} {mean.before.unit}", f"average over {read} runners, {sheet.before_label}")


def _power_headline(session: Session, pulled: Pulled | None, preset: units.Preset) -> Iterator[Headline]:
    """The design that makes most power over the band, against stock."""
    if pulled is None:
        return
    if pulled.unlike:
        yield Headline("", f"Power {pulled.unlike}")
        return
    answer = head_of(pulled.designs, pulled.standing, preset)
    head = with_unlike_boost(session, pulled.designs, pulled.standing, answer)
    if head.figure is not None:
        yield Headline(f"{head.figure.text} {head.figure.unit}", f"{head.words}, {head.where}")


def _about_parts(items: Sequence[Item]) -> Iterator[Sentence]:
    """What was worked on before it came: a gain starts from there."""
    names = [item.words for item in items if item.condition == "worked_on"]
    if names:
        reason = "The gain is measured from that, not from stock."
        yield sentence(
            f"Modified before it came in: {listed(names)}.", Grade.MEASURED, "doubt", reason=reason, paper=True
        )


def _dyno_said(dyno: DynoSheet | None) -> list[Sentence]:
    """Verdict, trust and what the engine made of the flow, where two designs were compared."""
    if dyno is None or dyno.judged is None:
        return []
    return [s for s in (*dyno.judged.said, *dyno.margin, *dyno.trust) if s.paper]


def _rows(read: Sequence[Rung]) -> list[SheetRow]:
    """The runners that were read: an empty rung never prints."""
    means = [side.mean.value for rung in read for side in (rung.before, rung.after) if side.mean]
    low, high = min(means, default=0.0), max(means, default=1.0)
    span = max(high - low, LEAST_SPAN * high)
    first, width = (low + high - span) / 2 - ROOM * span, span * (1 + 2 * ROOM)
    return [
        SheetRow(
            str(rung.cylinder),
            rung.before.mean.text if rung.before.mean else "–",
            rung.after.mean.text if rung.after.mean else "–",
            *_gain_words(rung.gain, rung.unlike),
            _refits(rung),
            (rung.before.mean.value - first) / width if rung.before.mean else None,
            (rung.after.mean.value - first) / width if rung.after.mean else None,
        )
        for rung in read
    ]


def _means(sheet: BenchSheet) -> list[SheetRow]:
    """The average, and of several banks each bank's."""
    mean = sheet.mean
    rows = [(f"Bank {one.bank}", one.before, one.after, one.gain, "") for one in sheet.banks]
    rows.append(("Average", mean.before, mean.after, mean.gain, mean.unlike))
    return [
        SheetRow(name, before.text, after.text if after else "–", *_gain_words(gain, unlike))
        for name, before, after, gain, unlike in rows
        if before is not None
    ]


def _gain_words(gain: GainView | None, unlike: str) -> tuple[str, str, str, str]:
    """Gain, half-width, percent and the word on it."""
    if gain is None:
        return "", "", "", unlike
    return gain.gain.text, f"±{gain.half_width.text}", gain.percent, gain.words


def _refits(rung: Rung) -> str:
    before, after = (_valid(side) for side in (rung.before, rung.after))
    return f"{before} / {after}" if after else str(before)


def _valid(side: SideView) -> int:
    return sum(1 for reading in side.readings if reading.struck is None)


def _work(record: JobRecord, dyno: DynoSheet | None) -> list[tuple[str, str]]:
    """What was changed, who took the readings, and on which dyno."""
    states = [s.label for part in record.parts for s in part.states if s.sequence > 1]
    readers = sorted({record.people[reading.person_id] for reading in record.flows if reading.strike is None})
    pulled = ""
    if dyno is not None:
        pulled = f"{dyno.pulls[-1].dyno}, {dyno.basis}"
    rows = (("Work done", ", ".join(states)), ("Readings by", ", ".join(readers)), ("Dyno", pulled))
    return [(name, words) for name, words in rows if words]


def _setups(record: JobRecord, sheet: BenchSheet) -> list[SetupRow]:
    """The set-up of the last reading before beside that of the last after, item by item."""
    views = [_setup_of(record, state) for state in (record.before_state, record.after_state)]
    before, after = (_items(view, sheet) if view else {} for view in views)
    both = bool(before and after)
    return [
        SetupRow(name, before.get(name, ""), after.get(name, ""), both and before.get(name) != after.get(name))
        for name in dict.fromkeys([*before, *after])
    ]


def _setup_of(record: JobRecord, state: PartState | None) -> SetupView | None:
    rows = [reading for readings in record.runner_readings(state).values() for reading in readings]
    last = max(rows, key=lambda reading: reading.taken_at, default=None)
    return setup_view(last.setup) if last is not None else None


def _items(setup: SetupView, sheet: BenchSheet) -> dict[str, str]:
    unit = units.LABELS.get(setup.depression_unit, setup.depression_unit)
    taken = f"{setup.depression.removesuffix('.0')} {unit}"
    return {
        "Bench": setup.bench,
        "Depression": taken if taken == sheet.stated_at else f"{taken}, shown at {sheet.stated_at}",
        **{name.capitalize(): words for name, words in setup.words.items()},
        "Air": setup.air or "not noted",
    }
