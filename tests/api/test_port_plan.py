"""What a part is to become: laws, zones, reach, material, and an edit that somebody else was faster with."""

import pytest

from tests.api.test_port import PLACES, SOUND, Porting, pinched, port, said

__all__ = ["pinched", "port"]


class TestPlan:
    def test_a_law_that_lacks_something_says_what(self, pinched, shop):
        shop.kept(pinched.plan(law="constant area")[1])
        sheet = pinched.sheet()
        assert sheet["next"]["head"] == "target"
        assert any("This law takes the area to hold. Enter it. Press T." in one for one in said(sheet))

    def test_a_constant_area_is_what_all_are_short_of(self, pinched, shop):
        shop.kept(pinched.plan(law="constant area", takes={"area_mm2": 1400})[1])
        cells = pinched.sheet()["runners"][0]["cells"]
        assert [cell["wanted_mm2"] for cell in cells] == [1400, 1400, 1400]
        assert [cell["short"] for cell in cells] == ["on", "−34", "−80"]

    def test_a_law_that_asks_for_too_much_is_told_and_cuts_nothing(self, pinched, shop):
        """One runner read 900 times less than the others: no area makes up for that."""
        figures, setup = (203.2, 201.7, 0.22, 201.2, 202.2), shop.setup(pinched.job)
        shop.series(pinched.job, setup, pinched.state, figures, accepted=["unlike_others"])
        shop.kept(pinched.plan(law="equal flow")[1])
        sheet = pinched.sheet()
        assert sheet["next"]["head"] == "target"
        assert any("The widest target is" in one for one in said(sheet))

    def test_a_constant_velocity_is_of_the_piston(self, shop):
        engine = {"name": "twin", "layout": "vee", "bank_count": 2, "bore_mm": 100, "stroke_mm": 80, "limit_rpm": 7000}
        port = Porting(shop, runners=2, kind="whole_job", engine=engine)
        for runner in (1, 2):
            port.profile(runner, SOUND)
        shop.kept(port.plan(law="constant velocity", takes={"rpm": 6000, "velocity_m_s": 90})[1])
        wanted = port.sheet()["runners"][1]["cells"][2]["wanted_mm2"]
        assert wanted == pytest.approx(3.14159 / 4 * 100**2 * 16 / 90, rel=1e-4)

    @pytest.mark.parametrize(
        ("kind", "words"), [("land", "seal land: no metal off"), ("weld", "weld up outside first")]
    )
    def test_a_zone_bars_what_is_short_in_it(self, pinched, shop, kind, words):
        zones = [{"kind": kind, "from_mm": 80, "to_mm": 100, "runner": 3}]
        shop.kept(pinched.plan(zones=zones)[1])
        sheet = pinched.sheet()
        assert sheet["runners"][2]["cells"][1]["stop"] == words
        assert sheet["next"]["head"] == "walls"
        assert any(f"Short, but {words}: runner 3 at 90 mm" in one for one in said(sheet))

    def test_a_tool_that_doesnt_reach(self, pinched, shop):
        shop.kept(pinched.plan(reach_mm=60)[1])
        assert pinched.sheet()["runners"][2]["cells"][1]["stop"] == "out of the tool's reach from either end"

    def test_a_moulded_wall_is_not_cut(self, pinched, shop):
        shop.kept(pinched.plan(material="composite")[1])
        sheet = pinched.sheet()
        assert sheet["next"]["head"] == "walls"
        assert any("Fibre dust" in one for one in said(sheet))

    def test_magnesium_leads_with_its_danger(self, pinched, shop):
        shop.kept(pinched.plan(material="magnesium")[1])
        assert said(pinched.sheet())[0].startswith("Magnesium burns violently: no water on it")
        assert pinched.sheet()["margin"][0]["tone"] == "harm"

    def test_more_wall_than_usual_leaves_less_in_hand(self, pinched, shop):
        shop.kept(pinched.plan(least_wall_mm=3.9)[1])
        found = pinched.sheet()["next"]
        assert (found["depth"]["text"], found["off"]) == ("0.7", "off the floor")
        assert "the wall ends it short of the target" in found["stops"]

    def test_a_stale_plan_shows_both(self, pinched, shop):
        identifier, answer = pinched.plan()
        shop.kept(answer)
        plan = {"material": "iron", "stations": list(PLACES)}
        first = shop.client.patch(f"/api/port-plans/{identifier}", json={"version": 1, "plan": plan})
        assert first.status_code == 200
        again = shop.client.patch(f"/api/port-plans/{identifier}", json={"version": 1, "plan": plan})
        assert again.status_code == 409
        assert again.json()["current"]["version"] == 2

    def test_a_taken_away_job_takes_its_plan_along(self, shop):
        port = Porting(shop)
        shop.kept(port.plan()[1])
        answer = shop.client.delete(f"/api/jobs/{port.job}", params={"version": 1})
        assert answer.status_code == 204, answer.text
