"""Pages and the API's edges: what is served, compressed, and what is not there."""

import gzip

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.shop import new_id


def test_every_screen_address_gives_the_page(client):
    for path in ("/", "/new", f"/jobs/{new_id()}/bench"):
        answer = client.get(path)
        assert answer.status_code == 200
        assert '<div id="app">' in answer.text


@pytest.mark.parametrize("path", ["/nothing.js", "/assets/gone.css", "/api/nothing", "/..%2f..%2fpyproject.toml"])
def test_what_is_not_there_is_told(client, path):
    assert client.get(path).status_code == 404


def test_scripts_are_compressed_and_kept_for_ever(client):
    page = client.get("/").text
    script = page.split('src="')[1].split('"')[0]
    with client.stream("GET", script, headers={"accept-encoding": "gzip"}) as answer:
        raw = b"".join(answer.iter_raw())
    assert answer.headers["content-encoding"] == "gzip"
    assert "immutable" in answer.headers["cache-control"]
    assert gzip.decompress(raw) == client.get(script, headers={"accept-encoding": "identity"}).content


def test_no_page_names_another_host(client):
    page = client.get("/").text
    assert "http://" not in page.replace("http://www.w3.org", "")
    assert "https://" not in page


@pytest.mark.parametrize("path", ["/assets/../index.html", "/assets/%2e%2e/%2e%2e/package.json"])
def test_nothing_beside_the_pages_is_served(client, path):
    assert "<div" not in client.get(path).text or client.get(path).headers["cache-control"] == "no-cache"
    assert '"private"' not in client.get(path).text


@pytest.mark.parametrize(
    "headers", [{"host": "evil.example"}, {"origin": "http://evil.example"}, {"origin": "null"}, {"host": ""}]
)
def test_other_pages_may_not_use_it(client, headers):
    answer = client.get("/api/board", headers=headers)
    assert (answer.status_code, answer.json()["code"]) == (403, "foreign")


def test_its_own_pages_may(client):
    assert client.get("/api/board", headers={"origin": "http://127.0.0.1"}).status_code == 200


def test_health_answers_with_the_database(client):
    assert client.get("/api/health").json()["status"] == "ok"


def test_writes_are_made_with_ids_from_the_client(client):
    paths = client.get("/api/openapi.json").json()["paths"]
    computing = {"/api/builds/{build_id}/solution", "/api/engine/following"}
    reading = {"/api/dyno/preview", "/api/jobs/{job_id}/flow-table", "/api/pulls/{pull_id}/preview"}
    reading |= {"/api/shelf/preview", "/api/outlines/found", "/api/outlines/drawn"}
    edits = {"/api/jobs/{job_id}/closing", "/api/jobs/{job_id}/reference", "/api/pulls/{pull_id}/card"}  # as seen
    edits |= {"/api/jobs/{job_id}/away", "/api/parts/{part_id}/away", "/api/wants/{want_id}/state"}
    edits |= {"/api/parts/{part_id}/map"}
    once = {"/api/pictures", "/api/shelf/import", "/api/pieces/exchange"}  # by content, by name, by what was seen
    chosen = {
        "/api/states/{state_id}/counting",
        "/api/states/{state_id}/finish",
        "/api/jobs/{job_id}/uses",
    }  # the last choice stands
    again = {f"/api/recordings/{{recording_id}}/{act}" for act in ("stop", "drop", "preview")}  # sent twice, it is done
    again |= {"/api/dyno/watched/left", "/api/dyno/watched/{digest}/preview"}
    posts = {path for path, methods in paths.items() if "post" in methods and not path.startswith("/api/calc")}
    assert posts == computing | reading | edits | once | chosen | again
    for path, methods in paths.items():
        if "put" in methods:
            assert path.endswith("_id}"), path


@given(st.text(max_size=14))
@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_whatever_is_typed_is_kept_or_answered(shop, typed):
    """No text makes the server fall: it is a reading, a refusal or a question."""
    job = getattr(shop, "typed_job", None)
    if job is None:
        identifier = shop.job(runners=16)
        job = shop.typed_job = (identifier, shop.setup(identifier), shop.sheet(identifier)["before_state_id"])
    answer = shop.flow(*job, 1, typed, accepted=["already_read", "unlike_others", "ten_times", "a_tenth"])
    assert answer.status_code in (200, 422)
    if answer.status_code == 422:
        assert answer.json()["detail"]


@given(st.binary(max_size=200))
@settings(max_examples=80, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_whatever_is_dropped_is_previewed_or_answered(shop, content):
    assert shop.preview(content).status_code in (200, 422)
