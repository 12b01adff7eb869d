"""Port work over the API: the manifold unrolled, where to cut next, what stops it, and what can hardly be."""

import pytest

from tests.shop import new_id

AT = "2026-03-03T09:00:00Z"
LATER = "2026-03-03T11:00:00Z"
WALLS = {12: "3.2", 3: "3.9", 6: "4.6", 9: "3.9"}
SOUND = ("42.2", "41.7", "41.0")
PINCHED = ("42.2", "41.0", "41.0")
PLACES = ("0", "90", "180")


class Porting:
    """A job with its part, and short ways to measure it."""

    def __init__(self, shop, **job):
        self.shop = shop
        self.job = shop.job(**job)
        self.state = self.sheet()["state_id"]

    def sheet(self, units="trade"):
        return self.shop.get(f"/jobs/{self.job}/port", units=units)

    def section(self, runner, place, typed, at=AT, **more):
        body = {"person_id": self.shop.person, "job_id": self.job, "part_state_id": self.state, "cylinder": runner,
                "place": place, "typed": typed, "taken_at": at, **more}  # fmt: skip
        return self.shop.put(f"/section-readings/{new_id()}", body)

    def wall(self, runner, place, hour, typed, at=AT, **more):
        body = {"person_id": self.shop.person, "job_id": self.job, "part_state_id": self.state, "cylinder": runner,
                "place": place, "hour": hour, "typed": typed, "taken_at": at, **more}  # fmt: skip
        return self.shop.put(f"/wall-readings/{new_id()}", body)

    def profile(self, runner, sizes, **more):
        for place, typed in zip(PLACES, sizes, strict=True):
            self.shop.kept(self.section(runner, place, typed, **more))

    def walls(self, runner, place, walls=None, **more):
        for hour, typed in (walls or WALLS).items():
            self.shop.kept(self.wall(runner, place, hour, typed, **more))

    def plan(self, **more):
        identifier = new_id()
        plan = {"material": "aluminium", "stations": list(PLACES), **more}
        body = {"person_id": self.shop.person, "job_id": self.job, "part_id": self.sheet()["part_id"], "plan": plan}
        return identifier, self.shop.put(f"/port-plans/{identifier}", body)

    def flows(self, figures):
        self.shop.series(self.job, self.shop.setup(self.job), self.state, figures)

    def start(self, stage=2):
        identifier = new_id()
        body = {"person_id": self.shop.person, "part_id": self.sheet()["part_id"], "stage": stage, "in_work": True}
        answer = self.shop.put(f"/states/{identifier}", body)
        if answer.status_code == 200:
            self.state = identifier
        return answer


def said(sheet):
    return ["".join(piece["text"] for piece in one["pieces"]) for one in sheet["margin"]]


@pytest.fixture
def port(shop):
    return Porting(shop)


@pytest.fixture
def pinched(port):
    """Five runners of which the third has a pinch 90 mm in, its walls gauged there."""
    for runner in range(1, 6):
        port.profile(runner, PINCHED if runner == 3 else SOUND)
    port.walls(3, "90")
    return port


def test_nothing_measured_asks_for_sections(port):
    sheet = port.sheet()
    assert sheet["next"]["head"] == "measure"
    assert [runner["number"] for runner in sheet["runners"]] == [1, 2, 3, 4, 5]
    assert [cell["place_mm"] for cell in sheet["runners"][0]["cells"]] == [0, 50, 100, 150, 200, 250, 300]
    assert any("The material is not stated" in one for one in said(sheet))


def test_no_station_stands_beyond_the_runner(port, shop):
    body = {"person_id": shop.person, "job_id": port.job, "part_state_id": port.state, "element_kind": "runner",
            "cylinder": 1, "quantity": "length", "typed": "290 mm", "taken_at": AT}  # fmt: skip
    shop.kept(shop.put(f"/dimensions/{new_id()}", body))
    assert [cell["place_mm"] for cell in port.sheet()["runners"][0]["cells"]] == [0, 45, 90, 135, 180, 225, 270]


