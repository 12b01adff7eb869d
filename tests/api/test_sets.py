"""Sets of parts over HTTP: what they gain together, what they cost and wait for, what stands between their parts."""

from dataclasses import replace
from datetime import date

import pytest

from tests.api.test_candidates import on_shelf
from tests.api.test_path import ENGINE, mounted
from tests.api.test_shelf import dimension, said
from tests.choices import CHOICES, OnShelf, laid_out, taken_in
from tests.shop import new_id

RATE = 65  # an hour, as a new shop has it


@pytest.fixture(scope="module")
def eight(shop):
    return taken_in(shop, CHOICES["eight"])


def sets(shop, job, **asked):
    return shop.get(f"/jobs/{job}/sets", **asked)


def words(found):
    return " ".join(piece["text"] for one in found["margin"] for piece in one["pieces"])


def by_why(found, why):
    return next(one for one in found["sets"] if one["why"] == why)


def test_as_it_is_always_stands_among_them_and_costs_nothing(shop, eight):
    found = sets(shop, eight)
    nothing = by_why(found, "as it is")
    assert (nothing["cost"], nothing["gain_low_percent"], nothing["parts"], nothing["steps"]) == (0, 0, [], [])
    assert len(found["sets"]) == 4


def test_a_set_gains_more_than_any_of_its_parts_and_less_or_about_their_product(shop, eight):
    """Air gained alone, from the candidates; what two parts gain together can't be the sum of two estimates."""
    most = by_why(sets(shop, eight), "most air")
    together = most["gain_high_percent"]
    alone = []
    for part in most["parts"]:
        of_kind = shop.get(f"/jobs/{eight}/candidates", kind=part["kind"])["candidates"]
        alone.append(next(c for c in of_kind if c["part_id"] == part["part_id"])["gain_high_percent"])
    assert together > max(alone)
    assert together == pytest.approx(sum(alone), rel=0.25)


def test_each_step_tells_where_it_leaves_the_engine_and_what_was_spent(shop, eight):
    most = by_why(sets(shop, eight), "most air")
    spent = [step["spent"] for step in most["steps"]]
    gained = [step["gain_high_percent"] for step in most["steps"]]
    assert spent == sorted(spent)
    assert gained == sorted(gained)
    assert (spent[-1], gained[-1]) == (most["cost"], most["gain_high_percent"])
    assert sorted(name for step in most["steps"] for name in step["names"]) == sorted(p["name"] for p in most["parts"])


def test_a_manifold_for_five_runners_is_in_no_set_of_an_eight(shop, eight):
    found = sets(shop, eight)
    assert "Five-port" not in str([one["parts"] for one in found["sets"]])


def test_flow_alone_is_not_most_air_where_the_runners_are_tuned_away_from_the_band(shop, eight):
    """The tall one passes more, and favours speeds above the band; those of now lie inside."""
    found = sets(shop, eight)
    assert "Tall eight" not in str([one["parts"] for one in found["sets"]])
    assert "Long eight: its runners favour" in words(found)
    assert "inside your 2500 to 5000 rpm band" in words(found)


def test_what_cant_be_fitted_does_not_crowd_out_what_can(shop):
    """Three throttles that pass more for less swing into the manifold; one fits beside it."""
    job = shop.job(4, "whole_job", engine=ENGINE, band_low_rpm=4000, band_high_rpm=7000)
    build = shop.builds(job)[0]["id"]
    mounted(shop, job, build, "throttle", "60 mm", "430")
    state = shop.sheet(job)["before_state_id"]
    shop.series(job, shop.setup(job), state, [215, 214, 216, 213])
    shop.kept(dimension(shop, state, "plenum", "opening", "66 mm"))
    for bore in (76, 78, 80):
        on_shelf(shop, "throttle", f"Swings {bore}", f"{bore} mm", str(bore * 10), 20, swing_mm=12)
    on_shelf(shop, "throttle", "Fits", "66 mm", "600", 400)
    names = [part["name"] for one in sets(shop, job)["sets"] for part in one["parts"] if part["kind"] == "throttle"]
    assert names
    assert not any(name.startswith("Swings") for name in names)


def test_money_and_days_are_the_parts_own(shop, eight):
    for one in sets(shop, eight)["sets"]:
        assert one["price"] == sum(part["price"] for part in one["parts"])
        assert one["cost"] == pytest.approx(one["price"] + one["work_minutes"] / 60 * RATE)
        assert one["lead_days"] == max((part["lead_days"] for part in one["parts"]), default=0)


