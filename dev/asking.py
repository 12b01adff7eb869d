"""Asking a running Elvarn over HTTP, as a program does that knows its key."""

import json
from http.client import HTTPConnection, RemoteDisconnected
from typing import Any
from urllib.request import Request, urlopen


class Address(str):
    """Where an Elvarn answers, and the key that it wants."""

    key: str

    def __new__(cls, address: str, key: str) -> "Address":
        made = super().__new__(cls, address)
        made.key = key
        return made

    @property
    def headers(self) -> dict[str, str]:
        return bearer(self.key)


class Asking(HTTPConnection):
    """A connection that shows a key with every request."""

    def __init__(self, port: int, key: str, timeout: float = 30) -> None:
        super().__init__("127.0.0.1", port, timeout=timeout)
        self._bearer = bearer(key)

    def request(self, method: str, url: str, body: Any = None, headers: Any = None, **more: Any) -> None:
        super().request(method, url, body, {**self._bearer, **(headers or {})}, **more)

    def answer(self, method: str, url: str, body: Any = None, headers: Any = None) -> tuple[int, bytes]:
        """Status and content of an answer. A connection that the server closed after a long breath is opened anew, as
        a browser does."""
        try:
            self.request(method, url, body, headers)
            answer = self.getresponse()
        except (RemoteDisconnected, ConnectionResetError, BrokenPipeError):
            self.close()
            self.request(method, url, body, headers)
            answer = self.getresponse()
        return answer.status, answer.read()


def bearer(key: str) -> dict[str, str]:
    """The header with which a program shows the key."""
    return {"authorization": f"Bearer {key}"}


def get(url: Address, path: str) -> Any:
    """What the API answers at a path below /api."""
    with urlopen(Request(f"{url}/api{path}", headers=url.headers), timeout=30) as answer:
        return json.load(answer)


def put(url: Address, path: str, body: Any) -> Any:
    """Keep something at a path below /api."""
    headers = {**url.headers, "content-type": "application/json"}
    with urlopen(Request(f"{url}/api{path}", json.dumps(body).encode(), headers, method="PUT"), timeout=30) as answer:
        return json.load(answer)


def post(url: Address, path: str, content: bytes) -> Any:
    """Send a file to a path below /api."""
    with urlopen(Request(f"{url}/api{path}", content, url.headers, method="POST"), timeout=60) as answer:
        return json.load(answer)