def test_no_depth_without_a_wall(port):
    for runner in range(1, 6):
        port.profile(runner, PINCHED if runner == 3 else SOUND)
    found = port.sheet()["next"]
    assert (found["head"], found["title"], found["place"], found["depth"]) == ("gauge", "Runner 3", "90 mm in", None)


def test_the_pinch_is_cut_on_its_thick_side_and_says_what_stops_it(pinched):
    """41.7 against 41.0 mm are 45.5 mm²: off the thick floor until what is left is level."""
    sheet = pinched.sheet()
    found = sheet["next"]
    assert (found["head"], found["title"], found["place"]) == ("cut", "Runner 3", "90 mm in, floor")
    assert found["clock"] == "4 to 8 o'clock"
    assert found["depth"]["text"] == "1.0"
    assert found["off"] == "off the floor"
    assert found["stops"].startswith("wall 3.0 mm · 0.6 mm in hand")
    cell = sheet["runners"][2]["cells"][1]
    assert cell["short"] == "−45"
    assert cell["wanted_mm2"] - cell["now_mm2"] == pytest.approx(45.5, abs=0.1)
    assert (cell["thinnest"]["text"], cell["cut"]["left"]["text"]) == ("3.2", "3.6")
    assert [one["short"] for one in sheet["runners"][0]["cells"]] == ["on"] * 3
    assert any("The core is shifted: 3.2 mm at 12 o'clock, 4.6 mm at 6" in one for one in said(sheet))


def test_the_rest_is_told_in_flow_and_stops_below_what_the_bench_shows(pinched):
    pinched.flows((203.2, 201.7, 200.9, 201.2, 202.2))
    sheet = pinched.sheet()
    runner = sheet["runners"][2]
    assert runner["gain"].startswith("+")
    assert runner["gain"].endswith("CFM")
    assert runner["unseen"]
    assert sheet["next"]["head"] == "stop"
    assert any("Stop: polish and reflow." in one and "less than the ±" in one for one in said(sheet))


def test_a_runner_without_sections_is_measured_before_anybody_stops(port):
    for runner in range(1, 5):
        port.profile(runner, SOUND)
    port.flows((203.2, 201.7, 200.9, 201.2, 202.2))
    sheet = port.sheet()
    assert (sheet["next"]["head"], sheet["next"]["runner"], sheet["next"]["station"]) == ("measure", 5, 0)
    assert any("Runner 5 is not known yet: measure it at two stations or more." in one for one in said(sheet))
    assert not sheet["runners"][4]["unseen"]


def test_one_wall_alone_is_cut_on_its_own_side(port):
    for runner in range(1, 6):
        port.profile(runner, PINCHED if runner == 3 else SOUND)
    port.walls(3, "90", {6: "8"})
    sheet = port.sheet()
    assert sheet["next"]["place"] == "90 mm in, floor"
    assert any("One wall only is gauged there: the cut stays at that side." in one for one in said(sheet))


def test_a_large_rest_goes_on(port):
    for runner in range(1, 6):
        port.profile(runner, ("40.0", "38.5", "37.8") if runner == 3 else SOUND)
        port.walls(runner, "180", {3: "6", 6: "6", 9: "6", 12: "6"})
    port.flows((203.2, 201.7, 180.9, 201.2, 202.2))
    sheet = port.sheet()
    assert sheet["next"]["head"] == "cut"
    assert "CFM" in sheet["next"]["gain"]
    assert sheet["next"]["estimate"] == "estimate, ±50 %"
    assert any("The whole rest of runner 3 is worth about +" in one for one in said(sheet))


def test_a_stage_in_work_takes_what_is_measured_and_is_no_done_step(pinched, shop):
    assert pinched.start().status_code == 200
    rail = {step["word"]: step for step in shop.get(f"/jobs/{pinched.job}")["rail"]}
    assert rail["port"]["status"] == "stage 2 in work"
    assert rail["port"]["state"] != "done"
    shop.kept(pinched.section(3, "90", "41.7", LATER))
    sheet = pinched.sheet()
    assert sheet["in_work"]
    cell = sheet["runners"][2]["cells"][1]
    assert (cell["short"], cell["old"]) == ("on", False)
    assert sheet["runners"][2]["cells"][0]["old"]
    assert pinched.start(3).json()["detail"].startswith("Stage 2, entries and curves is in work")
    shop.kept(shop.post(f"/states/{pinched.state}/finish", {"person_id": shop.person}))
    rail = {step["word"]: step for step in shop.get(f"/jobs/{pinched.job}")["rail"]}
    assert (rail["port"]["state"], rail["port"]["status"]) == ("done", "stage 2")


