"""Check-in: jobs, the engine and what follows from it, what came, and jobs copied from earlier ones."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query
from fastapi.responses import Response

from elvarn import __version__
from elvarn.api.answers import Asked, Kept
from elvarn.api.depends import Fonts, Sessions, Snapshots, Units
from elvarn.api.strict import StrictRoute
from elvarn.exchange.paper import receipt_pdf
from elvarn.given import given
from elvarn.service.checkin import copying, new_job, putting_away, received
from elvarn.service.checkin import engine as checkin_engine
from elvarn.service.checkin import following as checkin_following
from elvarn.service.checkin import job as checkin_job
from elvarn.service.checkin import sheet as checkin_sheet
from elvarn.service.checkin.following import Following

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["checkin"])


@given
class TypedEngine:
    """An engine as it is being typed."""

    cylinder_count: int
    engine: checkin_engine.NewEngine


@router.get("/jobs/{job_id}/checkin", response_model=checkin_sheet.CheckinSheet)
def sheet(job_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_job(job_id, lambda s: checkin_sheet.checkin_sheet(s, job_id, units))


@router.patch("/jobs/{job_id}/engine")
def edit_engine(job_id: UUID, change: checkin_engine.EngineEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(checkin_engine.edit_engine(session, job_id, change).id)


@router.put("/jobs/{job_id}/engine-versions/{engine_id}")
def next_engine(job_id: UUID, engine_id: UUID, sessions: Sessions) -> Kept:
    """Another version of a job's engine, to be changed: what was pulled and printed before keeps the one it had."""
    with sessions.begin() as session:
        return Kept(checkin_engine.another_version(session, job_id, engine_id).id)


@router.get("/shapes")
def shapes(
    runner_count: Annotated[int, Query(ge=1, le=16)],
    bank_count: Annotated[int, Query(ge=1, le=4)] = 1,
    boosted: bool = False,
    bank: Annotated[list[str] | None, Query()] = None,
) -> list[new_job.ShapeView]:
    """Air paths that an engine can have left the factory with, as they are drawn; `bank` names a bank's cylinders, as
    in "1 3 5 7", where they are not numbered bank by bank."""
    return new_job.shapes(runner_count, bank_count, boosted, new_job.banks_of(bank or []))


@router.post("/engine/following")
def following(typed: TypedEngine, units: Units = "trade") -> list[Following]:
    """What follows from an engine as it is being typed. Nothing is kept of it."""
    return checkin_following.following_of(typed.engine, typed.cylinder_count, units)


@router.get("/jobs/{job_id}/receipt.pdf", response_class=Response)
def receipt_of(job_id: UUID, snapshots: Snapshots, fonts: Fonts) -> Response:
    with snapshots.begin() as session:
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


@router.delete("/items/{item_id}")
def delete_item(item_id: UUID, version: int, sessions: Sessions) -> received.NewItem:
    """Take a line of the receipt away; the answer, put under a new id, brings it back."""
    with sessions.begin() as session:
        return received.delete_item(session, item_id, version)


@router.post("/jobs/{job_id}/away")
def put_job_away(job_id: UUID, change: putting_away.JobAway, sessions: Sessions) -> Kept:
    """Put a job away from the board, or back on it."""
    with sessions.begin() as session:
        return Kept(putting_away.put_job_away(session, job_id, change).id)


@router.delete("/jobs/{job_id}", status_code=204)
def delete_job(job_id: UUID, version: int, sessions: Sessions) -> None:
    """Take a job away that nothing rests on."""
    with sessions.begin() as session:
        putting_away.delete_job(session, job_id, version)


@router.put("/job-copies/{job_id}")
def copy_job(job_id: UUID, new: copying.JobCopy, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(copying.copy_job(session, job_id, new).id)


@router.put("/jobs/{job_id}")
def take_in(job_id: UUID, new: new_job.NewJob, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(new_job.take_in(session, job_id, new).id)


@router.patch("/jobs/{job_id}")
def edit_job(job_id: UUID, change: checkin_job.JobEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(checkin_job.edit_job(session, job_id, change).id)
