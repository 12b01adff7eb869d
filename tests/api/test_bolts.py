"""Bolt maps over the API: the order of a flange, its rounds ticked off, and what would strip or bottom."""

import pytest

from elvarn.core.fit.tightening import in_a_row
from tests.shop import new_id

AT = "2026-03-03T10:00:00Z"
PLACES = [{"x_mm": x, "y_mm": y} for y in (-45, 45) for x in (-80, -40, 0, 40, 80)]
BOLTS = {"name": "Manifold flange", "thread": "M8", "stack_mm": 20, "depth_mm": 18, "length_mm": 35,
         "torque": "22 N·m", "torque_source": "sheet F5-3", "places": PLACES}  # fmt: skip


class Flange:
    """A job with the bolts of one flange."""

    def __init__(self, shop, **bolts):
        self.shop, self.job, self.id = shop, shop.job(), new_id()
        shop.kept(self.put(**bolts))

    def put(self, **bolts):
        body = {"person_id": self.shop.person, "job_id": self.job, "bolts": {**BOLTS, **bolts}}
        return self.shop.put(f"/bolt-maps/{self.id}", body)

    def sheet(self, units="metric"):
        return self.shop.get(f"/jobs/{self.job}/bolts", units=units)["maps"][0]

    def tick(self, bolt=None, **more):
        sheet = self.sheet()
        body = {"version": sheet["version"], "person_id": self.shop.person, "at": AT,
                "bolt": sheet["bolt"] if bolt is None else bolt, **more}  # fmt: skip
        return self.shop.client.patch(f"/api/bolt-maps/{self.id}/ticks", json=body)

    def edit(self, **bolts):
        body = {"version": self.sheet()["version"], "bolts": {**BOLTS, **bolts}}
        return self.shop.client.patch(f"/api/bolt-maps/{self.id}", json=body)

    def said(self):
        return " ".join("".join(piece["text"] for piece in one["pieces"]) for one in self.sheet()["margin"])


@pytest.fixture
def flange(shop):
    return Flange(shop)


def test_the_rounds_are_by_hand_in_steps_and_once_round(flange):
    sheet = flange.sheet()
    assert [one["name"] for one in sheet["rounds"]] == ["by hand", "30 %", "60 %", "100 %", "round again"]
    assert [one["torque"] and one["torque"]["text"] for one in sheet["rounds"]] == [None, "6.6", "13.2", "22.0", "22.0"]
    order = sheet["rounds"][0]["order"]
    assert in_a_row([(p["x_mm"], p["y_mm"]) for p in PLACES], order) == 0
    assert (sheet["round"], sheet["bolt"]) == (0, order[0])
    assert [sheet["bolts"][n]["number"] for n in order] == list(range(1, 11))
    assert sheet["words"] == "10 M8 × 35 mm, class 8.8, oiled, hex head 13 mm"


def test_bolts_are_ticked_in_their_order_to_the_end(flange):
    order = flange.sheet()["rounds"][0]["order"]
    for bolt in order:
        flange.shop.kept(flange.tick(bolt))
    sheet = flange.sheet()
    assert (sheet["round"], sheet["bolt"]) == (1, order[0])
    for _ in range(4 * len(order)):
        flange.shop.kept(flange.tick())
    done = flange.sheet()
    assert (done["round"], done["bolt"]) == (None, None)
    assert flange.tick(0).status_code == 422


def test_a_bolt_out_of_turn_is_asked_about_and_taken_back(flange):
    order = flange.sheet()["rounds"][0]["order"]
    answer = flange.tick(order[3])
    assert answer.status_code == 422
    assert "Number 1 is next" in answer.json()["detail"]
    first, same = answer.json()["offers"]
    assert first["patch"] == {"bolt": order[0]}
    flange.shop.kept(flange.tick(order[3], **same["patch"]))
    assert flange.sheet()["rounds"][0]["ticked"] == [order[3]]
    flange.shop.kept(flange.tick(back=True))
    assert flange.sheet()["rounds"][0]["ticked"] == []
    assert flange.tick(order[0] + 20).status_code == 422


def test_the_margin_tells_whose_torque_it_is_and_what_it_does(flange):
    said = flange.said()
    assert "22.0 N·m is sheet F5-3's; computed for M8 8.8 oiled: 1" in said
    assert "of proof, ±30 %" in said
    assert "15 mm of thread in cast aluminium, heat-treated, 1.9 times the bolt" in said


def test_without_a_maker_s_torque_it_is_computed_and_said_so(shop):
    flange = Flange(shop, torque="", torque_source="")
    assert flange.sheet()["computed"]
    assert "No maker's torque is noted" in flange.said()


