"""Candidates over HTTP: conflicts with their reason, gains within bounds, scores under weights that are moved."""

import re
from datetime import date, timedelta

import pytest

from tests.api.test_path import ENGINE, elements, mounted, throttle_each
from tests.api.test_shelf import dimension, part, read, said
from tests.shop import new_id

SUITS = ["fits", "unchecked", "fitted_now", "too_small", "not_known", "no_gain", "worse", "ruled_out"]
BOLTS = {"bolt_count": 4, "bolt_across_mm": 66, "bolt_along_mm": 66}


@pytest.fixture(scope="module")
def job(shop):
    """A four with a tube that is much too small, a throttle of 64 mm and a manifold that opens 66 mm."""
    around = {"bonnet_height_mm": 160, "ports": ["brake servo"]}
    job = shop.job(
        4, "whole_job", engine=ENGINE, band_low_rpm=4000, band_high_rpm=7000, budget=300, surroundings=around
    )
    build = shop.builds(job)[0]["id"]
    for kind, (bore, flow) in {"filter": ("95 mm", "700"), "tube": ("50 mm", "240"), "meter": ("76 mm", "640"),
                               "throttle": ("64 mm", "560")}.items():  # fmt: skip
        mounted(shop, job, build, kind, bore, flow)
    state = shop.sheet(job)["before_state_id"]
    shop.series(job, shop.setup(job), state, [215, 214, 216, 213])
    shop.kept(dimension(shop, state, "plenum", "opening", "66 mm"))
    return job


def on_shelf(shop, kind, name, bore, flow, price, **features):
    identifier, state = part(shop, kind, f"{name} {new_id()[:5]}")
    assert said(shop, identifier, price=price, lead_days=5, mass_kg=1.0, features=features).status_code == 200
    if bore:
        shop.kept(dimension(shop, state, kind, "bore", bore))
    if flow:
        shop.kept(read(shop, state, kind, flow))
    return identifier


@pytest.fixture(scope="module")
def shelf(shop, job):
    return {
        "good": on_shelf(shop, "tube", "Good", "76 mm", "620", 180),
        "cheap": on_shelf(shop, "tube", "Cheap", "70 mm", "470", 40),
        "worse": on_shelf(shop, "tube", "Worse", "46 mm", "200", 220),
        "dear": on_shelf(shop, "tube", "Dear", "80 mm", "640", 900),
        "small": on_shelf(shop, "tube", "Small", "51 mm", "246", 30),
        "unknown": on_shelf(shop, "tube", "Unknown", None, None, 20),
        "large": on_shelf(shop, "throttle", "Large", "72 mm", "690", 300, swing_mm=12, outlet=BOLTS),
        "three": on_shelf(shop, "throttle", "Three", "66 mm", "590", 250, outlet={**BOLTS, "bolt_count": 3}),
    }


def sheet(shop, job, kind=None):
    return shop.get(f"/jobs/{job}/candidates", **({"kind": kind} if kind else {}))


def by_name(found, shelf):
    names = {identifier: name for name, identifier in shelf.items()}
    return {names[c["part_id"]]: c for c in found["candidates"] if c["part_id"] in names}


def test_without_a_kind_the_pinch_is_looked_at_first(shop, job, shelf):
    assert sheet(shop, job)["kind"] == "tube"


def test_gains_are_bounds_and_unknown_is_no_number(shop, job, shelf):
    rows = by_name(sheet(shop, job, "tube"), shelf)
    assert 0 < rows["good"]["gain_low_percent"] <= rows["good"]["gain_high_percent"]
    assert rows["worse"]["gain_high_percent"] < 0
    assert rows["unknown"]["gain_low_percent"] is None
    assert rows["unknown"]["cost_per_percent"] is None
    assert rows["good"]["gain_low_percent"] > rows["cheap"]["gain_low_percent"]
    assert rows["dear"]["over_budget"]
    assert not rows["good"]["over_budget"]


