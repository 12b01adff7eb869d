"""What may come in: times, texts and figures within bounds; whatever else comes is answered, and spoils nothing."""

import json

import pytest
import structlog
from fastapi.testclient import TestClient
from sqlalchemy.exc import OperationalError

from dev.asking import bearer
from elvarn.service.kernel import log
from tests.shop import KEY, new_id

ENDS_OF_TIME = ("0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59Z", "1999-12-31T12:00:00Z", "2026-03-02T09:00:00")
HUGE = ("1e308", "9" * 400, "-1e308", "1e30")


@pytest.fixture
def job(shop):
    job = shop.job()
    return job, shop.setup(job), shop.sheet(job)["before_state_id"]


def refused(answer, path):
    assert answer.status_code == 422, answer.text
    assert answer.json()["path"].removeprefix("body.") == path
    assert answer.json()["detail"]


@pytest.mark.parametrize("at", ENDS_OF_TIME)
class TestTimes:
    """A date that no screen could show is never kept, whatever is accepted with it."""

    def test_of_a_flow(self, shop, job, at):
        refused(shop.flow(*job, 1, "201.6", taken_at=at, accepted=["clock_ahead", "clock_back"]), "taken_at")
        shop.get("/board")
        shop.sheet(job[0])

    def test_of_a_check(self, shop, at):
        body = {"person_id": shop.person, "kind": "plate", "bench_id": shop.bench, "typed": "180", "plate": "P",
                "taken_at": at}  # fmt: skip
        refused(shop.put(f"/checks/{new_id()}", body), "taken_at")

    def test_of_a_dimension(self, shop, job, at):
        body = {"person_id": shop.person, "job_id": job[0], "part_state_id": job[2], "element_kind": "runner",
                "cylinder": 1, "quantity": "bore", "typed": "44", "taken_at": at}  # fmt: skip
        refused(shop.put(f"/dimensions/{new_id()}", body), "taken_at")

    def test_of_a_strike(self, shop, job, at):
        shop.kept(shop.flow(*job, 1, "201.6"))
        reading = shop.sheet(job[0])["rungs"][0]["before"]["readings"][0]["id"]
        body = {"person_id": shop.person, "reason": "hose off", "struck_at": at}
        refused(shop.put(f"/strikes/{reading}", body), "struck_at")


