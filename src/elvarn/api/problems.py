"""Refusals and questions as problem details (RFC 9457), with the field's path and the ways on."""

import errno
from shutil import disk_usage
from typing import Any

from fastapi import FastAPI, Request
from fastapi.encoders import jsonable_encoder
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import DataError, DBAPIError, IntegrityError
from starlette.exceptions import HTTPException

from elvarn.api.door import REQUEST
from elvarn.api.strict import TooLarge
from elvarn.core.errors import CoreError
from elvarn.service.kernel import log
from elvarn.service.kernel.errors import IdReused, NotFound, Question, ServiceError, Stale
from elvarn.service.kernel.files import LARGEST_FILE
from elvarn.store.engine import AWAY
from elvarn.units import UnitError


class OfferBody(BaseModel):
    label: str
    patch: dict[str, Any]


class Problem(BaseModel):
    """`code` is stable; `path` names the field; `offers` are ways on: send the request again with the patch."""

    type: str
    title: str
    status: int
    detail: str
    code: str
    path: str | None = None
    offers: list[OfferBody] = []
    current: dict[str, Any] | None = None
    yours: dict[str, Any] | None = None


SHOWN_LETTERS = 80
DISK_REFUSES = (errno.ENOSPC, errno.EDQUOT, errno.EROFS, errno.EFBIG)
NO_RESOURCES = "53"  # the class of SQLSTATE: the disk is full, or memory is out
LEAST_ROOM = 4_000_000  # bytes; with less the database can't even start
NO_ROOM = "The disk of the data folder takes no more. Make room on it: what waits is sent again by itself."
FILE_LIMIT = f"A file may have {LARGEST_FILE // 1024**2} MB: send a smaller one, or less of it."
TITLES = {
    404: "Not found",
    405: "No such request",
    409: "Changed by someone else",
    413: "Too large",
    422: "Not saved",
    500: "A fault",
    503: "Not now",
    507: "No room",
}


def install(app: FastAPI) -> None:
    """Turn every refusal of the layers below into a problem answer."""
    app.add_exception_handler(ServiceError, _service_error)
    app.add_exception_handler(CoreError, _core_error)
    app.add_exception_handler(UnitError, _plain_error)
    app.add_exception_handler(IntegrityError, _contradicts)
    app.add_exception_handler(Exception, _fell)
    app.add_exception_handler(OSError, _no_room)
    app.add_exception_handler(HTTPException, _refused)
    app.add_exception_handler(TooLarge, _too_large)
    for away in AWAY:
        app.add_exception_handler(away, _unavailable)
    for beyond in (DataError, OverflowError, ZeroDivisionError, FloatingPointError, RecursionError):
        app.add_exception_handler(beyond, _beyond)
    app.add_exception_handler(RequestValidationError, _invalid_request)
    app.add_exception_handler(ValidationError, _invalid_request)


def _answer(status: int, code: str, detail: str, **more: Any) -> JSONResponse:
    problem = Problem(
        type=f"/problems/{code.replace('_', '-')}",
        title="Please check" if more.get("offers") else TITLES.get(status, "Refused"),
        status=status,
        detail=detail,
        code=code,
        **more,
    )
    content = jsonable_encoder(problem, exclude_none=True)
    return JSONResponse(content, status_code=status, media_type="application/problem+json")


def _service_error(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, ServiceError)
    if isinstance(error, NotFound):
        return _answer(404, error.code, str(error))
    if isinstance(error, Stale):
        current, yours = jsonable_encoder(error.current), jsonable_encoder(error.yours)
        return _answer(409, error.code, str(error), current=current, yours=yours)
    if isinstance(error, IdReused):
        return _answer(409, error.code, str(error))
    offers = error.offers_as_dicts() if isinstance(error, Question) else []
    return _answer(422, error.code, str(error), path=error.path, offers=offers)


def _core_error(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, CoreError)
    return _answer(422, error.code, str(error), path=error.quantity)


def _refused(_: Request, error: Exception) -> JSONResponse:
    """What the server refuses by itself: an address that is none."""
    assert isinstance(error, HTTPException)
    code = {404: "not_found", 405: "no_such_request"}.get(error.status_code, "refused")
    return _answer(error.status_code, code, str(error.detail))


def _too_large(_: Request, __: Exception) -> JSONResponse:
    return _answer(413, "too_large", f"This is more than Elvarn takes here. {FILE_LIMIT}")


def _plain_error(_: Request, error: Exception) -> JSONResponse:
    return _answer(422, "unit", str(error))


def _contradicts(_: Request, error: Exception) -> JSONResponse:
    """What the database would not keep: something named that is not there, or against one of its rules."""
    assert isinstance(error, IntegrityError)
    rule = str(getattr(getattr(error.orig, "diag", None), "constraint_name", "") or "")
    if rule.startswith("fk_"):
        field = "person_id" if rule.endswith("person_id") else None
        text = "Something that this names is not here any more. Reload, and choose again."
        return _answer(422, "missing", text, path=field)
    return _answer(422, "contradicts", f"That contradicts what is kept here ({rule}). Reload, and try again.")


def _unavailable(request: Request, error: Exception) -> JSONResponse:
    """The database is away, has no room, or took the transaction back again and again: the request may come again."""
    assert isinstance(error, DBAPIError)
    says_so = str(getattr(error.orig, "sqlstate", None)).startswith(NO_RESOURCES)
    if says_so or disk_usage(request.app.state.resources.files.folder.parent).free < LEAST_ROOM:
        return _answer(507, "no_room", NO_ROOM)
    text = "The database does not answer; it is started again. Nothing is lost: what was to be kept is sent again."
    return _answer(503, "unavailable", text)


def _fell(request: Request, error: Exception) -> JSONResponse:
    """A fault of ours. What went wrong is in the log under the id that is told, without anybody's name or figures."""
    log.fault("request fell", error, method=request.method, path=request.url.path)
    text = f"Elvarn fell over this; its log says why under {request.scope.get(REQUEST, '')}. Nothing was kept of it."
    return _answer(500, "failed", text)


def _no_room(_: Request, error: Exception) -> JSONResponse:
    """A file that the disk did not take. Whatever else the machine says is a fault of ours."""
    if not isinstance(error, OSError) or error.errno not in DISK_REFUSES:
        raise error
    return _answer(507, "no_room", NO_ROOM)


def _beyond(_: Request, __: Exception) -> JSONResponse:
    """Figures that nothing can be computed of, and what no column holds."""
    text = "A figure or a text here is beyond what can be kept or computed. Check what was typed."
    return _answer(422, "out_of_bounds", text)


def _short(text: str) -> str:
    return text if len(text) <= SHOWN_LETTERS else f"{text[:SHOWN_LETTERS]}…"


def _invalid_request(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError | ValidationError)
    first = error.errors()[0]
    if first["type"] == "json_invalid":
        return _answer(422, "invalid", str(first["ctx"]["error"]))
    path = ".".join(str(part) for part in first["loc"] if part != "body")
    given = first.get("input")
    shown = f" Given: {_short(repr(given))}." if isinstance(given, str | int | float) else ""
    if first["type"] == "value_error":  # a sentence of ours
        said = str(first["ctx"]["error"])
        return _answer(422, "invalid", f"{said[0].upper()}{said[1:]}.", path=path)
    return _answer(422, "invalid", f"{path}: {first['msg']}.{shown}", path=path)
