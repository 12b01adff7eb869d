"""The board in pages: no job stands twice, none is left out, and what is due first comes first."""

from datetime import date, timedelta

import pytest
from sqlalchemy import text
from sqlalchemy.exc import OperationalError

from elvarn.service.desk import board as desk_board
from elvarn.service.desk.board import PAGE, SPOILED
from tests.shop import Shop

MORE = 3


def cards(board):
    return [card for column in board["columns"] for card in column["jobs"]]


@pytest.fixture(scope="module")
def jobs(shop):
    """More jobs than a page holds, made in another order than they are due; by the day they are due."""
    days = [date(2026, 3, 1) + timedelta(days=number * 7 % (PAGE + MORE)) for number in range(PAGE + MORE)]
    made = {day: shop.job(due_on=day.isoformat()) for day in days}
    return [made[day] for day in sorted(made)]


def test_a_page_holds_the_jobs_that_are_due_first(shop, jobs):
    first, second = shop.get("/board"), shop.get("/board", page=2)
    assert {card["id"] for card in cards(first)} == set(jobs[:PAGE])
    assert {card["id"] for card in cards(second)} == set(jobs[PAGE:])
    assert [(b["page"], b["pages"], b["first"], b["count"]) for b in (first, second)] == [
        (1, 2, 1, PAGE + MORE),
        (2, 2, PAGE + 1, PAGE + MORE),
    ]


def test_behind_the_last_page_stands_the_last(shop, jobs):
    assert cards(shop.get("/board", page=9)) == cards(shop.get("/board", page=2))


def test_a_job_that_can_not_be_shown_spoils_its_own_card_alone(shop, jobs, monkeypatch):
    bad, sound = shop.job(due_on="2026-01-01"), desk_board._card

    def falling(record, preset):
        if str(record.job.id) == bad:
            raise OverflowError("a figure that no screen can hold")
        return sound(record, preset)

    monkeypatch.setattr(desk_board, "_card", falling)
    found = cards(shop.get("/board"))
    assert len(found) == PAGE
    assert {card["id"]: card["next"] for card in found}[bad] == SPOILED
    assert SPOILED not in {card["next"] for card in found if card["id"] != bad}


def test_a_database_that_is_away_spoils_no_card(shop, monkeypatch):
    job, sound = shop.job(due_on="2025-12-31"), desk_board._card

    def away(record, preset):
        raise OperationalError("select", {}, ConnectionError("gone"))

    monkeypatch.setattr(desk_board, "_card", away)
    assert shop.client.get("/api/board", params={"units": "trade"}).status_code == 503
    monkeypatch.setattr(desk_board, "_card", sound)
    assert next(card for card in cards(shop.get("/board")) if card["id"] == job)["next"] != SPOILED


@pytest.mark.parametrize("at", ["0001-01-01 00:00+14", "20000-01-01 00:00+00"])
def test_a_reading_at_a_time_of_no_calendar_is_shown_and_can_be_struck_out(shop, owner, at):
    """A database of before the bounds may hold one."""
    bad = shop.job(due_on="2026-01-02")
    shop.kept(shop.flow(bad, shop.setup(bad), shop.sheet(bad)["before_state_id"], 1, "201.6"))
    with owner.begin() as connection:
        connection.execute(text("set local session_replication_role = replica"))  # as if no rule had been there
        connection.execute(text("alter table reading drop constraint if exists ck_reading_taken_at"))
        then = "update reading set taken_at = cast(:at as timestamptz) where job_id = cast(:job as uuid)"
        connection.execute(text(then), {"job": bad, "at": at})
        connection.execute(text("update job set revision = revision + 1 where id = cast(:job as uuid)"), {"job": bad})
    assert {card["id"]: card["next"] for card in cards(shop.get("/board"))}[bad] != SPOILED
    reading = shop.sheet(bad)["rungs"][0]["before"]["readings"][0]
    assert reading["taken_at"][:4] in ("0001", "9999")
    for sheet in ("", "/sheet", "/tests", "/checkin"):
        shop.get(f"/jobs/{bad}{sheet}")
    strike = {"person_id": shop.person, "reason": "no such day", "struck_at": "2026-03-02T09:00:00Z"}
    shop.kept(shop.put(f"/strikes/{reading['id']}", strike))
    assert shop.sheet(bad)["rungs"][0]["before"]["mean"] is None


@pytest.mark.parametrize("page", ["0", "-1", "two"])
def test_a_page_that_is_none_is_refused(client, page):
    answer = client.get("/api/board", params={"page": page})
    assert (answer.status_code, answer.json()["path"]) == (422, "query.page")


def test_what_is_late_or_waits_for_a_decision_comes_first_and_says_so(client):
    """A shop of its own: one job late, one with two builds to choose between, one with neither."""
    shop = Shop(client)
    plain = shop.job(due_on="2026-01-05")
    late = next(card for card in cards(shop.get("/board")) if card["id"] == plain)
    assert late["late"]
    chosen = shop.job(
        4, "whole_job", title="Two ways", engine={"name": "four", "layout": "inline"}, due_on="2099-01-01"
    )
    build = shop.builds(chosen)[0]["id"]
    for name in ("long", "wide"):
        shop.varied(chosen, build, "tube", shop.part("tube", name), name)
    found = [card for column in shop.get("/board", page=2)["columns"] for card in column["jobs"]]
    card = next(card for card in found if card["id"] == chosen)
    assert (card["waits"], card["late"]) == ("choose: long and wide", False)


def test_a_job_with_nothing_measured_never_says_done(shop):
    for kind in ("whole_job", "port_by_post", "comparison", "tube", "fit"):
        job = shop.job(kind=kind, due_on="2099-01-02")
        rail = shop.get(f"/jobs/{job}")["rail"]
        assert not [step for step in rail if step["status"] in ("done", "measured")], kind
