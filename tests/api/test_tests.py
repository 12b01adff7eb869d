"""Test plans: from point to point, resting and going on, and what each kind says."""

import pytest

from tests.shop import new_id

NOW = "2026-03-02T10:00:00+00:00"


def plan(shop, kind, series=("as received", "stage 2"), **more):
    """A test of runner 1 in a new job; returns its id."""
    job = shop.job()
    state = shop.sheet(job)["before_state_id"]
    setup = shop.setup(job, throttle="as_sold")
    body = {
        "person_id": shop.person,
        "job_id": job,
        "kind": kind,
        "setup_id": setup,
        "element_kind": "runner",
        "cylinder": 1,
        "series": [{"label": label, "part_state_id": state} for label in series],
        **more,
    }
    identifier = new_id()
    return identifier, shop.put(f"/tests/{identifier}", body)


def made(shop, kind, **more):
    identifier, answer = plan(shop, kind, **more)
    shop.kept(answer)
    return identifier


def point(shop, test, index, typed, **more):
    body = {"person_id": shop.person, "plan_id": test, "point": index, "typed": str(typed), "taken_at": NOW, **more}
    return shop.put(f"/test-readings/{new_id()}", body)


def fill(shop, test, figures, start=0, **more):
    for index, figure in enumerate(figures, start=start):
        shop.kept(point(shop, test, index, figure, **more))
    return shop.get(f"/tests/{test}")


def words(view):
    return " ".join("".join(piece["text"] for piece in one["pieces"]) for one in view["margin"])


def test_a_sweep_leads_from_point_to_point_and_rests(shop):
    test = made(shop, "opening", places=[25, 50, 75, 100])
    view = shop.get(f"/tests/{test}")
    assert (view["next"], view["points"][0]["words"]) == (0, "as received, 25 %")
    view = fill(shop, test, [60, 110, 150])
    assert view["next"] == 3
    assert "3 of 8 points read. Next: as received, 100 %. You can stop and go on later." in words(view)
    for index, figure in enumerate([170, 60.3, 113, 158, 181], start=3):
        shop.kept(point(shop, test, index, figure))
    view = shop.get(f"/tests/{test}")
    assert view["next"] is None
    assert [gain["text"] for gain in view["gains"]] == ["+0.5 %", "+2.7 %", "+5.3 %", "+6.5 %"]
    assert [gain["real"] for gain in view["gains"]] == [False, True, True, True]
    assert "Stage 2 vs as received: biggest change at 100 %: +6.5 %" in words(view)
    assert "On average over 25 to 100 %: +3.8 % ±1.6 %, clear" in words(view)


def test_its_points_are_no_figures_of_the_ladder_but_configurations_are_effects(shop):
    series = [
        {"label": "off", "changes": {"throttle": "off"}},
        {"label": "ported", "changes": {"throttle": "ported"}},
    ]
    job = shop.job()
    state, setup = shop.sheet(job)["before_state_id"], shop.setup(job)
    test = new_id()
    shop.kept(shop.put(f"/tests/{test}", {
        "person_id": shop.person, "job_id": job, "kind": "configuration", "setup_id": setup,
        "element_kind": "runner", "cylinder": 1, "series": [{**one, "part_state_id": state} for one in series],
    }))  # fmt: skip
    view = fill(shop, test, [282, 276])
    assert "Ported vs off: −2.1 %" in words(view)
    assert shop.sheet(job)["rungs"][0]["before"]["mean"] is None
    effect = shop.get(f"/jobs/{job}/bench/effects")[0]
    assert (effect["items"], effect["percent"]) == (
        [{"item": "throttle", "first": "off", "second": "on, ported"}],
        "−2.1 %",
    )
    assert [card["read"] for card in shop.get(f"/jobs/{job}/tests")] == [2]


def test_a_copy_against_its_original(shop):
    view = fill(shop, made(shop, "copy", series=("original", "copy")), [200.0, 203.0, 204.0, 201.0])
    assert [one["words"] for one in view["points"]] == ["original", "copy", "copy again", "original again"]
    assert "Copy vs original: +1.5 %" in words(view)
    assert "cancels steady drift" in words(view)