@pytest.mark.parametrize("figure", HUGE)
class TestFigures:
    def test_of_a_flow(self, shop, job, figure):
        accepted = ["unlike_others", "ten_times", "a_tenth", "above_ceiling", "over_range"]
        assert shop.flow(*job, 1, figure, accepted=accepted).status_code == 422
        shop.sheet(job[0])

    def test_of_a_dimension_that_is_accepted_as_unlikely(self, shop, job, figure):
        body = {"person_id": shop.person, "job_id": job[0], "part_state_id": job[2], "element_kind": "runner",
                "cylinder": 1, "quantity": "bore", "typed": figure, "accepted": ["unlikely"],
                "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
        assert shop.put(f"/dimensions/{new_id()}", body).status_code == 422

    def test_of_a_plate_s_depression(self, shop, figure):
        body = {"person_id": shop.person, "kind": "plate", "bench_id": shop.bench, "typed": "180", "plate": "P",
                "depression": figure, "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
        assert shop.put(f"/checks/{new_id()}", body).status_code == 422


class TestTexts:
    @pytest.mark.parametrize("name", ["a\x00b", "x" * 900_000])
    def test_a_name_that_can_not_be_kept(self, shop, name):
        answer = shop.put(f"/people/{new_id()}", {"name": name})
        assert answer.status_code == 422
        assert len(answer.text) < 2000

    def test_half_a_letter(self, shop):
        """A lone surrogate: JSON can say it, no text can hold it."""
        sent = {"content": b'{"name": "a\\ud800b"}', "headers": {"content-type": "application/json"}}
        assert shop.client.put(f"/api/people/{new_id()}", **sent).status_code == 422

    @pytest.mark.parametrize(
        "path", ["/%00", "/" + "a" * 5000, "/assets/" + "a" * 5000, "/assets/%00", "/api/pictures/%00"]
    )
    def test_an_address_that_can_not_be(self, client, path):
        assert client.get(path).status_code in (200, 404, 422)

    def test_a_body_that_is_nested_beyond_reason(self, shop):
        sent = {"content": b"[" * 100_000, "headers": {"content-type": "application/json"}}
        assert shop.client.put(f"/api/people/{new_id()}", **sent).status_code == 422

    def test_a_digest_that_is_none(self, shop, job):
        body = {"person_id": shop.person, "job_id": job[0], "file_digest": "f" * 5000, "words": "x",
                "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
        assert shop.put(f"/photos/{new_id()}", body).status_code in (404, 422)

    @pytest.mark.parametrize("headers", [{"host": "[bad"}, {"origin": "http://[bad"}])
    def test_a_header_that_is_no_address(self, client, headers):
        assert client.get("/api/board", headers=headers).status_code == 403


class TestFiles:
    def test_a_pull_of_a_design_in_any_script_goes_out(self, shop):
        job = shop.job(4, "whole_job")
        source, named = shop.builds(job)[0]["id"], new_id()
        copied = {"person_id": shop.person, "copy_of": source, "name": "Этап 2 – “Größe”"}
        shop.kept(shop.put(f"/build-copies/{named}", copied))
        rows = "\n".join(f"{2000 + 100 * n},{150 + n}" for n in range(20))
        pull = shop.kept(shop.pull(job, named, f"rpm,torque [N m]\n{rows}".encode()))["id"]
        answer = shop.client.get(f"/api/pulls/{pull}.csv")
        assert answer.status_code == 200
        assert "filename*=UTF-8''%D0%AD" in answer.headers["content-disposition"]

    @pytest.mark.parametrize(
        "content",
        [b"[" * 100_000, b'{"format": "elvarn-shelf-1", "parts": 3}', b'{"format": "elvarn-shelf-1", "parts": [3]}',
         b'{"format": "elvarn-shelf-1", "parts": [{"kind": 1, "name": {}}]}',
         b'{"format": "elvarn-shelf-1", "parts": [{"kind": "tube", "name": "x", "mass_kg": "heavy"}]}'],
    )  # fmt: skip
    def test_a_shelf_that_is_none_is_told(self, shop, content):
        query = {"name": "shelf.json", "person_id": shop.person, "bench_id": shop.bench}
        answer = shop.client.post("/api/shelf/import", params=query, content=content)
        assert answer.status_code == 422
        assert answer.json()["detail"]


class TestWhole:
    @pytest.mark.parametrize("figure", [2**31, 2**63, -(2**31) - 1, 10**30])
    def test_a_count_that_no_column_holds(self, shop, job, figure):
        assert shop.flow(*job, figure, "201.6").status_code == 422
        body = {"person_id": shop.person, "kind": "port_by_post", "part": "M", "runner_count": figure}
        assert shop.put(f"/jobs/{new_id()}", body).status_code == 422
        answer = shop.client.patch(f"/api/jobs/{job[0]}", json={"version": figure, "title": "x", "customer": None,
            "use": None, "band_low_rpm": figure, "band_high_rpm": None, "due_on": None, "standard": "observed",
            "note": ""})  # fmt: skip
        assert answer.status_code in (409, 422)

    def test_a_field_that_is_not_known_is_named(self, shop, job):
        body = {"person_id": shop.person, "job_id": job[0], "bench_id": shop.bench, "depression": "28",
                "air_temprature_c": 21}  # fmt: skip
        refused(shop.put(f"/setups/{new_id()}", body), "air_temprature_c")

    def test_every_body_refuses_what_it_does_not_know(self, client):
        document = client.get("/api/openapi.json").json()
        schemas = document["components"]["schemas"]
        open_bodies = set()
        for path, methods in document["paths"].items():
            for method in methods.values():
                body = method.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {})
                name = body.get("$ref", "").rsplit("/", 1)[-1]
                if name and not path.startswith("/api/calc") and schemas[name].get("additionalProperties") is not False:
                    open_bodies.add(name)
        assert open_bodies == set()


def test_a_reading_that_is_replaced_is_one_of_this_runner(shop, job):
    other = shop.job()
    setup, state = shop.setup(other), shop.sheet(other)["before_state_id"]
    shop.kept(shop.flow(other, setup, state, 1, "190"))
    theirs = shop.sheet(other)["rungs"][0]["before"]["readings"][0]["id"]
    assert shop.flow(*job, 1, "201.6", replaces=[theirs]).status_code in (404, 422)
    assert not shop.sheet(other)["rungs"][0]["before"]["readings"][0]["struck"]


def test_a_set_up_and_a_state_are_the_job_s_own(shop, job):
    other = shop.job()
    setup, state = shop.setup(other), shop.sheet(other)["before_state_id"]
    assert shop.flow(job[0], setup, job[2], 1, "201.6").status_code in (404, 422)
    assert shop.flow(job[0], job[1], state, 1, "201.6").status_code in (404, 422)


class TestOut:
    @pytest.fixture
    def falling(self, client):
        """The application with an address that falls."""
        app = client.app

        @app.get("/api/falls/{how}", include_in_schema=False)
        def falls(how: str) -> None:
            raise {
                "fault": RuntimeError("of Mrs Somebody"),
                "away": OperationalError("select", {}, Exception()),
                "full": OSError(28, "No space left on device"),
            }[how]

        app.router.routes.insert(0, app.router.routes.pop())
        yield TestClient(app, base_url="http://127.0.0.1", headers=bearer(KEY), raise_server_exceptions=False)
        app.router.routes.pop(0)

    def test_a_fault_of_ours_is_told_with_the_id_under_which_it_is_logged(self, falling, tmp_path):
        with log.open_log(tmp_path / "elvarn.log"):
            answer = falling.get("/api/falls/fault")
        structlog.reset_defaults()
        assert (answer.status_code, answer.json()["code"]) == (500, "failed")
        said = (tmp_path / "elvarn.log").read_text()
        told = json.loads(said)
        assert f"under {told['request']}." in answer.json()["detail"]
        assert (told["error"], told["method"], told["path"]) == ("RuntimeError", "GET", "/api/falls/fault")
        assert told["at"][-1].startswith("test_border.py:")
        assert "Somebody" not in answer.text + said

    def test_a_full_disk_is_told_with_what_to_do(self, falling):
        answer = falling.get("/api/falls/full")
        assert (answer.status_code, answer.json()["code"]) == (507, "no_room")
        assert "Make room" in answer.json()["detail"]

    def test_a_database_that_is_away_is_told_as_such(self, falling):
        answer = falling.get("/api/falls/away")
        assert (answer.status_code, answer.json()["code"]) == (503, "unavailable")
