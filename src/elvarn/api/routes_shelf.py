"""The shelf: parts, their pictures, their figures, and the whole of it out and in."""

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import PlainTextResponse, Response

from elvarn.api.depends import Files, Sessions, Units
from elvarn.api.routes_jobs import Kept
from elvarn.api.strict import StrictRoute
from elvarn.service import history, photos, settings, shelf, shelf_files

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["shelf"])


@router.get("/shelf")
def whole_shelf(sessions: Sessions, units: Units = "trade") -> shelf.Shelf:
    with sessions.begin() as session:
        return shelf.shelf(session, units, settings.path_settings(session).settings.currency)


@router.get("/parts/{part_id}/history")
def part_history(part_id: UUID, sessions: Sessions, units: Units = "trade") -> history.History:
    """What was read of a part, or of every part of its casting, over the years."""
    with sessions.begin() as session:
        return history.history_of(session, part_id, units)


@router.get("/shelf.csv", response_class=PlainTextResponse)
def shelf_csv(sessions: Sessions) -> PlainTextResponse:
    with sessions.begin() as session:
        content = shelf_files.shelf_csv(session)
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=_attached("shelf.csv"))


@router.get("/shelf.json", response_class=Response)
def shelf_json(sessions: Sessions) -> Response:
    with sessions.begin() as session:
        content = shelf_files.shelf_json(session)
    return Response(content, media_type="application/json", headers=_attached("shelf.json"))


@router.post("/shelf/import")
async def import_shelf(
    name: Annotated[str, Query()],
    person_id: UUID,
    request: Request,
    sessions: Sessions,
    bench_id: UUID | None = None,
    taken_at: datetime | None = None,
) -> shelf_files.ShelfImport:
    """Parts of a dropped file (its bytes are the body), all or none."""
    content = await request.body()

    def work() -> shelf_files.ShelfImport:
        with sessions.begin() as session:
            when = taken_at or datetime.now(UTC)
            return shelf_files.import_shelf(session, name, content, person_id, bench_id, when)

    return await run_in_threadpool(work)


@router.get("/parts/{part_id}")
def part_sheet(part_id: UUID, sessions: Sessions, units: Units = "trade") -> shelf.PartSheet:
    with sessions.begin() as session:
        return shelf.part_sheet(session, part_id, units)


@router.patch("/parts/{part_id}")
def edit_part(part_id: UUID, change: shelf.PartEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(shelf.edit_part(session, part_id, change).id)


@router.put("/part-flows/{reading_id}", tags=["readings"])
def flow_of_part(reading_id: UUID, new: shelf.NewPartFlow, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(shelf.flow_of_part(session, reading_id, new))


@router.post("/pictures", tags=["photos"])
async def keep_picture(name: str, request: Request, sessions: Sessions, files: Files) -> dict[str, str]:
    """A picture's bytes (the body). Returns the digest by which a photo names it."""
    content = await request.body()

    def work() -> str:
        with sessions.begin() as session:
            return photos.keep_picture(session, files, name, content)

    return {"digest": await run_in_threadpool(work)}


@router.get("/pictures/{digest}", tags=["photos"], response_class=Response)
def picture(digest: str, sessions: Sessions, files: Files) -> Response:
    with sessions.begin() as session:
        content, media_type = photos.picture(session, files, digest)
    return Response(content, media_type=media_type, headers={"cache-control": "private, max-age=31536000, immutable"})


@router.put("/photos/{photo_id}", tags=["photos"])
def add_photo(photo_id: UUID, new: photos.NewPhoto, sessions: Sessions, files: Files) -> Kept:
    with sessions.begin() as session:
        return Kept(photos.add_photo(session, files, photo_id, new).id)


def _attached(name: str) -> dict[str, str]:
    return {"content-disposition": f'attachment; filename="{name}"'}
