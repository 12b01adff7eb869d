"""Take in over HTTP: the engine with what follows, what came, and jobs like earlier ones."""

from datetime import date

import pytest

from tests.api.test_path import ENGINE
from tests.shop import new_id


def edit(shop, job, version, **engine):
    return shop.client.patch(f"/api/jobs/{job}/engine", json={"version": version, "engine": {**ENGINE, **engine}})


def follows(shop, cylinders=4, **engine):
    body = {"cylinder_count": cylinders, "engine": {**ENGINE, **engine}}
    return shop.client.post("/api/engine/following", json=body)


def test_what_follows_from_an_engine_is_shown_at_once(shop):
    found = {f["name"]: f for f in follows(shop, inlet_opens_deg=12, inlet_closes_deg=48).json()}
    assert found["Displacement"]["text"] == "2.00 L"
    assert found["Mean piston speed"]["text"] == "21.5 m/s"
    assert found["Air demand"]["text"] == "265 CFM"
    assert found["Intake duration"]["text"] == "240°"
    assert 0.5 < float(found["Intake Mach index"]["text"]) < 0.7


@pytest.mark.parametrize(
    ("typed", "path", "says"),
    [
        ({"bore_mm": "8.6 mm"}, "engine.bore_mm", "Did you mean 8.6 cm?"),
        ({"bore_mm": "86 in"}, "engine.bore_mm", "Did you mean 86 mm?"),
        ({"firing_order": [1, 3, 4, 4]}, "engine.firing_order", "stands twice"),
        ({"firing_order": [1, 3]}, "engine.firing_order", "missing"),
        ({"inlet_opens_deg": -120, "inlet_closes_deg": -90}, "engine.inlet_closes_deg", "before it opens"),
        ({"inlet_opens_deg": 10}, "engine.inlet_closes_deg", "both intake cam events"),
        ({"compression_ratio": 30}, "engine.compression_ratio", "Enter 5 to 20"),
        ({"limit_rpm": 70000}, "engine.limit_rpm", "The limit can't be 70000"),
        ({"fuel": "water"}, "engine.fuel", "no fuel"),
        ({"layout": "round"}, "engine.layout", "no layout"),
        ({"bank_count": 5}, "engine.bank_count", "5 banks"),
    ],
)
def test_what_no_engine_has_is_refused_with_the_way_on(shop, typed, path, says):
    problem = follows(shop, **typed).json()
    assert problem["path"] == path
    assert says in problem["detail"]


@pytest.mark.parametrize(
    ("cylinders", "layout", "banks"), [(1, "single", 1), (2, "inline", 1), (6, "flat", 2), (8, "vee", 2)]
)
def test_every_kind_of_engine_is_taken_in(shop, cylinders, layout, banks):
    engine = {**ENGINE, "layout": layout, "bank_count": banks, "firing_order": []}
    job = shop.job(cylinders, "whole_job", engine=engine)
    sheet = shop.get(f"/jobs/{job}/checkin")
    assert sheet["engine"]["cylinder_count"] == cylinders
    assert sheet["engine"]["following"][0]["name"] == "Displacement"


def test_an_engine_is_edited_on_the_version_that_was_seen(shop):
    job = shop.job(4, "whole_job", engine=ENGINE)
    assert edit(shop, job, 1, compression_ratio=12.5).status_code == 200
    sheet = shop.get(f"/jobs/{job}/checkin")["engine"]
    assert (sheet["version"], sheet["engine"]["compression_ratio"]) == (2, 12.5)
    assert edit(shop, job, 1, compression_ratio=9).status_code == 409


def test_a_posted_part_can_be_given_an_engine_later(shop):
    job = shop.job(4)
    assert shop.get(f"/jobs/{job}/checkin")["engine"]["version"] == 0
    assert edit(shop, job, 0).status_code == 200
    assert shop.get(f"/jobs/{job}/checkin")["engine"]["engine"]["name"] == ENGINE["name"]


def item(shop, job, words, **more):
    identifier = new_id()
    return shop.kept(
        shop.put(f"/items/{identifier}", {"person_id": shop.person, "job_id": job, "words": words, **more})
    )


def test_what_came_is_listed_and_goes_back(shop):
    job = shop.job(4)
    came = item(shop, job, "Throttle with sensor", condition="worked_on", note="stop filed")
    missing = item(shop, job, "Gasket", condition="missing")
    today = date(2026, 3, 9).isoformat()
    body = {"version": came["version"], "words": came["words"], "condition": "fine", "note": "", "returned_on": today}
    assert shop.client.patch(f"/api/items/{came['id']}", json=body).json()["returned_on"] == today
    back = {**body, "version": missing["version"], "condition": "missing"}
    refused = shop.client.patch(f"/api/items/{missing['id']}", json=back)
    assert (refused.status_code, refused.json()["path"]) == (422, "returned_on")
    sheet = shop.get(f"/jobs/{job}/checkin")
    assert [i["words"] for i in sheet["items"]] == ["Throttle with sensor", "Gasket"]
    words = " ".join(p["text"] for s in sheet["margin"] for p in s["pieces"])
    assert "Missing: Gasket." in words


def test_the_receipt_is_printed_with_every_line(shop):
    from io import BytesIO

    from pypdf import PdfReader

    job = shop.job(4, customer="Somebody")
    item(shop, job, "Manifold and eight bolts")
    answer = shop.client.get(f"/api/jobs/{job}/receipt.pdf")
    assert answer.headers["content-type"] == "application/pdf"
    text = PdfReader(BytesIO(answer.content)).pages[0].extract_text()
    assert "Manifold and eight bolts" in text
    assert "Somebody" in text


def test_a_job_like_an_earlier_one_has_its_engine_and_path_and_no_readings(shop):
    around = {"bonnet_height_mm": 150}
    first = shop.job(4, "whole_job", engine=ENGINE, power_wanted="200 hp", surroundings=around, part_number="N-1")
    shop.series(first, shop.setup(first), shop.sheet(first)["before_state_id"], [200] * 4)
    copy = new_id()
    for _ in range(2):
        shop.kept(shop.put(f"/job-copies/{copy}", {"person_id": shop.person, "copy_of": first}))
    sheet = shop.get(f"/jobs/{copy}/checkin")
    assert sheet["engine"]["engine"]["bore_mm"] == 86
    assert sheet["power_wanted"]["value"] == pytest.approx(200)
    assert sheet["surroundings"]["bonnet_height_mm"] == 150
    assert sheet["copied_from"] == "Manifold"
    assert len(shop.builds(copy)) == 1
    assert all(rung["before"]["mean"] is None for rung in shop.sheet(copy)["rungs"])
    assert shop.get(f"/jobs/{copy}")["parts"][0]["number"] == "N-1"


@pytest.mark.parametrize(
    ("more", "path"),
    [({"power_wanted": "3 MW"}, None), ({"power_wanted": "9000 hp"}, "power_wanted"), ({"budget": -5}, "budget")],
)
def test_a_goal_that_cannot_be_is_refused(shop, more, path):
    body = {
        "person_id": shop.person,
        "kind": "whole_job",
        "part": "Manifold",
        "runner_count": 4,
        "engine": ENGINE,
        **more,
    }
    answer = shop.put(f"/jobs/{new_id()}", body)
    assert answer.status_code == 422
    assert answer.json().get("path") == path
