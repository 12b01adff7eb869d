"""The shop board: open jobs by the step at which they stand."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from math import ceil
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.pairs import Pairs
from elvarn.core.rail import Step
from elvarn.service.desk.rail import rail_of
from elvarn.service.desk.today import AtWork, at_work, day_text, outside
from elvarn.service.desk.waiting import waits_for
from elvarn.service.job.drawn_path import PathNode, air_path
from elvarn.service.kernel import log
from elvarn.service.record.job import JobRecord, load_jobs
from elvarn.service.record.said import no_figure
from elvarn.service.shop.known import known_of_jobs
from elvarn.service.shop.safekeeping import LastCopy, safekeeping
from elvarn.store import queries
from elvarn.store.engine import AWAY
from elvarn.store.models import Job
from elvarn.store.revision import open_jobs

MOST_CLOSED_SHOWN = 12
PAGE = 50  # cards
SPOILED = "Something that is kept of this job can't be shown"


@dataclass(frozen=True)
class Card:
    """A job on the board: who it is for, what is next, and a miniature of its air path. `waits`: what has to be
    decided, empty where nothing has; `out`: what is outside, with whom, and when the first of it is due back; `late`:
    it, or something of it that is outside, was due before today; `overdue` says which."""

    id: UUID
    title: str
    customer: str | None
    kind: str
    step: str
    next: str
    due_on: date | None
    path: PathNode | None
    gain: str | None
    unlike: str | None
    waits: str
    out: str = ""
    back_on: date | None = None
    late: bool = False
    overdue: str = ""


@dataclass(frozen=True)
class BoardColumn:
    step: str
    label: str
    jobs: list[Card]


@dataclass(frozen=True)
class ClosedJob:
    """A job handed over or put away, and when."""

    id: UUID
    title: str
    customer: str | None
    closed_at: datetime
    version: int


@dataclass(frozen=True)
class Board:
    """A page of the open jobs, the longest waiting first, by the step they stand at; the jobs handed over and put away
    last.
    `count` is of all pages, `first` the place of the page's first job among them, from 1; `today` is who does what of
    any of them. And how the shop's daily copy
    goes, if it wants one."""

    columns: list[BoardColumn]
    count: int
    page: int
    pages: int
    first: int
    today: list[AtWork]
    closed: list[ClosedJob]
    archived: list[ClosedJob]
    daily_copy: bool
    last_copy: LastCopy


def board(session: Session, preset: units.Preset, today: date, page: int = 1) -> Board:
    """A page of the open jobs by the step they stand at, what is late or waits for a decision first; behind the last
    page stands the last one."""
    shown, count = open_jobs(session, PAGE, PAGE * (page - 1))
    if not shown and page > 1:
        page = max(1, ceil(queries.count_open_jobs(session) / PAGE))
        shown, count = open_jobs(session, PAGE, PAGE * (page - 1))
    pages, before = max(1, ceil(count / PAGE)), PAGE * (page - 1)
    cards = known_of_jobs(session, ("card", preset), shown, lambda jobs: _cards(session, jobs, preset))
    dated = [_dated(cards[job], today) for job in shown]
    in_order = sorted(dated, key=lambda card: (not card.late, not card.waits))
    columns = [BoardColumn(step, step.label, [card for card in in_order if card.step == step]) for step in Step]
    closed = queries.closed_jobs(session, MOST_CLOSED_SHOWN)
    handed = [ClosedJob(job.id, job.title, job.customer, job.closed_at, job.version) for job in closed if job.closed_at]
    away = [_put_away(job) for job in queries.archived_jobs(session, MOST_CLOSED_SHOWN)]
    kept = safekeeping(session)
    work = at_work(session, today)
    return Board(columns, count, page, pages, before + 1, work, handed, away, kept.settings.daily, kept.last)


def _put_away(job: Job) -> ClosedJob:
    assert job.archived_at is not None
    return ClosedJob(job.id, job.title, job.customer, job.archived_at, job.version)


def _dated(card: Card, today: date) -> Card:
    """A card as it stands today."""
    words = []
    if card.due_on is not None and card.due_on < today:
        words.append(f"was due {day_text(card.due_on)}")
    if card.back_on is not None and card.back_on < today:
        words.append(f"{card.out} was due back {day_text(card.back_on)}")
    return replace(card, late=bool(words), overdue=" · ".join(words))


def _cards(session: Session, jobs: Sequence[UUID], preset: units.Preset) -> dict[UUID, Card]:
    """The cards of jobs, made together; what is wrong with one of them spoils its own card alone."""
    try:
        return {record.job.id: _card(record, preset) for record in load_jobs(session, jobs)}
    except AWAY:
        raise
    except Exception as error:
        if len(jobs) > 1:
            return {job: _cards(session, [job], preset)[job] for job in jobs}
        log.fault("job can't be shown", error, job=str(jobs[0]))
        return {jobs[0]: _spoiled(session, jobs[0])}


def _spoiled(session: Session, job: UUID) -> Card:
    title = queries.titles_of_jobs(session, [job])[job]
    return Card(job, title, None, "", Step.CHECKIN, SPOILED, None, None, None, None, "")


def _card(record: JobRecord, preset: units.Preset) -> Card:
    job, rail, pairs = record.job, rail_of(record), record.pairs
    latest, out = record.latest_build, outside(record.tasks)
    return Card(
        id=job.id,
        title=job.title,
        customer=job.customer,
        kind=job.kind.title,
        step=rail.here,
        next=rail.next,
        due_on=job.due_on,
        path=air_path(record, latest, preset) if latest else None,
        gain=_gain(pairs, record.cylinder_count, preset),
        unlike=None if pairs.alike else no_figure(pairs) or None,
        waits=waits_for(record),
        out=f"{out[0].title} at {out[0].outside}" if out else "",
        back_on=out[0].due_back_on if out else None,
    )


def _gain(pairs: Pairs, runners: int, preset: units.Preset) -> str | None:
    """Mean gain so far, for the card: figure first, percent beside it."""
    if not pairs.alike:
        return None
    shown = units.show_difference(pairs.after - pairs.before, "flow", preset)
    read = len(pairs.alike)
    of = f", {read} of {runners} runners" if read < runners else ""
    return f"{shown.text} {shown.unit} a runner ({units.percent_text(pairs.fraction)}){of}"
