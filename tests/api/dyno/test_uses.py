"""Uses that are kept with a job: by a band, by gears and shift speed, by a log of engine speed."""

import numpy as np
import pytest

from tests.api.dyno.asking import PORTED, RPM, STOCK, cell, content, said


class TestUses:
    def kept(self, shop, job, **use):
        return shop.client.post(f"/api/jobs/{job}/uses", json=use)

    def names(self, shop, job):
        return {
            use["name"]: (use["low_rpm"], use["kept"])
            for use in shop.get(f"/jobs/{job}/dyno")["judged"]["table"]["uses"]
        }

    def test_a_use_is_kept_changed_and_taken_away(self, shop, job):
        identifier, stock, _ = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(self.kept(shop, identifier, name=" slalom ", low_rpm="3000 rpm", high_rpm=5000))
        assert self.names(shop, identifier)["slalom"] == (3000, True)
        shop.kept(self.kept(shop, identifier, name="Road", low_rpm=2600, high_rpm=4000))
        found = self.names(shop, identifier)
        assert (found["Road"], "road" in found) == ((2600, True), False)
        shop.kept(self.kept(shop, identifier, name="Slalom"))
        assert "slalom" not in self.names(shop, identifier)

    def test_gears_weigh_the_time_and_tell_where_a_loss_is_met(self, shop, job):
        """The ported one loses below 4,700 rpm: with these gears that is met only when pulling away."""
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(PORTED - np.where(RPM < 4000, 6.0, 0.0))))
        gears = {"gears": [3.2, 2.1, 1.5, 1.15], "shift_rpm": "7000 rpm", "away_rpm": 2600}
        shop.kept(self.kept(shop, identifier, name="stage", **gears))
        sheet = shop.get(f"/jobs/{identifier}/dyno", use="stage")
        use = next(one for one in sheet["judged"]["table"]["uses"] if one["chosen"])
        assert (use["by"], use["low_rpm"], use["high_rpm"]) == ("gears", 2600, 7000)
        assert max(one["share"] for one in use["shares"]) == 1
        told = said(sheet)
        assert any("A shift at 7000 rpm falls to 4600, 5000 and 5350 rpm." in one for one in told)
        assert any("loses up to" in one and "met only when pulling away" in one for one in told)
        assert "average by time in its gears, 2600 to 7000 rpm" in sheet["judged"]["head"]["where"]
        assert cell(sheet, use="stage")["figure"]["value"] > cell(sheet, use="road")["figure"]["value"]

    def test_a_log_weighs_what_it_holds(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(PORTED)))
        log = "time [s],rpm,TPS [%]\n" + "\n".join(f"{i / 20},{6000 + i},{100 if i < 200 else 20}" for i in range(400))
        digest = shop.kept(shop.preview(log.encode()))["digest"]
        shop.kept(self.kept(shop, identifier, name="lap", log_digest=digest))
        sheet = shop.get(f"/jobs/{identifier}/dyno", use="lap")
        use = next(one for one in sheet["judged"]["table"]["uses"] if one["chosen"])
        assert (use["by"], use["low_rpm"], use["high_rpm"]) == ("log", 6000, 6250)
        plain = shop.get(f"/jobs/{identifier}/dyno/band", low_rpm=6000, high_rpm=6250)
        (row,) = [one for one in plain["table"]["rows"] if not one["is_reference"]]
        assert cell(sheet, use="lap")["figure"] == row["cells"][-1]["figure"]

    @pytest.mark.parametrize(
        ("use", "path", "words"),
        [
            ({"gears": [2.0, 3.0], "shift_rpm": 7000, "away_rpm": 2500}, "gears", "Gear 2 has 3 after 2"),
            ({"gears": [3.0, 2.0], "away_rpm": 2500}, "shift_rpm", "at which it shifts"),
            ({"gears": [3.0, 2.0], "shift_rpm": 7000}, "away_rpm", "at which it pulls away"),
            ({"gears": [3.0, 2.0], "shift_rpm": 2000, "away_rpm": 2500}, "away_rpm", "below the shift's"),
            ({"gears": [9.0 - 0.5 * i for i in range(13)], "shift_rpm": 7000, "away_rpm": 2500}, "gears", "13 gears"),
        ],
    )
    def test_gears_that_can_not_be_are_refused(self, shop, job, use, path, words):
        problem = self.kept(shop, job[0], name="x", **use).json()
        assert (problem["path"], words in problem["detail"]) == (path, True)

    def test_a_log_without_engine_speed_is_refused(self, shop, job):
        digest = shop.kept(shop.preview(b"Road speed [km/h],TPS\n80,90\n90,90\n"))["digest"]
        assert "no column of engine speed" in self.kept(shop, job[0], name="x", log_digest=digest).json()["detail"]
        assert self.kept(shop, job[0], name="x", log_digest="0" * 64).status_code == 404

    @pytest.mark.parametrize(
        ("use", "words"),
        [
            ({"name": " "}, "Name the use"),
            ({"name": "x", "low_rpm": 5000, "high_rpm": 3000}, "is no band"),
            ({"name": "x", "low_rpm": 5000}, "is no band"),
            ({"name": "Hill climb", "low_rpm": 3000, "high_rpm": 5000}, "at check-in"),
        ],
    )
    def test_what_is_no_use_is_refused(self, shop, job, use, words):
        answer = self.kept(shop, job[0], **use)
        assert answer.status_code == 422
        assert words in answer.json()["detail"]

    def test_a_table_holds_so_many(self, shop, job):
        for number in range(3):
            shop.kept(self.kept(shop, job[0], name=f"use {number}", low_rpm=3000, high_rpm=5000))
        assert "Take one away" in self.kept(shop, job[0], name="one more", low_rpm=3000, high_rpm=5000).json()["detail"]
