"""The shelf over HTTP: advertised beside measured, figures of parts without a job, out and in, pieces, pictures."""

import json
from io import BytesIO

import pytest
from PIL import Image

from tests.shop import new_id

TAKEN = "2026-03-02T09:00:00+00:00"
_OUT = BytesIO()
Image.new("RGB", (4, 3), "grey").save(_OUT, "PNG")
PNG = _OUT.getvalue()


def part(shop, kind="throttle", name=None, **more):
    """A part on the shelf; returns its id and its state's."""
    identifier, state = new_id(), new_id()
    name = name or f"{kind} {identifier[:6]}"
    body = {"person_id": shop.person, "job_id": None, "kind": kind, "name": name, "state_id": state, **more}
    shop.kept(shop.put(f"/parts/{identifier}", body))
    return identifier, state


def said(shop, identifier, **changes):
    """Say something of a part; returns the answer."""
    sheet = shop.get(f"/parts/{identifier}")
    body = {name: sheet[name] for name in ("version", "name", "maker", "number", "material", "mass_kg", "price",
                                           "lead_days", "note", "advertised", "features", "claims")}  # fmt: skip
    return shop.client.patch(f"/api/parts/{identifier}", json={**body, **changes})


def dimension(shop, state, kind, quantity, typed, **more):
    body = {"person_id": shop.person, "job_id": None, "part_state_id": state, "element_kind": kind,
            "quantity": quantity, "typed": typed, "taken_at": TAKEN, **more}  # fmt: skip
    return shop.put(f"/dimensions/{new_id()}", body)


def read(shop, state, kind, typed, depression="28", **more):
    body = {"person_id": shop.person, "part_state_id": state, "element_kind": kind, "bench_id": shop.bench,
            "depression": depression, "typed": typed, "taken_at": TAKEN, **more}  # fmt: skip
    return shop.put(f"/part-flows/{new_id()}", body)


def words(sheet):
    return [" ".join("".join(p["text"] for p in s["pieces"]) for s in sheet["margin"])][0]


def test_advertised_and_measured_are_kept_apart_and_told(shop):
    identifier, state = part(shop)
    assert said(shop, identifier, advertised={"bore_mm": 75}).status_code == 200
    shop.kept(dimension(shop, state, "throttle", "bore", "73.5 mm"))
    sheet = shop.get(f"/parts/{identifier}")
    bore = sheet["dimensions"][0]
    assert (bore["advertised"]["value"], bore["measured"]["value"]) == pytest.approx((75, 73.5))
    assert bore["difference"] == "−1.5 mm"
    assert "advertised 75.0 mm, measured here 73.5 mm" in words(sheet)


def test_a_figure_read_at_another_depression_is_converted_and_said(shop):
    identifier, state = part(shop)
    shop.kept(read(shop, state, "throttle", "300", depression="10"))
    sheet = shop.get(f"/parts/{identifier}")
    [flow] = sheet["readings"]
    assert (flow["what"], flow["words"]) == ("throttle flow", "502.0 CFM, read at 10 inH2O")
    card = next(c for c in shop.cards() if c["id"] == identifier)
    assert (card["flow"]["text"], card["flow_grade"]) == ("502.0", "measured")


def test_a_part_known_by_its_makers_bore_only_is_a_rule_of_thumb(shop):
    identifier, _ = part(shop)
    said(shop, identifier, advertised={"bore_mm": 68})
    card = next(c for c in shop.cards() if c["id"] == identifier)
    assert card["flow_grade"] == "rule"


def test_what_a_bore_could_pass_stands_beside_what_was_read(shop):
    """An ideal nozzle of 60 mm passes 620.6 CFM at 28 inH2O: 4.556 mm² a CFM (checked in tests/core)."""
    identifier, state = part(shop)
    shop.kept(dimension(shop, state, "throttle", "bore", "60 mm"))
    shop.kept(read(shop, state, "throttle", "480"))
    assert "Passes 77 % of the most that 60.0 mm can (621 CFM)." in words(shop.get(f"/parts/{identifier}"))


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"price": -1}, "price"),
        ({"mass_kg": 0}, "mass_kg"),
        ({"name": " "}, "name"),
        ({"features": {"inlet": {"opening_mm": -5}}}, "features.inlet.opening_mm"),
        ({"features": {"bends": [{"angle_deg": -5, "radius_over_bore": 1}]}}, "features.bends.0.angle_deg"),
        ({"advertised": {"bore_mm": -70}}, "advertised.bore_mm"),
    ],
)
def test_what_cannot_be_said_of_a_part_is_refused(shop, changes, path):
    identifier, _ = part(shop)
    answer = said(shop, identifier, **changes)
    assert (answer.status_code, answer.json()["path"]) == (422, path)


