"""The pass log over the API: a watch that runs on, rounds in their order, what was looked at."""

import pytest

from tests.api.test_port import Porting
from tests.shop import new_id


def at(minute):
    return f"2026-03-03T10:{minute:02}:00Z"


@pytest.fixture
def port(shop):
    found = Porting(shop, runners=2)
    assert found.start().status_code == 200
    return found


def begin(port, runner, round_, minute, **more):
    identifier = new_id()
    body = {"person_id": port.shop.person, "job_id": port.job, "part_state_id": port.state, "cylinder": runner,
            "round": round_, "at": at(minute), **more}  # fmt: skip
    return identifier, port.shop.put(f"/port-passes/{identifier}", body)


def act(port, identifier, version, what, minute, **more):
    body = {"version": version, "person_id": port.shop.person, "act": what, "at": at(minute), **more}
    return port.shop.client.patch(f"/api/port-passes/{identifier}", json=body)


def rounds(port):
    return {one["name"]: one for one in port.sheet()["passes"]["rounds"]}


def test_the_usual_recipe_has_its_rounds_by_name(port):
    assert list(rounds(port)) == ["carbide", "80 grit 1", "80 grit 2", "80 grit 3", "120 grit 1", "120 grit 2"]
    assert port.sheet()["passes"]["next_runner"] == 1


def test_a_watch_runs_stands_and_counts_what_it_ran(port):
    identifier, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    assert rounds(port)["carbide"]["passes"][0]["running_since"] is not None
    port.shop.kept(act(port, identifier, 1, "pause", 4))
    port.shop.kept(act(port, identifier, 2, "resume", 10))
    port.shop.kept(act(port, identifier, 3, "done", 13))
    one = rounds(port)["carbide"]["passes"][0]
    assert (one["seconds"], one["done"], one["running_since"]) == (7 * 60, True, None)
    assert rounds(port)["carbide"]["average_s"] == 7 * 60
    assert port.sheet()["passes"]["next_runner"] == 2


def test_beginning_on_another_runner_stops_the_first_watch(port):
    _, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    port.shop.kept(begin(port, 2, "carbide", 5)[1])
    first, second = sorted(rounds(port)["carbide"]["passes"], key=lambda one: one["runner"])
    assert (first["seconds"], first["running_since"]) == (300, None)
    assert second["running_since"] is not None


def test_a_round_begun_twice_goes_on(port):
    identifier, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    port.shop.kept(act(port, identifier, 1, "pause", 2))
    port.shop.kept(begin(port, 1, "carbide", 6)[1])
    assert len(rounds(port)["carbide"]["passes"]) == 1
    port.shop.kept(act(port, identifier, 3, "pause", 7))
    assert rounds(port)["carbide"]["passes"][0]["seconds"] == 180


def test_the_next_grit_waits_for_all_runners_or_is_said_to_be_meant(port):
    identifier, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    port.shop.kept(act(port, identifier, 1, "done", 4))
    asked = begin(port, 1, "80 grit 1", 5)[1]
    assert asked.status_code == 422
    assert "carbide isn't done on runner 2: each pass goes round all runners" in asked.json()["detail"]
    assert asked.json()["offers"][0]["patch"] == {"round": "carbide", "cylinder": 2}
    port.shop.kept(begin(port, 1, "80 grit 1", 5, accepted=["out_of_order"])[1])


def test_what_was_looked_at_is_kept(port):
    identifier, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    port.shop.kept(act(port, identifier, 1, "look", 1, inspected=["finger", "lamp"]))
    assert rounds(port)["carbide"]["passes"][0]["inspected"] == ["finger", "lamp"]
    refused = act(port, identifier, 2, "look", 1, inspected=["nose"])
    assert "'nose' is no way to inspect" in refused.json()["detail"]


def test_a_stale_watch_is_told(port):
    identifier, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    port.shop.kept(act(port, identifier, 1, "pause", 1))
    assert act(port, identifier, 1, "done", 2).status_code == 409


def test_what_cant_be_is_refused(port, shop):
    assert "no round '400 grit'" in begin(port, 1, "400 grit", 0)[1].json()["detail"]
    idle = Porting(shop, runners=2)
    assert "isn't in work. Start the stage first." in begin(idle, 1, "carbide", 0)[1].json()["detail"]
    identifier, answer = begin(port, 1, "carbide", 0)
    shop.kept(answer)
    assert "'skip' is nothing to do with a pass" in act(port, identifier, 1, "skip", 1).json()["detail"]


def test_runners_in_the_jet_come_first(port):
    port.shop.kept(port.plan(jet_runners=[2])[1])
    sheet = port.sheet()
    assert sheet["passes"]["next_runner"] == 2
    assert [runner["jet"] for runner in sheet["runners"]] == [False, True]


class TestRest:
    """How long the rest takes, by the shop's own log."""

    def own(self, port, **more):
        rounds = {"recipe": {"name": "ours", "rounds": [{"name": "burr", **more}]}, "material": "iron"}
        port.shop.kept(port.plan(**rounds)[1])

    def test_nothing_known_says_what_to_do(self, port):
        assert port.sheet()["passes"]["rest"] == "no time known yet: log a round, or plan its minutes (T)"

    def test_as_planned_with_half_of_it_unsure(self, port):
        self.own(port, minutes=30)
        assert port.sheet()["passes"]["rest"] == "rest about 1 h 00 min ±30 min, as planned"

    def test_by_the_log_of_other_jobs_of_this_material(self, port, shop):
        self.own(port, minutes=30)
        for minutes in (10, 12, 14):
            other = Porting(shop, runners=1)
            self.own(other)
            assert other.start().status_code == 200
            identifier, answer = begin(other, 1, "burr", 0)
            shop.kept(answer)
            shop.kept(act(other, identifier, 1, "done", minutes))
        assert port.sheet()["passes"]["rest"].startswith("rest about 24 min ±16 min, from 3 logged passes")

    def test_it_says_when_the_job_is_due(self, shop):
        port = Porting(shop, runners=1, due_on="2030-06-28")
        assert port.start().status_code == 200
        assert port.sheet()["passes"]["rest"].endswith("due 28 Jun")


