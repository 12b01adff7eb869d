"""Rankings that were wrong once, on a road V8: each would be signed for now, or says why it can't be."""

import pytest

from tests.api.test_candidates import sheet
from tests.api.test_path import mounted
from tests.api.test_shelf import dimension, part, read, said
from tests.shop import new_id

EIGHT = {
    "name": "Made-up eight", "layout": "vee", "bank_count": 2, "bore_mm": 101, "stroke_mm": 92, "limit_rpm": 6500,
    "compression_ratio": 10.5, "firing_order": [1, 8, 4, 3, 6, 5, 7, 2],
}  # fmt: skip
AROUND = {
    "bonnet_height_mm": 190, "head_flange": "E8 tall", "brakes": "vacuum", "homes": [{"purpose": "injector"}],
    "rules": [{"kind": "welding", "words": "manifolds as cast, not welded"}],
}  # fmt: skip
FITS = {
    "runners": 8, "head_flange": "E8 tall", "height_mm": 160, "ports": ["brake servo"],
    "homes": [{"purpose": "injector"}], "inlet": {"opening_mm": 75, "bolt_count": 4},
}  # fmt: skip


@pytest.fixture(scope="module")
def job(shop):
    """Two banks of four: runners of 190 CFM and 300 mm behind a filter of 780, a throttle of 74.4 mm."""
    job = shop.job(8, "whole_job", engine=EIGHT, band_low_rpm=2500, band_high_rpm=5000, use="road", surroundings=AROUND)
    build = shop.builds(job)[0]["id"]
    for kind, (bore, flow) in {
        "filter": ("100 mm", "780"), "tube": ("80 mm", "640"),
        "meter": ("85 mm", "800"), "throttle": ("74.4 mm", "700"),
    }.items():  # fmt: skip
        mounted(shop, job, build, kind, bore, flow)
    throttle = next(one["id"] for one in shop.get(f"/jobs/{job}")["parts"] if one["kind"] == "throttle")
    shop.kept(said(shop, throttle, features={"outlet": {"bolt_count": 4}}))
    state = shop.sheet(job)["before_state_id"]
    shop.series(job, shop.setup(job), state, [190] * 8)
    shop.kept(dimension(shop, state, "plenum", "opening", "72 mm", job_id=job))
    return job


def manifold(shop, name, flow=None, length="300 mm", bore="44 mm", price=600, advertised=None, **features):
    """A manifold on the shelf of which runner 1 was measured, and read where there is a flow."""
    identifier, state = part(shop, "manifold", f"{name} {new_id()[:5]}")
    more = {"advertised": advertised} if advertised else {}
    shop.kept(said(shop, identifier, price=price, features={**FITS, **features}, **more))
    if length:
        shop.kept(dimension(shop, state, "runner", "length", length, cylinder=1))
    if bore:
        shop.kept(dimension(shop, state, "runner", "bore", bore, cylinder=1))
    if flow:
        shop.kept(read(shop, state, "runner", flow, cylinder=1))
    return identifier


def row(found, identifier):
    return next(c for c in found["candidates"] if c["part_id"] == identifier)


def words(found):
    return " ".join(p["text"] for s in found["margin"] for p in s["pieces"])


def place(found, identifier):
    return [c["part_id"] for c in found["candidates"]].index(identifier)


def test_a_filter_that_passes_less_is_worse_and_never_first(shop, job):
    smaller, state = part(shop, "filter", f"Smaller {new_id()[:5]}")
    shop.kept(said(shop, smaller, price=10, lead_days=0))
    shop.kept(dimension(shop, state, "filter", "bore", "90 mm"))
    shop.kept(read(shop, state, "filter", "648"))
    found = sheet(shop, job, "filter")
    assert row(found, smaller)["suits"] == "worse"
    fitted = next(c for c in found["candidates"] if c["there_now"])
    assert place(found, fitted["part_id"]) < place(found, smaller)
    assert "Keep the part you have" in words(found)
    assert "It passes less than the part fitted now" in words(found)


def test_five_runners_are_ruled_out_on_an_eight(shop, job):
    found = sheet(shop, job, "manifold")
    five = manifold(shop, "Five", "260", runners=5)
    other = manifold(shop, "Other face", "260", head_flange="E8 low")
    found = sheet(shop, job, "manifold")
    for identifier, reason in ((five, "5 runners; the engine has 8 cylinders"), (other, "Made for head flange")):
        assert row(found, identifier)["suits"] == "ruled_out"
        assert reason in row(found, identifier)["conflicts"][0]["text"]


def test_runner_length_counts_against_the_band(shop, job):
    """Two that pass the same: the long one favours the band, the short one a speed far above it."""
    long = manifold(shop, "Long", "250", length="420 mm")
    short = manifold(shop, "Short", "250", length="90 mm", bore="50 mm")
    found = sheet(shop, job, "manifold")
    assert (row(found, long)["tuned"], row(found, short)["tuned"]) == ("inside", "above")
    assert row(found, long)["score_parts"]["tuning"] > row(found, short)["score_parts"]["tuning"]
    assert place(found, long) < place(found, short)
    assert [one["name"] for one in found["criteria"]] == ["gain", "tuning", "price", "work", "lead_time", "mass"]
    assert "tuning" not in [one["name"] for one in sheet(shop, job, "filter")["criteria"]]


def test_an_estimate_against_what_was_read_shows_its_spread(shop, job):
    flowed, measured = manifold(shop, "Flowed", "215"), manifold(shop, "Measured")
    found = sheet(shop, job, "manifold")

    def span(identifier):
        one = row(found, identifier)
        return one["gain_high_percent"] - one["gain_low_percent"]

    assert span(measured) > span(flowed) + 0.5


