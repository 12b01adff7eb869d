"""What an instrument sends, as it comes."""

from collections.abc import AsyncIterator
from contextlib import aclosing
from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import TypeAdapter

from elvarn.api.depends import Units, resources
from elvarn.api.strict import StrictRoute
from elvarn.instruments.line import Line
from elvarn.service.bench.live import LiveState, live_states
from elvarn.service.shop import benches

STATE = TypeAdapter(LiveState)
router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["live"])


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
            return benches.live_line(session, bench_id)

    held = found.lines.of(bench_id, await run_in_threadpool(line_of))

    async def events() -> AsyncIterator[bytes]:
        async with aclosing(live_states(held, units)) as states:  # type: ignore[type-var]  # typed by what it yields
            async for state in states:
                yield b"data: " + STATE.dump_json(state) + b"\n\n"

    headers = {"cache-control": "no-store"}
    told = found.told.of((bench_id, units, id(held)), events)
    return StreamingResponse(told, media_type="text/event-stream", headers=headers)
