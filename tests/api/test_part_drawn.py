"""A part as it is drawn, how it is had, and what is known against it."""

import pytest

from tests.api.test_shelf import dimension, part, read, said

FITS = {"runners": 4, "head_flange": "F4", "port_pitch_mm": 94}


@pytest.fixture
def manifold(shop):
    return part(shop, "manifold", "Four")


def drawn(shop, identifier):
    return shop.get(f"/parts/{identifier}")["drawn"]


def test_a_manifold_is_drawn_runner_by_runner_and_the_low_one_is_told(shop, manifold):
    identifier, state = manifold
    shop.kept(said(shop, identifier, features={**FITS, "inlet": {"opening_mm": 70, "bolt_count": 4}}))
    for cylinder, flow in enumerate((203.2, 201.7, 194.7, 201.2), start=1):
        shop.kept(read(shop, state, "runner", str(flow), cylinder=cylinder))
    shop.kept(dimension(shop, state, "runner", "bore", "42 mm", cylinder=3))
    shop.kept(dimension(shop, state, "plenum", "volume", "2.4 L"))
    found = drawn(shop, identifier)
    assert [one["low"] for one in found["runners"]] == [False, False, True, False]
    assert found["runners"][2]["bore_mm"] == 42
    assert [one["bore_mm"] for one in found["runners"]].count(None) == 3
    assert [(f["end"], f["ports"], f["pitch_mm"]) for f in found["flanges"]] == [("inlet", 0, None), ("head", 4, 94)]
    volume = next(one for one in found["callouts"] if one["quantity"] == "volume")
    assert (volume["measured"], volume["unit"]) == (2.4, "L")


def test_only_what_its_kind_has_is_drawn_and_asked_for(shop):
    tube, _ = part(shop, "tube")
    throttle, _ = part(shop, "throttle")
    assert [one["quantity"] for one in drawn(shop, tube)["callouts"]] == ["bore", "bore_out", "length", "entry_radius"]
    assert "shaft" in [one["quantity"] for one in drawn(shop, throttle)["callouts"]]
    assert "runner count" not in drawn(shop, throttle)["not_checked"]
    assert "connector and signal" in drawn(shop, throttle)["not_checked"]


def test_what_was_never_stated_is_not_checked_until_it_is(shop, manifold):
    identifier, _ = manifold
    before = drawn(shop, identifier)["not_checked"]
    assert {"runner count", "head flange", "port pitch", "height", "boost rating"} <= set(before)
    shop.kept(said(shop, identifier, features={**FITS, "height_mm": 150, "boost_kpa": 100}))
    after = drawn(shop, identifier)["not_checked"]
    assert not {"runner count", "head flange", "port pitch", "height", "boost rating"} & set(after)


class TestAgainstAJob:
    @pytest.fixture
    def job(self, shop):
        around = {"bonnet_height_mm": 160, "rear_mm": 40, "head_flange": "F4"}
        engine = {"name": "four", "layout": "inline", "bore_mm": 86, "stroke_mm": 86, "limit_rpm": 7000}
        return shop.job(4, "whole_job", engine=engine, surroundings=around)

    def against(self, shop, job, identifier):
        found = shop.get(f"/jobs/{job}/candidates", kind="manifold")["candidates"]
        return {c["code"]: c for c in next(c for c in found if c["part_id"] == identifier)["conflicts"]}

    def test_plates_add_to_the_height_and_ask_for_longer_bolts(self, shop, job, manifold):
        identifier, _ = manifold
        plates = [{"thickness_mm": "10 mm", "words": "spacer"}, {"thickness_mm": 3}]
        shop.kept(said(shop, identifier, features={**FITS, "height_mm": 150, "plates": plates}))
        found = self.against(shop, job, identifier)
        assert "13 mm" in found["plates"]["text"]
        assert found["plates"]["buy"] == "bolts 13 mm longer"
        assert found["bonnet"]["text"] == "Too tall: 163 mm, bonnet clearance 160 mm."

    def test_what_reaches_too_far_to_the_rear_is_ruled_out(self, shop, job, manifold):
        identifier, _ = manifold
        shop.kept(said(shop, identifier, features={**FITS, "rear_mm": 55}))
        assert self.against(shop, job, identifier)["reach_rear"]["severity"] == "hard"

    @pytest.mark.parametrize(
        ("hazard", "severity"), [("swallowed", "hard"), ("sticks", "hard"), ("other", "information")]
    )
    def test_a_weakness_that_can_hurt_is_for_a_qualified_person(self, shop, job, manifold, hazard, severity):
        identifier, _ = manifold
        weakness = {"words": "flap screws come loose", "source": "two of our own", "hazard": hazard}
        shop.kept(said(shop, identifier, features={**FITS, "weaknesses": [weakness]}))
        found = self.against(shop, job, identifier)
        one = found.get("hazard") or found["weakness"]
        assert one["severity"] == severity
        assert "(two of our own)" in one["text"]
        if severity == "hard":
            assert "qualified person" in one["remedy"]

    def test_how_it_is_had_is_said(self, shop, job, manifold):
        identifier, _ = manifold
        shop.kept(said(shop, identifier, features={**FITS, "had": "exchange", "off_road_days": "2 weeks"}))
        assert "stands for 14 days" in self.against(shop, job, identifier)["exchange"]["text"]
        shop.kept(said(shop, identifier, features={**FITS, "had": "gone"}))
        assert self.against(shop, job, identifier)["no_longer_made"]["severity"] == "soft"
        run = {"had": "run", "next_run_on": "2027-02-01", "run_places": 3, "in_box": ["gasket"], "besides": ["rail"]}
        shop.kept(said(shop, identifier, features={**FITS, **run}))
        kept = shop.get(f"/parts/{identifier}")["features"]
        assert {name: kept[name] for name in run} == run


def test_what_can_not_be_is_refused_in_place(shop, manifold):
    identifier, _ = manifold
    answer = said(shop, identifier, features={**FITS, "plates": [{"thickness_mm": -3}]})
    assert (answer.status_code, answer.json()["path"]) == (422, "features.plates.0.thickness_mm")
    answer = said(shop, identifier, features={**FITS, "had": "borrowed"})
    assert answer.status_code == 422
