"""Only pages of this very server may ask it; a foreign page in the same browser may not, whatever it calls us."""

from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Receive, Scope, Send

OWN_HOSTS = ("127.0.0.1", "localhost")


class OwnPagesOnly:
    """Refuse requests under another host name, and those that another site's page sent."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "http" and not _is_own(Headers(scope=scope)):
            detail = "Open Elvarn at the address that it printed; other pages may not use it."
            problem = {"type": "/problems/foreign", "title": "Not for this page", "status": 403, "code": "foreign"}
            await JSONResponse({**problem, "detail": detail}, 403)(scope, receive, send)
            return
        await self.app(scope, receive, send)


def _is_own(headers: Headers) -> bool:
    host = headers.get("host", "")
    origin = headers.get("origin")
    try:
        named = urlsplit(f"//{host}").hostname
        return named in OWN_HOSTS and (origin is None or urlsplit(origin).netloc == host)
    except ValueError:  # no address at all
        return False
