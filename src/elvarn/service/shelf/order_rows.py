"""A part of the order list: its stock, what is to be ordered, and who wants it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from elvarn.service.record.lead import Lead, lead_of
from elvarn.service.record.stock import Stock
from elvarn.store.models import Job, Part, WantedPart, WantState


@dataclass(frozen=True)
class Want:
    """So many of a part, for a job, or for the shelf where it names none. `expected_on`: when it is to come;
    `late`: that is after the job is due."""

    id: UUID
    version: int
    job_id: UUID | None
    job: str
    due_on: date | None
    count: int
    state: str
    expected_on: date | None
    late: bool


@dataclass(frozen=True)
class OrderRow:
    """A part of the order list: its stock, what is to be ordered of it, what that costs, until when it has to be
    ordered so that the first job has it in time, and who wants it."""

    part_id: UUID
    name: str
    maker: str | None
    number: str | None
    kind: str
    here: int
    promised: int
    ordered: int
    left_over: int
    to_order: int
    price: float | None
    sum: float | None
    lead_days: int | None
    order_by: date | None
    overdue: bool
    wants: list[Want]


def order_row(part: Part, stock: Stock, wants: Sequence[WantedPart], jobs: Mapping[UUID, Job], today: date) -> OrderRow:
    """A part of the order list, with who wants it."""
    shown = [_want(want, jobs.get(want.job_id) if want.job_id else None) for want in wants]
    due = min((one.due_on for one in shown if one.due_on and one.state == WantState.WANTED), default=None)
    lead = lead_of(part, stock.ordered, today)
    order_by = _order_by(lead, due) if stock.left_over < 0 else None
    money = None if part.price is None or not stock.to_order else part.price * stock.to_order
    return OrderRow(
        part.id, part.name, part.maker, part.number, part.kind, stock.here, stock.promised, stock.ordered,
        stock.left_over, stock.to_order, part.price, money, lead.days, order_by,
        order_by is not None and order_by < today, shown,
    )  # fmt: skip


def _order_by(lead: Lead, due: date | None) -> date | None:
    """Until when: before the run, else so long before the first job is due as it takes."""
    if lead.days is None or due is None:
        return None
    return lead.run_on or due - timedelta(days=lead.days)


def _want(want: WantedPart, job: Job | None) -> Want:
    due = job.due_on if job else None
    late = (
        due is not None and want.expected_on is not None and want.expected_on > due and want.state == WantState.ORDERED
    )
    title = job.title if job else "the shelf"
    return Want(want.id, want.version, want.job_id, title, due, want.count, want.state, want.expected_on, late)
