"""Pulls recorded live: begun, watched, stopped, and looked at as the file that they become."""

import asyncio
from collections.abc import AsyncIterator
from uuid import UUID

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import TypeAdapter

from elvarn.api.answers import Kept
from elvarn.api.depends import Files, Runs, Sessions, Units, resources
from elvarn.api.strict import StrictRoute
from elvarn.service.dyno import recording
from elvarn.service.dyno.live import LivePull, live_pull
from elvarn.service.dyno.pulls import PullPreview

STATE = TypeAdapter(LivePull)
LOOK_S = 0.1
router = APIRouter(route_class=StrictRoute, prefix="/api", tags=["dyno"])


@router.put("/recordings/{recording_id}")
def begin(recording_id: UUID, new: recording.NewRecording, sessions: Sessions, request: Request) -> Kept:
    """Begin to record a pull: the dyno is greeted, and the pull goes."""
    with sessions.begin() as session:
        kept = Kept(recording.begin(session, recording_id, new).id)
    resources(request).recorder.wake()
    return kept


@router.post("/recordings/{recording_id}/stop")
def stop(recording_id: UUID, act: recording.RecordingAct, sessions: Sessions, request: Request) -> Kept:
    """End a pull now: the load goes off, what came is kept."""
    resources(request).recorder.stop(recording_id)
    with sessions.begin() as session:
        return Kept(recording.ask_to_stop(session, recording_id, act).id)


@router.post("/recordings/{recording_id}/drop")
def drop(recording_id: UUID, act: recording.RecordingAct, sessions: Sessions) -> Kept:
    """Leave what was recorded out of the job's pulls; it stays on record."""
    with sessions.begin() as session:
        return Kept(recording.drop(session, recording_id, act).id)


@router.post("/recordings/{recording_id}/preview")
def look_at(recording_id: UUID, sessions: Sessions, files: Files, run: Runs) -> PullPreview:
    """What was recorded, as a dropped file is looked at."""
    with sessions.begin() as session:
        return recording.look_at(session, files, run, recording_id)


@router.get(
    "/recordings/{recording_id}/live",
    response_class=StreamingResponse,
    responses={200: {"model": LivePull, "description": "server-sent events; the data of each is a pull as it forms"}},
)
async def live(recording_id: UUID, request: Request, units: Units = "trade") -> StreamingResponse:
    """A pull as it forms, as server-sent events; it ends with the pull. All come from the database, so that any process
    tells it, and whoever comes late sees the whole of it."""
    reads = resources(request).reads

    def look(after: int, before: int) -> LivePull:
        with reads() as session:
            return live_pull(session, recording_id, units, after, before)

    first = await run_in_threadpool(look, -1, 0)

    async def events() -> AsyncIterator[bytes]:
        state = first
        while True:
            yield b"data: " + STATE.dump_json(state) + b"\n\n"
            if state.ended:
                return
            await asyncio.sleep(LOOK_S)
            state = await run_in_threadpool(look, state.piece, state.count)

    return StreamingResponse(events(), media_type="text/event-stream", headers={"cache-control": "no-store"})
