"""A job's head, its parts and their dimensions."""

from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.depends import Sessions, Units
from elvarn.api.strict import StrictRoute
from elvarn.service.desk import head
from elvarn.service.job import dimensions, parts

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["jobs"])


@router.get("/jobs/{job_id}", response_model=head.JobView)
def job(job_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_job(job_id, lambda s: head.job_view(s, job_id, units))


@router.put("/parts/{part_id}")
def add_part(part_id: UUID, new: parts.NewPart, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(parts.add_part(session, part_id, new).id)


@router.put("/dimensions/{reading_id}")
def add_dimension(reading_id: UUID, new: dimensions.NewDimension, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(dimensions.add_dimension(session, reading_id, new).id)
