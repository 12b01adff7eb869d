"""The door: whom it lets in, and what every answer tells the browser."""

import pytest
from fastapi.testclient import TestClient

from dev.asking import bearer
from elvarn.api.door import KEY, pass_of
from tests.shop import KEY as OURS

PAGE = {"sec-fetch-site": "none", "sec-fetch-mode": "navigate"}


@pytest.fixture
def stranger(client):
    """A browser that nobody let in."""
    return TestClient(client.app, base_url="http://127.0.0.1:8640", follow_redirects=False)


@pytest.mark.parametrize("path", ["/api/board", "/api/shop", "/api/openapi.json", "/api/shelf.csv", "/api/nothing"])
def test_without_the_key_nothing_is_told(stranger, path):
    answer = stranger.get(path)
    assert (answer.status_code, answer.json()["code"]) == (401, "no_key")
    assert "address that it printed" in answer.json()["detail"]


def test_without_the_key_nothing_is_kept(stranger, shop):
    identifier = "5f5a0a52-5a0a-4b33-9c7a-3df5d44c9d10"
    assert stranger.put(f"/api/people/{identifier}", json={"name": "Stranger"}).status_code == 401
    assert identifier not in [person["id"] for person in shop.get("/shop")["people"]]


def test_the_printed_address_lets_a_browser_in_for_good(stranger):
    answer = stranger.get(f"/jobs/17?{KEY}={OURS}", headers=PAGE)
    assert (answer.status_code, answer.headers["location"]) == (303, "/jobs/17")
    cookie = answer.headers["set-cookie"]
    assert "HttpOnly" in cookie
    assert "samesite=strict" in cookie.lower()
    assert OURS not in cookie
    assert stranger.get("/api/board").status_code == 200


def test_a_wrong_key_lets_nobody_in_and_does_not_stay_in_the_address(stranger):
    answer = stranger.get(f"/?{KEY}=guessed", headers=PAGE)
    assert (answer.status_code, answer.headers["location"]) == (303, "/")
    assert "set-cookie" not in answer.headers
    assert stranger.get("/api/board").status_code == 401


@pytest.mark.parametrize(
    "headers",
    [
        {"authorization": "Bearer guessed"},
        {"authorization": f"Basic {OURS}"},
        {"cookie": "elvarn-8640=guessed"},
        {"cookie": f"elvarn-8641={pass_of(OURS)}"},
        {"authorization": "Bearer \udcff".encode("utf-8", "surrogateescape")},
        {"cookie": "=;;=\x01"},
    ],
)
def test_what_is_no_key_is_none(stranger, headers):
    assert stranger.get("/api/board", headers=headers).status_code == 401


def test_a_program_shows_the_key_itself(stranger):
    assert stranger.get("/api/board", headers=bearer(OURS)).status_code == 200


@pytest.mark.parametrize("site", ["cross-site", "same-site"])
def test_a_page_of_another_site_gets_nothing_though_the_browser_was_let_in(client, site):
    answer = client.get("/api/shelf.csv", headers={"sec-fetch-site": site})
    assert (answer.status_code, answer.json()["code"]) == (403, "foreign")


@pytest.mark.parametrize("path", ["/", "/api/board", "/api/health", "/jobs/x/bench", "/api/nothing"])
def test_every_answer_keeps_others_out(client, path):
    told = client.get(path).headers
    assert "frame-ancestors 'none'" in told["content-security-policy"]
    assert "default-src 'self'" in told["content-security-policy"]
    assert "unsafe-eval" not in told["content-security-policy"]
    assert "script-src" not in told["content-security-policy"]  # scripts fall under 'self'
    assert told["x-content-type-options"] == "nosniff"
    assert told["referrer-policy"] == "no-referrer"
    assert told["x-frame-options"] == "DENY"


@pytest.mark.parametrize("host", ["[bad", "127.0.0.1:99999", "127.0.0.1:x", "evil.example:8640"])
def test_a_host_that_is_none_of_ours(client, host):
    assert client.get("/api/board", headers={"host": host}).status_code == 403
