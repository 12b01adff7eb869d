"""The air path solved, changed in thought, its builds varied, candidates for its places, and the shop's limits."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import TypeAdapter

from elvarn.api.depends import Changed, Curves, Sessions, Units, resources
from elvarn.api.routes_jobs import Kept
from elvarn.api.strict import StrictRoute
from elvarn.service import candidates, settings, solution, variants
from elvarn.service.solved import Ask

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["path"])
STANDINGS = TypeAdapter(list[candidates.Standing])
Kind = Annotated[str | None, Query(description="kind of part; without it the one that costs most")]


@router.post("/builds/{build_id}/solution")
def solve(
    build_id: UUID, ask: Ask, sessions: Sessions, curves: Curves, changed: Changed, units: Units = "trade"
) -> solution.Solution:
    """A build's path at an engine speed, as it is and with what is changed in thought. Nothing is kept of it."""
    with sessions.begin() as session:
        return solution.solve(session, curves, changed, build_id, ask, units)


@router.put("/build-copies/{build_id}", tags=["parts"])
def copy_build(build_id: UUID, new: variants.BuildCopy, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(variants.copy_build(session, build_id, new).id)


@router.get("/jobs/{job_id}/shapes", tags=["parts"])
def shapes(job_id: UUID, sessions: Sessions) -> list[str]:
    """Shapes of air path that the job's engine can have."""
    with sessions.begin() as session:
        return variants.shapes_for(session, job_id)


@router.put("/shaped-builds/{build_id}", tags=["parts"])
def shaped_build(build_id: UUID, new: variants.ShapedBuild, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(variants.shaped_build(session, build_id, new).id)


@router.get("/builds/{before_id}/difference/{after_id}", tags=["parts"])
def difference(before_id: UUID, after_id: UUID, sessions: Sessions) -> variants.BuildDifference:
    with sessions.begin() as session:
        return variants.difference_of(session, before_id, after_id)


@router.post("/pieces/exchange", tags=["parts"])
def exchange_pieces(exchange: variants.PieceExchange, sessions: Sessions) -> dict[str, bool]:
    with sessions.begin() as session:
        variants.exchange_pieces(session, exchange)
    return {"exchanged": True}


@router.get("/jobs/{job_id}/candidates")
def candidate_sheet(
    job_id: UUID,
    sessions: Sessions,
    curves: Curves,
    changed: Changed,
    kind: Kind = None,
    build: UUID | None = None,
    units: Units = "trade",
) -> candidates.CandidateSheet:
    with sessions.begin() as session:
        return candidates.candidate_sheet(session, curves, changed, job_id, kind, build, units)


@router.get("/jobs/{job_id}/candidates/order", response_model=list[candidates.Standing])
def standings(
    job_id: UUID,
    request: Request,
    kind: Kind = None,
    build: UUID | None = None,
    gain: float = 0,
    price: float = 0,
    lead_time: float = 0,
    mass: float = 0,
    work: float = 0,
) -> Response:
    """The same candidates under other weights, asked for while they are moved: no transaction, straight to bytes."""
    found = resources(request)
    weights = {"gain": gain, "price": price, "lead_time": lead_time, "mass": mass, "work": work}
    with found.reads() as session:
        rows = candidates.standings(session, found.curves, found.changed, job_id, kind, build, weights)
    return Response(STANDINGS.dump_json(rows), media_type="application/json")


@router.get("/settings/path", tags=["shop"])
def path_settings(sessions: Sessions) -> settings.SettingsView:
    with sessions.begin() as session:
        return settings.path_settings(session)


@router.patch("/settings/path", tags=["shop"])
def edit_settings(change: settings.SettingsEdit, sessions: Sessions) -> settings.SettingsView:
    with sessions.begin() as session:
        return settings.edit_settings(session, change)
