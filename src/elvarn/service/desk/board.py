"""The shop board: open jobs by the step at which they stand."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from math import ceil
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.bench.pairs import Pairs
from elvarn.core.rail import Step
from elvarn.service.desk.rail import rail_of
from elvarn.service.job.drawn_path import PathNode, air_path
from elvarn.service.kernel import log
from elvarn.service.record.job import JobRecord, load_jobs
from elvarn.service.record.said import no_figure
from elvarn.service.shop.known import known_of_jobs
from elvarn.service.shop.safekeeping import LastCopy, safekeeping
from elvarn.store import queries
from elvarn.store.engine import AWAY
from elvarn.store.revision import open_jobs

MOST_CLOSED_SHOWN = 12
PAGE = 50  # cards
SPOILED = "Something that is kept of this job can't be shown"


@dataclass(frozen=True)
class Card:
    """A job on the board: who it is for, what is next, and a miniature of its air path."""

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


@dataclass(frozen=True)
class BoardColumn:
    step: str
    label: str
    jobs: list[Card]


@dataclass(frozen=True)
class ClosedJob:
    id: UUID
    title: str
    customer: str | None
    closed_at: datetime


@dataclass(frozen=True)
class Board:
    """A page of the open jobs, the longest waiting first, by the step they stand at; and the jobs handed over last.
    `count` is of all pages, `first` the place of the page's first job among them, from 1. And how the shop's daily copy
    goes, if it wants one."""

    columns: list[BoardColumn]
    count: int
    page: int
    pages: int
    first: int
    closed: list[ClosedJob]
    daily_copy: bool
    last_copy: LastCopy


def board(session: Session, preset: units.Preset, page: int = 1) -> Board:
    """A page of the open jobs by the step they stand at; behind the last page stands the last one."""
    shown, count = open_jobs(session, PAGE, PAGE * (page - 1))
    if not shown and page > 1:
        page = max(1, ceil(queries.count_open_jobs(session) / PAGE))
        shown, count = open_jobs(session, PAGE, PAGE * (page - 1))
    pages, before = max(1, ceil(count / PAGE)), PAGE * (page - 1)
    cards = known_of_jobs(session, ("card", preset), shown, lambda jobs: _cards(session, jobs, preset))
    in_order = [cards[job] for job in shown]
    columns = [BoardColumn(step, step.label, [card for card in in_order if card.step == step]) for step in Step]
    closed = queries.closed_jobs(session, MOST_CLOSED_SHOWN)
    handed = [ClosedJob(job.id, job.title, job.customer, job.closed_at) for job in closed if job.closed_at]
    kept = safekeeping(session)
    return Board(columns, count, page, pages, before + 1, handed, kept.settings.daily, kept.last)


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
    return Card(job, title, None, "", Step.CHECKIN, SPOILED, None, None, None, None)


def _card(record: JobRecord, preset: units.Preset) -> Card:
    job, rail, pairs = record.job, rail_of(record), record.pairs
    latest = record.latest_build
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
    )


def _gain(pairs: Pairs, runners: int, preset: units.Preset) -> str | None:
    """Mean gain so far, for the card: figure first, percent beside it."""
    if not pairs.alike:
        return None
    shown = units.show_difference(pairs.after - pairs.before, "flow", preset)
    read = len(pairs.alike)
    of = f", {read} of {runners} runners" if read < runners else ""
    return f"{shown.text} {shown.unit} a runner ({units.percent_text(pairs.fraction)}){of}"