def test_a_stage_in_work_keeps_what_was_flowed_last(pinched):
    """Its own runners are not read yet: those of the state before count, not those as received."""
    pinched.flows((203.2, 201.7, 180.9, 201.2, 202.2))
    pinched.start()
    pinched.flows((213.0, 212.0, 205.0, 211.0, 212.5))
    pinched.shop.kept(pinched.shop.post(f"/states/{pinched.state}/finish", {"person_id": pinched.shop.person}))
    pinched.start(3)
    assert [runner["flow"]["text"] for runner in pinched.sheet()["runners"]] == [
        "213.0", "212.0", "205.0", "211.0", "212.5"
    ]  # fmt: skip


def test_another_manifold_on_the_job_lends_nothing(pinched, shop):
    """What is poured and how long a runner is are those of the part that is cut."""
    body = {"person_id": shop.person, "job_id": pinched.job, "part_state_id": pinched.state, "element_kind": "runner",
            "cylinder": 1, "quantity": "length", "typed": "240 mm", "taken_at": AT}  # fmt: skip
    shop.kept(shop.put(f"/dimensions/{new_id()}", body))
    build = shop.builds(pinched.job)[0]["id"]
    state = shop.part("manifold", f"Other {new_id()[:6]}")
    volume = {**body, "job_id": None, "part_state_id": state, "quantity": "volume", "typed": "900 cc"}
    shop.kept(shop.put(f"/dimensions/{new_id()}", volume))
    shop.varied(pinched.job, build, "runner", state, "with the other")
    assert pinched.sheet()["runners"][0]["volume"]["poured"] is None


def test_a_wall_gauged_before_the_cut_counts_as_if_all_came_off_it(pinched, shop):
    pinched.start()
    shop.kept(pinched.section(3, "90", "41.4", LATER))
    sheet = pinched.sheet()
    walls = {wall["hour"]: wall for wall in sheet["runners"][2]["cells"][1]["walls"]}
    assert walls[6]["reckoned"]
    assert walls[6]["mm"]["value"] == pytest.approx(4.2)
    assert any("Metal came off after the wall was gauged: runner 3 at 90 mm" in one for one in said(sheet))
    shop.kept(pinched.wall(3, "90", 6, "4.3", LATER))
    walls = {wall["hour"]: wall for wall in pinched.sheet()["runners"][2]["cells"][1]["walls"]}
    assert (walls[6]["reckoned"], walls[6]["mm"]["text"]) == (False, "4.3")


def test_walls_that_dont_add_up_are_told(pinched, shop):
    """The bore grew by 2 mm, the two walls lost 0.4: 1.6 mm are nowhere."""
    pinched.start()
    shop.kept(pinched.section(3, "90", "43.0", AT.replace("09", "10")))
    for hour, typed in ((6, "4.4"), (12, "3.0")):
        shop.kept(pinched.wall(3, "90", hour, typed, LATER))
    assert any("bore and walls don't add up by 1.6 mm" in one for one in said(pinched.sheet()))


