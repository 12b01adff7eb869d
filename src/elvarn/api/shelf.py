"""The shelf: parts, their pictures, their figures, and the whole of it out and in."""

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query
from fastapi.responses import PlainTextResponse, Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Runs, Sessions, Snapshots, Units
from elvarn.api.strict import StrictRoute
from elvarn.api.upload import Sent
from elvarn.given import Moment
from elvarn.service.shelf import files as shelf_files
from elvarn.service.shelf import history, part, pieces, readings, shelf
from elvarn.service.shop import settings

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["shelf"])


@router.get("/shelf", response_model=shelf.Shelf)
def whole_shelf(asked: Asked, units: Units = "trade") -> Response:
    return asked.of_all(lambda s: shelf.shelf(s, units, settings.path_settings(s).settings.currency))


@router.get("/parts/{part_id}/history", response_model=history.History)
def part_history(part_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    """What was read of a part, or of every part of its casting, over the years."""
    return asked.of_all(lambda s: history.history_of(s, part_id, units))


@router.get("/shelf.csv", response_class=PlainTextResponse)
def shelf_csv(snapshots: Snapshots) -> PlainTextResponse:
    with snapshots.begin() as session:
        content = shelf_files.shelf_csv(session)
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=attached("shelf.csv"))


@router.get("/shelf.json", response_class=Response)
def shelf_json(snapshots: Snapshots) -> Response:
    with snapshots.begin() as session:
        content = shelf_files.shelf_json(session)
    return Response(content, media_type="application/json", headers=attached("shelf.json"))


@router.post("/shelf/import")
def import_shelf(
    name: Annotated[str, Query()],
    person_id: UUID,
    sent: Sent,
    sessions: Sessions,
    run: Runs,
    bench_id: UUID | None = None,
    taken_at: Moment | None = None,
) -> shelf_files.ShelfImport:
    """Parts of a dropped file (its bytes are the body), all or none."""
    with sessions.begin() as session:
        return shelf_files.import_shelf(session, run, name, sent, person_id, bench_id, taken_at or datetime.now(UTC))


@router.get("/parts/{part_id}", response_model=part.PartSheet)
def part_sheet(part_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_all(lambda s: part.part_sheet(s, part_id, units))


@router.patch("/parts/{part_id}")
def edit_part(part_id: UUID, change: part.PartEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(part.edit_part(session, part_id, change).id)


@router.post("/states/{state_id}/counting")
def choose_counting(state_id: UUID, choice: readings.CountingChoice, sessions: Sessions) -> Kept:
    """Which set-up's flow readings of a part count; with none, the part alone as it was set up last."""
    with sessions.begin() as session:
        return Kept(readings.choose_counting(session, state_id, choice).id)


@router.post("/pieces/exchange")
def exchange_pieces(exchange: pieces.PieceExchange, sessions: Sessions) -> dict[str, bool]:
    with sessions.begin() as session:
        pieces.exchange_pieces(session, exchange)
    return {"exchanged": True}
