"""The customer's sheet, on screen and as PDF."""

from dataclasses import asdict
from datetime import UTC, datetime
from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from elvarn import __version__
from elvarn.api.depends import Curves, Fonts, Sessions, Units
from elvarn.api.strict import StrictRoute
from elvarn.exchange.paper import flow_sheet_pdf
from elvarn.service import handover

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["handover"])


@router.get("/jobs/{job_id}/sheet")
def sheet(job_id: UUID, sessions: Sessions, curves: Curves, units: Units = "trade") -> handover.FlowSheet:
    with sessions.begin() as session:
        return handover.flow_sheet(session, curves, job_id, units, datetime.now(UTC).date())


@router.get("/jobs/{job_id}/sheet.pdf", response_class=Response)
def sheet_pdf(job_id: UUID, sessions: Sessions, curves: Curves, fonts: Fonts, units: Units = "trade") -> Response:
    with sessions.begin() as session:
        made = handover.flow_sheet(session, curves, job_id, units, datetime.now(UTC).date())
    words = {**asdict(made), "version": __version__}
    words["said"] = [{**asdict(s), "text": s.text} for s in made.said]
    words["dyno_said"] = [{**asdict(s), "text": s.text} for s in made.dyno_said]
    headers = {"content-disposition": 'inline; filename="flow-sheet.pdf"'}
    return Response(flow_sheet_pdf(words, fonts), media_type="application/pdf", headers=headers)
