"""The shelf: parts, their pictures, their figures, and the whole of it out and in."""

from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query
from fastapi.responses import PlainTextResponse, Response

from elvarn.api.answers import Asked, Kept
from elvarn.api.attached import attached
from elvarn.api.depends import Curves, Runs, Sessions, Snapshots, Units
from elvarn.api.strict import StrictRoute
from elvarn.api.upload import Sent
from elvarn.given import Moment
from elvarn.service.record.castings import Casting
from elvarn.service.shelf import (
    compressor_map,
    history,
    incoming,
    out,
    part,
    pieces,
    putting_away,
    readings,
    shelf,
    taking,
)

router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["shelf"])


@router.get("/shelf", response_model=shelf.Shelf)
def shelf_page(
    asked: Asked,
    curves: Curves,
    units: Units = "trade",
    find: str = "",
    kind: str | None = None,
    maker: str | None = None,
    fits: UUID | None = None,
    state: UUID | None = None,
    archived: bool = False,
    page: int = 1,
) -> Response:
    """A page of the parts on the shelf that are found: by every word, a kind, a maker, what fits a job, and a state."""
    wanted = shelf.ShelfAsked(find, kind, maker, fits, state, page, archived)
    return asked.of_all(lambda s: shelf.shelf(s, curves, wanted, units))


@router.get("/castings", response_model=list[Casting])
def castings(asked: Asked, units: Units = "trade") -> Response:
    """Castings by maker and number, with what each job learned of them."""
    return asked.of_all(lambda s: shelf.cast(s, units))


@router.get("/parts/{part_id}/history", response_model=history.History)
def part_history(part_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    """What was read of a part, or of every part of its casting, over the years."""
    return asked.of_all(lambda s: history.history_of(s, part_id, units))


@router.get("/shelf.csv", response_class=PlainTextResponse)
def shelf_csv(snapshots: Snapshots) -> PlainTextResponse:
    with snapshots.begin() as session:
        content = out.shelf_csv(session)
    return PlainTextResponse(content, media_type="text/csv; charset=utf-8", headers=attached("shelf.csv"))


@router.get("/shelf.json", response_class=Response)
def shelf_json(snapshots: Snapshots) -> Response:
    with snapshots.begin() as session:
        content = out.shelf_json(session)
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
    rows: Annotated[list[int] | None, Query()] = None,
) -> taking.ShelfImport:
    """Parts of a dropped file (its bytes are the body), all or none: those of its rows, or else all that are new."""
    at = taken_at or datetime.now(UTC)
    with sessions.begin() as session:
        return taking.import_shelf(session, run, name, sent, person_id, bench_id, at, rows)


@router.post("/shelf/preview")
def preview_shelf(name: Annotated[str, Query()], sent: Sent, snapshots: Snapshots, run: Runs) -> incoming.Incoming:
    """What a dropped file (its bytes are the body) would bring to the shelf; nothing is kept."""
    with snapshots.begin() as session:
        return incoming.preview(session, run, name, sent)


@router.get("/parts/{part_id}", response_model=part.PartSheet)
def part_sheet(part_id: UUID, asked: Asked, units: Units = "trade") -> Response:
    return asked.of_all(lambda s: part.part_sheet(s, part_id, units))


@router.patch("/parts/{part_id}")
def edit_part(part_id: UUID, change: part.PartEdit, sessions: Sessions) -> Kept:
    with sessions.begin() as session:
        return Kept(part.edit_part(session, part_id, change).id)


@router.post("/parts/{part_id}/map")
def take_map(part_id: UUID, version: int, sent: Sent, sessions: Sessions, run: Runs) -> Kept:
    """A compressor's map (the bytes of a table are the body), in place of an earlier one."""
    with sessions.begin() as session:
        return Kept(compressor_map.take_map(session, run, part_id, version, sent).id)


@router.post("/parts/{part_id}/away")
def put_part_away(part_id: UUID, change: putting_away.PartAway, sessions: Sessions) -> Kept:
    """Put a part away from the shelf, or back on it."""
    with sessions.begin() as session:
        return Kept(putting_away.put_part_away(session, part_id, change).id)


@router.delete("/parts/{part_id}", status_code=204)
def delete_part(part_id: UUID, version: int, sessions: Sessions) -> None:
    """Take a part away that nothing rests on."""
    with sessions.begin() as session:
        putting_away.delete_part(session, part_id, version)


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
