"""Pictures of jobs and parts, kept in the data folder by their content."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.exchange.picture import PictureError, media_type, stripped
from elvarn.given import given
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.service.kernel.files import FileStore, is_digest
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.store import queries
from elvarn.store.models import Job, Part, PartState, Photo, Task
from elvarn.typed import Millimetres


@dataclass(frozen=True)
class PhotoView:
    id: UUID
    digest: str
    caption: str
    taken_at: datetime
    state_id: UUID | None = None
    cylinder: int | None = None
    place_mm: float | None = None
    task_id: UUID | None = None


@given
class NewPhoto:
    """A picture of a job or a part, of a runner of a part's state, so far in, or of a task; the bytes are sent before
    and named by their digest."""

    person_id: UUID
    file_digest: str
    job_id: UUID | None = None
    part_id: UUID | None = None
    caption: str = ""
    part_state_id: UUID | None = None
    cylinder: int | None = None
    place_mm: Millimetres | None = None
    task_id: UUID | None = None


def keep_picture(session: Session, files: FileStore, run: Run, name: str, content: bytes) -> str:
    """Keep a picture, without the place it was taken at. Returns its digest. Raises Invalid for what is no picture."""
    try:
        return files.keep(session, name, run(stripped, content))
    except PictureError as error:
        raise Invalid(f"'{name}': {error}", path="file") from error


def add_photo(session: Session, files: FileStore, identifier: UUID, new: NewPhoto) -> Photo:
    """A picture of a job or of a part."""
    if new.job_id is None and new.part_id is None:
        raise Invalid("The picture belongs to nothing. Name a job or a part.", path="job_id")
    if new.job_id is not None:
        find(session, Job, new.job_id, "job")
    if new.part_id is not None:
        find(session, Part, new.part_id, "part")
    if new.part_state_id is not None:
        find(session, PartState, new.part_state_id, "part state")
    if new.cylinder is not None and not 1 <= new.cylinder <= 16:
        raise Invalid(f"There is no runner {new.cylinder}.", path="cylinder")
    if new.place_mm is not None and not 0 <= new.place_mm <= 2000:
        raise Invalid(f"A station {new.place_mm:g} mm in can't be: 0 is the entry, 2000 the most.", path="place_mm")
    if new.task_id is not None:
        find(session, Task, new.task_id, "task")
    kind = media_type(files.read(new.file_digest))
    if kind is None:
        raise Invalid("That file is no picture.", path="file_digest")

    def make(digest: str) -> Photo:
        return Photo(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            part_id=new.part_id,
            file_digest=new.file_digest,
            media_type=kind,
            caption=new.caption.strip(),
            part_state_id=new.part_state_id,
            cylinder=new.cylinder,
            place_m=new.place_mm / 1000 if new.place_mm is not None else None,
            task_id=new.task_id,
        )

    return write_once(session, Photo, identifier, new, make)


def picture(session: Session, files: FileStore, digest: str) -> tuple[bytes, str]:
    """The bytes of a picture that belongs to a job or part, and what they are. Raises NotFound."""
    known = queries.photo_of_digest(session, digest) if is_digest(digest) else None
    if known is None:
        raise NotFound("There is no such picture here.")
    return files.read(digest), known.media_type


def photos_of_job(session: Session, job_id: UUID) -> list[PhotoView]:
    """Pictures of a job, as they came."""
    return [_view(photo) for photo in queries.photos_of_jobs(session, [job_id])]


def photos_of_runners(session: Session, job_id: UUID) -> list[PhotoView]:
    """Pictures of a job that are of a place of a runner, as they came."""
    return [photo for photo in photos_of_job(session, job_id) if photo.cylinder is not None]


def photos_of_parts(session: Session, part_ids: Sequence[UUID]) -> dict[UUID, list[PhotoView]]:
    """Pictures of parts, by part."""
    found: dict[UUID, list[PhotoView]] = {}
    for photo in queries.photos_of_parts(session, part_ids):
        if photo.part_id is not None:
            found.setdefault(photo.part_id, []).append(_view(photo))
    return found


def _view(photo: Photo) -> PhotoView:
    place = round(1000 * photo.place_m, 1) if photo.place_m is not None else None
    taken = photo.id, photo.file_digest, photo.caption, photo.created_at
    return PhotoView(*taken, photo.part_state_id, photo.cylinder, place, photo.task_id)


def photos_of_tasks(session: Session, job_id: UUID) -> list[PhotoView]:
    """Pictures of a job that are of a task, as they came."""
    return [photo for photo in photos_of_job(session, job_id) if photo.task_id is not None]
