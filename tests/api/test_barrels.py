"""Throttles and adapters over the API: bores along their depth, what a cut is worth, and what can hardly be."""

from math import pi, sqrt

import pytest

from elvarn.core.path.throttle import wide_open_fraction
from tests.shop import new_id

AT, LATER = "2026-03-03T09:00:00Z", "2026-03-04T09:00:00Z"
ROUND = {12: "65.00", 3: "65.00"}


class Boring:
    """A job with a throttle or an adapter of its own, and short ways to gauge it."""

    def __init__(self, shop, kind="throttle", name="Throttle 65", **job):
        self.shop, self.kind = shop, kind
        self.job = shop.job(**job)
        self.part, self.state = new_id(), new_id()
        body = {"person_id": shop.person, "job_id": self.job, "kind": kind, "name": name, "state_id": self.state}
        shop.kept(shop.put(f"/parts/{self.part}", body))

    def size(self, quantity, typed, at=AT, **more):
        body = {"person_id": self.shop.person, "job_id": self.job, "part_state_id": self.state, "taken_at": at,
                "element_kind": self.kind, "quantity": quantity, "typed": typed, **more}  # fmt: skip
        return self.shop.put(f"/dimensions/{new_id()}", body)

    def sizes(self, **typed):
        for quantity, text in typed.items():
            self.shop.kept(self.size(quantity, text))

    def across(self, place, hour, typed, barrel=1, **more):
        return self.size("across", typed, place=place, hour=hour, barrel=barrel, **more)

    def gauged(self, bores, barrel=1, **more):
        for place, figures in bores.items():
            for hour, typed in figures.items():
                self.shop.kept(self.across(place, hour, typed, barrel, **more))

    def sheet(self, units="trade", **query):
        return self.shop.get(f"/jobs/{self.job}/barrels", units=units, **query)

    def said(self):
        return " ".join(piece["text"] for one in self.sheet()["margin"] for piece in one["pieces"])

    def cut(self):
        identifier = new_id()
        body = {"person_id": self.shop.person, "part_id": self.part, "stage": 1, "in_work": True}
        self.shop.kept(self.shop.put(f"/states/{identifier}", body))
        self.state = identifier


@pytest.fixture
def throttle(shop):
    made = Boring(shop)
    made.gauged({"0": ROUND, "40": ROUND, "80": {12: "64.40", 3: "64.40"}})
    made.sizes(shaft="9 mm", plate="2.2 mm", plate_at="40 mm", closed_angle="8", entry_radius="2 mm")
    return made


def test_the_bore_map_tells_depth_for_depth(throttle):
    sheet = throttle.sheet()
    [barrel] = sheet["barrels"]
    assert [d["place_mm"] for d in barrel["depths"]] == [0, 40, 80]
    assert [d["bore"]["text"] for d in barrel["depths"]] == ["65.00", "65.00", "64.40"]
    assert barrel["narrowest"] == 2
    assert [d["seals"] for d in barrel["depths"]] == [False, True, False]
    assert [d["wanted"] and d["wanted"]["text"] for d in barrel["depths"]] == [None, None, "65.00"]
    assert sheet["open_percent"] == round(100 * wide_open_fraction(0.065, 0.009))
    assert sheet["hours"] == [12, 3]


def test_what_can_be_done_comes_best_first_each_with_its_range(throttle):
    changes = throttle.sheet()["changes"]
    assert [one["change"] for one in changes] == ["entry", "blade", "narrow"]
    entry, blade, narrow = changes
    assert (entry["was"], entry["becomes"]) == ("2.0 mm", "9.8 mm")  # 0.15 bores, Crane TP-410
    assert (blade["was"], blade["becomes"]) == ("9.0 mm", "4.5 mm")
    assert (narrow["was"], narrow["becomes"]) == ("64.4 mm", "65.0 mm")
    assert all(one["percent"].startswith("+") and "±" in one["percent"] for one in changes)
    assert [one["share"] for one in changes] == sorted((one["share"] for one in changes), reverse=True)


def test_gains_are_told_in_flow_of_what_it_passes(throttle):
    sheet = throttle.sheet()
    assert not sheet["measured"]
    assert (sheet["headline"], sheet["go"]) == ("Radius the entry", True)
    assert sheet["changes"][0]["gain"].endswith("CFM")
    assert "reckoned to pass alone at 28 inH2O" in throttle.said()
    metric = throttle.sheet(units="metric")
    assert metric["changes"][0]["gain"].endswith("m³/h")
    ratio = metric["flow"]["value"] / sheet["flow"]["value"]
    assert ratio == pytest.approx(1.699, rel=1e-3)


