"""The pages: built files, compressed once, and the entry for every address that is a screen."""

import gzip
from functools import lru_cache
from mimetypes import guess_type
from pathlib import Path, PurePosixPath

from fastapi import APIRouter, HTTPException, Request
from fastapi.responses import Response

COMPRESSIBLE = {".js", ".css", ".html", ".svg", ".json", ".txt"}


def pages(folder: Path) -> APIRouter:
    """Routes that serve the built pages below `folder`."""
    router = APIRouter(include_in_schema=False)

    @router.get("/{path:path}")
    def page(path: str, request: Request) -> Response:
        wanted = (folder / path).resolve()
        if path and wanted.is_file() and wanted.is_relative_to(folder):
            return _file(wanted, request, forever=path.startswith("assets/"))
        if path.startswith("api/") or PurePosixPath(path).suffix:
            raise HTTPException(404, f"There is no {path}.")
        return _file(folder / "index.html", request, forever=False)

    return router


def _file(path: Path, request: Request, *, forever: bool) -> Response:
    cache = "public, max-age=31536000, immutable" if forever else "no-cache"
    headers = {"cache-control": cache, "vary": "accept-encoding"}
    media = "text/javascript" if path.suffix == ".js" else guess_type(path.name)[0] or "application/octet-stream"
    if path.suffix in COMPRESSIBLE and "gzip" in request.headers.get("accept-encoding", ""):
        content = _compressed(path, path.stat().st_mtime_ns)
        return Response(content, media_type=media, headers={**headers, "content-encoding": "gzip"})
    return Response(path.read_bytes(), media_type=media, headers=headers)


@lru_cache(maxsize=256)
def _compressed(path: Path, _changed: int) -> bytes:
    return gzip.compress(path.read_bytes(), 6, mtime=0)
