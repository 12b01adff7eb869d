"""Requests that nobody would make: 300 here, 5,000 in `./elvarn perf --fuzz`."""

from fastapi.testclient import TestClient

from dev.asking import bearer
from dev.fuzz import fuzz, known_ids
from tests.shop import KEY

CASES = 300


def test_no_request_makes_the_server_fall(shop, client):
    job = shop.job()
    shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], (201, 199, 191, 203, 198))
    shop.cut(job)
    hardened = TestClient(client.app, base_url="http://127.0.0.1", headers=bearer(KEY), raise_server_exceptions=False)
    assert {"job_id", "person_id", "bench_id", "build_id", "before_state_id"} <= set(known_ids(hardened))
    tally = fuzz(hardened, client.app.openapi(), CASES)
    assert tally.fell == []
    assert sum(tally.answers.values()) >= CASES * 0.9
    assert {200, 404, 422} <= set(tally.answers)
    shop.get("/board")
    shop.sheet(job)