def test_a_copy_is_one_sentence_over_its_openings_with_map_and_swirl(shop):
    part = {"element_kind": "throttle", "cylinder": None}
    series = ("original", "copy")
    test = made(shop, "copy", series=series, places=[50, 100], clocks=[12, 4, 8], bore="70 mm", **part)
    view = shop.get(f"/tests/{test}")
    assert len(view["points"]) == 4 * 8
    original, copy = ([200.0, 400.0], [201.0, 404.0]), ([203.0, 410.0], [202.0, 412.0])
    probes = (["0", 20, 18, 16, "0", 1500], ["0", 20.4, 18, 16, "0", 1520], ["0", 19, 18, 17, "0", 1600],
              ["0", 19, 18.4, 17, "0", 1620])  # fmt: skip
    mounts = (original[0], copy[0], copy[1], original[1])
    for number, (flows, probed) in enumerate(zip(mounts, probes, strict=True)):
        view = fill(shop, test, [*flows, *probed], start=8 * number)
    said = view["margin"][0]["pieces"][0]["text"]
    assert said.startswith(
        "Copy vs original over 50 to 100 %: +1.6 % ±1.1 %, clear, ± assumed. Clear at 100 %: +2.2 % ±"
    )
    assert "Velocity map: copy 86 m/s, 9 % uneven; original" in said
    assert "Swirl: copy " in said
    assert "mountings repeat within" in said
    assert [gain["text"] for gain in view["gains"]] == ["+1.0 %", "+2.2 %"]
    assert view["next"] is None


def test_lift_curves_say_what_the_runner_costs(shop):
    test = made(shop, "lift", series=("head alone", "with runner"), places=[2, 4, 6], bore="34 mm")
    view = fill(shop, test, [40, 80, 110, 39.6, 77, 104])
    assert "With runner loses up to 5.5 % of head alone, at 6 mm" in words(view)
    assert "coefficient" in words(view)
    assert [curve["label"] for curve in view["curves"]] == ["head alone", "with runner"]


def test_a_pitot_map_names_where_the_air_runs(shop):
    test = made(shop, "pitot", series=("bare",), clocks=[12, 3, 6, 9])
    view = fill(shop, test, ["0.0", 22, 20, 15, "4.9 kPa"])
    assert [one["words"] for one in view["points"][:2]] == ["bare, pitot at rest, air off", "bare, 12 o'clock"]
    assert (view["unit"], view["points"][1]["unit_code"]) == ("m/s", "inH2O")
    assert "fastest at 12 o'clock, slowest at 6" in words(view)
    assert [len(one["points"]) for one in view["maps"]] == [4]


def test_a_probe_is_read_at_rest_and_less_that(shop):
    """A pitot 2 inH2O off: velocity goes with the root of what is left."""
    test = made(shop, "pitot", series=("bare",), clocks=[12, 4, 8])
    view = fill(shop, test, [22, 20, 15], start=1)
    assert "Pitot not read at rest for bare." in words(view)
    before = view["points"][1]["value"]["value"]
    view = fill(shop, test, ["1.9"])
    assert "not read at rest" not in words(view)
    assert view["points"][1]["value"]["value"] / before == pytest.approx((20.1 / 22) ** 0.5, abs=2e-3)
    low = made(shop, "pitot", series=("bare",), clocks=[12, 4, 8])
    view = fill(shop, low, ["1.9", 22, 1.8])
    assert view["points"][2]["value"] is None
    assert "Bare, 4 o'clock: shows no more than at rest, left out." in words(view)
    assert point(shop, low, 0, "30", replaces=[view["points"][0]["reading_id"]]).json()["path"] == "typed"


def test_a_throttle_is_mapped_at_each_opening(shop):
    part = {"element_kind": "throttle", "cylinder": None}
    test = made(shop, "pitot", series=("as sold",), places=[50, 100], clocks=[12, 4, 8], **part)
    view = fill(shop, test, ["0", 22, 20, 15, 24, 22, 21])
    assert view["points"][1]["words"] == "as sold, 50 %, 12 o'clock"
    assert [one["label"] for one in view["maps"]] == ["as sold, 50 %", "as sold, 100 %"]
    assert "As sold at 50 %: average" in words(view)