@pytest.mark.parametrize("figure", ["NaN", "Infinity", "1e400"])
def test_a_figure_that_is_none_is_refused(shop, figure):
    identifier, _ = part(shop)
    body = f'{{"version": 1, "name": "x", "price": {figure}}}'
    headers = {"content-type": "application/json"}
    answer = shop.client.patch(f"/api/parts/{identifier}", content=body, headers=headers)
    assert (answer.status_code, "no figure" in answer.json()["detail"]) == (422, True)


def test_somebody_who_is_not_here_keeps_nothing(shop):
    body = {"person_id": new_id(), "job_id": None, "kind": "tube", "name": "x", "state_id": new_id()}
    answer = shop.put(f"/parts/{new_id()}", body)
    assert (answer.status_code, answer.json()["path"]) == (422, "person_id")


def test_two_edits_of_a_part_notice_each_other(shop):
    identifier, _ = part(shop)
    body = {"version": 1, "name": "first"}
    assert shop.client.patch(f"/api/parts/{identifier}", json=body).status_code == 200
    assert shop.client.patch(f"/api/parts/{identifier}", json={**body, "name": "second"}).status_code == 409


def test_what_goes_out_as_a_table_or_json_comes_in_again(shop):
    name = f"Goes out {new_id()[:6]}"
    identifier, state = part(shop, "tube", name)
    features = {"ribbed": True, "bends": [{"angle_deg": 45, "radius_over_bore": 1.5}], "height_mm": 120}
    said(shop, identifier, advertised={"bore_mm": 80}, features=features, price=60,
         claims=[{"words": "3 % more power", "needs": "a tune"}])  # fmt: skip
    shop.kept(dimension(shop, state, "tube", "bore", "79.5 mm"))
    shop.kept(read(shop, state, "tube", "455", depression="25"))
    table, text = shop.client.get("/api/shelf.csv").text, shop.client.get("/api/shelf.json").text
    record = next(p for p in json.loads(text)["parts"] if p["name"] == name)
    assert record["features"]["bends"] == features["bends"]
    row = next(line for line in table.splitlines() if name in line)
    assert row.startswith(f"tube,{name},")
    assert "79.5" in row
    assert ",455,25," in row
    again = f"Came in {new_id()[:6]}"
    record["name"] = again
    content = json.dumps({"format": "elvarn-shelf-1", "parts": [record]})
    assert imported(shop, content, "again.json")["added"] == [again]
    assert imported(shop, content, "again.json")["here_already"] == [again]
    card = next(c for c in shop.cards() if c["name"] == again)
    sheet = shop.get(f"/parts/{card['id']}")
    assert sheet["features"]["ribbed"]
    assert sheet["claims"][0]["needs"] == "a tune"
    assert any("read at 25 inH2O" in one["words"] for one in sheet["readings"])


def imported(shop, content, name="shelf.csv", **more):
    params = {"name": name, "person_id": shop.person, "bench_id": shop.bench, **more}
    answer = shop.client.post("/api/shelf/import", content=content.encode(), params=params)
    assert answer.status_code == 200, answer.text
    return answer.json()


def previewed(shop, content, name="shelf.csv"):
    answer = shop.client.post("/api/shelf/preview", content=content.encode(), params={"name": name})
    assert answer.status_code == 200, answer.text
    return answer.json()


