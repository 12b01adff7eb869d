"""Jobs taken in, edited by two people, worked step by step, handed over."""

import pytest

from tests.shop import new_id


def edit(shop, job, **more):
    view = shop.get(f"/jobs/{job}")
    names = ("version", "title", "customer", "use", "band_low_rpm", "band_high_rpm", "due_on", "standard", "note")
    return shop.client.patch(f"/api/jobs/{job}", json={**{name: view[name] for name in names}, **more})


def test_a_posted_part_needs_three_answers_and_stands_at_the_bench(shop):
    job = shop.job(runners=6)
    view = shop.get(f"/jobs/{job}")
    assert [step["word"] for step in view["rail"]] == ["checkin", "bench", "port", "handover"]
    assert (view["step"], view["next"]) == ("bench", "Flow runner 1 before porting")
    column = next(c for c in shop.get("/board")["columns"] if c["step"] == "bench")
    assert job in [card["id"] for card in column["jobs"]]


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"part": "  "}, "part"),
        ({"runner_count": 0}, "runner_count"),
        ({"runner_count": 17}, "runner_count"),
        ({"kind": "magic"}, "kind"),
        ({"band_low_rpm": 7000, "band_high_rpm": 4000}, "band_low_rpm"),
        ({"band_low_rpm": 4000}, "band_high_rpm"),
        ({"runner_count": "many"}, "runner_count"),
    ],
)
def test_what_can_not_be_taken_in_is_refused_at_its_field(shop, change, path):
    body = {"person_id": shop.person, "kind": "port_by_post", "part": "Manifold", "runner_count": 4, **change}
    answer = shop.put(f"/jobs/{new_id()}", body)
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.json()["path"] == path


def test_a_repeated_take_in_makes_one_job(shop):
    identifier = new_id()
    body = {"person_id": shop.person, "kind": "port_by_post", "part": "Manifold", "runner_count": 4}
    for _ in range(2):
        shop.kept(shop.put(f"/jobs/{identifier}", body))
    assert len(shop.get(f"/jobs/{identifier}")["parts"]) == 1


def test_a_stale_edit_gets_both_versions(shop):
    job = shop.job()
    seen = shop.get(f"/jobs/{job}")["version"]
    shop.kept(edit(shop, job, title="Hers", use="road"))
    answer = edit(shop, job, version=seen, title="Mine")
    problem = answer.json()
    assert (answer.status_code, problem["code"]) == (409, "stale")
    assert (problem["current"]["title"], problem["yours"]["title"]) == ("Hers", "Mine")
    shop.kept(edit(shop, job, version=problem["current"]["version"], title="Mine"))
    assert shop.get(f"/jobs/{job}")["title"] == "Mine"


def test_an_unknown_job_is_told(client):
    answer = client.get(f"/api/jobs/{new_id()}")
    assert (answer.status_code, answer.json()["code"]) == (404, "not_found")


def sheet_of(shop, job):
    return shop.get(f"/jobs/{job}/steps/port")


def test_steps_are_done_once_and_stale_marks_are_noticed(shop, client):
    job, step = shop.job(), new_id()
    body = {"person_id": shop.person, "job_id": job, "rail_step": "port", "title": "80 grit in rounds"}
    made = shop.kept(shop.put(f"/steps/{step}", body))
    done = {"version": made["version"], "person_id": shop.person, "state": "done", "at": "2026-03-02T16:00:00Z",
            "minutes": 45}  # fmt: skip
    assert shop.kept(client.patch(f"/api/steps/{step}", json=done))["minutes"] == 45
    late = client.patch(f"/api/steps/{step}", json={**done, "minutes": 50, "state": "waiting"})
    assert late.status_code == 409
    theirs, yours = late.json()["current"], late.json()["yours"]
    assert (theirs["state"], theirs["minutes"], yours["state"], yours["minutes"]) == ("done", 45, "waiting", 50)
    assert theirs["done_by"] == sheet_of(shop, job)["steps"][0]["done_by"]
    sheet = sheet_of(shop, job)
    assert sheet["minutes"] == 45
    assert any("magnesium" in caution for caution in sheet["cautions"])
    bad = client.patch(f"/api/steps/{step}", json={**done, "version": 2, "minutes": -3})
    assert bad.json()["path"] == "minutes"


def test_a_job_handed_over_leaves_the_board_and_can_come_back(shop, client):
    job = shop.job()
    for closed in (True, False):
        version = shop.get(f"/jobs/{job}")["version"]
        shop.kept(client.post(f"/api/jobs/{job}/closing", json={"version": version, "closed": closed}))
        open_jobs = [card["id"] for column in shop.get("/board")["columns"] for card in column["jobs"]]
        assert (job in open_jobs) is not closed
        assert (job in [row["id"] for row in shop.get("/board")["closed"]]) is closed


