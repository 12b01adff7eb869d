"""Parts wanted over all jobs, and the one order list."""

from datetime import date
from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import PlainTextResponse, Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Sessions, Snapshots
from elvarn.api.strict import StrictRoute
from elvarn.service.shelf import orders, wanting

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["orders"])


@router.get("/orders", response_model=orders.OrderList)
def order_list(asked: Asked) -> Response:
    """What is wanted over all jobs: to be ordered, coming, here and not fitted."""
    today = date.today()
    return asked.of_all(lambda s: orders.order_list(s, today), today)


@router.get("/orders.csv", response_class=PlainTextResponse)
def order_csv(snapshots: Snapshots) -> PlainTextResponse:
    with snapshots.begin() as session:
        content = orders.order_csv(session, date.today())
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=attached("orders.csv"))


@router.put("/wants/{want_id}")
def want(want_id: UUID, new: wanting.NewWant, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(wanting.want(session, want_id, new).id)


@router.post("/wants/{want_id}/state")
def take_step(want_id: UUID, step: wanting.WantStep, sessions: Sessions) -> Kept:
    """Move a wanted part on, or back: ordered, here, fitted, or dropped."""
    with sessions.begin() as session:
        return Kept(wanting.take_step(session, want_id, step, date.today()).id)
