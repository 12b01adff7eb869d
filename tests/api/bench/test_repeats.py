"""What a bench repeats within, its drift, its faults, and what a single item does."""

from datetime import UTC, datetime, timedelta

import pytest

from tests.api.bench.asking import FIVE, at, mean, read, words


class TestRepeats:
    def test_a_bench_learns_from_its_own_refits(self, shop, bench):
        own, job = bench(), shop.job()
        setup = shop.setup(job, bench_id=own)
        state = read(shop, job, setup)
        assert "not known yet; 0.5 % assumed" in words(shop.sheet(job))
        for runner, figure in enumerate(FIVE, start=1):
            last = shop.kept(shop.flow(job, setup, state, runner, f"{figure * 1.004:.2f}", accepted=["already_read"],
                                       taken_at=at(minutes=30)))["id"]  # fmt: skip
        said = words(shop.sheet(job))
        assert (
            "Repeatability 0.39 % (two refits differ by less than 1.1 %, 19 times in 20), from 5 refits on this" in said
        )
        strike = {"person_id": shop.person, "reason": "slipped", "struck_at": at(minutes=31)}
        shop.kept(shop.put(f"/strikes/{last}", strike))
        assert "from 4 refits on this bench beside" in words(shop.sheet(job))

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
            shop.kept(shop.flow(job, setup, state, runner, str(figure), accepted=["already_read", "far_repeat"],
                                taken_at=at(minutes=minute)))  # fmt: skip
        sheet = shop.sheet(job)
        assert "Corrected evenly over time" in words(sheet)
        assert mean(sheet, 1) == pytest.approx(200.0)
        assert mean(sheet, 3) == pytest.approx(200 / 1.02)

    def test_what_the_bench_can_show_is_said_before_cutting(self, shop, bench):
        own, job = bench(repeatability_percent=0.3, session_shift_percent=0.1), shop.job()
        setup = shop.setup(job, bench_id=own)
        read(shop, job, setup)
        said = words(shop.sheet(job))
        assert "before and one after shows a gain of" in said
        assert "For 1 %" in said
        assert "each side, refit each time (finds it 4 times in 5)" in said
        large = words(shop.get(f"/jobs/{job}/bench", wanted_percent=8))
        assert "For 8 %: 1 reading each side, refit each time" in large
        after = shop.cut(job)
        shop.series(job, setup, after, [figure * 1.05 for figure in FIVE], taken_at=at(days=1))
        assert "4 times in 5" not in words(shop.sheet(job))
        assert "For 2 %" in words(shop.get(f"/jobs/{job}/bench", wanted_percent=2))
        answer = shop.client.get(f"/api/jobs/{job}/bench", params={"wanted_percent": 0})
        assert (answer.status_code, answer.json()["path"]) == (422, "query.wanted_percent")

    def test_before_the_other_side_is_read_the_shift_of_a_session_stands_in_what_can_be_shown(self, shop, bench):
        """After may come another day: the same bench with a large shift shows less."""
        least = []
        for shift in (0.1, 3.0):
            job = shop.job()
            read(shop, job, shop.setup(job, bench_id=bench(repeatability_percent=0.3, session_shift_percent=shift)))
            text = words(shop.sheet(job))
            least.append(float(text.split("shows a gain of ")[1].split(" CFM")[0]))
        assert least[1] > 3 * least[0]

    def test_a_clock_that_jumped_back_is_asked_about(self, shop):
        job = shop.job()
        setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
        shop.kept(shop.flow(job, setup, state, 1, "201.6", taken_at=at(minutes=30)))
        shop.kept(shop.flow(job, setup, state, 2, "199.1", taken_at=at(minutes=26)))
        asked = shop.flow(job, setup, state, 3, "191.4", taken_at=at(minutes=-90))
        assert asked.json()["code"] == "clock_back"
        assert "2.0 hours before the previous reading" in asked.json()["detail"]
        assert [list(offer["patch"]) for offer in asked.json()["offers"]] == [["taken_at"], ["accepted"]]
        shop.kept(shop.flow(job, setup, state, 3, "191.4", taken_at=at(minutes=-90), accepted=["clock_back"]))
        assert "flagged: dated before" in words(shop.sheet(job))
        shop.kept(shop.flow(job, setup, state, 4, "203.0", taken_at=at(days=-90), dated=True))
        shop.kept(shop.flow(job, shop.setup(job), state, 5, "198.7", taken_at=at(days=-1)))

    def test_another_depression_after_is_in_the_half_width_and_said(self, shop, bench):
        own, job = bench(repeatability_percent=0.3, session_shift_percent=0.1), shop.job()
        setup = shop.setup(job, bench_id=own)
        read(shop, job, setup)
        after, low = shop.cut(job), shop.setup(job, bench_id=own, depression="10")
        shop.series(job, low, after, [figure * 1.01 * (10 / 28) ** 0.5 for figure in FIVE], taken_at=at(days=1))
        sheet = shop.sheet(job)
        assert "Too close to call" in words(sheet)
        assert "The ± allows 2.5 % for converting" in words(sheet)
        budget = {part["name"]: part["in_ratio"] for part in sheet["rungs"][0]["after"]["known"]["parts"]}
        assert budget["conversion"] is True

    def test_a_clock_that_is_ahead_is_asked_about(self, shop):
        job = shop.job()
        setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
        ahead = (datetime.now(UTC) + timedelta(hours=3)).isoformat()
        asked = shop.flow(job, setup, state, 1, "201.6", taken_at=ahead)
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
        assert "Possible open injector or vacuum hole at runner 4: 6.0 % higher" in said
        assert "injector or vacuum hole" in said


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
        assert "Entry radius, no radius → clay radius: +3.5 %" in words(shop.sheet(job))
