"""Writes that come twice, at once; edits that meet; what is kept in memory."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from threading import Barrier
from types import SimpleNamespace

import pytest
from sqlalchemy import text

from elvarn.service.kernel.errors import Stale
from elvarn.service.kernel.sentences import listed, sentence
from elvarn.service.kernel.writes import digest_of, edit
from elvarn.store.engine import open_engine
from tests.shop import new_id


@dataclass(frozen=True)
class Command:
    name: str
    figures: list[float]


def test_a_digest_is_of_the_content_alone():
    assert digest_of(Command("a", [1.0])) == digest_of(Command("a", [1.0]))
    assert digest_of(Command("a", [1.0])) != digest_of(Command("a", [1.5]))


def test_the_same_request_sent_by_many_at_once_is_kept_once(shop):
    job = shop.job()
    setup, state, identifier = shop.setup(job), shop.sheet(job)["before_state_id"], new_id()
    body = shop.flow_body(job, setup, state, 1, "200.0")
    together = Barrier(8)

    def send(_):
        together.wait()
        return shop.put(f"/flow-readings/{identifier}", body).status_code

    with ThreadPoolExecutor(8) as pool:
        assert list(pool.map(send, range(8))) == [200] * 8
    assert len(shop.sheet(job)["rungs"][0]["before"]["readings"]) == 1


def test_of_many_figures_of_one_runner_at_once_one_is_kept_and_the_others_are_asked(shop):
    job = shop.job()
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    together = Barrier(8)

    def send(number):
        together.wait()
        answer = shop.flow(job, setup, state, 1, f"{200 + number / 10}")
        return "kept" if answer.status_code == 200 else answer.json()["code"]

    with ThreadPoolExecutor(8) as pool:
        assert sorted(pool.map(send, range(8))) == ["already_read"] * 7 + ["kept"]


def test_connections_that_the_database_ended_cost_no_figure(shop, engine):
    job = shop.job()
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    shop.kept(shop.flow(job, setup, state, 1, "201.6"))
    other = open_engine(engine.url.render_as_string(hide_password=False))
    with other.connect() as connection:
        ours = "pid <> pg_backend_pid() and datname = current_database()"
        gone = f"select pg_terminate_backend(pid) from pg_stat_activity where {ours}"
        connection.execute(text(gone))
    other.dispose()
    shop.kept(shop.flow(job, setup, state, 2, "199.1"))
    assert shop.sheet(job)["rungs"][1]["before"]["mean"]["value"] == pytest.approx(199.1)


def test_of_many_edits_on_one_version_one_counts(shop, client):
    job = shop.job()
    view = shop.get(f"/jobs/{job}")
    names = ("version", "title", "customer", "use", "band_low_rpm", "band_high_rpm", "due_on", "standard", "note")
    body = {name: view[name] for name in names}

    def change(number):
        return client.patch(f"/api/jobs/{job}", json={**body, "note": f"edit {number}"}).status_code

    with ThreadPoolExecutor(6) as pool:
        answers = sorted(pool.map(change, range(6)))
    assert answers == [200, 409, 409, 409, 409, 409]
    assert shop.get(f"/jobs/{job}")["version"] == view["version"] + 1


def test_an_edit_moves_the_version_on_and_a_stale_one_changes_nothing():
    row = SimpleNamespace(version=3, title="old")
    edit(row, 3, {"title": "new"}, "job")
    assert (row.version, row.title) == (4, "new")
    with pytest.raises(Stale) as caught:
        edit(row, 3, {"title": "late"}, "job")
    assert caught.value.current == {"title": "new", "version": 4}
    assert caught.value.yours == {"title": "late", "version": 3}
    assert row.title == "new"


def test_sentences_lead_to_what_they_rest_on():
    pieces = sentence("Runner [3](rung-3) is behind.", "computed").pieces
    assert [(piece.text, piece.target) for piece in pieces] == [
        ("Runner ", None),
        ("3", "rung-3"),
        (" is behind.", None),
    ]
    assert listed(["1", "2", "4"]) == "1, 2 and 4"
