"""The application with a made-up shop, served from this process, and what it is held against."""

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4

import uvicorn
from fastapi import FastAPI, Response
from sqlalchemy import Engine, text

from dev.asking import get
from dev.perf.bench import BARE, BARE_FLOW
from dev.perf.door import KEY, address
from elvarn.api.app import create_app
from elvarn.api.pages import add_pages
from elvarn.demo import fill
from elvarn.host.cluster import Cluster, free_port
from elvarn.service.kernel.files import FileStore
from elvarn.store.engine import open_engine
from elvarn.store.migrate import migrate


@contextmanager
def served(root: Path, data: Path) -> Iterator[tuple[int, dict[str, bytes], Engine]]:
    """The application in this process: its port, what /perf/same answers with, and its database."""
    data.chmod(0o755)
    cluster = Cluster(data)
    cluster.start()
    migrate(open_engine(cluster.owner_url))
    engine = open_engine(cluster.url)
    fill.fill_empty(engine, FileStore(data / "files"))
    app = create_app(engine, data / "files", root / "build" / "fonts", KEY)
    same = _references(app, engine)
    add_pages(app, root / "web" / "dist")
    port = free_port()
    server = uvicorn.Server(uvicorn.Config(app, port=port, log_level="warning", timeout_graceful_shutdown=2))
    thread = threading.Thread(target=server.run)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    try:
        yield port, same, engine
    finally:
        server.should_exit = True
        thread.join()
        engine.dispose()
        cluster.stop()


def demo_job(port: int) -> str:
    """The main job of the demo shop."""
    board = get(address(port), "/board")
    found: str = next(j["id"] for c in board["columns"] for j in c["jobs"] if "hill climb" in j["title"])
    return found


def _references(app: FastAPI, engine: Engine) -> dict[str, bytes]:
    """The framework alone: with given bytes, with one question to the database, with one reading inserted."""
    same: dict[str, bytes] = {}

    @app.get("/perf/same")
    def same_bytes() -> Response:
        return Response(same["bytes"], media_type="application/json")

    @app.get("/perf/bare")
    def bare() -> Response:
        with engine.connect() as connection:
            connection.execute(text("select 1"))
        return Response(b"{}", media_type="application/json")

    @app.put("/perf/capture")
    def capture(body: dict[str, Any]) -> dict[str, str]:
        given = {"id": uuid4(), "digest": "0" * 64, "person": UUID(body["person_id"]), "job": UUID(body["job_id"]),
                 "setup": UUID(body["setup_id"]), "state": UUID(body["part_state_id"]),
                 "cylinder": body["cylinder"]}  # fmt: skip
        with engine.begin() as insert:
            insert.execute(BARE, given)
            insert.execute(BARE_FLOW, given)
        return {"id": str(given["id"])}

    return same
