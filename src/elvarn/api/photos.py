"""Pictures of parts and jobs."""

from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import Response

from elvarn.api.answers import Kept
from elvarn.api.depends import Files, Sessions, Snapshots
from elvarn.api.strict import StrictRoute
from elvarn.service.job import photos

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["photos"])


@router.post("/pictures")
async def keep_picture(name: str, request: Request, sessions: Sessions, files: Files) -> dict[str, str]:
    """A picture's bytes (the body). Returns the digest by which a photo names it."""
    content = await request.body()

    def work() -> str:
        with sessions.begin() as session:
            return photos.keep_picture(session, files, name, content)

    return {"digest": await run_in_threadpool(work)}


@router.get("/pictures/{digest}", response_class=Response)
def picture(digest: str, snapshots: Snapshots, files: Files) -> Response:
    with snapshots.begin() as session:
        content, media_type = photos.picture(session, files, digest)
    return Response(content, media_type=media_type, headers={"cache-control": "private, max-age=31536000, immutable"})


@router.put("/photos/{photo_id}")
def add_photo(photo_id: UUID, new: photos.NewPhoto, sessions: Sessions, files: Files) -> Kept:
    with sessions.begin() as session:
        return Kept(photos.add_photo(session, files, photo_id, new).id)