def test_what_is_over_budget_or_too_late_is_marked_and_comes_after_all_as_it_is(shop):
    job = taken_in(shop, CHOICES["five"], due_on=str(date.today()))
    found = sets(shop, job)
    late = [one for one in found["sets"] if one["late"]]
    assert late
    nothing = next(n for n, one in enumerate(found["sets"]) if one["why"] == "as it is")
    assert all(nothing < found["sets"].index(one) for one in late)
    assert "None of these can be here by" in words(found)


def test_what_costs_more_than_the_budget_says_so(shop):
    three = CHOICES["three"]
    found = sets(shop, taken_in(shop, replace(three, job={**three.job, "budget": "20"})))
    assert all(one["over_budget"] for one in found["sets"] if one["parts"])
    assert found["sets"][0]["why"] == "as it is"
    assert "EUR over budget" in words(found)


def test_a_part_without_a_price_or_lead_time_is_named(shop):
    job = taken_in(shop, CHOICES["three"])
    best = laid_out(shop, OnShelf("filter", f"Unpriced {new_id()[:4]}", "120 mm", "1500", None, None, {}))
    found = sets(shop, job)
    mine = [one for one in found["sets"] if best in [part["part_id"] for part in one["parts"]]]
    assert mine
    assert all(one["cost"] is None and one["ready_on"] is None and not one["over_budget"] for one in mine)
    if mine[0] is found["sets"][0]:
        assert "has no price" in words(found)


def test_parts_that_fit_only_each_other_come_together(shop, eight):
    """A throttle of six bolts and a manifold that takes it: neither fits what is there, both fit each other."""
    six = {"opening_mm": 110, "bolt_count": 6}
    plate = OnShelf("throttle", f"Six-bolt {new_id()[:4]}", "110 mm", "1700", 10, 1, {"inlet": six, "outlet": six})
    fits = CHOICES["eight"].shelf[0].features | {"inlet": six}
    shell = OnShelf("manifold", f"Six-bolt shell {new_id()[:4]}", "48 mm", "390", 10, 1, fits, "420 mm")
    ids = {laid_out(shop, plate), laid_out(shop, shell)}
    most = by_why(sets(shop, eight), "most air")
    assert ids <= {part["part_id"] for part in most["parts"]}
    together = next(step for step in most["steps"] if plate.name in step["names"])
    assert shell.name in together["names"]
    candidates = shop.get(f"/jobs/{eight}/candidates", kind="throttle")["candidates"]
    assert next(c for c in candidates if c["name"] == plate.name)["hard"]


def test_what_is_bought_only_for_a_step_is_told(shop):
    """New tube and new meter are of one spigot, the old ones of another: who buys one first pays a coupler twice."""
    job = taken_in(shop, CHOICES["five"])
    parts = {one["kind"]: one["id"] for one in shop.get(f"/jobs/{job}")["parts"]}
    for kind in ("tube", "meter"):
        shop.kept(said(shop, parts[kind], features={"inlet": {"outside_mm": 74}, "outlet": {"outside_mm": 74}}))
    wide = {"inlet": {"outside_mm": 98}, "outlet": {"outside_mm": 98}}
    new = {laid_out(shop, OnShelf(kind, f"Wide {kind}", "92 mm", "1400", 5, 1, wide)) for kind in ("tube", "meter")}
    most = by_why(sets(shop, job), "most air")
    assert new <= {part["part_id"] for part in most["parts"]}
    steps = {name: step["only_for_now"] for step in most["steps"] for name in step["names"]}
    assert sorted([steps["Wide tube"], steps["Wide meter"]]) == [[], ["stepped coupler"]]
    assert most["buys"].count("stepped coupler") == 0


def test_a_set_becomes_a_build_with_all_its_parts(shop, eight):
    found = sets(shop, eight)
    most = by_why(found, "most air")
    swaps = [{"node_id": n, "part_state_id": part["state_id"]} for part in most["parts"] for n in part["node_ids"]]
    identifier = new_id()
    body = {"person_id": shop.person, "copy_of": found["build_id"], "swaps": swaps}
    shop.kept(shop.put(f"/build-copies/{identifier}", body))
    again = sets(shop, eight, build=identifier)
    now = {place["kind"]: place["now"] for place in again["places"]}
    assert all(now[part["kind"]] == part["name"] for part in most["parts"] if part["kind"] in now)
    assert by_why(again, "as it is")["cost"] == 0


def test_a_posted_part_without_an_engine_has_no_ranking(shop):
    job = shop.job(5)
    found = sets(shop, job)
    assert [one["why"] for one in found["sets"]] == ["as it is"]
    assert "no set that fits gains air" in words(found) or "No ranking" in words(found)