def test_swirl_is_a_coefficient(shop):
    test = made(shop, "swirl", series=("port",), places=[4, 8], bore="84 mm")
    view = fill(shop, test, [100, 1000, 2500])
    assert view["points"][2]["value"]["value"] == pytest.approx(0.196, abs=0.002)
    assert "coefficient up to 0.20, at 8 mm" in words(view)


def test_a_point_read_twice_is_asked_about_and_nothing_is_lost(shop):
    test = made(shop, "opening", places=[50, 100])
    shop.kept(point(shop, test, 0, 110))
    asked = point(shop, test, 0, 112)
    assert (asked.status_code, asked.json()["code"]) == (422, "already_read")
    shop.kept(point(shop, test, 0, 112, **asked.json()["offers"][0]["patch"]))
    assert shop.get(f"/tests/{test}")["points"][0]["value"]["text"] == "112.0"


def test_places_and_clock_positions_are_typed_with_their_units(shop):
    test = made(shop, "lift", series=("head",), places=["2 mm", "0.2 in", "7,5"])
    assert [one["place"] for one in shop.get(f"/tests/{test}")["points"]] == pytest.approx([2.0, 5.08, 7.5])
    test = made(shop, "pitot", series=("head",), clocks=["12 o'clock", "4", 8])
    assert [one["clock"] for one in shop.get(f"/tests/{test}")["points"]] == [None, 12, 4, 8]
    _, answer = plan(shop, "lift", places=["2 kg"])
    assert (answer.status_code, answer.json()["path"]) == (422, "places")


def test_samples_of_the_bench_make_a_point(shop):
    test = made(shop, "opening", places=[50, 100])
    shop.kept(point(shop, test, 0, "", taken={"samples_cfm": [110, 112], "depression_inh2o": 28}))
    assert shop.get(f"/tests/{test}")["points"][0]["typed"] == "111.0 CFM, mean of 2"


@pytest.mark.parametrize(
    ("more", "path"),
    [
        ({"kind": "weather"}, "kind"),
        ({"kind": "opening", "places": [0]}, "places"),
        ({"kind": "opening", "places": [50, 50]}, "places"),
        ({"kind": "copy", "series": ("one",)}, "series"),
        ({"kind": "swirl", "places": [4]}, "bore"),
        ({"kind": "swirl", "bore": "84 mm"}, "places"),
        ({"kind": "pitot", "clocks": [14]}, "clocks"),
        ({"kind": "lift", "places": [2], "bore": "34 km"}, "bore"),
        ({"kind": "lift", "bore": "34 m"}, "bore"),
        ({"kind": "lift", "cylinder": None}, "cylinder"),
        ({"kind": "lift", "cylinder": 40}, "cylinder"),
        ({"kind": "lift", "element_kind": "wing"}, "element_kind"),
        ({"kind": "lift", "places": [2], "series": (" ",)}, "series.0.label"),
    ],
)
def test_a_test_that_can_not_be_flowed_is_refused_with_its_place(shop, more, path):
    kind = more.pop("kind")
    _, answer = plan(shop, kind, **more)
    assert (answer.status_code, answer.json()["path"]) == (422, path)


def test_figures_that_can_not_be_are_refused(shop):
    pitot = made(shop, "pitot", series=("bare",), clocks=[12, 4, 8])
    assert point(shop, pitot, 1, "-3").json()["path"] == "typed"
    assert point(shop, pitot, 1, "3 stone").json()["path"] == "typed"
    assert point(shop, pitot, 99, "3").json()["path"] == "point"
    assert point(shop, new_id(), 0, "3").status_code == 404


def test_a_test_that_rested_over_a_day_allows_for_the_session_shift(shop):
    test = made(shop, "opening", places=[50, 100])
    first = fill(shop, test, [100, 200, 104, 208])
    assert "session" not in words(first)
    other = made(shop, "opening", places=[50, 100])
    fill(shop, other, [100, 200])
    later = fill(shop, other, [104, 208], start=2, taken_at="2026-03-05T09:00:00+00:00")
    assert "Read in more than one session. The ± allows 0.5 % session shift." in words(later)
