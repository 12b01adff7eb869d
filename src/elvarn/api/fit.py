"""Fitting: the swap sheet with its plan and tasks; bolts of a flange, and which of them are tight."""

from dataclasses import asdict
from uuid import UUID

from fastapi import APIRouter, Response

from elvarn import __version__
from elvarn.api.answers import Asked, Kept
from elvarn.api.depends import Fonts, Sessions, Snapshots, Units
from elvarn.api.strict import StrictRoute
from elvarn.exchange.paper import labels_pdf
from elvarn.service.fit import bolt_sheet, bolts, families, labels, note_sheet, notes, plans, swap_sheet, ticks
from elvarn.service.fit.said import NewFitPlan

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


@router.get("/jobs/{job_id}/swap", response_model=swap_sheet.SwapSheet)
def swap(job_id: UUID, asked: Asked) -> Response:
    return asked.of_job(job_id, lambda session: swap_sheet.swap_sheet(session, job_id))


@router.get("/engine-families", response_model=families.Families)
def engine_families(asked: Asked) -> Response:
    return asked.of_shop(families.family_list)


@router.put("/fit-plans/{plan_id}")
def begin_plan(plan_id: UUID, new: NewFitPlan, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(plans.begin_plan(session, plan_id, new).id)


@router.patch("/fit-plans/{plan_id}")
def edit_plan(plan_id: UUID, change: plans.FitPlanEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(plans.edit_plan(session, plan_id, change).id)


@router.patch("/fit-plans/{plan_id}/away")
def put_plan_away(plan_id: UUID, put: plans.PutPlanAway, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(plans.put_plan_away(session, plan_id, put).id)


@router.patch("/fit-tasks/{task_id}")
def tick_task(task_id: UUID, tick: ticks.FitTick, sessions: Sessions) -> Kept:
    """A task of a swap done, on hold or open again."""
    with sessions.begin() as session:
        return Kept(ticks.tick_task(session, task_id, tick).id)


@router.get("/jobs/{job_id}/labels.pdf", response_class=Response)
def label_sheet(job_id: UUID, snapshots: Snapshots, fonts: Fonts) -> Response:
    with snapshots.begin() as session:
        sheet = labels.label_sheet(session, job_id)
    headers = {"content-disposition": 'inline; filename="labels.pdf"'}
    content = labels_pdf({**asdict(sheet), "version": __version__}, fonts)
    return Response(content, media_type="application/pdf", headers=headers)


@router.get("/jobs/{job_id}/fit-notes", response_model=note_sheet.NoteSheet)
def fit_notes(job_id: UUID, asked: Asked) -> Response:
    return asked.of_job(job_id, lambda session: note_sheet.note_sheet(session, job_id))


@router.put("/fit-notes/{note_id}")
def add_note(note_id: UUID, new: notes.NewFitNote, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(notes.add_note(session, note_id, new).id)


@router.patch("/fit-notes/{note_id}")
def edit_note(note_id: UUID, change: notes.FitNoteEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(notes.edit_note(session, note_id, change).id)
