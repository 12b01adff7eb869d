"""Dyno files in, pulls against stock, pulls out."""

from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.responses import PlainTextResponse, Response
from pydantic import TypeAdapter

from elvarn.api.depends import Curves, Files, Reads, Sessions, Units
from elvarn.api.routes_jobs import Kept
from elvarn.service import comparison, dyno, pulls

router = APIRouter(prefix="/api", tags=["dyno"])
COMPARISON = TypeAdapter(comparison.ComparisonView)


@router.post("/dyno/preview")
async def preview(name: str, request: Request, sessions: Sessions, files: Files) -> pulls.PullPreview:
    """What a dropped file (its bytes are the body) seems to hold. The file is kept, nothing is made of it yet."""
    content = await request.body()
    with sessions.begin() as session:
        return pulls.preview(session, files, name, content)


@router.put("/pulls/{pull_id}")
def add_pull(pull_id: UUID, new: pulls.NewPull, sessions: Sessions, files: Files) -> Kept:
    with sessions.begin() as session:
        return Kept(pulls.add_pull(session, files, pull_id, new).id)


@router.get("/pulls/{pull_id}.csv", response_class=PlainTextResponse)
def pull_csv(pull_id: UUID, sessions: Sessions) -> PlainTextResponse:
    with sessions.begin() as session:
        name, content = pulls.export_pull(session, pull_id)
    headers = {"content-disposition": f'attachment; filename="{name}"'}
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=headers)


@router.get("/jobs/{job_id}/dyno")
def dyno_sheet(
    job_id: UUID, sessions: Sessions, curves: Curves, units: Units = "trade", other: UUID | None = None
) -> dyno.DynoSheet:
    with sessions.begin() as session:
        return dyno.dyno_sheet(session, curves, job_id, units, other)


@router.get("/comparison", response_model=comparison.ComparisonView)
def comparison_of_builds(
    stock: UUID,
    other: UUID,
    reads: Reads,
    curves: Curves,
    units: Units = "trade",
    low_rpm: float | None = None,
    high_rpm: float | None = None,
) -> Response:
    """Two builds' pulls compared over a band, or the job's. Written straight to bytes: a band is dragged."""
    band = (low_rpm, high_rpm) if low_rpm is not None and high_rpm is not None else None
    with reads() as session:
        view = comparison.compare_builds(session, curves, stock, other, units, band)
    return Response(COMPARISON.dump_json(view), media_type="application/json")
