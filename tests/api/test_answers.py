"""A page that has an answer already is told so, and never after something was written."""

import pytest

from tests.shop import new_id

NOTE = {"rail_step": "port", "title": "80 grit"}


def addresses(job):
    return ("/board", f"/jobs/{job}", f"/jobs/{job}/checkin", f"/jobs/{job}/bench", f"/jobs/{job}/steps/port",
            f"/jobs/{job}/dyno", f"/jobs/{job}/sheet", f"/jobs/{job}/tests", "/shelf", "/shop")  # fmt: skip


def test_an_answer_that_stands_is_not_sent_again(client, shop):
    job = shop.job(kind="whole_job")
    for address in addresses(job):
        first = client.get(f"/api{address}")
        again = client.get(f"/api{address}", headers={"if-none-match": first.headers["etag"]})
        assert (first.status_code, again.status_code, again.content) == (200, 304, b""), address
        assert again.headers["etag"] == first.headers["etag"]
        assert first.headers["cache-control"] == "no-cache"


def test_a_write_is_seen_at_once(client, shop):
    job = shop.job()
    tag = client.get(f"/api/jobs/{job}/steps/port").headers["etag"]
    shop.kept(shop.put(f"/steps/{new_id()}", {"person_id": shop.person, "job_id": job, **NOTE}))
    answer = client.get(f"/api/jobs/{job}/steps/port", headers={"if-none-match": tag})
    assert answer.status_code == 200
    assert [task["title"] for task in answer.json()["steps"]] == ["80 grit"]


def test_units_and_wanted_gain_have_answers_of_their_own(client, shop):
    job = shop.job()
    shop.setup(job)
    asked = [{"units": "trade"}, {"units": "metric"}, {"units": "trade", "wanted_percent": 3}]
    answers = [client.get(f"/api/jobs/{job}/bench", params=one).json() for one in asked]
    assert [answer["unit"] for answer in answers] == ["CFM", "m³/h", "CFM"]


@pytest.mark.parametrize("address", ["", "/bench", "/dyno", "/sheet", "/checkin"])
def test_what_is_not_there_is_told_and_not_kept(client, address):
    answer = client.get(f"/api/jobs/{new_id()}{address}")
    assert answer.status_code == 404
    assert "etag" not in answer.headers
