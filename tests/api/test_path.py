"""A build's path solved over HTTP: shares, what-if, bounds, and builds that are varied."""

import pytest

from tests.shop import new_id

ENGINE = {
    "name": "Made-up four",
    "bore_mm": 86,
    "stroke_mm": 86,
    "limit_rpm": 7500,
    "compression_ratio": 11,
    "firing_order": [1, 3, 4, 2],
    "inlet_valve_count": 2,
    "inlet_valve_mm": 33,
}
UPSTREAM = {
    "filter": ("95 mm", "700"),
    "tube": ("68 mm", "480"),
    "meter": ("74 mm", "640"),
    "throttle": ("64 mm", "560"),
}


@pytest.fixture(scope="module")
def four(shop):
    """A whole job on a four: everything in front of the plenum and all runners read."""
    job = shop.job(4, "whole_job", engine=ENGINE, band_low_rpm=4000, band_high_rpm=7000)
    setup = shop.setup(job)
    build = shop.builds(job)[0]
    for kind, (bore, flow) in UPSTREAM.items():
        mounted(shop, job, build["id"], kind, bore, flow)
    state = shop.sheet(job)["before_state_id"]
    shop.series(job, setup, state, [215, 214, 216, 213])
    return job


def elements(node):
    return [node["element"]] if node.get("element") else [e for n in node["nodes"] for e in elements(n)]


