"""Days, drift, weather and mounts."""

import numpy as np

from tests.api.dyno.asking import AIR, PORTED, STOCK, cell, content, said


class TestDays:
    def test_another_day_without_weather_is_not_comparable(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(STOCK * 1.108), pulled_at="2026-03-09T14:00:00Z"))
        head = shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]
        assert (head["figure"], head["unlike"]) == (None, "not comparable: weather")

    def test_as_observed_another_day_is_not_comparable_whatever_is_known_of_the_air(self, shop, job):
        identifier, stock, ported = job
        low, high = ({**AIR, "air_pressure_kpa": p} for p in (94.0, 101.0))
        shop.kept(shop.pull(identifier, stock, content(STOCK), **low))
        shop.kept(shop.pull(identifier, ported, content(STOCK * 1.07), **high, pulled_at="2026-03-09T14:00:00Z"))
        assert shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]["figure"] is not None
        observed = shop.get(f"/jobs/{identifier}/dyno", standard="observed")["judged"]["head"]
        assert (observed["figure"], observed["unlike"]) == (None, "not comparable: weather")

    def test_air_that_is_mended_counts_in_what_the_dyno_repeats_within(self, shop, job):
        identifier, stock, ported = job
        for minute, build in enumerate((stock, stock, ported)):
            at = f"2026-03-02T14:{minute:02d}:00Z"
            shop.kept(shop.pull(identifier, build, content(STOCK), **AIR, pulled_at=at))
        before = cell(shop.get(f"/jobs/{identifier}/dyno"))["half_width"]["value"]
        shop.kept(shop.card(shop.get(f"/jobs/{identifier}/dyno")["pulls"][0], air_pressure_kpa=99.0))
        assert cell(shop.get(f"/jobs/{identifier}/dyno"))["half_width"]["value"] > before

    def test_peaks_name_what_they_are_held_against(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(PORTED)))
        words = said(shop.get(f"/jobs/{identifier}/dyno", reference=ported))
        (peak,) = [text for text in words if text.startswith("Peak power")]
        assert "; stage 2, entries and curves " in peak

    def test_a_day_apart_is_wider_than_one_day(self, shop, job):
        identifier, stock, ported = job
        for at in ("09:00", "10:00", "11:00"):
            shop.kept(shop.pull(identifier, stock, content(STOCK), **AIR, pulled_at=f"2026-03-02T{at}:00Z"))
        for at in ("12:00", "13:00", "14:00"):
            shop.kept(shop.pull(identifier, ported, content(STOCK * 1.03), **AIR, pulled_at=f"2026-03-02T{at}:00Z"))
        near = cell(shop.get(f"/jobs/{identifier}/dyno"))
        assert near["real"]
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        for pull in sheet["pulls"][3:]:
            shop.kept(shop.card(pull, pulled_at=pull["pulled_at"].replace("03-02", "03-05")))
        far = shop.get(f"/jobs/{identifier}/dyno")
        assert not cell(far)["real"]
        assert "both on one day" in cell(far)["word"]
        assert cell(far)["half_width"]["value"] > 1.5 * near["half_width"]["value"]
        assert [pull["session"] for pull in far["pulls"]] == [1, 1, 1, 2, 2, 2]

    def test_stock_again_at_the_end_takes_the_drift_out_and_says_so(self, shop, job):
        identifier, stock, ported = job
        for minute, build, share in ((0, stock, 1.0), (5, stock, 1.001), (20, ported, 1.01), (25, ported, 1.011),
                                     (40, stock, 0.975), (45, stock, 0.976)):  # fmt: skip
            at = f"2026-03-02T14:{minute:02d}:00Z"
            shop.kept(shop.pull(identifier, build, content(STOCK * share), **AIR, pulled_at=at))
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        assert cell(sheet)["percent"] == f"+{100 * (1.0105 / np.sqrt(1.0005 * 0.9755) - 1):.1f} %"
        assert "Stock came back −2.5 % off: the drift is taken out." in said(sheet)
        assert [pull["mount"] for pull in sheet["pulls"]] == [0, 0, 1, 1, 2, 2]

    def test_a_struck_pull_between_two_of_stock_still_was_a_change_over(self, shop, job):
        identifier, stock, ported = job
        for minute, build in ((0, stock), (10, ported), (20, stock)):
            shop.kept(shop.pull(identifier, build, content(STOCK), **AIR, pulled_at=f"2026-03-02T14:{minute:02d}:00Z"))
        pull = shop.get(f"/jobs/{identifier}/dyno")["pulls"][1]["id"]
        strike = {"person_id": shop.person, "reason": "slipped", "struck_at": "2026-03-02T15:00:00Z"}
        shop.kept(shop.put(f"/strikes/{pull}", strike))
        mounts = [one["mount"] for one in shop.get(f"/jobs/{identifier}/dyno")["pulls"] if not one["struck"]]
        assert mounts == [0, 2]

    def test_stock_that_comes_back_far_off_spoils_the_day(self, shop, job):
        identifier, stock, ported = job
        for minute, build, share in ((0, stock, 1.0), (5, stock, 1.001), (20, ported, 1.01), (40, stock, 0.94)):
            at = f"2026-03-02T14:{minute:02d}:00Z"
            shop.kept(shop.pull(identifier, build, content(STOCK * share), **AIR, pulled_at=at))
        head = shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]
        assert head["figure"] is None
        assert head["unlike"] == "not comparable: stock itself drifted by 6.0 % that day"

    def test_unknown_humidity_is_no_zero(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK), **AIR))
        later = {**AIR, "air_humidity_percent": None, "pulled_at": "2026-03-09T14:00:00Z"}
        shop.kept(shop.pull(identifier, ported, content(STOCK), **later))
        unknown = shop.get(f"/jobs/{identifier}/dyno")
        assert any("Humidity not known on 1 of 2 pulls." in text for text in said(unknown))
        shop.kept(shop.card(unknown["pulls"][1], air_humidity_percent=50))
        known = shop.get(f"/jobs/{identifier}/dyno")
        assert cell(known)["figure"] == cell(unknown)["figure"]
        assert cell(known)["half_width"]["value"] < cell(unknown)["half_width"]["value"]
