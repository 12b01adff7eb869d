"""Bodies whose figures are figures: JSON has no NaN and no infinity, so neither is let in."""

import json
from collections.abc import Callable, Coroutine
from math import isinf
from typing import Any

from fastapi import Request, Response
from fastapi.routing import APIRoute


class StrictRequest(Request):
    """A request whose JSON is read strictly."""

    async def json(self) -> Any:
        return json.loads(await self.body(), parse_constant=_refused, parse_float=_finite)


class StrictRoute(APIRoute):
    """A route that reads its body strictly."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handle = super().get_route_handler()

        async def strictly(request: Request) -> Response:
            return await handle(StrictRequest(request.scope, request.receive))

        return strictly


def _finite(text: str) -> float:
    value = float(text)
    return _refused(text) if isinf(value) else value


def _refused(text: str) -> float:
    raise json.JSONDecodeError(f"'{text}' is no figure. Enter a number.", text, 0)
