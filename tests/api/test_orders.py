"""Parts wanted over all jobs: what lies here, what is promised, ordered and left over, and the one order list."""

from datetime import date, timedelta

import pytest

from tests.api.test_shelf import part, said
from tests.shop import new_id


def wanted(shop, identifier, job=None, count=1):
    want = new_id()
    body = {"person_id": shop.person, "part_id": identifier, "job_id": job, "count": count}
    shop.kept(shop.put(f"/wants/{want}", body))
    return want


def step(shop, want, state, version=None, **more):
    if version is None:
        version = next(w["version"] for row in shop.get("/orders")["rows"] for w in row["wants"] if w["id"] == want)
    return shop.post(f"/wants/{want}/state", {"version": version, "state": state, **more})


def stock(shop, identifier):
    sheet = shop.get(f"/parts/{identifier}")
    counts = {name: sheet["stock"][name] for name in ("here", "promised", "ordered", "for_the_shelf")}
    return {**counts, "left_over": sheet["left_over"]}


def row(shop, identifier):
    return next((row for row in shop.get("/orders")["rows"] if row["part_id"] == identifier), None)


def words(found):
    return " ".join(piece["text"] for one in found["margin"] for piece in one["pieces"])


@pytest.fixture
def tube(shop):
    identifier, _ = part(shop, "tube", f"Tube {new_id()[:5]}")
    shop.kept(said(shop, identifier, price=120, lead_days=6, on_hand=1))
    return identifier


@pytest.fixture
def job(shop):
    return shop.job(title=f"job {new_id()[:5]}", due_on=str(date.today() + timedelta(days=20)))


def test_two_jobs_that_want_the_one_that_lies_here_leave_one_to_order(shop, tube, job):
    wanted(shop, tube, job)
    assert stock(shop, tube) == {"here": 1, "promised": 1, "ordered": 0, "for_the_shelf": 0, "left_over": 0}
    assert row(shop, tube)["to_order"] == 0
    wanted(shop, tube, shop.job(title="another"))
    found = row(shop, tube)
    assert (found["to_order"], found["left_over"], found["sum"]) == (1, -1, 120)
    assert len(found["wants"]) == 2


def test_a_part_goes_from_wanted_to_fitted_and_the_shelf_is_counted_along(shop, tube, job):
    want = wanted(shop, tube, job, 2)
    shop.kept(step(shop, want, "ordered"))
    found = row(shop, tube)
    assert (found["ordered"], found["to_order"], found["left_over"]) == (2, 0, 1)
    assert found["wants"][0]["expected_on"] == str(date.today() + timedelta(days=6))
    shop.kept(step(shop, want, "here"))
    assert stock(shop, tube)["here"] == 3
    shop.kept(step(shop, want, "fitted"))
    assert stock(shop, tube) == {"here": 1, "promised": 0, "ordered": 0, "for_the_shelf": 0, "left_over": 1}
    assert row(shop, tube) is None


def test_the_next_run_decides_when_a_part_is_here_until_its_places_are_ordered(shop, job):
    """Two places in a run in 12 days: its day counts, not the lead time; with both ordered nobody knows the next."""
    identifier, _ = part(shop, "tube", f"Tube {new_id()[:5]}")
    run = date.today() + timedelta(days=12)
    had = {"had": "run", "next_run_on": str(run), "run_places": 2}
    shop.kept(said(shop, identifier, price=120, lead_days=90, features=had))
    want = wanted(shop, identifier, job)
    found = row(shop, identifier)
    assert (found["lead_days"], found["order_by"]) == (12, str(run))
    shop.kept(step(shop, want, "ordered"))
    assert row(shop, identifier)["wants"][0]["expected_on"] == str(run)
    second = wanted(shop, identifier, job)
    shop.kept(step(shop, second, "ordered"))
    wanted(shop, identifier, job)
    found = row(shop, identifier)
    assert (found["to_order"], found["lead_days"], found["order_by"]) == (1, None, None)


def test_each_step_is_taken_back_with_what_it_did(shop, tube, job):
    want = wanted(shop, tube, job)
    for version, state in enumerate(("ordered", "here", "ordered", "wanted", "dropped", "wanted"), start=1):
        shop.kept(step(shop, want, state, version))
    assert stock(shop, tube) == {"here": 1, "promised": 1, "ordered": 0, "for_the_shelf": 0, "left_over": 0}
    assert row(shop, tube)["wants"][0]["expected_on"] is None


def test_what_is_set_aside_for_one_job_is_not_taken_for_another(shop, tube, job):
    first, second = wanted(shop, tube, job), wanted(shop, tube, shop.job())
    shop.kept(step(shop, first, "here"))
    answer = step(shop, second, "here")
    assert answer.status_code == 422
    assert "0 are not set aside. Order it." in answer.json()["detail"]