class TestWhatAFileWouldBring:
    """Three parts: one as it lies here, one with another price and bore, one that is new; the last named twice."""

    @pytest.fixture
    def names(self, shop):
        names = [f"{word} {new_id()[:6]}" for word in ("Same", "Dearer", "Fresh")]
        first = "".join(f"tube,{name},100,80,500\n" for name in names[:2])
        imported(shop, f"kind,name,price,measured_bore_mm,measured_flow_cfm\n{first}")
        return names

    def content(self, names):
        same, dearer, fresh = names
        rows = [f"tube,{same},100,80,500", f"tube,{dearer},120,79.5,", f"tube,{fresh},50,,", f"tube,{fresh},51,,"]
        return "\n".join(["kind,name,price,measured_bore_mm,measured_flow_cfm", *rows])

    def test_every_difference_is_told_and_nothing_is_kept(self, shop, names):
        seen = previewed(shop, self.content(names))
        assert [seen[word] for word in ("new", "same", "differs", "twice")] == [1, 1, 1, 1]
        changed = next(row for row in seen["rows"] if row["standing"] == "differs")
        assert (changed["row"], changed["name"]) == (2, names[1])
        told = {one["field"]: (one["here"], one["file"]) for one in changed["differences"]}
        assert told == {"price": ("100", "120"), "measured bore, mm": ("80", "79.5")}
        assert names[2] not in [card["name"] for card in shop.cards()]

    def test_rows_are_taken_or_left(self, shop, names):
        done = imported(shop, self.content(names), rows=[2])
        assert (done["added"], done["changed"]) == ([], [names[1]])
        cards = {card["name"]: card for card in shop.cards()}
        assert names[2] not in cards
        assert (cards[names[1]]["price"], cards[names[1]]["bore"]["measured"]["value"]) == pytest.approx((120, 79.5))
        readings = shop.get(f"/parts/{cards[names[1]]['id']}")["readings"]
        assert sum("bore" in one["what"] for one in readings) == 2
        assert previewed(shop, self.content(names))["differs"] == 0

    def test_without_a_choice_only_what_is_new_is_taken(self, shop, names):
        done = imported(shop, self.content(names))
        assert (done["added"], done["changed"]) == ([names[2]], [])

    @pytest.mark.usefixtures("names")
    def test_what_goes_out_comes_in_the_same(self, shop):
        """Whatever lies here, as a table and as JSON."""
        for path, name in (("/api/shelf.csv", "a.csv"), ("/api/shelf.json", "a.json")):
            seen = previewed(shop, shop.client.get(path).text, name)
            assert (seen["new"], seen["differs"], seen["rows"]) == (0, 0, [])


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ("kind,name\nthrottle,T1\nsofa,S1\n", "Row 3: 'sofa' is no kind of part"),
        ("kind,name,price\nthrottle,T1,dear\n", "Row 2, column 'price': 'dear' is no figure"),
        ("kind,name,mass_kg\nthrottle,T1,-2\n", "-2 can't be"),
        ("name,price\nT1,20\n", "no column 'kind'"),
        ("", "no rows"),
        ('{"format": "other"}', "no shelf"),
        ('{"format": ', "breaks off"),
    ],
)
def test_a_wrong_file_names_the_place_and_keeps_nothing(shop, content, says):
    before = len(shop.cards())
    answer = shop.client.post("/api/shelf/import", content=content.encode() or b" ",
                              params={"name": "shelf.csv", "person_id": shop.person})  # fmt: skip
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert len(shop.cards()) == before


def test_a_table_with_semicolons_and_decimal_commas(shop):
    name = f"Comma {new_id()[:6]}"
    imported(shop, f"kind;name;price;measured_bore_mm\nthrottle;{name};199,5;69,8\n")
    card = next(c for c in shop.cards() if c["name"] == name)
    assert (card["price"], card["bore"]["measured"]["value"]) == pytest.approx((199.5, 69.8))


def test_pieces_change_places_once(shop):
    wholes = [part(shop, "manifold")[0] for _ in range(2)]
    pieces = [part(shop, "manifold", piece_of=whole, role="insert")[0] for whole in wholes]
    body = {"person_id": shop.person, "one_piece_id": pieces[0], "one_assembly_id": wholes[0],
            "other_piece_id": pieces[1], "other_assembly_id": wholes[1]}  # fmt: skip
    for _ in range(2):
        assert shop.client.post("/api/pieces/exchange", json=body).status_code == 200
        assert [p["id"] for p in shop.get(f"/parts/{wholes[0]}")["pieces"]] == [pieces[1]]
    assert {c["id"] for c in shop.cards()}.isdisjoint(pieces)
    alike = shop.client.post("/api/pieces/exchange", json={**body, "other_assembly_id": wholes[0]})
    assert alike.status_code == 422


