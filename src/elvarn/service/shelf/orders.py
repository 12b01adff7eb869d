"""Parts wanted for jobs and the shelf, over all of them: what is to be ordered, what is coming, and for whom."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.exchange.table import write_table
from elvarn.service.kernel.sentences import Sentence
from elvarn.service.record.stock import stocks_of
from elvarn.service.shelf.order_rows import OrderRow, order_row
from elvarn.service.shelf.order_words import order_words
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries
from elvarn.store.models import WantedPart

COLUMNS = (
    "maker", "number", "name", "kind", "to_order", "price", "sum", "here", "promised", "ordered", "left_over",
    "lead_days", "order_by", "for",
)  # fmt: skip


@dataclass(frozen=True)
class OrderList:
    """What is wanted over all jobs; `sum` is of what is to be ordered and has a price."""

    rows: list[OrderRow]
    sum: float
    unpriced: int
    currency: str
    margin: list[Sentence]


def order_list(session: Session, today: date) -> OrderList:
    """The order list, what is to be ordered first, by the day on which it has to be."""
    wants = queries.open_wants(session)
    parts = queries.parts_by_id(session, list({want.part_id for want in wants}))
    jobs = {job.id: job for job in queries.jobs_of(session, [want.job_id for want in wants if want.job_id])}
    stocks = stocks_of(session, list(parts.values()))
    by_part: dict[UUID, list[WantedPart]] = {}
    for want in wants:
        by_part.setdefault(want.part_id, []).append(want)
    rows = [order_row(parts[part], stocks[part], of_part, jobs, today) for part, of_part in by_part.items()]
    rows.sort(key=lambda row: (row.to_order == 0, row.order_by or date.max, row.maker or "", row.name))
    priced = [row for row in rows if row.sum is not None]
    return OrderList(
        rows,
        sum(row.sum or 0.0 for row in priced),
        sum(1 for row in rows if row.to_order and row.price is None),
        path_settings(session).settings.currency,
        order_words(rows),
    )


def order_csv(session: Session, today: date) -> str:
    """The order list as a table."""
    rows = [
        [
            row.maker or "", row.number or "", row.name, row.kind, row.to_order, _text(row.price), _text(row.sum),
            row.here, row.promised, row.ordered, row.left_over, _text(row.lead_days), row.order_by or "",
            "; ".join(f"{want.count} {want.job}" for want in row.wants),
        ]
        for row in order_list(session, today).rows
    ]  # fmt: skip
    cells = [[str(cell) for cell in row] for row in rows]
    return write_table(list(COLUMNS), [""] * len(COLUMNS), cells, ["Elvarn order list: one part a row"])


def _text(value: float | None) -> str:
    return "" if value is None else f"{value:g}"