def test_nobody_is_marked_as_unbeaten_who_is_beaten_in_everything(shop, job, shelf):
    rows = by_name(sheet(shop, job, "tube"), shelf)
    assert rows["cheap"]["pareto"]
    assert not rows["worse"]["pareto"]
    assert rows["worse"]["suits"] == "worse"
    assert rows["small"]["suits"] == "too_small"
    assert not rows["small"]["pareto"]
    parts = rows["good"]["score_parts"]
    assert sum(parts.values()) == pytest.approx(rows["good"]["score_percent"], abs=0.3)


def test_hard_conflicts_are_seen_with_their_reason_and_come_last(shop, job, shelf):
    build = shop.builds(job)[0]
    throttle = next(e for e in elements(build["path"]) if e["kind"] == "throttle")
    assert throttle["bore_mm"] == 64
    found = sheet(shop, job, "throttle")
    rows = by_name(found, shelf)
    assert rows["large"]["hard"]
    assert "swings into" in rows["large"]["conflicts"][0]["text"]
    assert rows["large"]["score_percent"] is None
    hard = [c["hard"] for c in found["candidates"]]
    assert hard == sorted(hard)


def test_weights_that_are_moved_reorder_and_keep_nothing(shop, job, shelf):
    before = sheet(shop, job, "tube")
    for weights, first in (({"gain": 1}, "dear"), ({"price": 1}, "cheap")):
        order = shop.get(f"/jobs/{job}/candidates/order", kind="tube", build=before["build_id"], **weights)
        mine = [row["part_id"] for row in order if row["part_id"] in shelf.values()]
        assert mine[0] == shelf[first]
        suits = {c["part_id"]: SUITS.index(c["suits"]) for c in before["candidates"]}
        ranks = [(suits[row["part_id"]], -row["score_percent"]) for row in order]
        assert ranks == sorted(ranks)
    assert sheet(shop, job, "tube")["criteria"] == before["criteria"]
    nothing = shop.client.get(f"/api/jobs/{job}/candidates/order", params={"kind": "tube"})
    assert nothing.status_code == 422


def test_a_new_part_is_seen_at_once(shop, job, shelf):
    count = len(sheet(shop, job, "tube")["candidates"])
    on_shelf(shop, "tube", "Later", "77 mm", "600", 100)
    assert len(sheet(shop, job, "tube")["candidates"]) == count + 1


def test_the_margin_gives_the_reasons_in_words(shop, job, shelf):
    said_words = " ".join(p["text"] for s in sheet(shop, job, "tube")["margin"] for p in s["pieces"])
    assert "Top of your priorities" in said_words
    assert "The tube fitted now takes" in said_words
    assert re.search(r"Worse than the part fitted now: Worse \w+, −\d\.\d to −\d\.\d %\. It passes less", said_words)


def test_a_place_that_is_not_in_the_path_is_refused(shop, job):
    answer = shop.client.get(f"/api/jobs/{job}/candidates", params={"kind": "sofa"})
    assert (answer.status_code, answer.json()["path"]) == (422, "kind")


def test_without_an_engine_conflicts_are_told_and_gains_are_not(shop, shelf):
    job = shop.job(4, "comparison")
    rows = by_name(sheet(shop, job, "tube"), shelf)
    assert rows["good"]["gain_low_percent"] is None
    assert rows["good"]["price"] == 180


def swept(shop, job, state, figures):
    """A throttle read at four openings, in a test of its own."""
    test = new_id()
    body = {"person_id": shop.person, "job_id": job, "kind": "opening", "setup_id": shop.setup(job),
            "element_kind": "throttle", "series": [{"label": "as sold", "part_state_id": state}],
            "places": [25, 50, 75, 100]}  # fmt: skip
    shop.kept(shop.put(f"/tests/{test}", body))
    for index, figure in enumerate(figures):
        point = {"person_id": shop.person, "plan_id": test, "point": index, "typed": str(figure),
                 "taken_at": "2026-03-02T10:00:00+00:00"}  # fmt: skip
        shop.kept(shop.put(f"/test-readings/{new_id()}", point))


