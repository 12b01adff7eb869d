"""Pictures of parts and jobs."""

from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from elvarn.api.answers import Kept
from elvarn.api.depends import Files, Runs, Sessions, Snapshots
from elvarn.api.strict import StrictRoute
from elvarn.api.upload import Sent
from elvarn.service.job import photos

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["photos"])


@router.post("/pictures")
def keep_picture(name: str, sent: Sent, sessions: Sessions, files: Files, run: Runs) -> dict[str, str]:
    """A picture's bytes (the body). Returns the digest by which a photo names it."""
    with sessions.begin() as session:
        return {"digest": photos.keep_picture(session, files, run, name, sent)}


@router.get("/pictures/{digest}", response_class=Response)
def picture(digest: str, snapshots: Snapshots, files: Files) -> Response:
    with snapshots.begin() as session:
        content, media_type = photos.picture(session, files, digest)
    return Response(content, media_type=media_type, headers={"cache-control": "private, max-age=31536000, immutable"})


@router.put("/photos/{photo_id}")
def add_photo(photo_id: UUID, new: photos.NewPhoto, sessions: Sessions, files: Files) -> Kept:
    with sessions.begin() as session:
        return Kept(photos.add_photo(session, files, photo_id, new).id)
