"""The application: routers, problems, pages."""

from pathlib import Path

from fastapi import FastAPI
from sqlalchemy import Engine, text
from sqlalchemy.orm import sessionmaker

from elvarn import __version__
from elvarn.api import (
    problems,
    routes_bench,
    routes_calc,
    routes_dyno,
    routes_handover,
    routes_jobs,
    routes_path,
    routes_shelf,
    routes_shop,
    routes_takein,
)
from elvarn.api.depends import Resources
from elvarn.api.guard import OwnPagesOnly
from elvarn.api.pages import pages
from elvarn.service.changes import Changes
from elvarn.service.curves import CurveShelf
from elvarn.service.files import FileStore
from elvarn.service.live import LiveBenches

ROUTERS = (
    routes_jobs,
    routes_takein,
    routes_path,
    routes_shelf,
    routes_shop,
    routes_bench,
    routes_dyno,
    routes_handover,
    routes_calc,
)


def create_app(engine: Engine, files: Path, fonts: Path, built_pages: Path | None = None) -> FastAPI:
    """An application on this database and these folders."""
    app = FastAPI(
        title="Elvarn",
        version=__version__,
        description="Flow bench and dyno work for intake porting. Every write carries an id made by the client: "
        "sent twice, it counts once.",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        responses={422: {"model": problems.Problem, "description": "Not kept, or a question"}},
    )
    single = engine.execution_options(isolation_level="AUTOCOMMIT")
    sessions, changed = sessionmaker(engine), Changes()
    changed.watch(sessions)
    reads, kept = sessionmaker(single), FileStore(files)
    app.state.resources = Resources(sessions, reads, kept, fonts, CurveShelf(), changed, LiveBenches())
    problems.install(app)
    app.add_middleware(OwnPagesOnly)
    for module in ROUTERS:
        app.include_router(module.router)

    @app.get("/api/health", tags=["shop"])
    def health() -> dict[str, str]:
        with engine.connect() as connection:
            connection.execute(text("select 1"))
        return {"status": "ok", "version": __version__}

    if built_pages is not None:
        app.include_router(pages(built_pages.resolve()))
    return app
