"""Steps of port work that have an order, who does them when, what is outside, and what the board makes of it."""

from datetime import date, timedelta

import pytest

from tests.shop import new_id

AT = "2026-03-05T09:00:00Z"
TODAY = date.today()


class Steps:
    """A job with short ways to put steps on its list of port work."""

    def __init__(self, shop):
        self.shop = shop
        self.job = shop.job(title="Box of seven")

    def add(self, work=None, **more):
        identifier = new_id()
        body = {"person_id": self.shop.person, "job_id": self.job, "rail_step": "port", "work": work, **more}
        self.shop.kept(self.shop.put(f"/steps/{identifier}", body))
        return identifier

    def done(self, step, version=1, **more):
        body = {"version": version, "person_id": self.shop.person, "state": "done", "at": AT, **more}
        return self.shop.client.patch(f"/api/steps/{step}", json=body)

    def plan(self, step, version=1, **more):
        body = {"version": version, "person_id": self.shop.person, **more}
        return self.shop.client.patch(f"/api/steps/{step}/plan", json=body)

    def sheet(self):
        return self.shop.get(f"/jobs/{self.job}/steps/port")

    def card(self):
        columns = self.shop.get("/board")["columns"]
        return next(job for column in columns for job in column["jobs"] if job["id"] == self.job)


@pytest.fixture
def steps(shop):
    return Steps(shop)


def day(off):
    return str(TODAY + timedelta(days=off))


class TestOrder:
    def test_a_work_is_called_by_its_name_and_what_it_asks_for_is_told(self, steps):
        steps.add("weld")
        sheet = steps.sheet()
        assert sheet["steps"][0]["title"] == "Weld"
        assert [(one["work"], one["because"]) for one in sheet["lacking"]] == [
            ("clean", "weld"), ("leak test the plenum", "weld"), ("check every face for flatness", "weld")
        ]  # fmt: skip

    def test_matching_before_welding_is_asked_about_and_flagged(self, steps):
        steps.add("weld")
        match = steps.add("match the opening")
        assert steps.sheet()["steps"][1]["waits_for"] == "weld"
        asked = steps.done(match)
        assert (asked.status_code, asked.json()["code"]) == (422, "too_early")
        assert "Match the opening comes after: weld, not done yet." in asked.json()["detail"]
        steps.shop.kept(steps.done(match, accepted=["too_early"]))
        assert steps.sheet()["steps"][1]["doubts"] == ["before: weld"]

    def test_in_order_nothing_is_asked(self, steps):
        weld, match = steps.add("weld"), steps.add("match the opening")
        steps.shop.kept(steps.done(weld))
        steps.shop.kept(steps.done(match))
        assert [one["doubts"] for one in steps.sheet()["steps"]] == [[], []]

    def test_the_rest_stands_in_an_order_that_holds(self, steps):
        for work in ("coat", "match the opening", "weld"):
            steps.add(work)
        assert steps.sheet()["in_order"] == ["weld", "match the opening", "coat"]

    def test_a_work_nobody_knows_is_refused(self, steps):
        body = {"person_id": steps.shop.person, "job_id": steps.job, "rail_step": "port", "work": "pray"}
        answer = steps.shop.put(f"/steps/{new_id()}", body)
        assert answer.status_code == 422
        assert "'pray' is no work that has an order" in answer.json()["detail"]

    def test_other_steps_of_the_rail_have_no_such_list(self, steps):
        assert steps.shop.get(f"/jobs/{steps.job}/steps/fit")["works"] == []

    def margin(self, steps, screen):
        sheet = steps.shop.get(f"/jobs/{steps.job}/{screen}")
        return ["".join(piece["text"] for piece in one["pieces"]) for one in sheet["margin"]]

    def test_port_work_tells_what_is_lacking_and_what_was_out_of_order(self, steps):
        steps.add("weld")
        steps.shop.kept(steps.done(steps.add("match the opening"), accepted=["too_early"]))
        told = self.margin(steps, "port")
        assert any("Out of order: match the opening was done before: weld" in one for one in told)
        assert any("leak test the plenum (for: weld)" in one for one in told)

    def test_the_bench_asks_for_what_comes_before_a_reading(self, steps):
        steps.add("clean")
        steps.shop.kept(steps.done(steps.add("blast")))
        told = self.margin(steps, "bench")
        assert any("Blasted and not blown out" in one for one in told)
        assert any("Not cleaned yet" in one for one in told)
        steps.shop.kept(steps.done(steps.add("blow out")))
        assert not any("Blasted" in one for one in self.margin(steps, "bench"))


