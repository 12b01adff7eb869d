"""Tasks at a step of the work."""

from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from elvarn.api.answers import Asked
from elvarn.api.depends import Sessions
from elvarn.api.strict import StrictRoute
from elvarn.service.job import tasks

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["tasks"])


@router.get("/jobs/{job_id}/steps/{rail_step}", response_model=tasks.TaskSheet)
def step_sheet(job_id: UUID, rail_step: str, asked: Asked) -> Response:
    return asked.of_job(job_id, lambda s: tasks.task_sheet(s, job_id, rail_step))


@router.put("/steps/{step_id}")
def add_step(step_id: UUID, new: tasks.NewTask, sessions: Sessions) -> tasks.TaskView:
    with sessions.begin() as session:
        return tasks.add_task(session, step_id, new)


@router.patch("/steps/{step_id}/plan")
def plan_step(step_id: UUID, plan: tasks.TaskPlan, sessions: Sessions) -> tasks.TaskView:
    with sessions.begin() as session:
        return tasks.plan_task(session, step_id, plan)


@router.patch("/steps/{step_id}")
def edit_step(step_id: UUID, change: tasks.TaskEdit, sessions: Sessions) -> tasks.TaskView:
    with sessions.begin() as session:
        return tasks.edit_task(session, step_id, change)
