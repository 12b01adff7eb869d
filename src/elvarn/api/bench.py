"""The bench sheet: set-ups, flow readings, strike-outs, tables in and out."""

from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query
from fastapi.responses import PlainTextResponse, Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Runs, Sessions, Snapshots, Units
from elvarn.api.strict import StrictRoute
from elvarn.api.upload import Sent
from elvarn.service.bench import (
    capture,
    checks,
    effects,
    element,
    plan_choices,
    plan_sheet,
    plans,
    reference_runner,
    setups,
    sheet,
    tables,
)
from elvarn.service.bench.notes import USUAL_GAIN
from elvarn.service.job import strikes
from elvarn.service.record.job import load_job

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["bench"])
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


@router.get("/jobs/{job_id}/bench", response_model=sheet.BenchSheet)
def bench_sheet(
    job_id: UUID, asked: Asked, units: Units = "trade", wanted_percent: Wanted = 100 * USUAL_GAIN
) -> Response:
    return asked.of_job(job_id, lambda s: sheet.bench_sheet(s, job_id, units, wanted_percent / 100))


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
def add_element_flow(reading_id: UUID, new: element.NewElementFlow, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(element.capture_element(session, reading_id, new).id)


@router.put("/checks/{check_id}")
def add_check(check_id: UUID, new: checks.NewCheck, sessions: Sessions) -> Kept:
    """Zero, leak, reference plate, or another look at the part as it stands."""
    with sessions.begin() as session:
        return Kept(checks.add_check(session, check_id, new).id)


@router.get("/benches/{bench_id}/plates", response_model=list[checks.PlateView])
def plates(bench_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    """A bench's calibration history: its reference plates as they were read."""
    return asked.of_all(lambda s: checks.plate_views(s, bench_id, units))


@router.get("/jobs/{job_id}/bench/effects", response_model=list[effects.EffectView])
def bench_effects(job_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    """What single items of the set-ups do, and which set-ups are unlike."""
    return asked.of_job(job_id, lambda s: effects.effects_of(s, load_job(s, job_id), units))


@router.get("/jobs/{job_id}/tests", response_model=list[plan_sheet.PlanCard])
def plan_list(job_id: UUID, asked: Asked) -> Response:
    return asked.of_job(job_id, lambda s: plan_sheet.plan_cards(s, job_id))


@router.get("/jobs/{job_id}/test-choices", response_model=plan_choices.PlanChoices)
def choices_of_tests(job_id: UUID, asked: Asked) -> Response:
    """What a new test can be made on, and of which kinds."""
    return asked.of_job(job_id, lambda s: plan_choices.plan_choices(load_job(s, job_id)))


@router.get("/tests/{plan_id}", response_model=plan_sheet.PlanView)
def plan(plan_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    """A test: its points, its picture, what it says."""
    return asked.of_all(lambda s: plan_sheet.plan_view(s, plan_id, units))


@router.put("/tests/{plan_id}")
def add_plan(plan_id: UUID, new: plans.NewPlan, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(plans.add_plan(session, plan_id, new).id)


@router.put("/test-readings/{reading_id}")
def capture_point(reading_id: UUID, new: plans.NewPoint, sessions: Sessions) -> Kept:
    """The figure of a test's point."""
    with sessions.begin() as session:
        return Kept(plans.capture_point(session, reading_id, new).id)


@router.put("/strikes/{reading_id}")
def strike_out(reading_id: UUID, new: strikes.NewStrike, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(strikes.strike_out(session, reading_id, new).reading_id)


@router.post("/jobs/{job_id}/flow-table")
def read_flow_table(
    job_id: UUID, name: str, sent: Sent, sessions: Sessions, run: Runs, default_unit: str = "cfm"
) -> tables.FlowTable:
    """The figures of a dropped table (its bytes are the body), to be captured one by one."""
    with sessions.begin() as session:
        count = load_job(session, job_id).cylinder_count
    return tables.read_flow_table(run, name, sent, default_unit, count)


@router.get("/jobs/{job_id}/flow.csv", response_class=PlainTextResponse)
def flow_csv(job_id: UUID, snapshots: Snapshots) -> PlainTextResponse:
    with snapshots.begin() as session:
        content = tables.flow_csv(*tables.export_flows(session, job_id))
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=attached("flow.csv"))


@router.post("/jobs/{job_id}/reference")
def choose_reference(job_id: UUID, chosen: reference_runner.Reference, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(reference_runner.choose_reference(session, job_id, chosen).id)


@router.put("/part-flows/{reading_id}")
def flow_of_part(reading_id: UUID, new: element.NewPartFlow, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(element.flow_of_part(session, reading_id, new))