class TestPlan:
    def test_who_does_it_and_when_stands_on_the_board_today(self, steps, shop):
        step = steps.add("weld")
        shop.kept(steps.plan(step, assigned_to_id=shop.person, planned_on=day(0)))
        [line] = [one for one in shop.get("/board")["today"] if one["job_id"] == steps.job]
        assert (line["says"], line["job"], line["running"], line["since"]) == ("Weld", "Box of seven", False, None)
        assert line["person"]

    def test_what_was_planned_earlier_says_since_when_and_later_is_not_today(self, steps, shop):
        old, later = steps.add("weld"), steps.add("coat")
        shop.kept(steps.plan(old, planned_on=day(-2)))
        shop.kept(steps.plan(later, planned_on=day(1)))
        lines = [one for one in shop.get("/board")["today"] if one["job_id"] == steps.job]
        assert [(one["says"], one["person"], one["since"]) for one in lines] == [("Weld", "", day(-2))]

    def test_what_is_done_is_not_today_any_more(self, steps, shop):
        step = steps.add("weld")
        shop.kept(steps.plan(step, planned_on=day(0)))
        shop.kept(steps.done(step, version=2))
        assert [one for one in shop.get("/board")["today"] if one["job_id"] == steps.job] == []

    def test_what_is_outside_and_overdue_makes_the_job_late(self, steps, shop):
        step = steps.add("coat")
        shop.kept(steps.plan(step, outside="Lakkhuset", due_back_on=day(2)))
        card = steps.card()
        assert (card["out"], card["back_on"], card["late"]) == ("Coat at Lakkhuset", day(2), False)
        shop.kept(steps.plan(step, version=2, outside="Lakkhuset", due_back_on=day(-1)))
        card = steps.card()
        assert card["late"] is True
        assert card["overdue"].startswith("Coat at Lakkhuset was due back ")
        shop.kept(steps.done(step, version=3))
        assert steps.card()["late"] is False

    @pytest.mark.parametrize(
        ("given", "says"),
        [
            ({"due_back_on": "2026-12-01"}, "Say with whom it is outside"),
            ({"outside": "Nord", "planned_on": "2026-12-04", "due_back_on": "2026-12-01"}, "before it goes out"),
            ({"planned_on": "1926-12-04"}, "not in this century"),
            ({"assigned_to_id": new_id()}, "There is no person"),
        ],
    )
    def test_a_plan_that_can_not_be_is_refused(self, steps, given, says):
        answer = steps.plan(steps.add("coat"), **given)
        assert answer.status_code in (404, 422)
        assert says in answer.json()["detail"]

    def test_a_plan_on_an_old_version_shows_both(self, steps, shop):
        step = steps.add("coat")
        shop.kept(steps.plan(step, planned_on=day(1)))
        assert steps.plan(step, planned_on=day(2)).status_code == 409

    def test_a_running_watch_is_work_of_today(self, steps, shop):
        part = shop.get(f"/jobs/{steps.job}/port")["part_id"]
        state = new_id()
        begun = {"person_id": shop.person, "part_id": part, "stage": 2, "in_work": True}
        shop.kept(shop.put(f"/states/{state}", begun))
        body = {"person_id": shop.person, "job_id": steps.job, "part_state_id": state, "cylinder": 2,
                "round": "carbide", "at": AT}  # fmt: skip
        shop.kept(shop.put(f"/port-passes/{new_id()}", body))
        [line] = [one for one in shop.get("/board")["today"] if one["job_id"] == steps.job]
        assert (line["says"], line["running"]) == ("carbide, runner 2", True)