def test_the_land_to_the_groove_ends_a_cut(throttle):
    throttle.sizes(land_in="4 mm", land_out="2.1 mm")
    changes = {one["change"]: one for one in throttle.sheet()["changes"]}
    assert changes["entry"]["becomes"] == "2.0 mm" if "entry" in changes else True
    assert changes["narrow"]["becomes"] == "64.6 mm"
    assert changes["narrow"]["ends"] == "the land to the seal's groove ends it"
    assert "2.0 mm in hand all round" in throttle.said()
    throttle.shop.kept(throttle.size("land_out", "1.8 mm", at=LATER))
    assert "narrow" not in {one["change"] for one in throttle.sheet()["changes"]}
    assert "no metal off there" in throttle.said()


def test_a_stop_behind_the_shaft_costs_nothing_and_one_before_it_does(throttle):
    throttle.sizes(wide_open_angle="84")
    assert "Its stop at 84° costs no area" in throttle.said()
    assert "stop" not in {one["change"] for one in throttle.sheet()["changes"]}
    throttle.shop.kept(throttle.size("wide_open_angle", "72", at=LATER))
    assert "It stops at 72°, short of wide open" in throttle.said()
    [stop] = [one for one in throttle.sheet()["changes"] if one["change"] == "stop"]
    assert (stop["was"], stop["becomes"]) == ("72°", "90°")


def test_out_of_round_where_the_blade_closes_is_told_as_an_opening(throttle):
    throttle.shop.kept(throttle.across("40", 3, "65.20", at=LATER))
    gap = pi / 4 * ((65.0**2 + 65.2**2) / 2 - 65.0**2)
    assert f"up to {gap:.1f} mm² stay open" in throttle.said()
    [barrel] = throttle.sheet()["barrels"]
    assert barrel["depths"][1]["out_of_round"]["text"] == "0.20"
    assert barrel["depths"][1]["bore"]["value"] == pytest.approx(sqrt((65.0**2 + 65.2**2) / 2))


def test_the_map_is_the_bore_of_the_path(shop):
    made = Boring(shop)
    made.sizes(bore="66 mm")
    made.gauged({"0": ROUND, "80": {12: "64.40", 3: "64.40"}}, at=LATER)
    state = shop.get(f"/parts/{made.part}")
    assert [d["measured"]["text"] for d in state["dimensions"] if d["name"] == "Bore"] == ["64.4"]
    names = [one["what"] for one in state["readings"]]
    assert "across at 80 mm, 12 o'clock" in names
    shop.kept(made.size("bore", "66 mm", at="2026-03-05T09:00:00Z"))
    state = shop.get(f"/parts/{made.part}")
    assert [d["measured"]["text"] for d in state["dimensions"] if d["name"] == "Bore"] == ["66.0"]


def test_a_cut_keeps_what_it_left_and_asks_for_closure_again(throttle):
    throttle.cut()
    throttle.shop.kept(throttle.across("80", 12, "65.00", at=LATER))
    throttle.shop.kept(throttle.across("80", 3, "65.00", at=LATER))
    [barrel] = throttle.sheet()["barrels"]
    last = barrel["depths"][2]
    assert (last["before"]["text"], last["bore"]["text"]) == ("64.40", "65.00")
    assert [g["old"] for g in barrel["depths"][0]["gauges"]] == [True, True]
    assert "Full closure was not checked" in throttle.said()
    throttle.sizes(closed_angle="8")
    assert "Full closure was not checked" not in throttle.said()


def test_a_bore_that_grew_smaller_is_asked_about(throttle):
    throttle.cut()
    answer = throttle.across("80", 12, "64.00", at=LATER)
    assert answer.status_code == 422
    assert "64.40 mm across, now 64.00" in answer.json()["detail"]
    offers = answer.json()["offers"]
    assert [one["label"] for one in offers][:3] == ["Filled here", "Sleeve fitted", "Welded up"]
    throttle.shop.kept(throttle.across("80", 12, "64.00", at=LATER, **offers[1]["patch"]))
    gauges = throttle.sheet()["barrels"][0]["depths"][2]["gauges"]
    assert gauges[0]["marks"] == ["insert"]


