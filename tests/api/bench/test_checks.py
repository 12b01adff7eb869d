"""Checks of a bench, its plates, its meter and its ranges."""

import pytest

from tests.api.bench.asking import FIVE, at, check, mean, read, words
from tests.shop import new_id


class TestChecks:
    def test_zero_and_leak_are_taken_off(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        shop.kept(check(shop, own, "zero", "0.4", setup))
        shop.kept(check(shop, own, "leak", "1.4", setup))
        read(shop, job, setup)
        sheet = shop.sheet(job)
        assert mean(sheet) == pytest.approx(201.6 - 0.4 - 1.0, abs=0.01)
        assert {one["kind"] for one in sheet["checks"]} == {"zero", "leak"}
        assert "Leak" not in words(sheet)

    def test_a_leak_above_its_limit_is_told_as_a_fault(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        shop.kept(check(shop, own, "leak", "4.0", setup))
        read(shop, job, setup)
        said = words(shop.sheet(job))
        assert "Check gasket and clamps." in said
        assert "Leak 2.0 % of flow, limit 1 %" in said

    def test_a_leak_test_that_had_not_settled_says_so(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        for settled in (True, False):
            taken = {"samples_cfm": [0.4] * 10, "depression_inh2o": 28.0, "range_percent": 0.2, "settled": settled}
            shop.kept(check(shop, own, "leak", "", setup, taken=taken))
        said = sorted(one["words"].partition("inH2O")[2] for one in shop.sheet(job)["checks"])
        assert said == ["", ", not settled yet"]

    def test_a_blade_pushed_open_and_a_low_depression(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own, throttle="as_sold")
        read(shop, job, setup)
        assert "Blade not checked" in words(shop.sheet(job))
        shop.kept(check(shop, own, "held", "206.0", setup, taken_at=at(minutes=5)))
        assert "Blade stops short" in words(shop.sheet(job))
        shop.kept(check(shop, own, "low", "140.0", setup, taken_at=at(minutes=5), depression="12 inH2O"))
        assert "Watch the hose" in words(shop.sheet(job))

    @pytest.mark.parametrize(
        ("kind", "typed", "more", "path"),
        [
            ("colour", "1", {}, "kind"),
            ("plate", "180", {}, "plate"),
            ("leak", "-1", {}, "typed"),
            ("low", "150", {}, "depression"),
            ("low", "150", {"depression": "12 stone"}, "depression"),
            ("plate", "180", {"plate": "P1", "plate_flow": "0"}, "plate_flow"),
            ("plate", "180", {"plate": "P1", "plate_flow": "180", "plate_uncertainty_percent": 40},
             "plate_uncertainty_percent"),
            ("held", "nothing", {}, "typed"),
        ],
    )  # fmt: skip
    def test_what_can_not_be_is_refused_with_its_place(self, shop, bench, kind, typed, more, path):
        own, job = bench(), shop.job()
        answer = check(shop, own, kind, typed, shop.setup(job, bench_id=own), **more)
        assert (answer.status_code, answer.json()["path"]) == (422, path)

    def test_a_check_belongs_to_a_set_up_of_its_bench(self, shop, bench):
        job = shop.job()
        assert check(shop, bench(), "zero", "0").json()["path"] == "setup_id"
        assert check(shop, bench(), "zero", "0", shop.setup(job)).json()["path"] == "bench_id"


class TestPlate:
    def test_a_known_plate_calibrates_what_is_read_after_it(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        plate = {"plate": "P1", "plate_flow": "180", "plate_uncertainty_percent": 0.8}
        shop.kept(check(shop, own, "plate", "186", **plate, taken_at=at(days=-20)))
        read(shop, job, setup)
        sheet = shop.sheet(job)
        assert mean(sheet) == pytest.approx(201.6 * 180 / 186, abs=0.01)
        history = shop.get(f"/benches/{own}/plates")
        assert [(one["plate"], one["correction"]) for one in history] == [("P1", "0.9677")]
        parts = {part["name"]: part for part in sheet["rungs"][0]["before"]["known"]["parts"]}
        assert parts["calibration"]["origin"] == "its reference plate"
        assert not parts["calibration"]["in_ratio"]

    def test_a_plate_in_both_sessions_takes_the_shift_out(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        shop.kept(check(shop, own, "plate", "180", plate="Brass 40"))
        read(shop, job, setup)
        after = shop.cut(job)
        shop.series(job, setup, after, [f * 1.02 for f in FIVE], taken_at=at(days=9))
        doubted = shop.sheet(job)["mean"]["gain"]
        shop.kept(check(shop, own, "plate", "183.6", plate="Brass 40", taken_at=at(days=9)))
        sheet = shop.sheet(job)
        assert sheet["mean"]["gain"]["gain"]["value"] == pytest.approx(0.0, abs=0.01)
        assert doubted["gain"]["value"] == pytest.approx(3.98, abs=0.01)
        assert "The reference plate corrects the session shift" in words(sheet)


class TestMeter:
    AIR = {"air_temperature_c": 30, "air_pressure_kpa": 97, "air_humidity_percent": 60}  # noqa: RUF012

    @pytest.mark.parametrize(("meter", "factor"), [("ratio", 1.0), ("volume", 0.957), ("mass", 1.045)])
    def test_only_a_meter_that_needs_the_air_is_corrected_for_it(self, shop, bench, meter, factor):
        own, job = bench(meter=meter), shop.job()
        read(shop, job, shop.setup(job, bench_id=own, **self.AIR))
        assert mean(shop.sheet(job)) == pytest.approx(201.6 * factor, rel=2e-3)

    def test_air_that_was_not_noted_is_said_where_it_matters(self, shop, bench):
        own, job = bench(meter="volume"), shop.job()
        read(shop, job, shop.setup(job, bench_id=own))
        assert "standard air assumed" in words(shop.sheet(job))

    @pytest.mark.parametrize(
        ("more", "path"),
        [
            ({"meter": "crystal"}, "meter"),
            ({"ranges": [{"full_scale_cfm": 0, "depression_inh2o": 28}]}, "ranges.0.full_scale_cfm"),
            ({"ranges": [{"full_scale_cfm": 300, "depression_inh2o": 900}]}, "ranges.0.depression_inh2o"),
        ],
    )
    def test_a_bench_that_can_not_be_is_refused(self, shop, more, path):
        answer = shop.put(f"/benches/{new_id()}", {"name": f"B {new_id()[:8]}", **more})
        assert (answer.status_code, answer.json()["path"]) == (422, path)

    def test_more_than_the_largest_range_is_asked_about(self, shop, bench):
        own = bench(ranges=[{"full_scale_cfm": 150, "depression_inh2o": 28}])
        job = shop.job()
        setup, state = shop.setup(job, bench_id=own), shop.sheet(job)["before_state_id"]
        asked = shop.flow(job, setup, state, 1, "201.6")
        assert (asked.status_code, asked.json()["code"]) == (422, "over_range")
        shop.kept(shop.flow(job, setup, state, 1, "201.6", accepted=["over_range"]))