def mounted(shop, job, build_id, kind, bore, flow=None):
    """A part of the job at its element, with its bore and what it passes; returns its state."""
    state, part = new_id(), new_id()
    person = {"person_id": shop.person}
    shop.kept(shop.put(f"/parts/{part}", {**person, "job_id": job, "kind": kind, "name": kind, "state_id": state}))
    build = next(b for b in shop.builds(job) if b["id"] == build_id)
    node = next(e for e in elements(build["path"]) if e["kind"] == kind)
    body = {"version": build["version"], "node_id": node["node_id"], "part_state_id": state}
    assert shop.client.patch(f"/api/builds/{build_id}", json=body).status_code == 200
    shared = {**person, "job_id": job, "part_state_id": state, "element_kind": kind,
              "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
    shop.kept(shop.put(f"/dimensions/{new_id()}", {**shared, "quantity": "bore", "typed": bore}))
    if flow:
        read = {**shared, "bench_id": shop.bench, "depression": "28", "typed": flow}
        shop.kept(shop.put(f"/part-flows/{new_id()}", read))
    return state


def solution(shop, build_id, units="trade", **ask):
    answer = shop.client.post(f"/api/builds/{build_id}/solution", params={"units": units}, json=ask)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_the_tube_is_the_pinch_in_front_of_the_manifold(shop, four):
    found = solution(shop, shop.builds(four)[0]["id"])
    assert found["rpm"] == 7000
    rows = {row["label"]: row for row in found["rows"]}
    upstream = {label: rows[label]["share_percent"] for label in ("Filter", "Tube", "Meter", "Throttle")}
    assert max(upstream, key=upstream.get) == "Tube"
    assert sum(row["share_percent"] or 0 for row in found["rows"]) == pytest.approx(100)
    words = " ".join(p["text"] for s in found["margin"] for p in s["pieces"])
    assert "the tube is the biggest restriction" in words
    assert found["limit_passed_rpm"] is not None
    assert found["total_low"]["value"] < found["total"]["value"] <= found["total_high"]["value"] + 1e-9


def test_a_bench_that_its_plate_corrects_shows_the_same_here(shop):
    """Figures kept beyond their session take the plate along: the path, a candidate and the bench's sheet agree."""
    bench, job, cast = (
        new_id(),
        shop.job(4, "whole_job", engine=ENGINE, band_low_rpm=4000, band_high_rpm=7000),
        new_id(),
    )
    shop.kept(shop.put(f"/benches/{bench}", {"name": f"Plated {bench[:6]}"}))
    plate = {"person_id": shop.person, "kind": "plate", "bench_id": bench, "setup_id": None, "typed": "186",
             "plate": "P1", "plate_flow": "180", "plate_uncertainty_percent": 0.8,
             "taken_at": "2026-03-01T09:00:00+00:00"}  # fmt: skip
    shop.kept(shop.put(f"/checks/{new_id()}", plate))
    setup, state = shop.setup(job, bench_id=bench), shop.sheet(job)["before_state_id"]
    shop.series(job, setup, state, [215, 214, 216, 213])
    shop.kept(shop.put(f"/parts/{new_id()}", {"person_id": shop.person, "job_id": None, "kind": "throttle",
                                              "name": "Corrected", "state_id": cast}))  # fmt: skip
    read = {"person_id": shop.person, "job_id": None, "part_state_id": cast, "element_kind": "throttle",
            "bench_id": bench, "depression": "28", "typed": "560",
            "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
    shop.kept(shop.put(f"/part-flows/{new_id()}", read))
    for _ in range(2):  # worked out, then kept
        rows = {row["label"]: row for row in solution(shop, shop.builds(job)[0]["id"])["rows"]}
        assert rows["Runners"]["flow"]["value"] == pytest.approx(214.5 * 180 / 186, abs=0.5)
        found = shop.get(f"/jobs/{job}/candidates", kind="throttle")["candidates"]
        flow = next(one["flow"] for one in found if one["state_id"] == cast)
        assert flow["value"] == pytest.approx(560 * 180 / 186, abs=0.06)
    assert shop.sheet(job)["rungs"][0]["before"]["mean"]["value"] == pytest.approx(215 * 180 / 186, abs=0.01)


def test_a_runner_stands_beside_the_engine_with_its_own_figure(shop, four):
    rows = {row["label"]: row for row in solution(shop, shop.builds(four)[0]["id"])["rows"]}
    assert rows["Runners"]["flow"]["value"] == pytest.approx(214.5, abs=0.5)
    assert rows["Runners"]["whole_engine"]["value"] < 2 * rows["Runners"]["flow"]["value"]
    assert rows["Tube"]["whole_engine"] is None


def test_on_the_bench_one_port_draws_through_all_of_it(shop, four):
    found = solution(shop, shop.builds(four)[0]["id"], bench=True)
    assert found["bench"]
    port = found["port"]
    assert port["series"]["value"] < port["carried"]["value"] <= port["weakest"]["value"]
    assert port["weakest_label"].startswith("Runner")
    shares = {row["label"]: row["share_percent"] for row in found["rows"]}
    assert shares["Runners"] > 60


def test_a_wider_tube_gains_air_between_two_bounds_and_nothing_is_kept(shop, four):
    build = shop.builds(four)[0]
    tube = next(e for e in elements(build["path"]) if e["kind"] == "tube")
    before = solution(shop, build["id"])
    wider = solution(shop, build["id"], changes=[{"node_id": tube["node_id"], "bore_mm": 76}])
    assert 0 < wider["gained_low_percent"] <= wider["gained_high_percent"]
    row = next(r for r in wider["rows"] if r["label"] == "Tube")
    assert (row["changed"], row["basis"]) == (True, "what-if")
    assert row["flow"]["value"] == pytest.approx(480 * (76 / 68) ** 2, rel=0.01)
    assert any(p["as_is_kpa"] > p["changed_kpa"] for p in wider["curve"])
    again = solution(shop, build["id"])
    assert again["rows"] == before["rows"]


def test_figures_follow_the_units_asked_for(shop, four):
    found = solution(shop, shop.builds(four)[0]["id"], units="metric")
    assert {row["flow"]["unit"] for row in found["rows"] if row["flow"]} == {"m³/h"}


def test_a_speed_beyond_the_limit_is_held_there(shop, four):
    assert solution(shop, shop.builds(four)[0]["id"], rpm=20000)["rpm"] == 7500


@pytest.mark.parametrize(("change", "status"), [({"bore_mm": 4}, 422), ({"bore_mm": 70, "node_id": new_id()}, 404)])
def test_what_cannot_be_thought_of_is_refused(shop, four, change, status):
    build = shop.builds(four)[0]
    tube = next(e for e in elements(build["path"]) if e["kind"] == "tube")
    body = {"changes": [{"node_id": tube["node_id"], **change}]}
    assert shop.client.post(f"/api/builds/{build['id']}/solution", json=body).status_code == status


def test_unknown_elements_give_bounds(shop):
    job = shop.job(4, "whole_job", engine=ENGINE)
    build = shop.builds(job)[0]["id"]
    empty = solution(shop, build)
    assert empty["to_plenum"] is None
    mounted(shop, job, build, "throttle", "64 mm")
    found = solution(shop, build)
    assert found["at_least"]
    assert found["total_high"] is None
    rows = {row["label"]: row for row in found["rows"]}
    assert rows["Tube"]["share_percent"] is None
    assert rows["Throttle"]["grade"] == "estimated"


def test_a_bore_in_inches_is_asked_about_with_what_was_meant(shop, four):
    state = shop.sheet(four)["before_state_id"]
    body = {"person_id": shop.person, "job_id": four, "part_state_id": state, "element_kind": "throttle",
            "quantity": "bore", "typed": "7 in", "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
    answer = shop.put(f"/dimensions/{new_id()}", body)
    problem = answer.json()
    assert (answer.status_code, problem["code"], problem["path"]) == (422, "unlikely", "typed")
    assert [offer["label"] for offer in problem["offers"]] == ["Use 7 cm", "Save 7 in anyway, flagged"]
    kept = shop.put(f"/dimensions/{new_id()}", {**body, **problem["offers"][1]["patch"]})
    assert kept.status_code == 200


def test_a_build_is_copied_with_a_swap_and_told_apart_in_words(shop, four):
    build = shop.builds(four)[0]
    state, part, copy = new_id(), new_id(), new_id()
    new = {"person_id": shop.person, "job_id": None, "kind": "throttle", "name": f"Wide {part[:4]}", "state_id": state}
    shop.kept(shop.put(f"/parts/{part}", new))
    node = next(e for e in elements(build["path"]) if e["kind"] == "throttle")["node_id"]
    body = {"person_id": shop.person, "copy_of": build["id"], "swaps": [{"node_id": node, "part_state_id": state}]}
    for _ in range(2):
        shop.kept(shop.put(f"/build-copies/{copy}", body))
    made = [b for b in shop.builds(four) if b["id"] == copy]
    assert [b["name"] for b in made] == [new["name"]]
    told = shop.get(f"/builds/{build['id']}/difference/{copy}")
    assert told["lines"] == [f"Throttle: throttle → {new['name']}"]
    assert shop.get(f"/builds/{build['id']}/difference/{build['id']}")["lines"] == []


def test_in_thought_the_other_manifold_favours_another_speed_and_its_conflicts_are_told(shop, four):
    state, part = new_id(), new_id()
    person = {"person_id": shop.person, "job_id": None}
    shop.kept(shop.put(f"/parts/{part}", {**person, "kind": "manifold", "name": "Short", "state_id": state}))
    sheet = shop.get(f"/parts/{part}")
    stated = {"version": sheet["version"], "name": "Short", "features": {"height_mm": 500, "fuels": ["E85"]}}
    assert shop.client.patch(f"/api/parts/{part}", json=stated).status_code == 200
    shared = {**person, "part_state_id": state, "element_kind": "runner", "cylinder": 1,
              "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
    for quantity, typed in (("bore", "46 mm"), ("length", "180 mm")):
        shop.kept(shop.put(f"/dimensions/{new_id()}", {**shared, "quantity": quantity, "typed": typed}))
    build = shop.builds(four)[0]
    changes = [
        {"node_id": e["node_id"], "part_state_id": state}
        for e in elements(build["path"])
        if e["kind"] in ("plenum", "runner")
    ]
    as_is, thought = solution(shop, build["id"]), solution(shop, build["id"], changes=changes)
    assert not any("favours" in figure["name"] and "Runner" in figure["name"] for figure in as_is["figures"])
    favoured = next(f["text"] for f in thought["figures"] if f["name"].startswith("Runner length"))
    assert int(favoured.split()[0]) > 6000
    harm = [" ".join(p["text"] for p in s["pieces"]) for s in thought["margin"] if s["tone"] == "harm"]
    assert any("Not rated for petrol" in words for words in harm)


def test_a_manifold_is_swapped_as_a_whole(shop, four):
    build = shop.builds(four)[0]
    state, part, copy = new_id(), new_id(), new_id()
    shop.kept(shop.put(f"/parts/{part}", {"person_id": shop.person, "job_id": None, "kind": "manifold",
                                          "name": "Other manifold", "state_id": state}))  # fmt: skip
    node = next(e for e in elements(build["path"]) if e["kind"] == "runner")["node_id"]
    body = {"person_id": shop.person, "copy_of": build["id"], "swaps": [{"node_id": node, "part_state_id": state}]}
    shop.kept(shop.put(f"/build-copies/{copy}", body))
    lines = shop.get(f"/builds/{build['id']}/difference/{copy}")["lines"]
    assert lines == ["Manifold: Manifold → Other manifold"]


def test_an_element_is_put_in_or_taken_out_in_a_copy(shop, four):
    build = shop.builds(four)[0]
    meter = next(e for e in elements(build["path"]) if e["kind"] == "meter")["node_id"]
    changes = {"without": {"taken_out": meter}, "with": {"put_in": {"node_id": meter, "kind": "adapter"}}}
    for name, change in changes.items():
        copy = new_id()
        body = {"person_id": shop.person, "copy_of": build["id"], **change}
        shop.kept(shop.put(f"/build-copies/{copy}", body))
        made = next(b for b in shop.builds(four) if b["id"] == copy)
        kinds = [e["kind"] for e in elements(made["path"])][:5]
        assert name in made["name"]
        assert kinds == (["filter", "tube", "throttle", "plenum", "runner"] if name == "without" else
                         ["filter", "tube", "meter", "adapter", "throttle"])  # fmt: skip
    runner = next(e for e in elements(build["path"]) if e["kind"] == "runner")["node_id"]
    body = {"person_id": shop.person, "copy_of": build["id"], "taken_out": runner}
    refused = shop.put(f"/build-copies/{new_id()}", body)
    assert (refused.status_code, refused.json()["detail"][:24]) == (422, "Cylinder 1 is not fed. A")


def test_a_build_of_another_shape_has_the_jobs_manifold(shop):
    engine = {**ENGINE, "layout": "flat", "bank_count": 2, "firing_order": []}
    job = shop.job(6, "whole_job", engine=engine)
    names = shop.get(f"/jobs/{job}/shapes")
    assert "a throttle and plenum for each bank" in names
    build = new_id()
    body = {"person_id": shop.person, "job_id": job, "shape": "a throttle and plenum for each bank"}
    shop.kept(shop.put(f"/shaped-builds/{build}", body))
    made = next(b for b in shop.builds(job) if b["id"] == build)
    found = elements(made["path"])
    assert [e["kind"] for e in found].count("throttle") == 2
    assert {e["part_state_id"] is not None for e in found if e["kind"] == "runner"} == {True}
    refused = shop.put(f"/shaped-builds/{new_id()}", {**body, "shape": "a star"})
    assert (refused.status_code, refused.json()["path"]) == (422, "shape")


def test_runners_alone_follow_from_combinations_and_contradictions_are_told(shop):
    """Common practice, no source: 276 CFM with a throttle of 990, 285 with the same ported to 1205."""
    job = shop.job(1, "whole_job")
    part, sold, ported = new_id(), new_id(), new_id()
    shop.kept(shop.put(f"/parts/{part}", {"person_id": shop.person, "job_id": job, "kind": "throttle", "name": "T",
                                          "state_id": sold}))  # fmt: skip
    shop.kept(shop.put(f"/states/{ported}", {"person_id": shop.person, "part_id": part, "stage": 2}))
    for state, flow in ((sold, "990"), (ported, "1205")):
        body = {
            "person_id": shop.person,
            "job_id": job,
            "part_state_id": state,
            "element_kind": "throttle",
            "bench_id": shop.bench,
            "depression": "28",
            "typed": flow,
            "taken_at": "2026-03-02T09:00:00+00:00",
        }
        shop.kept(shop.put(f"/part-flows/{new_id()}", body))
    runner = shop.sheet(job)["before_state_id"]
    for throttle, flow in (("as_sold", "276"), ("ported", "285")):
        setup = shop.setup(job, throttle=throttle)
        shop.kept(shop.flow(job, setup, runner, 1, flow, accepted=["already_read"]))
    found = solution(shop, shop.builds(job)[0]["id"])
    words = " ".join(p["text"] for s in found["margin"] for p in s["pieces"])
    assert "Runner 1 alone: about 286.5 CFM" in words
    assert "Rule of thumb 1/Q²: 287 CFM" in words
    assert "292.7 CFM" in words
    assert "differ by 2.2 %" in words
    setup = shop.setup(job, throttle="as_sold")
    shop.kept(shop.flow(job, setup, runner, 1, "2000", accepted=["already_read", "ten_times", "unlike_others"]))
    words = " ".join(p["text"] for s in solution(shop, shop.builds(job)[0]["id"])["margin"] for p in s["pieces"])
    assert "more than the weakest alone" in words


def test_two_bank_eight_with_a_throttle_for_each_bank(shop):
    engine = {**ENGINE, "name": "Made-up eight", "layout": "vee", "bank_count": 2,
              "firing_order": [1, 8, 4, 3, 6, 5, 7, 2]}  # fmt: skip
    job = shop.job(8, "whole_job", engine=engine)

    def bank(number, cylinders):
        runners = [{"type": "element", "kind": "runner", "label": f"Runner {n}", "cylinder": n, "bank": number}
                   for n in cylinders]  # fmt: skip
        nodes = [
            {"type": "element", "kind": "throttle", "label": f"Throttle {number}", "bank": number},
            {"type": "element", "kind": "plenum", "label": f"Plenum {number}", "bank": number},
            {"type": "branches", "nodes": runners},
        ]
        return {"type": "series", "nodes": nodes}

    tree = {"type": "series", "nodes": [
        {"type": "element", "kind": "filter", "label": "Filter"},
        {"type": "branches", "nodes": [bank(1, (1, 3, 5, 7)), bank(2, (2, 4, 6, 8))]},
    ]}  # fmt: skip
    build = new_id()
    body = {"person_id": shop.person, "job_id": job, "name": "two throttles", "cylinder_count": 8, "tree": tree}
    shop.kept(shop.put(f"/builds/{build}", body))
    mounted(shop, job, build, "throttle", "60 mm")
    found = solution(shop, build)
    labels = [row["label"] for row in found["rows"]]
    assert labels == ["Filter", "Throttle 1", "Plenum 1", "Runners", "Throttle 2", "Plenum 2"]
    known = next(row for row in found["rows"] if row["label"] == "Throttle 1")
    assert known["share_percent"] == pytest.approx(100)


def test_the_shops_lines_are_its_own(shop, four):
    view = shop.get("/settings/path")
    settings = {**view["settings"], "plenum_drop_kpa": 40}
    url = "/api/settings/path"
    assert shop.client.patch(url, json={"version": view["version"], "settings": settings}).status_code == 200
    assert solution(shop, shop.builds(four)[0]["id"])["limit_passed_rpm"] is None
    stale = shop.client.patch(url, json={"version": view["version"], "settings": settings})
    assert stale.status_code == 409
    now = shop.get("/settings/path")
    wrong = {**view["settings"], "weights": {"colour": 1}}
    refused = shop.client.patch(url, json={"version": now["version"], "settings": wrong})
    assert (refused.status_code, refused.json()["path"]) == (422, "settings.weights")
    shop.client.patch(url, json={"version": now["version"], "settings": view["settings"]})


def test_one_measured_runner_lends_its_bore_to_its_sisters_and_says_so(shop):
    """All eight are widened together: a millimetre gains what it does with every bore measured, not an eighth."""
    gains, lent = [], []
    for measured in (range(1, 2), range(1, 9)):
        job = shop.job(8, "whole_job", engine={**ENGINE, "firing_order": []}, band_low_rpm=4000, band_high_rpm=7000)
        state = shop.sheet(job)["before_state_id"]
        shop.series(job, shop.setup(job), state, [200] * 8)
        for cylinder in measured:
            body = {"person_id": shop.person, "job_id": job, "part_state_id": state, "element_kind": "runner",
                    "quantity": "bore", "typed": "42 mm", "cylinder": cylinder,
                    "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
            shop.kept(shop.put(f"/dimensions/{new_id()}", body))
        found = solution(shop, shop.builds(job)[0]["id"])
        row = next(one for one in found["rows"] if one["kind"] == "runner")
        gains.append(row["gain_per_mm_percent"])
        lent.append(row["bore_of_runner"])
    assert gains[0] == pytest.approx(gains[1])
    assert lent == [1, None]


def throttle_each(shop):
    """A four with one kind of throttle at every cylinder, everything read; returns its job."""
    job = shop.job(
        4, "whole_job", engine=ENGINE, shape="a throttle for each cylinder", band_low_rpm=4000, band_high_rpm=7000
    )
    build = shop.builds(job)[0]["id"]
    mounted(shop, job, build, "filter", "110 mm", "900")
    state = mounted(shop, job, build, "throttle", "45 mm", "233")
    for node in [e for e in elements(shop.builds(job)[0]["path"]) if e["kind"] == "throttle"]:
        body = {"version": shop.builds(job)[0]["version"], "node_id": node["node_id"], "part_state_id": state}
        shop.kept(shop.client.patch(f"/api/builds/{build}", json=body))
    shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], [228, 226, 229, 225])
    return job


def test_a_throttle_to_each_cylinder_is_read_once_and_the_drop_is_told_up_to_it(shop):
    """What one body was read to pass counts for each; there is no plenum to tell a drop to, and strokes are felt."""
    build = shop.builds(throttle_each(shop))[0]["id"]
    found = solution(shop, build)
    throttles = next(row for row in found["rows"] if row["kind"] == "throttle")
    assert (throttles["grade"], throttles["flow"]["text"]) == ("measured", "233.0")
    assert found["ends_at"] == "the throttles"
    assert found["peak_to_plenum"]["value"] > found["to_plenum"]["value"]
    said = " ".join(piece["text"] for sentence in found["margin"] for piece in sentence["pieces"])
    assert "Pressure drop to the throttles" in said
    assert "at full flow" in said
    assert "plenum" not in said
