"""Dyno files in, pulls against stock, pulls out."""

from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.responses import PlainTextResponse, Response
from pydantic import TypeAdapter

from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Curves, Files, Runs, Sessions, Snapshots, Units, resources
from elvarn.api.strict import StrictRoute
from elvarn.api.upload import Sent
from elvarn.service.dyno import comparison, pulls, sheet

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["dyno"])
BAND = TypeAdapter(comparison.BandAnswer)


@router.post("/dyno/preview")
def preview(name: str, sent: Sent, sessions: Sessions, files: Files, run: Runs) -> pulls.PullPreview:
    """What a dropped file (its bytes are the body) seems to hold. The file is kept, nothing is made of it yet."""
    with sessions.begin() as session:
        return pulls.preview(session, files, run, name, sent)


@router.put("/pulls/{pull_id}")
def add_pull(pull_id: UUID, new: pulls.NewPull, sessions: Sessions, files: Files, run: Runs) -> Kept:
    with sessions.begin() as session:
        return Kept(pulls.add_pull(session, files, run, pull_id, new).id)


@router.get("/pulls/{pull_id}.csv", response_class=PlainTextResponse)
def pull_csv(pull_id: UUID, snapshots: Snapshots) -> PlainTextResponse:
    with snapshots.begin() as session:
        name, content = pulls.export_pull(session, pull_id)
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=attached(name))


@router.get("/jobs/{job_id}/dyno", response_model=sheet.DynoSheet)
def dyno_sheet(
    job_id: UUID, asked: Asked, curves: Curves, units: Units = "trade", other: UUID | None = None
) -> Response:
    return asked.of_job(job_id, lambda s: sheet.dyno_sheet(s, curves, job_id, units, other))


@router.get("/comparison/band", response_model=comparison.BandAnswer)
def band_of_comparison(
    stock: UUID, other: UUID, low_rpm: float, high_rpm: float, request: Request, units: Units = "trade"
) -> Response:
    """Another band of two builds' comparison. Asked for while a band is chosen, so it goes the shortest way: no
    transaction round its one question, and the answer is written straight to bytes."""
    found = resources(request)
    with found.reads() as session:
        answer = comparison.compare_band(session, found.curves, stock, other, units, (low_rpm, high_rpm))
    return Response(BAND.dump_json(answer), media_type="application/json")