class TestBadInput:
    def test_a_section_smaller_than_before_is_asked_about_and_says_what_made_it_so(self, pinched, shop):
        answer = pinched.section(3, "90", "40", LATER)
        assert answer.status_code == 422
        body = answer.json()
        assert "had 1,320 mm², now 1,257 mm²: cutting makes it larger" in body["detail"]
        assert [offer["label"] for offer in body["offers"]][:3] == ["Filled here", "Insert fitted", "Welded up"]
        shop.kept(pinched.section(3, "90", "40", LATER, accepted=["welded"]))
        cell = pinched.sheet()["runners"][2]["cells"][1]
        assert (cell["marks"], cell["typed"]) == (["welded"], "40")

    def test_a_wall_thicker_than_before_is_asked_about(self, pinched):
        answer = pinched.wall(3, "90", 6, "5.5", LATER)
        assert answer.status_code == 422
        assert "was 4.6 mm: cutting makes it thinner" in answer.json()["detail"]

    def test_square_inches_beside_millimetres(self, pinched):
        answer = pinched.section(3, "45", "1.9 mm2")
        assert answer.status_code == 422
        assert "Wrong unit?" in answer.json()["detail"]
        assert {"typed": "1.9 in2"} in [offer["patch"] for offer in answer.json()["offers"]]

    def test_inches_for_millimetres(self, pinched):
        answer = pinched.section(3, "45", "1.65")
        assert answer.json()["offers"][0]["patch"] == {"typed": "1.65 in"}

    @pytest.mark.parametrize(
        ("call", "status", "words"),
        [
            (lambda p: p.section(3, "-5", "41"), 422, "can't be: 0 is the entry"),
            (lambda p: p.section(6, "90", "41"), 422, "There is no runner 6: 1 to 5 can be"),
            (lambda p: p.section(3, "90", "41 x 44 r 30"), 422, "Corners of 30 mm"),
            (lambda p: p.section(3, "90", "tight"), 422, "isn't a section"),
            (lambda p: p.section(3, "90", "2 m", accepted=["unlikely"]), 422, "no runner is so wide"),
            (
                lambda p: p.plan(law="by hand", takes={"by_hand": [{"at_mm": 0, "area_mm2": 1e9}]})[1],
                422,
                "is no runner's",
            ),
            (lambda p: p.wall(3, "90", 13, "4"), 422, "13 o'clock can't be"),
            (lambda p: p.wall(3, "90", 6, "0"), 422, "can't be"),
            (lambda p: p.wall(3, "90", 6, "0.16 in", holds="oil"), 422, "nothing that a wall holds"),
            (lambda p: p.wall(3, "90", 6, "36"), 422, "Wrong unit?"),
            (lambda p: p.plan(stations=["0", "90", "45"])[1], 422, "Station 3 stands at 45, the one before it at 90"),
            (lambda p: p.plan(law="golden ratio")[1], 422, "no law"),
            (lambda p: p.plan(material="cheese")[1], 422, "no material"),
            (lambda p: p.plan(takes={"area_mm2": 2.1})[1], 422, "Square inches?"),
            (lambda p: p.plan(zones=[{"kind": "land", "from_mm": 90, "to_mm": 20}])[1], 422, "from the entry on"),
        ],
    )  # fmt: skip
    def test_what_cant_be_is_refused_by_name(self, port, call, status, words):
        answer = call(port)
        assert answer.status_code == status
        assert words in answer.json()["detail"]


class TestBottle:
    """What keeps the abrasive wet: told with a stage in work, by the air at the bench."""

    def lubricant(self, port):
        return next((one for one in said(port.sheet()) if one.startswith("Lubricant")), None)

    def test_only_while_somebody_cuts(self, port):
        assert self.lubricant(port) is None
        port.start()
        assert self.lubricant(port).startswith("Lubricant, shop temperature not noted: 70 % alcohol in soapy water.")

    def test_half_and_half_in_heat(self, port, shop):
        air = {"air_temperature_c": 29, "air_pressure_kpa": 99, "air_humidity_percent": 40}
        shop.series(port.job, shop.setup(port.job, **air), port.state, (200.0,))
        port.start()
        text = self.lubricant(port)
        assert text.startswith("Lubricant, 29 °C in the shop: 50 % alcohol in soapy water. It ignites from 24 to 29 °C")
        assert port.sheet()["margin"][2]["tone"] == "harm"

    def test_none_beside_iron_sparks(self, port, shop):
        shop.kept(port.plan(material="iron")[1])
        port.start()
        assert self.lubricant(port) == "Lubricant: soapy water alone; iron sparks ignite alcohol."


