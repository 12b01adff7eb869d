"""The shop board."""

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from elvarn.api.answers import Asked
from elvarn.api.depends import Units
from elvarn.api.strict import StrictRoute
from elvarn.service.desk import board as desk_board

Page = Annotated[int, Query(ge=1, le=100_000, description=f"page of {desk_board.PAGE} jobs, the longest waiting first")]
router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["board"])


@router.get("/board", response_model=desk_board.Board)
def board(asked: Asked, page: Page = 1, units: Units = "trade") -> Response:
    today = date.today()
    return asked.of_all(lambda s: desk_board.board(s, units, today, page), today)
