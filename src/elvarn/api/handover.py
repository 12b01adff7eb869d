"""The customer's sheet, on screen and as PDF."""

from dataclasses import asdict
from datetime import UTC, datetime
from pathlib import Path
from uuid import UUID

from fastapi import APIRouter
from fastapi.responses import Response

from elvarn import __version__
from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Curves as CurvesShelf
from elvarn.api.depends import Files, Fonts, Sessions, Snapshots, Units
from elvarn.api.strict import StrictRoute
from elvarn.exchange.paper import flow_sheet_pdf, picture_png
from elvarn.exchange.plate import Curves, Design, plate_svg
from elvarn.service.handover import closing as handover_closing
from elvarn.service.handover import designs as handover_designs
from elvarn.service.handover import sheet as handover_sheet
from elvarn.service.handover.designs import Plate

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["handover"])


@router.get("/jobs/{job_id}/sheet", response_model=handover_sheet.FlowSheet)
def sheet(job_id: UUID, asked: Asked, curves: CurvesShelf, units: Units = "trade") -> Response:
    today = datetime.now(UTC).date()
    return asked.of_job(job_id, lambda s: handover_sheet.flow_sheet(s, curves, job_id, units, today, _plate), today)


@router.get("/jobs/{job_id}/sheet.pdf", response_class=Response)
def sheet_pdf(
    job_id: UUID, snapshots: Snapshots, curves: CurvesShelf, fonts: Fonts, units: Units = "trade"
) -> Response:
    """The sheet as it would print today."""
    with snapshots.begin() as session:
        made = handover_sheet.flow_sheet(session, curves, job_id, units, datetime.now(UTC).date(), _plate)
    return _page(_pdf(made, fonts))


@router.get("/jobs/{job_id}/designs.svg", response_class=Response)
def designs_svg(job_id: UUID, snapshots: Snapshots, curves: CurvesShelf, units: Units = "trade") -> Response:
    """The plate of the designs as a picture."""
    with snapshots.begin() as session:
        plate = handover_designs.picture_of(session, curves, job_id, units)
    return Response(_plate(plate), media_type="image/svg+xml", headers=attached("designs.svg"))


@router.get("/jobs/{job_id}/designs.png", response_class=Response)
def designs_png(
    job_id: UUID, snapshots: Snapshots, curves: CurvesShelf, fonts: Fonts, units: Units = "trade"
) -> Response:
    """The plate of the designs as a picture of points."""
    with snapshots.begin() as session:
        plate = handover_designs.picture_of(session, curves, job_id, units)
    return Response(picture_png(_plate(plate), fonts), media_type="image/png", headers=attached("designs.png"))


@router.get("/jobs/{job_id}/handed/{sheet_id}.pdf", response_class=Response)
def handed_sheet(job_id: UUID, sheet_id: UUID, snapshots: Snapshots, files: Files) -> Response:
    """A sheet as it was handed over."""
    with snapshots.begin() as session:
        return _page(handover_closing.handed_page(session, files, job_id, sheet_id))


def _page(content: bytes) -> Response:
    headers = {"content-disposition": 'inline; filename="flow-sheet.pdf"'}
    return Response(content, media_type="application/pdf", headers=headers)


def _pdf(made: handover_sheet.FlowSheet, fonts: Path) -> bytes:
    return flow_sheet_pdf({**asdict(made), "version": __version__}, fonts)


def _plate(plate: Plate) -> str:
    """The curves of the designs against stock, drawn for paper."""
    names = {one.build_id: one for one in plate.view.curves}
    stock = next(one for one in plate.view.curves if one.is_reference)
    designs = [
        Design(names[one.build_id].name, names[one.build_id].engine_speed_rpm, names[one.build_id].power,
               one.engine_speed_rpm, one.power)
        for one in plate.view.differences
    ]  # fmt: skip
    return plate_svg(
        Curves(stock.name, stock.engine_speed_rpm, stock.power, designs, plate.view.power_unit, plate.band)
    )


@router.post("/jobs/{job_id}/closing")
def close_job(
    job_id: UUID, closing: handover_closing.Closing, sessions: Sessions, snapshots: Snapshots, files: Files,
    curves: CurvesShelf, fonts: Fonts, units: Units = "trade",
) -> Kept:  # fmt: skip
    """Close a job: its sheet is kept as it goes out. Or open it again."""
    if not closing.closed:
        with sessions.begin() as session:
            return Kept(handover_closing.close_job(session, job_id, closing).id)
    with snapshots.begin() as session:
        made = handover_sheet.flow_sheet(session, curves, job_id, units, datetime.now(UTC).date(), _plate)
    page = _pdf(made, fonts)
    with sessions.begin() as session:
        job = handover_closing.close_job(session, job_id, closing)
        handover_closing.keep_handed(session, files, closing, job, made.told, page, units)
        return Kept(job.id)