def test_a_poured_volume_that_differs_is_told(pinched, shop):
    body = {"person_id": shop.person, "job_id": pinched.job, "part_state_id": pinched.state, "element_kind": "runner",
            "cylinder": 3, "quantity": "volume", "typed": "300 cc", "taken_at": AT}  # fmt: skip
    shop.kept(shop.put(f"/dimensions/{new_id()}", body))
    volume = pinched.sheet()["runners"][2]["volume"]
    assert (volume["poured"]["text"], volume["integrated"]["text"]) == ("300", "240")
    assert any("Runner 3: the stations hold 20.0 % less than was poured" in one for one in said(pinched.sheet()))


def test_four_states_of_a_casting_take_the_place_of_the_assumed_half(shop):
    """Each job of this number: as received, stage 2; every runner gained 4 % where the sections say about as much."""
    number = f"N-{new_id()[:6]}"
    for _ in range(4):
        port = Porting(shop, runners=2, part_maker="Halvex", part_number=number)
        for runner in (1, 2):
            port.profile(runner, ("41", "41", "41"))
        port.flows((200.0, 200.0))
        port.start()
        for runner in (1, 2):
            port.profile(runner, ("42", "42", "42"), at=LATER)
        port.flows((208.0, 208.4))
        shop.kept(shop.post(f"/states/{port.state}/finish", {"person_id": shop.person}))
    fresh = Porting(shop, runners=2, part_maker="Halvex", part_number=number)
    fresh.profile(1, ("41", "41", "41"))
    fresh.profile(2, ("38", "37.5", "37"))
    fresh.walls(2, "180", {6: "8", 12: "8"})
    fresh.flows((200.0, 170.0))
    sheet = fresh.sheet()
    assert sheet["next"]["estimate"] == "estimate, from 4 states of this casting"
    assert any("The ± is what 4 states of this casting show" in one for one in said(sheet))


@pytest.mark.parametrize(
    ("runners", "kind"),
    [
        (8, {"layout": "vee", "bank_count": 2}),
        (6, {"layout": "flat", "bank_count": 2}),
        (1, {"layout": "single", "bank_count": 1}),
        (4, {"layout": "inline", "bank_count": 1}),
    ],
)
def test_other_engines(shop, runners, kind):
    shape = {"shape": "a throttle for each cylinder"} if runners == 4 else {}
    whole = {"name": "other", "bore_mm": 90, "stroke_mm": 80, "limit_rpm": 7000, **kind}
    port = Porting(shop, runners=runners, kind="whole_job", engine=whole, **shape)
    sheet = port.sheet()
    assert len(sheet["runners"]) == runners
    for runner in range(1, runners + 1):
        port.profile(runner, SOUND)
    assert port.sheet()["next"]["head"] == "stop"


class TestPhotos:
    PICTURE = (
        b"\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\x00\x00\x00\x01\x00\x00\x00\x01\x08\x06\x00\x00\x00\x1f\x15\xc4\x89"
        b"\x00\x00\x00\rIDATx\x9cc\xf8\xcf\xc0\xf0\x1f\x00\x05\x00\x01\xff\x89\x99=\x1d\x00\x00\x00\x00IEND\xaeB`\x82"
    )

    def photo(self, port, **more):
        sent = port.shop.client.post("/api/pictures", params={"name": "a.png"}, content=self.PICTURE)
        digest = port.shop.kept(sent)["digest"]
        body = {"person_id": port.shop.person, "file_digest": digest, "job_id": port.job, **more}
        return port.shop.put(f"/photos/{new_id()}", body)

    def test_one_of_a_station_stands_at_it_with_its_state(self, port, shop):
        shop.kept(self.photo(port, part_state_id=port.state, cylinder=3, place_mm="90 mm", caption="seam"))
        shop.kept(self.photo(port, caption="the box"))
        [photo] = port.sheet()["photos"]
        assert (photo["cylinder"], photo["place_mm"], photo["state_id"]) == (3, 90, port.state)

    @pytest.mark.parametrize(("more", "words"), [({"cylinder": 17}, "no runner 17"), ({"place_mm": -4}, "can't be")])
    def test_one_of_nowhere_is_refused(self, port, more, words):
        answer = self.photo(port, **{"cylinder": 1, **more})
        assert answer.status_code == 422
        assert words in answer.json()["detail"]
