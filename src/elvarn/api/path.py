"""The air path solved, changed in thought, its builds varied, candidates for its places, and the shop's limits."""

from datetime import date
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from elvarn.api.answers import Asked, Kept
from elvarn.api.depends import Curves, Sessions, Snapshots, Solutions, Units, resources
from elvarn.api.strict import StrictRoute
from elvarn.service.path import builds, sheet, taking_back, variants
from elvarn.service.path import candidate_sheet as path_candidate_sheet
from elvarn.service.path import set_sheet as path_set_sheet
from elvarn.service.record import difference as record_difference
from elvarn.service.record.solved import Ask

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["path"])
STANDINGS = TypeAdapter(list[path_candidate_sheet.Rank])
Kind = Annotated[str | None, Query(description="kind of part; without it the one that costs most")]


@router.post("/builds/{build_id}/solution")
def solve(
    build_id: UUID, ask: Ask, snapshots: Snapshots, curves: Curves, kept: Solutions, units: Units = "trade"
) -> sheet.Solution:
    """A build's path at an engine speed, as it is and with what is changed in thought. Nothing is kept of it."""
    with snapshots.begin() as session:
        return sheet.solve(session, curves, kept, build_id, ask, units)


@router.put("/build-copies/{build_id}")
def copy_build(build_id: UUID, new: variants.BuildCopy, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(variants.copy_build(session, build_id, new).id)


@router.get("/jobs/{job_id}/shapes", response_model=list[str])
def shapes(job_id: UUID, asked: Asked) -> Response:
    """Shapes of air path that the job's engine can have."""
    return asked.of_job(job_id, lambda s: variants.shapes_for(s, job_id))


@router.put("/shaped-builds/{build_id}")
def shaped_build(build_id: UUID, new: variants.ShapedBuild, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(variants.shaped_build(session, build_id, new).id)


@router.get("/builds/{before_id}/difference/{after_id}", response_model=record_difference.BuildDifference)
def difference(before_id: UUID, after_id: UUID, asked: Asked) -> Response:
    return asked.of_all(lambda s: record_difference.difference_of(s, before_id, after_id))


@router.get("/jobs/{job_id}/candidates", response_model=path_candidate_sheet.CandidateSheet)
def candidate_sheet(
    job_id: UUID,
    asked: Asked,
    curves: Curves,
    kept: Solutions,
    kind: Kind = None,
    build: UUID | None = None,
    units: Units = "trade",
) -> Response:
    def make(session: Session) -> path_candidate_sheet.CandidateSheet:
        pool = path_candidate_sheet.kept_pool(session, curves, kept, job_id, kind, build, date.today())
        return path_candidate_sheet.candidate_sheet(pool, units)

    return asked.of_all(make, date.today())


@router.get("/jobs/{job_id}/candidates/order", response_model=list[path_candidate_sheet.Rank])
def standings(
    job_id: UUID,
    request: Request,
    kind: Kind = None,
    build: UUID | None = None,
    gain: float = 0,
    tuning: float = 0,
    price: float = 0,
    lead_time: float = 0,
    mass: float = 0,
    work: float = 0,
) -> Response:
    """The same candidates under other weights, asked for while they are moved: no transaction, straight to bytes."""
    found = resources(request)
    weights = {"gain": gain, "tuning": tuning, "price": price, "lead_time": lead_time, "mass": mass, "work": work}
    with found.reads() as session:
        pool = path_candidate_sheet.kept_pool(session, found.curves, found.solutions, job_id, kind, build, date.today())
    rows = path_candidate_sheet.standings(pool, weights)
    return Response(STANDINGS.dump_json(rows), media_type="application/json")


@router.get("/jobs/{job_id}/sets", response_model=path_set_sheet.SetSheet)
def sets(job_id: UUID, asked: Asked, curves: Curves, kept: Solutions, build: UUID | None = None) -> Response:
    """The best sets of parts, beside leaving all as it is, for an order given today."""
    today = date.today()
    return asked.of_all(lambda s: path_set_sheet.set_sheet(s, curves, kept, job_id, build, today), today)


@router.put("/builds/{build_id}")
def add_build(build_id: UUID, new: builds.NewBuild, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(builds.add_build(session, build_id, new).id)


@router.patch("/builds/{build_id}/name")
def rename_build(build_id: UUID, change: taking_back.BuildName, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(taking_back.rename_build(session, build_id, change).id)


@router.delete("/builds/{build_id}")
def delete_build(build_id: UUID, version: int, sessions: Sessions) -> builds.NewBuild:
    """Take a build away that nothing rests on; the answer, put under a new id, brings it back."""
    with sessions.begin() as session:
        return taking_back.delete_build(session, build_id, version)


@router.patch("/builds/{build_id}")
def mount_part(build_id: UUID, mounting: builds.Mounting, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(builds.mount_part(session, build_id, mounting).id)
