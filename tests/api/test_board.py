"""The board in pages: no job stands twice, none is left out, and what is due first comes first."""

from datetime import date, timedelta

import pytest

from elvarn.service.desk.board import PAGE

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


@pytest.mark.parametrize("page", ["0", "-1", "two"])
def test_a_page_that_is_none_is_refused(client, page):
    answer = client.get("/api/board", params={"page": page})
    assert (answer.status_code, answer.json()["path"]) == (422, "query.page")
