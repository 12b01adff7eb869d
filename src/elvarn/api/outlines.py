"""Outlines of openings: found in pictures and drawings, kept, laid on each other, and out as templates."""

from dataclasses import asdict
from uuid import UUID

from fastapi import APIRouter, Response

from elvarn import __version__
from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Files, Fonts, Runs, Sessions, Snapshots, Units
from elvarn.api.strict import StrictRoute
from elvarn.api.upload import Sent
from elvarn.exchange.outline_dxf import outlines_to_dxf
from elvarn.exchange.outline_picture import FoundInPicture
from elvarn.exchange.outline_svg import outlines_to_svg
from elvarn.exchange.paper import scribe_pdf
from elvarn.service.port import outline_sheet, outlines, scribe, traced

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["outlines"])


@router.get("/jobs/{job_id}/outlines", response_model=outline_sheet.OutlineSheet)
def sheet(job_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_job(job_id, lambda session: outline_sheet.outline_sheet(session, job_id, units))


@router.post("/outlines/found")
def found_in_picture(digest: str, files: Files, run: Runs) -> FoundInPicture:
    """The openings in a picture that was sent before."""
    return traced.found_in_picture(files, run, digest)


@router.post("/outlines/drawn")
def found_in_drawing(name: str, sent: Sent, run: Runs) -> traced.FoundInDrawing:
    """The closed lines of a DXF or SVG (the body)."""
    return traced.found_in_drawing(run, name, sent)


@router.put("/outline-readings/{reading_id}")
def add_outline(reading_id: UUID, new: outlines.NewOutline, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(outlines.add_outline(session, reading_id, new).id)


@router.get("/outlines/{outline_id}/template.pdf", response_class=Response)
def template(outline_id: UUID, snapshots: Snapshots, fonts: Fonts, on: UUID | None = None) -> Response:
    """The outline true to size, to scribe by, with what it is laid on."""
    with snapshots.begin() as session:
        made = scribe.scribe_of(session, outline_id, on)
    content = scribe_pdf({**asdict(made), "version": __version__}, fonts)
    headers = {"content-disposition": 'inline; filename="template.pdf"'}
    return Response(content, media_type="application/pdf", headers=headers)


@router.get("/outlines/{outline_id}/outline.dxf", response_class=Response)
def dxf(outline_id: UUID, snapshots: Snapshots, on: UUID | None = None) -> Response:
    """The outline and what it is laid on, in mm."""
    with snapshots.begin() as session:
        made = scribe.drawing_of(session, outline_id, on)
    return Response(outlines_to_dxf(made.lines), media_type="image/vnd.dxf", headers=attached(f"{made.name}.dxf"))


@router.get("/outlines/{outline_id}/outline.svg", response_class=Response)
def svg(outline_id: UUID, snapshots: Snapshots, on: UUID | None = None) -> Response:
    """The outline and what it is laid on, in mm at 1:1."""
    with snapshots.begin() as session:
        made = scribe.drawing_of(session, outline_id, on)
    return Response(outlines_to_svg(made.lines), media_type="image/svg+xml", headers=attached(f"{made.name}.svg"))