@pytest.mark.parametrize(
    ("given", "path", "says"),
    [
        ({"place": "-3", "hour": 12, "typed": "65"}, "place", "-3"),
        ({"place": "40", "hour": 13, "typed": "65"}, "hour", "1 to 12"),
        ({"place": "40", "hour": 12, "typed": "65", "barrel": 17}, "barrel", "17"),
        ({"place": "40", "hour": 12, "typed": "6.5"}, "typed", "Wrong unit?"),
        ({"place": "40", "hour": 6, "typed": "60.0"}, "typed", "out of round"),
    ],
)
def test_what_can_not_be_gauged_names_its_place(throttle, given, path, says):
    answer = throttle.across(given["place"], given["hour"], given["typed"], given.get("barrel", 1))
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert answer.json()["path"] == path


def test_an_angle_from_the_other_side_is_asked_about(throttle):
    answer = throttle.size("wide_open_angle", "6")
    assert answer.status_code == 422
    assert "counted from square across the bore" in answer.json()["detail"]
    assert answer.json()["offers"][0]["patch"] == {"typed": "84 °"}
    thick = throttle.size("plate", "22 mm")
    assert "plate of 22 mm" in thick.json()["detail"]


@pytest.mark.parametrize(
    ("first", "then", "says"),
    [
        (("bore", "21 mm"), ("shaft", "22 mm"), "A shaft of 22 mm fills a bore of 21 mm"),
        (("shaft", "20 mm"), ("bore", "20 mm"), "A shaft of 20 mm fills a bore of 20 mm"),
        (("closed_angle", "8"), ("wide_open_angle", "8"), "Wide open at 8°, closed at 8°"),
    ],
)
def test_sizes_that_can_not_be_beside_each_other_are_refused(shop, first, then, says):
    made = Boring(shop)
    made.shop.kept(made.size(*first))
    answer = made.size(*then, accepted=["unlikely"])
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert answer.json()["path"] == "typed"


def test_four_barrels_are_led_by_the_narrowest(shop):
    made = Boring(shop, name="Four barrels", runners=4)
    for number, bore in enumerate(("45.00", "44.90", "45.02"), start=1):
        made.gauged({"0": {12: bore, 3: bore}}, barrel=number)
    made.gauged({"0": {12: "45.0"}}, barrel=4)
    assert len(made.sheet()["barrels"]) == 4
    said = made.said()
    assert "Barrel 2 is the narrowest, by 0.12 mm" in said


def test_what_stands_open_is_not_told_where_nobody_measured_the_shaft(shop):
    made = Boring(shop)
    made.gauged({"0": ROUND})
    made.sizes(plate="2.2 mm")
    assert made.sheet()["open_percent"] is None
    assert "of its bore open" not in made.said()
    assert "Not measured: the shaft" in made.said()
    assert (made.sheet()["headline"], made.sheet()["go"]) == ("Measure the rest first", False)


def test_an_adapter_has_no_blade(shop):
    made = Boring(shop, kind="adapter", name="Adapter 66 to 65")
    made.gauged({"0": {12: "66.0"}, "10": {12: "64.5"}, "20": {12: "65.0"}})
    made.sizes(entry_radius="10 mm")
    sheet = made.sheet()
    assert sheet["open_percent"] is None
    assert next(one["quantity"] for one in sheet["details"]) == "entry_radius"
    [narrow] = sheet["changes"]
    assert (narrow["was"], narrow["becomes"]) == ("64.5 mm", "65.5 mm")
    assert narrow["title"] == "Open it 10 mm in"
    made.sizes(land_out="2.1 mm")
    assert made.sheet()["changes"][0]["ends"] == "a straight taper between both ends"  # the land is at the outlet


def test_nothing_gauged_asks_for_it_and_no_part_says_so(shop):
    made = Boring(shop)
    assert "was not gauged" in made.said()
    assert made.sheet()["changes"] == []
    job = shop.job()
    assert shop.get(f"/jobs/{job}/barrels")["part_id"] is None


def test_one_of_several_parts_is_chosen(shop):
    made = Boring(shop)
    other = new_id()
    body = {"person_id": shop.person, "job_id": made.job, "kind": "adapter", "name": "Plate", "state_id": new_id()}
    shop.kept(shop.put(f"/parts/{other}", body))
    assert [one["name"] for one in made.sheet()["parts"]] == ["Throttle 65", "Plate"]
    assert made.sheet(part=other)["part_id"] == other


def test_a_ported_throttle_with_a_skimmed_face_has_a_shallower_groove(throttle):
    throttle.sizes(groove_depth="2.40 mm")
    throttle.cut()
    throttle.shop.kept(throttle.size("groove_depth", "2.10 mm", at=LATER))
    assert "was 2.40 mm deep, now 2.10 mm" in throttle.said()
