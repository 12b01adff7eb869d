"""What is noted while fitting: room and the relief that is shared, codes, causes, what broke, what the driver felt."""

import pytest

from tests.shop import new_id

TAB = {"place": "bracket tab", "parts": "tab, hose", "measured_mm": 2.5, "gauge": "feeler",
       "meets": "beside something that moves", "walls": [{"name": "tab", "wall_mm": 6.5, "least_mm": 2.0}]}  # fmt: skip


class Notes:
    """A job and what is noted of its fitting."""

    def __init__(self, shop):
        self.shop, self.job = shop, shop.job()

    def put(self, identifier=None, **note):
        body = {"person_id": self.shop.person, "job_id": self.job, "note": note}
        return self.shop.put(f"/fit-notes/{identifier or new_id()}", body)

    def again(self, identifier, version, **note):
        return self.shop.client.patch(f"/api/fit-notes/{identifier}", json={"version": version, "note": note})

    @property
    def sheet(self):
        return self.shop.get(f"/jobs/{self.job}/fit-notes")


@pytest.fixture
def notes(shop):
    return Notes(shop)


def test_room_is_enough_or_short_by_so_much_with_what_comes_off(notes):
    """Short by 6 - (2.5 - 0.05) = 3.55 mm, told as 3.6, all of it off the tab, which has 4.5 mm in hand."""
    notes.shop.kept(notes.put(clearance=TAB))
    notes.shop.kept(notes.put(clearance={**TAB, "place": "floor", "meets": "both on the engine", "walls": None}))
    short, enough = notes.sheet["clearances"]
    assert (short["enough"], short["verdict"], short["relief"][:14]) == (False, "3.6 mm short", "3.6 mm off tab")
    assert (enough["enough"], enough["verdict"], enough["relief"]) == (True, "enough", "")
    assert "usual" in short["needed"]


def test_relief_is_shared_and_never_breaks_a_wall(notes):
    walls = [{"name": "tab", "wall_mm": 4.0, "least_mm": 2.0}, {"name": "floor", "wall_mm": 6.0, "least_mm": 4.0}]
    notes.shop.kept(notes.put(clearance={**TAB, "walls": walls}))
    assert notes.sheet["clearances"][0]["relief"].startswith("1.8 mm off tab, 1.8 mm off floor")
    thin = [{"name": "tab", "wall_mm": 2.5, "least_mm": 2.0}]
    notes.shop.kept(notes.put(clearance={**TAB, "walls": thin}))
    assert "in hand: tab 0.5 mm" in notes.sheet["clearances"][1]["relief"]


def test_a_maker_s_need_and_a_rocking_engine_count(notes):
    """12 - (20 - 0.5 - 10) = 2.5 mm short of 12."""
    said = {**TAB, "measured_mm": 20, "gauge": "drop", "needed_mm": 12, "rocks_mm": 10, "walls": []}
    notes.shop.kept(notes.put(clearance=said))
    row = notes.sheet["clearances"][0]
    assert (row["verdict"], row["needed"]) == ("2.5 mm short", "12 mm (its maker's)")
    assert "Gauge the walls" in row["relief"]


def test_what_was_measured_before_stays(notes):
    identifier = new_id()
    notes.shop.kept(notes.put(identifier, clearance=TAB))
    notes.shop.kept(notes.again(identifier, 1, clearance={**TAB, "measured_mm": 7}))
    assert notes.sheet["clearances"][0]["enough"]
    assert notes.again(identifier, 1, clearance=TAB).status_code == 409
    assert "Make a new one" in notes.again(identifier, 2, broken={"words": "x"}).json()["detail"]


def test_a_code_goes_through_its_states(notes):
    identifier = new_id()
    notes.shop.kept(notes.put(identifier, code={"code": " p0171 "}))
    for version, state in enumerate(("cleared", "back"), start=1):
        notes.shop.kept(notes.again(identifier, version, code={"code": "P0171", "state": state}))
    code = notes.sheet["codes"][0]
    assert (code["code"], code["state"], code["history"]) == ("P0171", "back", ["seen", "cleared"])
    assert code["behind"].startswith("Genuine: it came back.")
    notes.shop.kept(notes.put(code={"code": "P0420"}))
    assert notes.sheet["codes"][1]["words"] == ""
    assert any(one["code"] == "P0171" for one in notes.sheet["likely_codes"])


def test_a_cause_is_looked_for_and_what_was_found_stands_beside_it(notes):
    symptom = next(one for one in notes.sheet["symptoms"] if one["words"] == "idle stays high")
    cause = symptom["causes"][0]["words"]
    said = {"symptom": "idle stays high", "cause": cause, "outcome": "found"}
    notes.shop.kept(notes.put(cause=said))
    symptom = next(one for one in notes.sheet["symptoms"] if one["words"] == "idle stays high")
    assert symptom["found"]
    assert symptom["causes"][0]["outcome"] == "found"
    flashing = next(one for one in notes.sheet["symptoms"] if one["words"] == "the lamp flashes")
    assert "stop the engine" in flashing["first"]
    lumpy = next(one for one in notes.sheet["symptoms"] if one["words"] == "lumpy idle")
    assert "no fault" in lumpy["first"]


def test_impressions_are_kept_as_words(notes):
    notes.shop.kept(notes.put(impression={"when": "before", "words": "flat above 6500"}))
    assert notes.sheet["impressions"][0]["words"] == "flat above 6500"


@pytest.mark.parametrize(
    ("note", "path"),
    [
        ({}, "note"),
        ({"code": {"code": "P0171"}, "broken": {"words": "x"}}, "note"),
        ({"code": {"code": " "}}, "note.code.code"),
        ({"broken": {"words": ""}}, "note.broken.words"),
        ({"clearance": {**TAB, "place": ""}}, "note.clearance.place"),
        ({"clearance": {**TAB, "measured_mm": -1}}, "note.clearance.measured_mm"),
        ({"clearance": {**TAB, "needed_mm": 0}}, "note.clearance.needed_mm"),
        ({"clearance": {**TAB, "walls": [{"name": "tab", "wall_mm": 0, "least_mm": 1}]}}, "note.clearance.walls.0"),
    ],
)
def test_what_can_not_be_is_refused_in_its_place(notes, note, path):
    answer = notes.put(**note)
    assert answer.status_code == 422
    assert answer.json()["path"] == path
