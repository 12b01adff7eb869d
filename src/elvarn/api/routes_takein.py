"""Take in: the engine and what follows from it, what came, and jobs copied from earlier ones."""

from dataclasses import dataclass
from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from elvarn import __version__
from elvarn.api.depends import Fonts, Sessions, Units
from elvarn.api.routes_jobs import Kept
from elvarn.api.strict import StrictRoute
from elvarn.exchange.paper import receipt_pdf
from elvarn.service import engine_edit, received, takein_sheet
from elvarn.service.engines import Following

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["takein"])


@dataclass(frozen=True)
class TypedEngine:
    """An engine as it is being typed."""

    cylinder_count: int
    engine: engine_edit.NewEngine


@router.get("/jobs/{job_id}/takein")
def sheet(job_id: UUID, sessions: Sessions, units: Units = "trade") -> takein_sheet.TakeInSheet:
    with sessions.begin() as session:
        return takein_sheet.takein_sheet(session, job_id, units)


@router.patch("/jobs/{job_id}/engine")
def edit_engine(job_id: UUID, change: engine_edit.EngineEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(engine_edit.edit_engine(session, job_id, change).id)


@router.post("/engine/following")
def following(typed: TypedEngine, units: Units = "trade") -> list[Following]:
    """What follows from an engine as it is being typed. Nothing is kept of it."""
    return takein_sheet.following_of(typed.engine, typed.cylinder_count, units)


@router.get("/jobs/{job_id}/receipt.pdf", response_class=Response)
def receipt_of(job_id: UUID, sessions: Sessions, fonts: Fonts) -> Response:
    with sessions.begin() as session:
        words = received.receipt(session, job_id)
    headers = {"content-disposition": 'inline; filename="receipt.pdf"'}
    content = receipt_pdf({**words, "version": __version__}, fonts)
    return Response(content, media_type="application/pdf", headers=headers)


@router.put("/items/{item_id}")
def add_item(item_id: UUID, new: received.NewItem, sessions: Sessions) -> received.Item:
    with sessions.begin() as session:
        return received.add_item(session, item_id, new)


@router.patch("/items/{item_id}")
def edit_item(item_id: UUID, change: received.ItemEdit, sessions: Sessions) -> received.Item:
    with sessions.begin() as session:
        return received.edit_item(session, item_id, change)


@router.put("/job-copies/{job_id}")
def copy_job(job_id: UUID, new: received.JobCopy, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(received.copy_job(session, job_id, new).id)