def test_whoever_looks_on_is_told_of_a_change_by_its_mark(shop):
    job, other = shop.job(), shop.job()

    def mark(identifier):
        return shop.get(f"/jobs/{identifier}/revision")["mark"]

    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    first = mark(job)
    assert mark(job) == first
    shop.kept(shop.flow(job, setup, state, 1, "201.6"))
    assert mark(job) != first
    assert mark(other) != mark(job)
    assert mark(new_id()) == ""


def test_a_name_is_taken_once(shop):
    name = f"Somebody {new_id()[:5]}"
    shop.kept(shop.put(f"/people/{new_id()}", {"name": name}))
    assert "already" in shop.put(f"/people/{new_id()}", {"name": name}).json()["detail"]
    assert shop.put(f"/people/{new_id()}", {"name": " "}).json()["path"] == "name"
    assert shop.put(f"/dynos/{new_id()}", {"name": "X", "kind": "guess"}).json()["path"] == "kind"


def test_the_engine_says_its_displacement(shop):
    job = shop.job(kind="whole_job", engine={"name": "Five", "bore_mm": 83.0, "stroke_mm": 88.7})
    assert shop.get(f"/jobs/{job}")["engine"]["displacement_l"] == pytest.approx(2.3996, abs=1e-3)


class TestTheShapeOfStock:
    """Stock is shaped before it is stock: a true flat six is no change from one plenum."""

    def test_a_flat_six_has_a_throttle_for_each_bank_and_nothing_was_changed(self, shop):
        six = {"name": "Made-up flat six", "layout": "flat", "bank_count": 2, "firing_order": [1, 6, 2, 4, 3, 5]}
        job = shop.job(6, "whole_job", engine=six, shape="a throttle and plenum for each bank")
        build = shop.builds(job)[0]
        kinds = [element["kind"] for element in _listed(build["path"])]
        assert (build["is_stock"], kinds.count("throttle"), kinds.count("plenum")) == (True, 2, 2)
        copy = new_id()
        shop.kept(shop.put(f"/build-copies/{copy}", {"person_id": shop.person, "copy_of": build["id"]}))
        assert len(shop.builds(job)) == 2

    def test_cylinders_are_assigned_to_banks_freely(self, shop):
        engine = {"name": "Made-up eight", "layout": "vee", "bank_count": 2}
        banks = [[1, 3, 5, 7], [2, 4, 6, 8]]
        job = shop.job(8, "whole_job", engine=engine, banks=banks)
        runners = [e for e in _listed(shop.builds(job)[0]["path"]) if e["kind"] == "runner"]
        by_bank = {n: 1 if n % 2 else 2 for n in range(1, 9)}
        assert {e["cylinder"]: e["bank"] for e in runners} == by_bank
        again, shape = new_id(), "a throttle and plenum for each bank"
        shop.kept(shop.put(f"/shaped-builds/{again}", {"person_id": shop.person, "job_id": job, "shape": shape}))
        shaped = [e for e in _listed(shop.builds(job)[1]["path"]) if e["kind"] == "runner"]
        assert {e["cylinder"]: e["bank"] for e in shaped} == by_bank

    def test_shapes_are_offered_as_they_are_drawn(self, shop):
        found = shop.get("/shapes", runner_count=4, bank_count=2, boosted=True, bank=["1 4", "2,3"])
        kinds = [e["kind"] for e in _listed(found[0]["path"])]
        assert found[0]["name"] == "one plenum"
        assert kinds[:6] == ["filter", "tube", "meter", "compressor", "cooler", "throttle"]
        banks = {e["cylinder"]: e["bank"] for e in _listed(found[0]["path"]) if e["kind"] == "runner"}
        assert banks == {1: 1, 4: 1, 2: 2, 3: 2}
        assert "a throttle and plenum for each bank" in [one["name"] for one in found]

    @pytest.mark.parametrize(
        ("more", "words"),
        [
            ({"shape": "a spiral"}, "This engine can't have 'a spiral'"),
            ({"banks": [[1, 2, 3], [3, 4]]}, "do not name each cylinder once"),
        ],
    )
    def test_what_can_not_be_is_refused(self, shop, more, words):
        body = {"person_id": shop.person, "kind": "whole_job", "part": "Manifold", "runner_count": 4, **more}
        answer = shop.put(f"/jobs/{new_id()}", body)
        assert answer.status_code == 422
        assert words in answer.json()["detail"]
        wrong = shop.client.get("/api/shapes", params={"runner_count": 4, "bank": ["1 x"]})
        assert "'x' is no cylinder" in wrong.json()["detail"]


def _listed(node):
    return [node["element"]] if node.get("element") else [e for n in node["nodes"] for e in _listed(n)]
