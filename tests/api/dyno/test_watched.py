"""A folder into which a dyno's program writes: what is new in it is offered, nothing in it is touched."""

import os
import time

import pytest
from fastapi.testclient import TestClient

from dev.asking import bearer
from elvarn.api.app import create_app
from tests.api.dyno.asking import STOCK, content
from tests.api.dyno.test_logs import kept, log
from tests.conftest import ROOT
from tests.shop import KEY, Shop


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    return tmp_path_factory.mktemp("watched")


@pytest.fixture(scope="module")
def client(engine, data_folder, folder):
    app = create_app(engine, data_folder / "files", ROOT / "build" / "fonts", KEY, watch=folder)
    with TestClient(app, base_url="http://127.0.0.1", headers=bearer(KEY)) as client:
        yield client


@pytest.fixture(scope="module")
def shop(client):
    return Shop(client)


def written(folder, name, data, seconds_ago=10.0):
    (folder / name).write_bytes(data)
    at = time.time() - seconds_ago
    os.utime(folder / name, (at, at))


def offered(shop):
    return [one["name"] for one in shop.get("/dyno/watched")["files"]]


def test_what_comes_is_offered_once_it_is_whole(shop, folder):
    written(folder, "run 1.csv", content(STOCK))
    written(folder, "being written.csv", content(STOCK + 1), seconds_ago=-60)
    written(folder, "notes.doc", b"words")
    written(folder, "empty.csv", b"")
    (folder / "link.csv").symlink_to("/etc/passwd")
    (folder / "sub.csv").mkdir()
    assert offered(shop) == ["run 1.csv"]


def test_it_is_looked_at_and_kept_like_a_dropped_one(shop, folder, job):
    identifier, stock, _ = job
    written(folder, "run 2.csv", content(STOCK + 2))
    (one,) = [one for one in shop.get("/dyno/watched")["files"] if one["name"] == "run 2.csv"]
    seen = shop.kept(shop.post(f"/dyno/watched/{one['digest']}/preview", {}))
    assert (seen["digest"], seen["name"], len(seen["runs"])) == (one["digest"], "run 2.csv", 1)
    shop.kept(shop.pull(identifier, stock, content(STOCK + 2)))
    assert "run 2.csv" not in offered(shop)
    assert (folder / "run 2.csv").exists()


def test_a_log_that_was_kept_is_not_offered_again(shop, folder, job):
    written(folder, "log 1.csv", log(4.0))
    assert "log 1.csv" in offered(shop)
    shop.kept(kept(shop, job[0], job[1], log(4.0))[1])
    assert "log 1.csv" not in offered(shop)


def test_what_is_left_out_stays_out_and_where_it_is(shop, folder):
    written(folder, "run 3.csv", content(STOCK + 3))
    (one,) = [one for one in shop.get("/dyno/watched")["files"] if one["name"] == "run 3.csv"]
    for _ in range(2):
        assert shop.post("/dyno/watched/left", {"digest": one["digest"]}).status_code == 200
    assert "run 3.csv" not in offered(shop)
    assert (folder / "run 3.csv").exists()
    written(folder, "run 3.csv", content(STOCK + 4), seconds_ago=5)
    assert "run 3.csv" in offered(shop)


def test_a_file_that_has_gone_is_said(shop, folder):
    written(folder, "run 5.csv", content(STOCK + 5))
    (one,) = [one for one in shop.get("/dyno/watched")["files"] if one["name"] == "run 5.csv"]
    (folder / "run 5.csv").unlink()
    answer = shop.post(f"/dyno/watched/{one['digest']}/preview", {})
    assert answer.status_code == 404
    assert "has gone from the folder" in answer.json()["detail"]


def test_a_folder_that_can_not_be_read_is_said(engine, data_folder, tmp_path):
    app = create_app(engine, data_folder / "files", ROOT / "build" / "fonts", KEY, watch=tmp_path / "nowhere")
    client = TestClient(app, base_url="http://127.0.0.1", headers=bearer(KEY))
    told = client.get("/api/dyno/watched").json()
    assert told["files"] == []
    assert "can't be read" in told["problem"]


def test_without_a_folder_nothing_is_watched(engine, data_folder):
    app = create_app(engine, data_folder / "files", ROOT / "build" / "fonts", KEY)
    client = TestClient(app, base_url="http://127.0.0.1", headers=bearer(KEY))
    assert client.get("/api/dyno/watched").json() is None
    assert client.post(f"/api/dyno/watched/{'0' * 64}/preview", json={}).status_code == 404
