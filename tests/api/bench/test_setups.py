"""Set-ups item by item, and one runner that stands for all."""

import pytest

from tests.api.bench.asking import read, words
from tests.shop import new_id


class TestSetup:
    def test_every_item_is_kept_and_told(self, shop):
        job = shop.job()
        shop.setup(job, mounted="tube, throttle", entry_radius="clay", entry_radius_mm=9, opening_percent=75,
                   blade_seen_open=True, flaps="long", clock_hours=12, clamps="two", adapter="3 mm plate",
                   direction="out", valve_lift_mm=8)  # fmt: skip
        said = shop.sheet(job)["setup"]["words"]
        assert said["entry radius"] == "clay radius 9 mm"
        assert (said["opening"], said["blade"], said["clock position"]) == ("75 %", "fully open", "12 h")
        assert said["in front"] == "tube, throttle"

    def test_a_half_shut_throttle_is_no_figure_of_the_runner(self, shop):
        job = shop.job()
        read(shop, job, shop.setup(job, throttle="as_sold", opening_percent=50))
        sheet = shop.sheet(job)
        assert sheet["rungs"][0]["before"]["mean"] is None
        assert "not averaged in" in sheet["rungs"][0]["before"]["readings"][0]["note"]

    @pytest.mark.parametrize(
        ("more", "path"),
        [
            ({"opening_percent": 120}, "opening_percent"),
            ({"entry_radius_mm": -1}, "entry_radius_mm"),
            ({"valve_lift_mm": 90}, "valve_lift_mm"),
            ({"clock_hours": 15}, "clock_hours"),
            ({"direction": "sideways"}, "direction"),
            ({"adapter": "x" * 300}, "adapter"),
        ],
    )
    def test_an_item_that_can_not_be_is_refused(self, shop, more, path):
        job = shop.job()
        body = {"person_id": shop.person, "job_id": job, "bench_id": shop.bench, "depression": "28", **more}
        answer = shop.put(f"/setups/{new_id()}", body)
        assert (answer.status_code, answer.json()["path"]) == (422, path)


class TestReferenceRunner:
    def chosen(self, shop, job, runner):
        version = shop.get(f"/jobs/{job}")["version"]
        return shop.client.post(f"/api/jobs/{job}/reference", json={"version": version, "runner": runner})

    def test_one_runner_is_read_before_and_after(self, shop, bench):
        own, job = bench(), shop.job()
        setup, state = shop.setup(job, bench_id=own), shop.sheet(job)["before_state_id"]
        shop.kept(self.chosen(shop, job, 3))
        shop.kept(shop.flow(job, setup, state, 3, "191.4"))
        sheet = shop.sheet(job)
        assert sheet["reference_runner"] == 3
        assert "Runner 3 before is complete." in words(sheet)
        after = shop.cut(job)
        assert "Read runner 3 after porting." in words(shop.sheet(job))
        shop.kept(shop.flow(job, setup, after, 3, "204.8"))
        said = words(shop.sheet(job))
        assert "Clear gain: +13.4 CFM on runner 3" in said
        assert "Reading runner 3 only" in said
        rail = {step["word"]: step["status"] for step in shop.get(f"/jobs/{job}")["rail"]}
        assert rail["bench"] == "after: 1 of 1"
        shop.kept(self.chosen(shop, job, None))
        assert "Read runner 1 after porting." in words(shop.sheet(job))

    def test_a_runner_that_is_not_there_is_refused(self, shop):
        answer = self.chosen(shop, shop.job(), 6)
        assert (answer.status_code, answer.json()["path"]) == (422, "runner")
        assert "this part has 5" in answer.json()["detail"]
