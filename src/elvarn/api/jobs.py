"""A job's head, its parts and their dimensions."""

from dataclasses import dataclass
from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.responses import Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.depends import Sessions, Units, resources
from elvarn.api.strict import StrictRoute
from elvarn.service.desk import head
from elvarn.service.job import dimensions, parts
from elvarn.store.revision import job_revision


@dataclass(frozen=True)
class Mark:
    """What a revision is known by; empty where there is no such job."""

    mark: str


router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["jobs"])


@router.get("/jobs/{job_id}", response_model=head.JobView)
def job(job_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_job(job_id, lambda s: head.job_view(s, job_id, units))


@router.get("/jobs/{job_id}/revision")
def job_mark(job_id: UUID, request: Request) -> Mark:
    """A mark that changes with all that a job's screens show: whoever looks on asks for it, and reads on a change."""
    with resources(request).reads() as session:
        return Mark("-".join(map(str, job_revision(session, job_id) or ())))


@router.put("/parts/{part_id}")
def add_part(part_id: UUID, new: parts.NewPart, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(parts.add_part(session, part_id, new).id)


@router.put("/dimensions/{reading_id}")
def add_dimension(reading_id: UUID, new: dimensions.NewDimension, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(dimensions.add_dimension(session, reading_id, new).id)
