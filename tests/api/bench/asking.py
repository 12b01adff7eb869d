"""What tests of the bench say and ask over HTTP."""

from datetime import datetime, timedelta

from tests.shop import new_id

FIVE = (201.6, 199.1, 191.4, 203.0, 198.7)
DAY = datetime.fromisoformat("2026-03-02T09:00:00+00:00")


def at(days=0, minutes=0):
    return (DAY + timedelta(days=days, minutes=minutes)).isoformat()


def check(shop, bench, kind, typed, setup=None, **more):
    body = {"person_id": shop.person, "kind": kind, "bench_id": bench, "setup_id": setup, "typed": typed,
            "taken_at": at(), **more}  # fmt: skip
    return shop.put(f"/checks/{new_id()}", body)


def words(sheet):
    return " ".join("".join(piece["text"] for piece in one["pieces"]) for one in sheet["margin"])


def mean(sheet, runner=1, side="before"):
    return sheet["rungs"][runner - 1][side]["mean"]["value"]


def read(shop, job, setup, figures=FIVE, **more):
    state = shop.sheet(job)["before_state_id"]
    shop.series(job, setup, state, figures, **more)
    return state
