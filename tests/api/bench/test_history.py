"""Other shops' benches, and a part over the years."""

import pytest

from tests.api.bench.asking import FIVE, at, mean, read, words
from tests.shop import new_id


class TestOtherShops:
    def test_their_figures_are_kept_apart_with_their_offset(self, shop, bench):
        own, theirs, job = bench(), bench(shop="Halvor Flow"), shop.job()
        state = read(shop, job, shop.setup(job, bench_id=own))
        foreign = shop.setup(job, bench_id=theirs)
        shop.series(job, foreign, state, [f * 1.05 for f in FIVE])
        sheet = shop.sheet(job)
        assert mean(sheet) == pytest.approx(201.6)
        notes = [reading["note"] for reading in sheet["rungs"][0]["before"]["readings"]]
        assert notes == ["", "Halvor Flow's bench, not averaged in"]
        assert "it reads +5.0 % compared with ours (5 ports on both)" in words(sheet)


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
        assert "+5.0 % compared with ours" in words(found)
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
        assert "Porting gained +5.0 % to +8.0 % on 2 parts, each with the same set-up." in said

    def test_a_part_that_nobody_flowed_says_so(self, shop):
        found = shop.get(f"/parts/{shop.sheet(shop.job())['part_id']}/history")
        assert found["rows"] == []
        assert "Not flowed yet" in words(found)
