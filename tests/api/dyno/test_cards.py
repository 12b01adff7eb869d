"""What is said of a pull, said anew."""

import pytest

from tests.api.dyno.asking import PORTED, RPM, STOCK, content, said


class TestCards:
    def test_a_pull_is_named_moved_dated_and_its_air_mended(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK), label="a.csv"))
        pull = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]
        changed = {"label": "b", "build_id": ported, "pulled_at": "2026-03-01T10:00:00Z", "air_temperature_c": "77 °F",
                   "air_pressure_kpa": "29.5 inHg", "declared": {"fuel": " 98 "}}  # fmt: skip
        shop.kept(shop.card(pull, **changed))
        after = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]
        assert (after["label"], after["build_id"], after["version"]) == ("b", ported, 2)
        assert after["air_temperature_c"] == pytest.approx(25)
        assert after["air_pressure_kpa"] == pytest.approx(99.898, abs=0.001)
        assert after["typed"]["air_pressure_kpa"] == "29.5 inHg"
        assert after["declared"] == {"fuel": "98"}
        assert after["row_count"] == len(RPM)
        stale = shop.card(pull, label="c")
        assert (stale.status_code, stale.json()["code"]) == (409, "stale")
        theirs, yours = stale.json()["current"], stale.json()["yours"]
        assert (theirs["label"], yours["label"], theirs["version"], yours["version"]) == ("b", "c", 2, 1)
        assert theirs["design"] != yours["design"]  # named, so that one sees which

    @pytest.mark.parametrize(
        ("change", "path"),
        [
            ({"standard_in_file": "sae"}, "facts.standard_in_file"),
            ({"air_humidity_percent": 40}, "air_temperature_c"),
            ({"declared": {"colour": "red"}}, "declared"),
            ({"declared": {"fuel": "x" * 200}}, "declared.fuel"),
            ({"air_pressure_kpa": "29.5 stone"}, "facts.air_pressure_kpa"),
        ],
    )
    def test_what_can_not_be_said_is_refused_with_its_place(self, shop, job, change, path):
        identifier, stock, _ = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        answer = shop.card(shop.get(f"/jobs/{identifier}/dyno")["pulls"][0], **change)
        assert (answer.status_code, answer.json()["path"].removeprefix("facts.")) == (422, path.removeprefix("facts."))

    @pytest.mark.parametrize(
        ("given", "percent"),
        [
            ({"air_dew_point_c": 13.9}, 50.0),
            ({"air_wet_bulb_c": "64.2 °F"}, 50.0),
            ({"air_humidity_percent": 50}, 50.0),
        ],
    )
    def test_humidity_comes_by_itself_by_dew_point_or_by_wet_bulb(self, shop, job, given, percent):
        """At 25 °C and 101.325 kPa 50 % has its dew point at 13.9 °C and its wet bulb at 17.9 °C: psychrometric chart,
        from memory."""
        identifier, stock, _ = job
        air = {"air_temperature_c": 25, "air_pressure_kpa": 101.325, "air_humidity_percent": None}
        facts = {**air, **given}
        shop.kept(shop.pull(identifier, stock, content(STOCK), facts=facts))
        kept = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]["air_humidity_percent"]
        assert kept == pytest.approx(percent, abs=0.7)

    @pytest.mark.parametrize(
        ("given", "path", "words"),
        [
            ({"air_dew_point_c": 30}, "air_dew_point_c", "above the air's temperature"),
            ({"air_wet_bulb_c": 30}, "air_wet_bulb_c", "wet bulb"),
            ({"air_wet_bulb_c": 14, "air_humidity_percent": 40}, "air_wet_bulb_c", "not several"),
        ],
    )
    def test_a_humidity_that_can_not_be_is_refused(self, shop, job, given, path, words):
        identifier, stock, _ = job
        answer = shop.pull(
            identifier, stock, content(STOCK), facts={"air_temperature_c": 25, "air_pressure_kpa": 100, **given}
        ).json()
        assert answer["path"] == path
        assert words in answer["detail"]

    def test_a_build_of_another_job_is_refused(self, shop, job):
        identifier, stock, _ = job
        other = shop.job()
        shop.cut(other)
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        pull = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]
        answer = shop.card(pull, build_id=shop.builds(other)[0]["id"])
        assert "belongs to another job" in answer.json()["detail"]

    def test_what_changed_since_the_last_pull_is_listed(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK), declared={"fuel": "98", "injectors": "365"}))
        more = {"declared": {"fuel": "98", "injectors": "550"}, "pulled_at": "2026-03-02T15:00:00Z"}
        shop.kept(shop.pull(identifier, ported, content(PORTED), **more))
        first, second = shop.get(f"/jobs/{identifier}/dyno")["pulls"]
        assert first["changes"] == {"items": [], "several": False}
        assert second["changes"]["several"]
        assert second["changes"]["items"][1] == "injectors: 365 → 550"
        assert (first["engine_version"], second["engine_version"]) == (1, 2)
        assert "not comparable: injectors" in said(shop.get(f"/jobs/{identifier}/dyno"))[0]

    def test_a_file_that_was_kept_before_is_asked_about(self, shop, job):
        identifier, stock, ported = job
        mine = content(STOCK + 0.777)
        shop.kept(shop.pull(identifier, stock, mine))
        asked = shop.pull(identifier, ported, mine, accepted=[]).json()
        assert asked["code"] == "seen_before"
        assert "kept before, as a pull of 2 Mar 2026 in this job" in asked["detail"]