def test_inch_pounds_typed_as_newton_metres_are_asked_about(shop):
    flange = Flange(shop)
    answer = flange.edit(thread="M6", stack_mm=29, depth_mm=14, length_mm=40, torque="89 N·m")
    assert answer.status_code == 422
    assert "89 lbf·in would be 10.1 N·m" in answer.json()["detail"]
    offer = answer.json()["offers"][0]
    assert offer["patch"] == {"torque": "89 lbf·in"}
    flange.shop.kept(flange.edit(thread="M6", stack_mm=29, depth_mm=14, length_mm=40, **offer["patch"]))
    sheet = flange.sheet()
    assert (sheet["torque"]["text"], sheet["torque"]["unit"]) == ("89", "lb·in")  # as the wrench has it
    assert sheet["typed"]["torque"] == "89 lbf·in"


def test_a_bolt_that_bottoms_is_asked_about_with_those_that_fit(shop):
    flange = Flange(shop)
    answer = flange.edit(length_mm=45)
    assert answer.status_code == 422
    assert "bottoms by 7.0 mm" in answer.json()["detail"]
    assert answer.json()["path"] == "bolts.length_mm"
    assert [one["label"] for one in answer.json()["offers"]] == ["Use 35 mm", "Save it anyway, flagged"]
    flange.shop.kept(flange.edit(length_mm=45, accepted=["hold"]))
    assert flange.sheet()["flags"] == ["length flagged"]
    assert "bottoms" in flange.said()


def test_one_longer_bolt_among_the_others_is_seen(shop):
    places = [*PLACES[:9], {**PLACES[9], "length_mm": 45, "tool": "ball end 6"}]
    flange = Flange(shop)
    assert "bottoms" in flange.edit(places=places).json()["detail"]
    flange.shop.kept(flange.edit(places=places, accepted=["hold"]))
    sheet = flange.sheet()
    assert "35 and 45 mm" in sheet["words"]
    assert sheet["bolts"][9]["tool"] == "ball end 6"


@pytest.mark.parametrize(
    ("given", "path", "says"),
    [
        ({"places": []}, "bolts.places", "Tap each bolt once"),
        ({"places": [PLACES[0], PLACES[0]]}, "bolts.places", "where another one is"),
        ({"thread": "M9"}, "bolts.thread", "'M9' is no thread"),
        ({"stack_mm": 0}, "bolts.stack_mm", "above 0"),
        ({"bolt_class": "7.7"}, "bolts.bolt_class", "'7.7' is not known"),
        ({"name": " "}, "bolts.name", "name"),
        ({"torque": "-3 N·m"}, "bolts.torque", "above 0"),
    ],
)
def test_what_can_not_be_is_refused_in_place(flange, given, path, says):
    answer = flange.edit(**given)
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert answer.json()["path"] == path


def test_bolts_that_were_tightened_stay_where_they_are(flange):
    flange.shop.kept(flange.tick())
    answer = flange.edit(places=PLACES[:9])
    assert answer.status_code == 422
    assert "1 tick stands on these bolts" in answer.json()["detail"]
    flange.shop.kept(flange.edit(torque="20 N·m"))
    assert len(flange.sheet()["rounds"][0]["ticked"]) == 1


def test_a_stale_tick_is_refused_and_a_job_goes_with_its_map(flange):
    body = {"version": 9, "person_id": flange.shop.person, "at": AT, "bolt": flange.sheet()["bolt"]}
    assert flange.shop.client.patch(f"/api/bolt-maps/{flange.id}/ticks", json=body).status_code == 409
    assert flange.put().status_code == 200  # sent twice it is kept once
    assert len(flange.shop.get(f"/jobs/{flange.job}/bolts")["maps"]) == 1


def test_a_small_socket_in_a_low_head_is_asked_about(shop):
    flange = Flange(shop)
    answer = flange.edit(drive="low head, socket")
    assert answer.status_code == 422
    assert "5 mm socket in a low head gives at about 13 N·m" in answer.json()["detail"]
    flange.shop.kept(flange.edit(drive="low head, socket", accepted=["torque"]))
    assert "low head, socket 5 mm" in flange.sheet()["words"]
    assert "hex head of class 8.8" in flange.said()


def test_bolts_that_cut_their_own_thread_are_told(shop):
    flange = Flange(shop, forming=True)
    assert "class 8.8, thread-forming" in flange.sheet()["words"]
    assert "Start it by hand" in flange.said()


def test_a_crow_foot_is_told_in_the_margin(shop):
    flange = Flange(shop, places=[{**PLACES[0], "tool": "crow foot 13 mm"}, *PLACES[1:]])
    assert "wrench / (wrench + foot)" in flange.said()
