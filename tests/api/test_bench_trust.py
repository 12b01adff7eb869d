"""Figures that can be trusted: checks, meters, plates, repeats, drift, faults, effects, other shops' benches."""

from datetime import datetime, timedelta

import pytest

from tests.shop import new_id

FIVE = (201.6, 199.1, 191.4, 203.0, 198.7)
DAY = datetime.fromisoformat("2026-03-02T09:00:00+00:00")


def at(days=0, minutes=0):
    return (DAY + timedelta(days=days, minutes=minutes)).isoformat()


@pytest.fixture
def bench(shop):
    """A bench of its own, so that no other test teaches it."""

    def made(**more):
        identifier = new_id()
        shop.kept(shop.put(f"/benches/{identifier}", {"name": f"Bench {identifier[:6]}", **more}))
        return identifier

    return made


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
        assert "leaks" not in words(sheet)

    def test_a_leak_above_its_limit_is_told_as_a_fault(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        shop.kept(check(shop, own, "leak", "4.0", setup))
        read(shop, job, setup)
        said = words(shop.sheet(job))
        assert "Look at the gasket" in said
        assert "The set-up leaks 2.0 % of the flow" in said

    def test_a_blade_pushed_open_and_a_low_depression(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own, throttle="as_sold")
        read(shop, job, setup)
        assert "whether the blade was seen" in words(shop.sheet(job))
        shop.kept(check(shop, own, "held", "206.0", setup, taken_at=at(minutes=5)))
        assert "stops short of wide open" in words(shop.sheet(job))
        shop.kept(check(shop, own, "low", "140.0", setup, taken_at=at(minutes=5), depression="12 inH2O"))
        assert "look at the hose" in words(shop.sheet(job))

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
        assert "reference plate was read in both sessions" in words(sheet)


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
        assert "standard air is assumed" in words(shop.sheet(job))

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


class TestRepeats:
    def test_a_bench_learns_from_its_own_refits(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        state = read(shop, job, setup)
        assert "assumed until its own is learned" in words(shop.sheet(job))
        for runner, figure in enumerate(FIVE, start=1):
            last = shop.kept(shop.flow(job, setup, state, runner, f"{figure * 1.004:.2f}", accepted=["already_read"],
                                       taken_at=at(minutes=30)))["id"]  # fmt: skip
        said = words(shop.sheet(job))
        assert "own 5 repeats differ by 0.28 %" in said
        strike = {"person_id": shop.person, "reason": "slipped", "struck_at": at(minutes=31)}
        shop.kept(shop.put(f"/strikes/{last}", strike))
        assert "assumed until its own is learned" in words(shop.sheet(job))

    def test_read_again_untouched_is_no_refit(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        state = read(shop, job, setup)
        once = shop.sheet(job)["rungs"][0]["before"]["known"]["relative"]["value"]
        shop.kept(shop.flow(job, setup, state, 1, "202.6", accepted=["already_read"], refitted=False))
        untouched = shop.sheet(job)["rungs"][0]["before"]
        assert untouched["mean"]["value"] == pytest.approx(202.1)
        assert untouched["known"]["relative"]["value"] == pytest.approx(once, rel=0.01)
        shop.kept(shop.flow(job, setup, state, 2, "200.1", accepted=["already_read"], taken_at=at(minutes=9)))
        assert shop.sheet(job)["rungs"][1]["before"]["known"]["relative"]["value"] < once

    def test_a_drift_within_the_series_is_taken_out_and_said(self, shop, bench):
        own, job = bench(), shop.job()
        setup, state = shop.setup(job, bench_id=own), shop.sheet(job)["before_state_id"]
        for minute, (runner, figure) in enumerate([(1, 200.0), (2, 200.0), (3, 200.0), (1, 206.0)]):
            shop.kept(shop.flow(job, setup, state, runner, str(figure), accepted=["already_read"],
                                taken_at=at(minutes=minute)))  # fmt: skip
        sheet = shop.sheet(job)
        assert "drift is taken out" in words(sheet)
        assert mean(sheet, 1) == pytest.approx(200.0)
        assert mean(sheet, 3) == pytest.approx(200 / 1.02)

    def test_what_the_bench_can_show_is_said_before_cutting(self, shop, bench):
        own, job = bench(repeatability_percent=0.3, session_shift_percent=0.1), shop.job()
        setup = shop.setup(job, bench_id=own)
        read(shop, job, setup)
        said = words(shop.sheet(job))
        assert "one runner shows a gain from" in said
        assert "For 1 %" in said
        assert "set-ups on each side would show it four times in five" in said
        large = words(shop.get(f"/jobs/{job}/bench", wanted_percent=8))
        assert "For 8 %, 1 set-up on each side would show it" in large
        after = shop.cut(job)
        shop.series(job, setup, after, [figure * 1.05 for figure in FIVE], taken_at=at(days=1))
        assert "four times in five" not in words(shop.sheet(job))
        assert "For 2 %" in words(shop.get(f"/jobs/{job}/bench", wanted_percent=2))
        answer = shop.client.get(f"/api/jobs/{job}/bench", params={"wanted_percent": 0})
        assert (answer.status_code, answer.json()["path"]) == (422, "query.wanted_percent")

    def test_a_clock_that_jumped_back_is_asked_about(self, shop):
        job = shop.job()
        setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
        shop.kept(shop.flow(job, setup, state, 1, "201.6", taken_at=at(minutes=30)))
        shop.kept(shop.flow(job, setup, state, 2, "199.1", taken_at=at(minutes=26)))
        asked = shop.flow(job, setup, state, 3, "191.4", taken_at=at(minutes=-90))
        assert asked.json()["code"] == "clock_back"
        assert "2.0 hours before the last figure" in asked.json()["detail"]
        assert [list(offer["patch"]) for offer in asked.json()["offers"]] == [["taken_at"], ["accepted"]]
        shop.kept(shop.flow(job, setup, state, 3, "191.4", taken_at=at(minutes=-90), accepted=["clock_back"]))
        assert "kept though dated before" in words(shop.sheet(job))
        shop.kept(shop.flow(job, setup, state, 4, "203.0", taken_at=at(days=-90), dated=True))
        shop.kept(shop.flow(job, shop.setup(job), state, 5, "198.7", taken_at=at(days=-1)))

    def test_another_depression_after_is_in_the_half_width_and_said(self, shop, bench):
        own, job = bench(repeatability_percent=0.3, session_shift_percent=0.1), shop.job()
        setup = shop.setup(job, bench_id=own)
        read(shop, job, setup)
        after, low = shop.cut(job), shop.setup(job, bench_id=own, depression="10")
        shop.series(job, low, after, [figure * 1.01 * (10 / 28) ** 0.5 for figure in FIVE], taken_at=at(days=1))
        sheet = shop.sheet(job)
        assert "Too small to tell" in words(sheet)
        assert "the square-root law may be out by 2.5 %, allowed for in the ±" in words(sheet)
        budget = {part["name"]: part["in_ratio"] for part in sheet["rungs"][0]["after"]["known"]["parts"]}
        assert budget["conversion"] is True

    def test_a_clock_that_is_ahead_is_asked_about(self, shop):
        job = shop.job()
        setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
        asked = shop.flow(job, setup, state, 1, "201.6", taken_at="2126-03-02T09:00:00+00:00")
        assert asked.json()["code"] == "clock_ahead"
        shop.kept(shop.flow(job, setup, state, 1, "201.6", **asked.json()["offers"][0]["patch"]))


class TestFaults:
    def test_a_runner_that_stands_out_against_the_last_session_is_named(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        state = read(shop, job, setup)
        again = shop.setup(job, bench_id=own)
        odd = [figure * (1.06 if n == 3 else 1.0) for n, figure in enumerate(FIVE)]
        shop.series(job, again, state, odd, accepted=["already_read"], taken_at=at(days=2))
        said = words(shop.sheet(job))
        assert "Runner 4 reads 6.0 % more than the last time" in said
        assert "injector hole" in said


class TestEffects:
    def test_one_item_is_an_effect_and_two_are_unlike(self, shop, bench):
        own, job = bench(repeatability_percent=0.4), shop.job()
        bare = shop.setup(job, bench_id=own, blocked="other runners, injectors")
        state = read(shop, job, bare)
        radius = shop.setup(job, bench_id=own, entry_radius="clay", blocked="Injectors, other runners")
        shop.series(job, radius, state, [f * 1.035 for f in FIVE], accepted=["already_read"], taken_at=at(minutes=40))
        both = shop.setup(job, bench_id=own, entry_radius="clay", throttle="ported", blocked="injectors, other runners")
        shop.kept(shop.flow(job, both, state, 1, "196", accepted=["already_read"], taken_at=at(minutes=50)))
        found = shop.get(f"/jobs/{job}/bench/effects")
        assert [len(one["items"]) for one in found] == [1, 1, 2]
        one = found[0]
        assert (one["items"][0]["item"], one["percent"], one["real"], one["ports"]) == (
            "entry radius",
            "+3.5 %",
            True,
            5,
        )
        assert not found[2]["alike"]
        assert {item["item"] for item in found[2]["items"]} == {"entry radius", "throttle"}
        assert "Entry radius, no radius to clay radius: +3.5 %" in words(shop.sheet(job))


class TestOtherShops:
    def test_their_figures_are_kept_apart_with_their_offset(self, shop, bench):
        own, theirs, job = bench(), bench(shop="Halvor Flow"), shop.job()
        state = read(shop, job, shop.setup(job, bench_id=own))
        foreign = shop.setup(job, bench_id=theirs)
        shop.series(job, foreign, state, [f * 1.05 for f in FIVE])
        sheet = shop.sheet(job)
        assert mean(sheet) == pytest.approx(201.6)
        notes = [reading["note"] for reading in sheet["rungs"][0]["before"]["readings"]]
        assert notes == ["", "Halvor Flow's bench, kept apart"]
        assert "over 5 ports read on both, it shows +5.0 % against ours" in words(sheet)


class TestSetup:
    def test_every_item_is_kept_and_told(self, shop):
        job = shop.job()
        shop.setup(job, mounted="tube, throttle", entry_radius="clay", entry_radius_mm=9, opening_percent=75,
                   blade_seen_open=True, flaps="long", clock_hours=12, clamps="two", adapter="3 mm plate",
                   direction="out", valve_lift_mm=8)  # fmt: skip
        said = shop.sheet(job)["setup"]["words"]
        assert said["entry radius"] == "clay radius 9 mm"
        assert (said["opening"], said["blade"], said["clock position"]) == ("75 %", "seen at full bore", "12 h")
        assert said["in front"] == "tube, throttle"

    def test_a_half_shut_throttle_is_no_figure_of_the_runner(self, shop):
        job = shop.job()
        read(shop, job, shop.setup(job, throttle="as_sold", opening_percent=50))
        sheet = shop.sheet(job)
        assert sheet["rungs"][0]["before"]["mean"] is None
        assert "kept apart" in sheet["rungs"][0]["before"]["readings"][0]["note"]

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
        assert "Runner 3 is read before." in words(sheet)
        after = shop.cut(job)
        assert "Read runner 3 after cutting." in words(shop.sheet(job))
        shop.kept(shop.flow(job, setup, after, 3, "204.8"))
        said = words(shop.sheet(job))
        assert "Runner 3 gained 13.4 CFM" in said
        assert "stands for the others" in said
        rail = {step["word"]: step["status"] for step in shop.get(f"/jobs/{job}")["rail"]}
        assert rail["bench"] == "after, 1 of 1"
        shop.kept(self.chosen(shop, job, None))
        assert "Read runner 1 after cutting." in words(shop.sheet(job))

    def test_a_runner_that_is_not_there_is_refused(self, shop):
        answer = self.chosen(shop, shop.job(), 6)
        assert (answer.status_code, answer.json()["path"]) == (422, "runner")
        assert "this part has 5" in answer.json()["detail"]


class TestHistory:
    def test_a_casting_over_jobs_and_benches(self, shop, bench):
        own, theirs, number = bench(), bench(shop="Halvor Flow"), f"C-{new_id()[:6]}"
        first, second = (shop.job(part_maker="Testwerk", part_number=number) for _ in range(2))
        for job, day in ((first, -300), (second, 0)):
            read(shop, job, shop.setup(job, bench_id=own), taken_at=at(days=day))
        state = shop.sheet(first)["before_state_id"]
        shop.series(first, shop.setup(first, bench_id=theirs), state, [f * 1.05 for f in FIVE], taken_at=at(days=-400))
        part = shop.sheet(first)["part_id"]
        found = shop.get(f"/parts/{part}/history")
        assert [(row["shop"], row["ports"]) for row in found["rows"]] == [("Halvor Flow", 5), ("", 5), ("", 5)]
        assert found["rows"][0]["ours"]["value"] == pytest.approx(found["rows"][1]["mean"]["value"])
        assert "+5.0 % against ours" in words(found)
        assert "2 parts of this casting" in words(found)

    def test_what_cutting_gave_is_told_of_sessions_set_up_alike(self, shop, bench):
        own, number = bench(), f"C-{new_id()[:6]}"
        jobs = [shop.job(part_maker="Testwerk", part_number=number) for _ in range(2)]
        for job, gain in zip(jobs, (1.05, 1.08), strict=True):
            setup = shop.setup(job, bench_id=own)
            read(shop, job, setup)
            after = shop.cut(job)
            again = shop.setup(job, bench_id=own)
            shop.series(job, again, after, [f * gain for f in FIVE], taken_at=at(days=3))
            unlike = shop.setup(job, bench_id=own, throttle="ported")
            shop.series(job, unlike, after, FIVE, accepted=["already_read"], taken_at=at(days=4))
        part = shop.sheet(jobs[0])["part_id"]
        said = words(shop.get(f"/parts/{part}/history"))
        assert "Cut, 2 parts read from +5.0 % to +8.0 % against as they came, each set up alike." in said

    def test_a_part_that_nobody_flowed_says_so(self, shop):
        found = shop.get(f"/parts/{shop.sheet(shop.job())['part_id']}/history")
        assert found["rows"] == []
        assert "Nothing of it was flowed yet" in words(found)
