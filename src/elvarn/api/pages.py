"""The pages: built files, and the entry for every address that is a screen."""

from os import PathLike
from pathlib import Path, PurePosixPath

from fastapi import FastAPI, HTTPException
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import Response


class Built(StaticFiles):
    """Files with a digest of their content in their name: a browser keeps them for good."""

    def file_response(self, full_path: str | PathLike[str], *others: object, **more: object) -> Response:
        response = super().file_response(full_path, *others, **more)  # type: ignore[arg-type]
        response.headers["cache-control"] = "public, max-age=31536000, immutable"
        return response


def add_pages(app: FastAPI, folder: Path) -> None:
    """Serve the built pages below `folder`; every address that is neither a file's nor the API's is a screen."""
    app.mount("/assets", GZipMiddleware(Built(directory=folder / "assets"), minimum_size=1000, compresslevel=6))

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path.startswith("api/") or PurePosixPath(path).suffix:
            raise HTTPException(404, f"There is no {path}.")
        return FileResponse(folder / "index.html", headers={"cache-control": "no-cache"})
