"""The bench sheet: set-ups, flow readings, strike-outs, tables in and out."""

from collections.abc import AsyncIterator
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import PlainTextResponse, StreamingResponse
from pydantic import TypeAdapter

from elvarn.api.depends import Sessions, Units, resources
from elvarn.api.routes_jobs import Kept
from elvarn.api.strict import StrictRoute
from elvarn.service import bench, capture, checks, effects, handover, imports, plan_view, plans, setups, shop
from elvarn.service.bench_notes import USUAL_GAIN
from elvarn.service.live import Line, LiveState
from elvarn.service.record import load_job

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["bench"])
STATE = TypeAdapter(LiveState)
Wanted = Annotated[float, Query(gt=0, le=100, description="gain that the bench is to show, in percent")]

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
def bench_sheet(
    job_id: UUID, sessions: Sessions, units: Units = "trade", wanted_percent: Wanted = 100 * USUAL_GAIN
) -> bench.BenchSheet:
    with sessions.begin() as session:
        return bench.bench_sheet(session, job_id, units, wanted_percent / 100)


@router.put("/setups/{setup_id}")
def add_setup(setup_id: UUID, new: setups.NewSetup, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(setups.add_setup(session, setup_id, new).id)


@router.put(
    "/flow-readings/{reading_id}",
    openapi_extra={"requestBody": {"content": {"application/json": {"examples": FLOW_EXAMPLE}}}},
)
def add_flow(reading_id: UUID, new: capture.NewFlow, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(capture.capture(session, reading_id, new))


@router.put("/element-flow-readings/{reading_id}")
def add_element_flow(reading_id: UUID, new: capture.NewElementFlow, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(capture.capture_element(session, reading_id, new).id)


@router.put("/checks/{check_id}")
def add_check(check_id: UUID, new: checks.NewCheck, sessions: Sessions) -> Kept:
    """Zero, leak, reference plate, or another look at the part as it stands."""
    with sessions.begin() as session:
        return Kept(checks.add_check(session, check_id, new).id)


@router.get("/benches/{bench_id}/plates")
def plates(bench_id: UUID, sessions: Sessions, units: Units = "trade") -> list[checks.PlateView]:
    """A bench's calibration history: its reference plates as they were read."""
    with sessions.begin() as session:
        return checks.plates_of(session, bench_id, units)


@router.get("/jobs/{job_id}/bench/effects")
def bench_effects(job_id: UUID, sessions: Sessions, units: Units = "trade") -> list[effects.EffectView]:
    """What single items of the set-ups do, and which set-ups are unlike."""
    with sessions.begin() as session:
        return effects.effects_of(session, load_job(session, job_id), units)


@router.get("/jobs/{job_id}/tests")
def plan_list(job_id: UUID, sessions: Sessions) -> list[plan_view.PlanCard]:
    with sessions.begin() as session:
        return plan_view.plan_cards(session, job_id)


@router.get("/jobs/{job_id}/test-choices")
def plan_choices(job_id: UUID, sessions: Sessions) -> plan_view.PlanChoices:
    """What a new test can be made on, and of which kinds."""
    with sessions.begin() as session:
        return plan_view.plan_choices(load_job(session, job_id))


@router.get("/tests/{plan_id}")
def plan(plan_id: UUID, sessions: Sessions, units: Units = "trade") -> plan_view.PlanView:
    """A test: its points, its picture, what it says."""
    with sessions.begin() as session:
        return plan_view.plan_view(session, plan_id, units)


@router.put("/tests/{plan_id}")
def add_plan(plan_id: UUID, new: plans.NewPlan, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(plans.add_plan(session, plan_id, new).id)


@router.put("/test-readings/{reading_id}")
def capture_point(reading_id: UUID, new: plans.NewPoint, sessions: Sessions) -> Kept:
    """The figure of a test's point."""
    with sessions.begin() as session:
        return Kept(plans.capture_point(session, reading_id, new).id)


@router.get(
    "/benches/{bench_id}/live",
    response_class=StreamingResponse,
    responses={200: {"model": LiveState, "description": "server-sent events; the data of each is a state"}},
)
async def live(bench_id: UUID, request: Request, units: Units = "trade") -> StreamingResponse:
    """What a bench sends, as server-sent events: a state each, with the samples that are new."""
    found = resources(request)

    def line_of() -> Line:
        with found.sessions.begin() as session:
            return shop.live_line(session, bench_id)

    bench = found.live.bench(bench_id, await run_in_threadpool(line_of))

    async def events() -> AsyncIterator[bytes]:
        async for state in bench.watch(units):
            yield b"data: " + STATE.dump_json(state) + b"\n\n"

    headers = {"cache-control": "no-store"}
    return StreamingResponse(events(), media_type="text/event-stream", headers=headers)


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