def test_more_than_lie_here_can_not_be_fitted(shop, tube, job):
    want = wanted(shop, tube, job)
    shop.kept(step(shop, want, "here"))
    shop.kept(said(shop, tube, on_hand=0))
    answer = step(shop, want, "fitted")
    assert (answer.status_code, answer.json()["path"]) == (422, "state")
    assert answer.json()["detail"].startswith("Only 0 of")


def test_steps_are_not_jumped_and_of_two_at_once_both_are_told(shop, tube, job):
    want = wanted(shop, tube, job)
    assert "can't be fitted at once" in step(shop, want, "fitted").json()["detail"]
    shop.kept(step(shop, want, "ordered", 1))
    answer = step(shop, want, "dropped", 1)
    assert (answer.status_code, answer.json()["code"]) == (409, "stale")


def test_for_the_shelf_itself_is_ordered_too_and_done_when_it_came(shop, tube):
    want = wanted(shop, tube, None, 3)
    found = row(shop, tube)
    assert (found["to_order"], found["sum"], found["wants"][0]["job"]) == (3, 360, "the shelf")
    shop.kept(step(shop, want, "ordered"))
    shop.kept(step(shop, want, "here"))
    assert stock(shop, tube)["here"] == 4
    assert row(shop, tube) is None


def test_of_a_job_that_is_put_away_nothing_is_wanted_until_it_is_taken_out(shop, tube, job):
    wanted(shop, tube, job)
    for archived, promised in ((True, 0), (False, 1)):
        version = shop.get(f"/jobs/{job}")["version"]
        shop.kept(shop.post(f"/jobs/{job}/away", {"version": version, "archived": archived}))
        assert stock(shop, tube)["promised"] == promised
        assert (row(shop, tube) is not None) == bool(promised)


def test_until_when_it_has_to_be_ordered_and_what_comes_too_late(shop, tube):
    soon = shop.job(title="soon", due_on=str(date.today() + timedelta(days=2)))
    shop.kept(said(shop, tube, on_hand=0))
    want = wanted(shop, tube, soon)
    found = row(shop, tube)
    assert (found["order_by"], found["overdue"]) == (str(date.today() - timedelta(days=4)), True)
    assert "had to be ordered by" in words(shop.get("/orders"))
    shop.kept(step(shop, want, "ordered"))
    assert row(shop, tube)["wants"][0]["late"]
    assert "is expected on" in words(shop.get("/orders"))


def test_without_a_lead_time_no_day_to_order_by_is_told(shop, tube, job):
    shop.kept(said(shop, tube, on_hand=0, lead_days=None))
    wanted(shop, tube, job)
    assert (row(shop, tube)["to_order"], row(shop, tube)["order_by"]) == (1, None)


def test_the_table_holds_what_the_list_shows(shop, tube, job):
    wanted(shop, tube, job, 4)
    found = row(shop, tube)
    lines = shop.client.get("/api/orders.csv").text.splitlines()
    assert any(f"{found['name']},tube,3,120,360,1,4,0,-3,6" in line for line in lines)


def test_one_that_lies_here_needs_no_waiting_among_the_candidates(shop, job):
    eight = shop.job(8, "whole_job", engine={"name": "eight", "layout": "vee", "bank_count": 2, "bore_mm": 100,
                                             "stroke_mm": 90, "limit_rpm": 6000})  # fmt: skip
    here, _ = part(shop, "tube", f"Here {new_id()[:5]}")
    shop.kept(said(shop, here, lead_days=9, on_hand=1))

    def candidate():
        found = shop.get(f"/jobs/{eight}/candidates", kind="tube")["candidates"]
        return next(c for c in found if c["part_id"] == here)

    assert (candidate()["at_hand"], candidate()["lead_days"]) == (1, 0)
    wanted(shop, here, job)
    assert (candidate()["at_hand"], candidate()["lead_days"]) == (0, 9)


@pytest.mark.parametrize("count", [0, -1, 1001])
def test_a_number_that_can_not_be_wanted_is_refused_in_place(shop, tube, count):
    body = {"person_id": shop.person, "part_id": tube, "count": count}
    answer = shop.put(f"/wants/{new_id()}", body)
    assert (answer.status_code, answer.json()["path"]) == (422, "count")


def test_a_number_that_can_not_lie_here_is_refused_in_place(shop, tube):
    answer = said(shop, tube, on_hand=-2)
    assert (answer.status_code, answer.json()["path"]) == (422, "on_hand")