def test_a_picture_belongs_to_a_part_and_is_shown_again(shop):
    identifier, _ = part(shop)
    kept = shop.client.post("/api/pictures", params={"name": "face.png"}, content=PNG).json()
    body = {"person_id": shop.person, "file_digest": kept["digest"], "part_id": identifier, "caption": "the face"}
    shop.kept(shop.put(f"/photos/{new_id()}", body))
    photos = shop.get(f"/parts/{identifier}")["photos"]
    assert [photo["caption"] for photo in photos] == ["the face"]
    shown = shop.client.get(f"/api/pictures/{kept['digest']}")
    assert (shown.headers["content-type"], shown.content) == ("image/png", PNG)


def test_what_is_no_picture_is_refused(shop):
    answer = shop.client.post("/api/pictures", params={"name": "page.html"}, content=b"<script>")
    assert (answer.status_code, answer.json()["path"]) == (422, "file")
    assert shop.client.get("/api/pictures/abc").status_code == 404


def test_castings_gather_what_each_job_learned(shop):
    number = f"C-{new_id()[:6]}"
    for gain in (1.03, 1.06):
        job = shop.job(4, part_maker="Made Up", part_number=number)
        setup = shop.setup(job)
        shop.series(job, setup, shop.sheet(job)["before_state_id"], [200] * 4)
        shop.series(job, setup, shop.cut(job), [200 * gain] * 4)
    casting = next(c for c in shop.get("/castings") if c["number"] == number)
    assert [job["gain_percent"] for job in casting["jobs"]] == pytest.approx([3, 6])
    assert casting["words"] == "2 seen; porting gained 3.0 to 6.0 % a runner"


@pytest.fixture(scope="module")
def mark(shop):
    """A word that seventy tubes of two makers and a throttle have in their names."""
    mark = new_id()[:8]
    rows = [f"tube,Mark {mark} {n},{'Ombrik' if n % 2 else 'Fjellsen'},grey {n}" for n in range(70)]
    rows.append(f"throttle,Mark {mark} plate,Ombrik,alloy")
    imported(shop, "\n".join(["kind,name,maker,material", *rows]))
    return mark


class TestFinding:
    """Among more parts than a page holds."""

    def test_every_word_in_whatever_is_said_of_a_part(self, shop, mark):
        assert len(shop.cards(find=mark)) == 71
        assert [c["name"] for c in shop.cards(find=f"{mark} OMBRIK alloy")] == [f"Mark {mark} plate"]
        assert shop.cards(find=f"{mark} 100%") == []

    def test_a_page_at_a_time_by_kind_and_name(self, shop, mark):
        first = shop.get("/shelf", find=mark, kind="tube")
        assert (first["found"], first["pages"], len(first["parts"])) == (70, 2, 60)
        assert {one["kind"]: one["count"] for one in first["kinds"]} == {"tube": 70, "throttle": 1}
        behind = shop.get("/shelf", find=mark, kind="tube", page=9)
        assert (behind["page"], len(behind["parts"])) == (2, 10)

    def test_by_maker(self, shop, mark):
        found = shop.cards(find=mark, maker="Fjellsen")
        assert len(found) == 35
        assert "Fjellsen" in shop.get("/shelf")["makers"]

    def test_the_part_of_a_state(self, shop, mark):
        one = shop.cards(find=mark)[40]
        assert [c["id"] for c in shop.cards(state=one["state_id"])] == [one["id"]]

    def test_what_fits_a_job(self, shop, mark):
        job = shop.job(5, "whole_job")
        five, six = (part(shop, "manifold", f"{mark} {n}")[0] for n in ("five", "six"))
        for identifier, runners in ((five, 5), (six, 6)):
            assert said(shop, identifier, features={"runners": runners}).status_code == 200
        assert {c["id"] for c in shop.cards(find=mark, kind="manifold")} == {five, six}
        assert {c["id"] for c in shop.cards(find=mark, kind="manifold", fits=job)} == {five}
