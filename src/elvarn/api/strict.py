"""Requests: bodies whose figures are figures (JSON has no NaN and no infinity, so neither is let in), and a new attempt
where two writers stood in each other's way."""

import json
from collections.abc import Callable, Coroutine
from math import isinf
from typing import Any

from fastapi import HTTPException, Request, Response
from fastapi.routing import APIRoute
from sqlalchemy.exc import OperationalError

MOST_ATTEMPTS = 4
MOST_BYTES_SENT = 1_000_000  # where no file is sent


class TooLarge(HTTPException):
    """A body beyond what its address takes."""

    def __init__(self) -> None:
        super().__init__(413)


class StrictRequest(Request):
    """A request whose JSON is read strictly, and whose body has an end."""

    async def body(self) -> bytes:
        if not hasattr(self, "_body"):
            self._body = await read_at_most(self, MOST_BYTES_SENT)
        return self._body

    async def json(self) -> Any:
        body = await self.body()
        try:
            found = json.loads(body, parse_constant=_refused, parse_float=_finite)
            if b"\\u" in body:  # the only way in for what is no letter
                _check_texts(found)
        except RecursionError as error:
            raise json.JSONDecodeError("This is nested too deep. Send it flat.", "", 0) from error
        return found


class StrictRoute(APIRoute):
    """A route that reads its body strictly, and that tries again what the database took back for another writer."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handle = super().get_route_handler()

        async def strictly(request: Request) -> Response:
            strict = StrictRequest(request.scope, request.receive)
            for _ in range(MOST_ATTEMPTS - 1):
                try:
                    return await handle(strict)
                except OperationalError as error:
                    if not _may_go_now(error):
                        raise
            return await handle(strict)

        return strictly


async def read_at_most(request: Request, most: int) -> bytes:
    """The body of a request, refused by what its head says and counted while it comes. Raises TooLarge."""
    said = request.headers.get("content-length", "")
    if said.isdigit() and int(said) > most:
        raise TooLarge
    pieces, size = [], 0
    async for piece in request.stream():
        size += len(piece)
        if size > most:
            raise TooLarge
        pieces.append(piece)
    return b"".join(pieces)


def _may_go_now(error: OperationalError) -> bool:
    """Whether the same may well succeed at once: the database took a whole transaction back (SQLSTATE class 40: a
    deadlock, or what another wrote), or a connection was one to a server that has ended since."""
    return error.connection_invalidated or str(getattr(error.orig, "sqlstate", None)).startswith("40")


def _finite(text: str) -> float:
    value = float(text)
    return _refused(text) if isinf(value) else value


def _check_texts(found: Any) -> None:
    """Refuse texts that nothing can hold: with a NUL, or with half of a letter."""
    if isinstance(found, dict):
        for key, value in found.items():
            _check_texts(key)
            _check_texts(value)
    elif isinstance(found, list):
        for value in found:
            _check_texts(value)
    elif isinstance(found, str) and any(sign == "\0" or "\ud800" <= sign <= "\udfff" for sign in found):
        raise json.JSONDecodeError("A text holds a sign that is no letter. Type it again.", "", 0)


def _refused(text: str) -> float:
    raise json.JSONDecodeError(f"'{text}' is no figure. Enter a number.", text, 0)
