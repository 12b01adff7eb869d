"""Board, jobs, parts, builds and steps."""

from dataclasses import dataclass
from uuid import UUID

from fastapi import APIRouter

from elvarn.api.depends import Sessions, Units
from elvarn.api.strict import StrictRoute
from elvarn.service import builds, jobs, steps, takein

router = APIRouter(route_class=StrictRoute, prefix="/api")


@dataclass(frozen=True)
class Kept:
    """The id of what was kept."""

    id: UUID


@router.get("/board", tags=["jobs"])
def board(sessions: Sessions, units: Units = "trade") -> jobs.Board:
    with sessions.begin() as session:
        return jobs.board(session, units)


@router.get("/jobs/{job_id}", tags=["jobs"])
def job(job_id: UUID, sessions: Sessions, units: Units = "trade") -> jobs.JobView:
    with sessions.begin() as session:
        return jobs.job_view(session, job_id, units)


@router.put("/jobs/{job_id}", tags=["jobs"])
def take_in(job_id: UUID, new: takein.NewJob, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(takein.take_in(session, job_id, new).id)


@router.patch("/jobs/{job_id}", tags=["jobs"])
def edit_job(job_id: UUID, change: takein.JobEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(takein.edit_job(session, job_id, change).id)


@router.post("/jobs/{job_id}/closing", tags=["jobs"])
def close_job(job_id: UUID, closing: takein.Closing, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(takein.close_job(session, job_id, closing).id)


@router.post("/jobs/{job_id}/reference", tags=["jobs"])
def choose_reference(job_id: UUID, chosen: takein.Reference, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(takein.choose_reference(session, job_id, chosen).id)


@router.put("/states/{state_id}", tags=["parts"])
def cut_part(state_id: UUID, new: takein.NewState, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(takein.cut_part(session, state_id, new).id)


@router.put("/parts/{part_id}", tags=["parts"])
def add_part(part_id: UUID, new: builds.NewPart, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(builds.add_part(session, part_id, new).id)


@router.put("/dimensions/{reading_id}", tags=["readings"])
def add_dimension(reading_id: UUID, new: builds.NewDimension, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(builds.add_dimension(session, reading_id, new).id)


@router.put("/builds/{build_id}", tags=["parts"])
def add_build(build_id: UUID, new: builds.NewBuild, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(builds.add_build(session, build_id, new).id)


@router.patch("/builds/{build_id}", tags=["parts"])
def mount_part(build_id: UUID, mounting: builds.Mounting, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(builds.mount_part(session, build_id, mounting).id)


@router.get("/jobs/{job_id}/steps/{rail_step}", tags=["steps"])
def step_sheet(job_id: UUID, rail_step: str, sessions: Sessions) -> steps.StepSheet:
    with sessions.begin() as session:
        return steps.step_sheet(session, job_id, rail_step)


@router.put("/steps/{step_id}", tags=["steps"])
def add_step(step_id: UUID, new: steps.NewStep, sessions: Sessions) -> steps.StepView:
    with sessions.begin() as session:
        return steps.add_step(session, step_id, new)


@router.patch("/steps/{step_id}", tags=["steps"])
def edit_step(step_id: UUID, change: steps.StepEdit, sessions: Sessions) -> steps.StepView:
    with sessions.begin() as session:
        return steps.edit_step(session, step_id, change)
