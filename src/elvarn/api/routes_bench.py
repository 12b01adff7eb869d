"""The bench sheet: set-ups, flow readings, strike-outs, tables in and out."""

from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.responses import PlainTextResponse

from elvarn.api.depends import Sessions, Units
from elvarn.api.routes_jobs import Kept
from elvarn.api.strict import StrictRoute
from elvarn.service import bench, capture, handover, imports
from elvarn.service.record import load_job

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["bench"])

FLOW_EXAMPLE = {
    "a runner's figure": {
        "value": {
            "person_id": "00000000-0000-4000-8000-000000000001",
            "job_id": "00000000-0000-4000-8000-000000000002",
            "setup_id": "00000000-0000-4000-8000-000000000003",
            "part_state_id": "00000000-0000-4000-8000-000000000004",
            "cylinder": 1,
            "typed": "214.1",
            "default_unit": "cfm",
            "taken_at": "2026-03-02T09:15:00+00:00",
        }
    }
}


@router.get("/jobs/{job_id}/bench")
def bench_sheet(job_id: UUID, sessions: Sessions, units: Units = "trade") -> bench.BenchSheet:
    with sessions.begin() as session:
        return bench.bench_sheet(session, job_id, units)


@router.put("/setups/{setup_id}")
def add_setup(setup_id: UUID, new: capture.NewSetup, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(capture.add_setup(session, setup_id, new).id)


@router.put(
    "/flow-readings/{reading_id}",
    openapi_extra={"requestBody": {"content": {"application/json": {"examples": FLOW_EXAMPLE}}}},
)
def add_flow(reading_id: UUID, new: capture.NewFlow, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(capture.capture(session, reading_id, new).id)


@router.put("/element-flow-readings/{reading_id}")
def add_element_flow(reading_id: UUID, new: capture.NewElementFlow, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(capture.capture_element(session, reading_id, new).id)


@router.put("/strikes/{reading_id}")
def strike_out(reading_id: UUID, new: capture.NewStrike, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(capture.strike_out(session, reading_id, new).reading_id)


@router.post("/jobs/{job_id}/flow-table")
async def read_flow_table(
    job_id: UUID, name: str, request: Request, sessions: Sessions, default_unit: str = "cfm"
) -> imports.FlowTable:
    """The figures of a dropped table (its bytes are the body), to be captured one by one."""
    content = await request.body()
    with sessions.begin() as session:
        count = load_job(session, job_id).cylinder_count
    return imports.read_flow_table(name, content, default_unit, count)


@router.get("/jobs/{job_id}/flow.csv", response_class=PlainTextResponse)
def flow_csv(job_id: UUID, sessions: Sessions) -> PlainTextResponse:
    with sessions.begin() as session:
        content = imports.flow_csv(*handover.export_flows(session, job_id))
    headers = {"content-disposition": 'attachment; filename="flow.csv"'}
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=headers)