def test_only_steps_beyond_those_of_the_part_fitted_now_are_work(shop, job):
    """The tube meets the throttle as the one that is there; the manifold opens 72 mm, as the one that is there."""
    same = manifold(shop, "Same lip", "230", inlet={"opening_mm": 72, "bolt_count": 4})
    wider = manifold(shop, "Wider lip", "230", inlet={"opening_mm": 60, "bolt_count": 4})
    found = sheet(shop, job, "manifold")
    assert row(found, same)["work_minutes"] == 0
    assert "As with the part fitted now." in row(found, same)["conflicts"][0]["text"]
    assert row(found, wider)["work_minutes"] > 0


def test_what_is_not_checked_is_not_what_fits(shop, job):
    fits = manifold(shop, "Fits", "260")
    bare = manifold(shop, "Bare", "262", head_flange=None, ports=None)
    found = sheet(shop, job, "manifold")
    assert (row(found, fits)["suits"], row(found, fits)["unchecked"]) == ("fits", [])
    assert row(found, bare)["suits"] == "unchecked"
    assert row(found, bare)["unchecked"][:2] == ["head flange", "port for the brake servo"]
    assert not row(found, bare)["pareto"]
    assert place(found, fits) < place(found, bare)


def test_as_it_is_stands_among_them_also_where_it_is_the_jobs_own_part(shop, job):
    found = sheet(shop, job, "manifold")
    [fitted] = [c for c in found["candidates"] if c["there_now"]]
    assert (fitted["gain_low_percent"], fitted["gain_high_percent"]) == (0, 0)
    assert (fitted["price"], fitted["work_minutes"], fitted["lead_days"]) == (0, 0, 0)
    assert fitted["suits"] == "fitted_now"


def test_a_part_that_needs_what_the_rules_forbid_is_ruled_out_in_their_words(shop, job):
    bosses = manifold(shop, "No bosses", "280", homes=[])
    against = row(sheet(shop, job, "manifold"), bosses)["conflicts"]
    assert any(
        c["text"] == "Against the rules: it takes welding to fit. The rule: “manifolds as cast, not welded”."
        for c in against
    )
    assert [c["code"] for c in against if c["severity"] == "hard"] == ["home_missing", "rule_welding"]


def test_a_cheap_part_of_the_same_casting_as_a_dear_one_says_so(shop, job):
    manifold(shop, "Plain", "240", price=300, casting="K 41")
    manifold(shop, "Polished", "240", price=900, casting="k 41")
    assert "shares its casting with Polished" in words(sheet(shop, job, "manifold"))


def test_a_throttle_behind_a_larger_tube_is_not_bored(shop, job):
    identifier, state = part(shop, "tube", f"Wide {new_id()[:5]}")
    shop.kept(said(shop, identifier, price=50))
    shop.kept(dimension(shop, state, "tube", "bore", "86 mm"))
    remedies = " ".join(c["remedy"] for c in row(sheet(shop, job, "tube"), identifier)["conflicts"])
    assert "Port match the throttle" not in remedies
    assert "Port match the meter" not in remedies


def test_what_a_pull_could_not_show_is_never_first(shop, job):
    """A little more air at no price: behind the part that is fitted, whatever is weighed."""
    little, state = part(shop, "filter", f"Little {new_id()[:5]}")
    shop.kept(said(shop, little, price=0, lead_days=0))
    shop.kept(dimension(shop, state, "filter", "bore", "101 mm"))
    shop.kept(read(shop, state, "filter", "800"))
    found = sheet(shop, job, "filter")
    assert row(found, little)["suits"] == "too_small"
    fitted = next(c for c in found["candidates"] if c["there_now"])
    assert place(found, fitted["part_id"]) < place(found, little)
    order = shop.get(f"/jobs/{job}/candidates/order", kind="filter", price=1)
    ids = [one["part_id"] for one in order]
    assert ids.index(fitted["part_id"]) < ids.index(little)


def test_what_another_part_lacks_is_work_though_the_part_fitted_now_lacks_something_else(shop):
    """The fitted manifold has no port for the purge; one that lacks the breather's needs work, one that lacks the
    purge's does not."""
    job = shop.job(4, "whole_job", surroundings={"ports": ["purge", "breather"]})
    own = next(one["id"] for one in shop.get(f"/jobs/{job}")["parts"] if one["kind"] == "manifold")
    shop.kept(said(shop, own, features={"ports": ["breather"]}))
    same, other = (
        manifold(shop, name, runners=4, ports=[port]) for name, port in (("Same", "breather"), ("Other", "purge"))
    )
    found = sheet(shop, job, "manifold")
    assert row(found, same)["work_minutes"] == 0
    assert row(found, other)["work_minutes"] == 40


def test_weights_on_what_a_place_does_not_have_leave_the_usual_ones(shop, job):
    """A shop that weighs the tuned speed alone still sees its filters in an order."""
    view = shop.get("/settings/path")
    weights = dict.fromkeys(view["settings"]["weights"], 0) | {"tuning": 5}
    change = {"version": view["version"], "settings": {**view["settings"], "weights": weights}}
    kept = shop.kept(shop.client.patch("/api/settings/path", json=change))
    assert sheet(shop, job, "filter")["candidates"]
    back = {"version": kept["version"], "settings": view["settings"]}
    shop.kept(shop.client.patch("/api/settings/path", json=back))
