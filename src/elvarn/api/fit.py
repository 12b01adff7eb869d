"""Fitting: bolts of a flange, and which of them are tight."""

from uuid import UUID

from fastapi import APIRouter, Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.depends import Sessions, Units
from elvarn.api.strict import StrictRoute
from elvarn.service.fit import bolt_sheet, bolts

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["fit"])


@router.get("/jobs/{job_id}/bolts", response_model=bolt_sheet.BoltSheet)
def sheet(job_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_job(job_id, lambda session: bolt_sheet.bolt_sheet(session, job_id, units))


@router.put("/bolt-maps/{map_id}")
def add_bolt_map(map_id: UUID, new: bolts.NewBoltMap, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(bolts.add_bolt_map(session, map_id, new).id)


@router.patch("/bolt-maps/{map_id}")
def edit_bolt_map(map_id: UUID, change: bolts.BoltMapEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(bolts.edit_bolt_map(session, map_id, change).id)


@router.patch("/bolt-maps/{map_id}/ticks")
def tick(map_id: UUID, ticked: bolts.Tick, sessions: Sessions) -> Kept:
    """A bolt that is tight in the round that is on, or the last one taken back."""
    with sessions.begin() as session:
        return Kept(bolts.tick(session, map_id, ticked).id)
