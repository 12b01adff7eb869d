"""The application: routers, problems, pages."""

import sys
from collections.abc import AsyncIterator, Iterator
from contextlib import asynccontextmanager
from importlib import import_module
from importlib.util import find_spec
from pathlib import Path

from fastapi import APIRouter, FastAPI
from fastapi.concurrency import run_in_threadpool
from sqlalchemy import Engine, text
from sqlalchemy.orm import sessionmaker

from elvarn import __version__
from elvarn.api import problems
from elvarn.api.depends import Resources
from elvarn.api.door import Door
from elvarn.api.pages import add_pages
from elvarn.api.told import Told
from elvarn.core.rail import Step
from elvarn.instruments.shared import SharedLines
from elvarn.service.dyno.watched import WatchedFolder
from elvarn.service.kernel.apart import Apart
from elvarn.service.kernel.files import FileStore
from elvarn.service.kernel.memo import Memo
from elvarn.service.record.curves import CurveShelf
from elvarn.store.engine import database_url
from elvarn.store.revision import SNAPSHOT
from elvarn.work.recorder import Recorder

MOST_BYTES_KEPT = 32_000_000
MOST_SOLUTIONS_KEPT = 24
TURN_S = 0.0005  # a thread that works out a sheet lets others on after so long: a capture asks for its turn often
BESIDE_THE_STEPS = (
    "board",
    "jobs",
    "tasks",
    "photos",
    "outlines",
    "shelf",
    "orders",
    "shop",
    "live",
    "recordings",
    "calc",
)


def create_app(
    engine: Engine, files: Path, fonts: Path, key: str, built_pages: Path | None = None, watch: Path | None = None
) -> FastAPI:
    """An application on this database and these folders, for whom knows the key; dyno files that come into `watch` are
    offered. Several processes may serve one database."""
    lines, apart = SharedLines(database_url(engine)), Apart()

    @asynccontextmanager
    async def shared_lines(_: FastAPI) -> AsyncIterator[None]:
        sys.setswitchinterval(TURN_S)
        async with lines.share(), recorder.at_work():
            yield
        await run_in_threadpool(apart.end)

    app = FastAPI(
        lifespan=shared_lines,
        title="Elvarn",
        version=__version__,
        description="Flow bench and dyno work for intake porting. Every write carries an id made by the client: "
        "sent twice, it counts once.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        responses={422: {"model": problems.Problem, "description": "Not kept, or a question"}},
    )
    snapshot = engine.execution_options(isolation_level="REPEATABLE READ", postgresql_readonly=True)
    single = engine.execution_options(isolation_level="AUTOCOMMIT")
    sessions, kept_files = sessionmaker(engine), FileStore(files)
    recorder = Recorder(database_url(engine), sessions, kept_files)
    app.state.resources = Resources(
        sessions=sessions,
        snapshots=sessionmaker(snapshot, info={SNAPSHOT: True}, expire_on_commit=False),
        reads=sessionmaker(single),
        files=kept_files,
        fonts=fonts,
        curves=CurveShelf(),
        answers=Memo(MOST_BYTES_KEPT, len),
        solutions=Memo(MOST_SOLUTIONS_KEPT),
        lines=lines,
        apart=apart,
        told=Told(),
        recorder=recorder,
        watched=WatchedFolder(watch) if watch else None,
    )
    problems.install(app)
    app.add_middleware(Door, key=key)
    for router in _routers():
        app.include_router(router)

    @app.get("/api/health", tags=["shop"])
    def health() -> dict[str, str]:
        with engine.connect() as connection:
            connection.execute(text("select 1"))
        return {"status": "ok", "version": __version__}

    if built_pages is not None:
        add_pages(app, built_pages.resolve())
    return app


def _routers() -> Iterator[APIRouter]:
    """A router a step, named after it, where the step has requests of its own; and those beside the steps."""
    for name in (*BESIDE_THE_STEPS, *Step):
        module = f"elvarn.api.{name}"
        if find_spec(module) is not None:
            yield import_module(module).router
