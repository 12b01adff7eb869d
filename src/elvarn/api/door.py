"""Who comes in: pages of this very server, in a browser that was let in by the address that Elvarn printed, and
programs that know its key. Every answer tells the browser to ask nobody else, and to let nobody else show it."""

import hashlib
import hmac
import secrets
from urllib.parse import parse_qsl, quote, urlencode, urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import cookie_parser
from starlette.responses import JSONResponse, RedirectResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from elvarn.service.kernel import log

OWN_HOSTS = ("127.0.0.1", "localhost")
OWN_FETCHES = ("", "same-origin", "none")  # "none": typed, or from a bookmark
YEAR = 365 * 24 * 3600  # seconds
KEY = "key"  # in the printed address
REQUEST = "elvarn.request"  # its id, in the scope
OPEN = ("/api/health",)  # whether it runs is no secret
TOLD = {
    # PrimeVue writes its styles into the page, so styles may stand there; scripts may not.
    "content-security-policy": "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
    "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
    "x-content-type-options": "nosniff",
    "x-frame-options": "DENY",
    "referrer-policy": "no-referrer",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
}


class Door:
    """Refuse what another site's page sent, let a browser in that brings the key, and programs that send it."""

    def __init__(self, app: ASGIApp, key: str) -> None:
        self.app = app
        self._key = key
        self._pass = pass_of(key)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        scope[REQUEST] = secrets.token_hex(4)
        log.for_request(scope[REQUEST])
        app = self.app
        if not _is_own(headers):
            app = _refusal(403, "foreign", "Open Elvarn at the address shown when it started.")
        elif (brought := self._brought(scope)) is not None:
            app = self._let_in(headers, scope["path"], brought)
        elif scope["path"].startswith("/api/"):
            if headers.get("sec-fetch-site", "") not in OWN_FETCHES:
                app = _refusal(403, "foreign", "Another site's page asked this. Only Elvarn's own may.")
            elif scope["path"] not in OPEN and not self._knows(headers):
                app = _refusal(
                    401, "no_key", "This browser was not let in yet. Open Elvarn once at the address that it printed."
                )
        await app(scope, receive, _told(send))

    def _brought(self, scope: Scope) -> str | None:
        """The key in the address of a page, if there is one."""
        if scope["method"] != "GET" or scope["path"].startswith("/api/"):
            return None
        return dict(parse_qsl(scope["query_string"].decode("latin-1"))).get(KEY)

    def _let_in(self, headers: Headers, path: str, brought: str) -> ASGIApp:
        """The page again without the key in its address, which is exchanged for a cookie if it is the right one."""
        answer = RedirectResponse(quote(path), 303, {"cache-control": "no-store"})
        if _same(brought, self._key):
            answer.set_cookie(cookie_name(headers["host"]), self._pass, httponly=True, samesite="strict", max_age=YEAR)
        return answer

    def _knows(self, headers: Headers) -> bool:
        kind, _, said = headers.get("authorization", "").partition(" ")
        if kind.lower() == "bearer":
            return _same(said, self._key)
        shown = cookie_parser(headers.get("cookie", "")).get(cookie_name(headers["host"]), "")
        return _same(shown, self._pass)


def pass_of(key: str) -> str:
    """What a browser holds that was let in: made of the key, which can't be made of it."""
    return hmac.new(key.encode(), b"elvarn cookie", hashlib.sha256).hexdigest()


def cookie_name(host: str) -> str:
    """A browser does not keep the cookies of one address's ports apart: two Elvarns would throw each other out."""
    return f"elvarn-{urlsplit(f'//{host}').port or 80}"


def address_with_key(address: str, key: str) -> str:
    """The address that lets a browser in."""
    return f"{address}/?{urlencode({KEY: key})}"


def _same(one: str, other: str) -> bool:
    return hmac.compare_digest(one.encode("utf-8", "surrogatepass"), other.encode())


def _is_own(headers: Headers) -> bool:
    host = headers.get("host", "")
    origin = headers.get("origin")
    try:
        found = urlsplit(f"//{host}")
        named, _ = found.hostname, found.port
        return named in OWN_HOSTS and (origin is None or urlsplit(origin).netloc == host)
    except ValueError:  # no address at all
        return False


def _refusal(status: int, code: str, detail: str) -> ASGIApp:
    problem = {"type": f"/problems/{code.replace('_', '-')}", "title": "Not for this page", "status": status}
    return JSONResponse({**problem, "code": code, "detail": detail}, status, media_type="application/problem+json")


def _told(send: Send) -> Send:
    async def with_headers(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in TOLD.items():
                headers.setdefault(name, value)
        await send(message)

    return with_headers