def test_a_throttle_says_what_it_does_hardly_open_beside_one_that_is_known_alike(shop):
    """By its plate in a plain bore the flow goes with the bore's square; a shaped bore isn't reckoned, a sweep is."""
    job = shop.job(4, "whole_job", engine=ENGINE, band_low_rpm=4000, band_high_rpm=7000)
    build = shop.builds(job)[0]["id"]
    mounted(shop, job, build, "tube", "76 mm", "620")
    now = mounted(shop, job, build, "throttle", "60 mm", "480")
    shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], [215, 214, 216, 213])
    plain = on_shelf(shop, "throttle", "Plain", "72 mm", "691", 300)
    tapered = on_shelf(shop, "throttle", "Tapered", "72 mm", "690", 300, bore_form="tapered")
    rows = {row["part_id"]: row for row in sheet(shop, job, "throttle")["candidates"]}
    assert "by its plate in a plain bore. 1.4 times the fitted one." in rows[plain]["low_opening"]
    told = rows[tapered]["low_opening"]
    assert told == "At 25 % open: not known. Tapered bore: slower at first; flow it at openings."
    swept(shop, job, rows[tapered]["state_id"], [61, 240, 480, 690])
    rows = {row["part_id"]: row for row in sheet(shop, job, "throttle")["candidates"]}
    assert rows[tapered]["low_opening"] == "At 25 % open: 61 CFM, read. The fitted one isn't known alike."
    swept(shop, job, rows[plain]["state_id"], [88, 240, 480, 691])
    rows = {row["part_id"]: row for row in sheet(shop, job, "throttle")["candidates"]}
    assert rows[plain]["low_opening"] == "At 25 % open: 88 CFM, read. By their plates 1.4 times the fitted one."
    swept(shop, job, now, [122, 260, 420, 480])
    rows = {row["part_id"]: row for row in sheet(shop, job, "throttle")["candidates"]}
    assert rows[tapered]["low_opening"] == "At 25 % open: 61 CFM, read. 0.5 times the fitted one."
    assert rows[plain]["low_opening"] == "At 25 % open: 88 CFM, read. 0.7 times the fitted one."


def test_a_candidate_of_a_run_waits_for_it_and_says_when_it_is_full(shop, job, shelf):
    run = date.today() + timedelta(days=30)
    had = {"had": "run", "next_run_on": str(run), "run_places": 3}
    made_later = on_shelf(shop, "tube", "Run", "74 mm", "590", 150, **had)
    row = next(one for one in sheet(shop, job, "tube")["candidates"] if one["part_id"] == made_later)
    assert row["lead_days"] == 30
    assert f"Next run on {run:%d %b %Y}: 3 of 3 places left." in [one["text"] for one in row["conflicts"]]
    past = {**had, "next_run_on": str(date.today() - timedelta(days=3))}
    shop.kept(said(shop, made_later, features=past))
    row = next(one for one in sheet(shop, job, "tube")["candidates"] if one["part_id"] == made_later)
    assert row["lead_days"] is None
    assert any("is past" in one["text"] for one in row["conflicts"])


def test_a_throttle_to_each_cylinder_takes_four_unless_one_is_a_set(shop):
    """Price, mass and work are of all that the place takes; what it takes is no part of what lies in front of it."""
    job = throttle_each(shop)
    single = on_shelf(shop, "throttle", "Single", "48 mm", "270", 150)
    four = on_shelf(shop, "throttle", "Four", "48 mm", "270", 520, set_of=4)
    found = sheet(shop, job, "throttle")
    rows = {row["part_id"]: row for row in found["candidates"]}
    assert (rows[single]["pieces"], rows[single]["price"], rows[single]["mass_kg"]) == (4, 600, 4)
    assert (rows[four]["pieces"], rows[four]["price"]) == (1, 520)
    said = " ".join(piece["text"] for sentence in found["margin"] for piece in sentence["pieces"])
    share = int(
        re.search(r"throttles fitted now take [\d.]+ kPa at \d+ rpm, (\d+) % of the drop to the ports", said)[1]
    )
    assert 20 < share < 60


def test_tubes_have_no_opening(shop, job, shelf):
    assert {row["low_opening"] for row in sheet(shop, job, "tube")["candidates"]} == {""}