class TestRecipe:
    def rounds(self, *given):
        return {"recipe": {"name": "ours", "finish": "mirror", "rounds": list(given)}}

    def shop_has(self, port, *given, **more):
        body = {"person_id": port.shop.person, **self.rounds(*given), **more}
        return port.shop.put(f"/port-recipes/{new_id()}", body)

    def test_the_shop_keeps_versions_and_a_job_the_one_that_it_took(self, port, shop):
        first = ({"name": "burr", "minutes": 6}, {"name": "P80", "grit": 80})
        shop.kept(self.shop_has(port, *first))
        [known] = port.sheet()["plan"]["recipes"]
        assert (known["number"], known["recipe"]["name"]) == (1, "ours")
        shop.kept(port.plan(recipe={**known["recipe"], "number": 1})[1])
        assert port.sheet()["plan"]["newer"] == ""
        shop.kept(self.shop_has(port, *first, {"name": "P120", "grit": 120}))
        plan = port.sheet()["plan"]
        assert [one["number"] for one in plan["recipes"]] == [2]
        assert plan["newer"] == "This job keeps version 1 of it; the shop has version 2."
        assert [one["name"] for one in plan["recipe"]["rounds"]] == ["burr", "P80"]

    def test_a_recipe_that_says_nothing_new_is_no_new_version(self, port, shop):
        for _ in range(2):
            body = {"person_id": shop.person, "recipe": {"name": "Burr alone", "rounds": [{"name": "burr"}]}}
            shop.kept(shop.put(f"/port-recipes/{new_id()}", body))
        known = {one["recipe"]["name"]: one["number"] for one in port.sheet()["plan"]["recipes"]}
        assert known["Burr alone"] == 1

    def test_a_recipe_of_the_shop_is_asked_about_as_a_job_s_is(self, port, shop):
        given = ({"name": "80", "grit": 80}, {"name": "240", "grit": 240})
        assert self.shop_has(port, *given).json()["code"] == "skipped_grit"
        shop.kept(self.shop_has(port, *given, accepted=["skipped_grit"]))
        body = {"person_id": shop.person, "recipe": {"name": " ", "rounds": [{"name": "burr"}]}}
        assert "Name the recipe" in shop.put(f"/port-recipes/{new_id()}", body).json()["detail"]

    def test_a_job_keeps_its_own(self, port):
        own = self.rounds({"name": "burr", "minutes": 6}, {"name": "P80", "grit": 80, "times": 2})
        port.shop.kept(port.plan(**own)[1])
        passes = port.sheet()["passes"]
        assert (passes["recipe"], passes["finish"]) == ("ours", "mirror")
        assert [(one["name"], one["planned_s"]) for one in passes["rounds"]] == [
            ("burr", 360), ("P80 1", None), ("P80 2", None)
        ]  # fmt: skip

    def test_a_skipped_grit_is_asked_about_and_may_be_meant(self, port):
        own = self.rounds({"name": "80 grit", "grit": 80}, {"name": "240 grit", "grit": 240})
        asked = port.plan(**own)[1]
        assert asked.status_code == 422
        assert "From 80 to 240 grit a step is skipped" in asked.json()["detail"]
        port.shop.kept(port.plan(**own, accepted=["skipped_grit"])[1])

    @pytest.mark.parametrize(
        ("rounds", "words"),
        [
            ([], "0 rounds can't be"),
            ([{"name": " "}], "A round has no name"),
            ([{"name": "burr", "times": 0}], "burr 0 times round can't be"),
            ([{"name": "burr"}, {"name": "burr"}], "Two rounds are called 'burr'"),
            ([{"name": "a", "grit": 80}, {"name": "b", "grit": 90}], "Grit 90 (P) is not known"),
            ([{"name": "a", "grit": 80, "system": "JIS"}], "numbers no grits"),
        ],
    )
    def test_what_cant_be_is_refused_by_name(self, port, rounds, words):
        answer = port.plan(**self.rounds(*rounds))[1]
        assert answer.status_code == 422
        assert words in answer.json()["detail"]


def worn(port):
    return port.sheet()["passes"]["worn"]


def test_tools_are_counted_on_the_pass_that_wore_them_and_the_rest_is_reckoned(port):
    assert worn(port) == ""
    first, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    port.shop.kept(act(port, first, 1, "worn", 2))
    port.shop.kept(act(port, first, 2, "worn", 3))
    port.shop.kept(act(port, first, 3, "not worn", 4))
    assert worn(port) == "worn out 1 × carbide"
    assert rounds(port)["carbide"]["worn"] == 1
    port.shop.kept(act(port, first, 4, "worn", 5))
    port.shop.kept(act(port, first, 5, "done", 6))
    assert worn(port) == "worn out 2 × carbide · the rest wears about 2 × carbide, from 1 logged pass"


def test_a_count_never_falls_below_nothing_and_an_unknown_act_is_named(port):
    first, answer = begin(port, 1, "carbide", 0)
    port.shop.kept(answer)
    port.shop.kept(act(port, first, 1, "not worn", 1))
    assert rounds(port)["carbide"]["worn"] == 0
    refused = act(port, first, 2, "burnt", 2)
    assert refused.status_code == 422
    assert "worn or not worn" in refused.json()["detail"]
