"""How what is measured is let in."""

from typing import Any

from dev.asking import Address
from elvarn.api.door import cookie_name, pass_of

QUIET = ["--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1"]  # no page asks another host
KEY = "the key of what is measured"


def address(port: int) -> Address:
    """The server that is measured."""
    return Address(f"http://127.0.0.1:{port}", KEY)


def new_page(browser: Any, port: int) -> Any:
    """A page of a browser that was let in, as wide as a screen at the bench."""
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    cookie = {"name": cookie_name(f"127.0.0.1:{port}"), "value": pass_of(KEY), "url": f"http://127.0.0.1:{port}"}
    context.add_cookies([cookie])
    return context.new_page()
