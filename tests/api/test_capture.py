"""Capturing flows: what is kept, what is asked, what is refused; nothing twice, nothing overwritten."""

import pytest
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

from tests.shop import new_id

BEFORE = (201.6, 199.1, 191.4, 203.0, 198.7)


@pytest.fixture
def bench(shop):
    """A posted part with a set-up: job, set-up, first state."""
    job = shop.job()
    return job, shop.setup(job), shop.sheet(job)["before_state_id"]


def question(answer):
    assert answer.status_code == 422, answer.text
    return answer.json()


def test_a_figure_is_kept_as_typed_and_shown(shop, bench):
    job, setup, state = bench
    shop.kept(shop.flow(job, setup, state, 1, "364,5 m³/h"))
    rung = shop.sheet(job)["rungs"][0]
    assert rung["before"]["readings"][0]["typed"] == "364,5 m³/h"
    assert rung["before"]["mean"]["text"] == "214.5"
    assert shop.sheet(job, "metric")["rungs"][0]["before"]["mean"]["text"] == "364.5"


def test_before_and_after_give_gain_spread_and_what_is_real(shop, bench):
    job, setup, state = bench
    shop.series(job, setup, state, BEFORE)
    cut = shop.cut(job)
    shop.series(job, setup, cut, [figure * 1.07 for figure in BEFORE])
    sheet = shop.sheet(job)
    assert [rung["gain"]["words"] for rung in sheet["rungs"]] == ["clear, ± assumed"] * 5
    assert sheet["mean"]["gain"]["percent"] == "+7.0 %"
    assert sheet["mean"]["spread_before"] == "5.8 %"
    said = ["".join(piece["text"] for piece in sentence["pieces"]) for sentence in sheet["margin"]]
    assert said[0].startswith("Clear gain: +13.9 CFM average over runners 1 to 5 (+7.0 %).")
    assert "Runner 3 is low" in said[1]


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        ("0", "must be above 0"),
        ("-12", "must be above 0"),
        ("abc", "'abc' isn't a number"),
        ("", "isn't a number"),
        ("12 kg", "'kg' isn't a unit of flow"),
        ("1,234", "thousands or decimals"),
    ],
)
def test_what_can_not_be_a_reading_is_refused_in_place(shop, bench, typed, words):
    problem = question(shop.flow(*bench, 1, typed))
    assert words in problem["detail"]
    assert problem["path"] == "typed"
    assert shop.sheet(bench[0])["rungs"][0]["before"]["readings"] == []


@pytest.mark.parametrize(
    ("typed", "code", "label", "shown"),
    [
        ("2010", "ten_times", "Use 201", "201.0"),
        ("341", "cubic_metres_per_hour", "It was 341 m³/h", "200.7"),
        ("118 m3/h", "a_tenth", None, None),
        ("199 m3/h", "cubic_feet_per_minute", "It was 199 CFM", "199.0"),
        ("480", "unlike_others", "Save 480 anyway, flagged", "480.0"),
    ],
)
def test_what_may_be_meant_otherwise_is_asked_with_a_way_on(shop, bench, typed, code, label, shown):
    job, setup, state = bench
    shop.series(job, setup, state, BEFORE[:3])
    identifier = new_id()
    body = shop.flow_body(job, setup, state, 4, typed)
    problem = question(shop.put(f"/flow-readings/{identifier}", body))
    if label is None:
        assert problem["code"] != code  # 69 CFM is a third of the others: unlike them, but no slip of the point
        return
    assert problem["code"] == code
    offer = next(offer for offer in problem["offers"] if offer["label"] == label)
    shop.kept(shop.put(f"/flow-readings/{identifier}", {**body, **offer["patch"]}))
    assert shop.sheet(job)["rungs"][3]["before"]["mean"]["text"] == shown


def test_what_is_kept_under_doubt_is_marked(shop, bench):
    job, setup, state = bench
    shop.series(job, setup, state, BEFORE[:3])
    shop.kept(shop.flow(job, setup, state, 4, "480", accepted=["unlike_others"]))
    sheet = shop.sheet(job)
    assert sheet["rungs"][3]["before"]["readings"][0]["marks"] == ["far from the others"]
    assert any("is flagged: far from the others" in str(sentence) for sentence in sheet["margin"])


def test_a_flow_above_what_the_opening_can_pass_is_asked_about(shop, bench):
    job, setup, state = bench
    measured = {"part_state_id": state, "element_kind": "runner", "quantity": "bore", "typed": "35 mm", "cylinder": 1}
    stamp = {"person_id": shop.person, "job_id": job, "taken_at": "2026-03-02T08:00:00Z"}
    shop.kept(shop.put(f"/dimensions/{new_id()}", {**stamp, **measured}))
    assert question(shop.flow(job, setup, state, 1, "230"))["code"] == "above_ceiling"
    shop.kept(shop.flow(job, setup, state, 1, "205"))


def test_a_runner_read_twice_is_a_repeat_or_a_replacement(shop, bench):
    job, setup, state = bench
    shop.kept(shop.flow(job, setup, state, 1, "200.0"))
    problem = question(shop.flow(job, setup, state, 1, "202.0"))
    assert problem["code"] == "already_read"
    repeat, replace, untouched = problem["offers"]
    assert untouched["patch"]["refitted"] is False
    shop.kept(shop.flow(job, setup, state, 1, "202.0", **repeat["patch"]))
    assert shop.sheet(job)["rungs"][0]["before"]["mean"]["text"] == "201.0"
    replaced = question(shop.flow(job, setup, state, 1, "204.0"))["offers"][1]
    shop.kept(shop.flow(job, setup, state, 1, "204.0", **replaced["patch"]))
    rung = shop.sheet(job)["rungs"][0]["before"]
    assert rung["mean"]["text"] == "204.0"
    assert len(rung["readings"]) == 3
    assert "What is 202.0?" in problem["detail"]
    assert replace["label"].startswith("Replace 200.0 CFM with 202.0")


def test_a_repeated_request_is_the_same_request(shop, bench):
    job, setup, state = bench
    identifier, body = new_id(), shop.flow_body(job, setup, state, 1, "200.0")
    for _ in range(3):
        shop.kept(shop.put(f"/flow-readings/{identifier}", body))
    assert len(shop.sheet(job)["rungs"][0]["before"]["readings"]) == 1
    other = shop.put(f"/flow-readings/{identifier}", {**body, "typed": "300.0"})
    assert (other.status_code, other.json()["code"]) == (409, "id_reused")


def test_a_struck_reading_stays_and_counts_no_more(shop, bench):
    job, setup, state = bench
    reading = shop.kept(shop.flow(job, setup, state, 2, "180.0"))["id"]
    strike = {"person_id": shop.person, "struck_at": "2026-03-02T09:05:00Z"}
    assert "reason" in shop.put(f"/strikes/{reading}", {**strike, "reason": " "}).json()["detail"]
    for _ in range(2):
        shop.kept(shop.put(f"/strikes/{reading}", {**strike, "reason": "leak"}))
    before = shop.sheet(job)["rungs"][1]["before"]
    assert before["mean"] is None
    assert before["readings"][0]["struck"]["reason"] == "leak"


@pytest.mark.parametrize("statement", ["update flow_reading set figure = 1", "delete from reading", "truncate strike"])
def test_the_database_itself_keeps_readings(owner, shop, bench, statement):
    shop.kept(shop.flow(*bench, 1, "200.0"))
    with owner.begin() as connection, pytest.raises(IntegrityError, match="append-only"):
        connection.execute(text(statement))


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"depression": "0"}, "depression"),
        ({"depression": "28 kPa"}, "depression"),
        ({"depression": "some"}, "depression"),
        ({"entry_radius": "wooden"}, "entry_radius"),
        ({"air_temperature_c": 18, "air_pressure_kpa": 760}, "air_pressure"),
    ],
)
def test_a_set_up_that_can_not_be_is_refused(shop, bench, change, path):
    body = {"person_id": shop.person, "job_id": bench[0], "bench_id": shop.bench, "depression": "28", **change}
    problem = question(shop.put(f"/setups/{new_id()}", body))
    assert problem["path"] == path


def test_flows_at_unlike_depressions_are_brought_to_one(shop, bench):
    job, setup, state = bench
    low = shop.setup(job, depression="15 inH2O")
    shop.kept(shop.flow(job, setup, state, 1, "245.9"))
    shop.kept(shop.flow(job, low, state, 2, "180"))
    rungs = shop.sheet(job)["rungs"]
    assert rungs[0]["before"]["mean"]["text"] == rungs[1]["before"]["mean"]["text"] == "245.9"


def test_unlike_set_ups_before_and_after_are_told(shop, bench):
    job, setup, state = bench
    shop.kept(shop.flow(job, setup, state, 1, "200"))
    cut = shop.cut(job)
    shop.kept(shop.flow(job, shop.setup(job, entry_radius="clay"), cut, 1, "215"))
    sheet = shop.sheet(job)
    first = "".join(piece["text"] for piece in sheet["margin"][0]["pieces"])
    assert first.startswith("Not comparable: runner 1, it differs in entry radius before and after.")
    assert (sheet["rungs"][0]["gain"], sheet["mean"]["gain"]) == (None, None)
    assert "lear gain" not in " ".join(str(sentence) for sentence in sheet["margin"])
    card = next(c for column in shop.get("/board")["columns"] for c in column["jobs"] if c["id"] == job)
    assert (card["gain"], card["unlike"]) == (None, "not comparable: entry radius")


def test_figures_of_unlike_set_ups_are_never_averaged(shop, bench):
    """Bare 200, with the throttle 180: the ladder shows the last set-up, the path the part alone, none of them 190."""
    job, setup, state = bench
    throttled = shop.setup(job, throttle="as_sold")
    for which, figures in ((setup, ("200", "202")), (throttled, ("180", "181"))):
        for figure in figures:
            shop.kept(shop.flow(job, which, state, 1, figure, accepted=["already_read", "unlike_others"]))
    assert shop.sheet(job)["rungs"][0]["before"]["mean"]["value"] == pytest.approx(180.5)

    def runners(node):
        yield from [node["element"]] if node["element"] else []
        for child in node["nodes"]:
            yield from runners(child)

    card = next(c for column in shop.get("/board")["columns"] for c in column["jobs"] if c["id"] == job)
    first = next(one for one in runners(card["path"]) if one["cylinder"] == 1)
    assert first["flow"]["value"] == pytest.approx(201.0)


def test_a_runner_that_is_not_there_is_refused(shop, bench):
    assert "this part has 5" in question(shop.flow(*bench, 6, "200"))["detail"]


def test_exported_flows_import_again_unchanged(shop, bench, client):
    job, setup, state = bench
    shop.series(job, setup, state, BEFORE)
    struck = shop.kept(
        shop.flow(job, setup, state, 1, "150 m3/h", accepted=["already_read", "unlike_others", "far_repeat"])
    )["id"]
    shop.kept(
        shop.put(f"/strikes/{struck}", {"person_id": shop.person, "reason": "x", "struck_at": "2026-03-02T10:00:00Z"})
    )
    exported = client.get(f"/api/jobs/{job}/flow.csv").text
    other = shop.job()
    read = client.post(f"/api/jobs/{other}/flow-table", params={"name": "flow.csv"}, content=exported).json()["rows"]
    setup, state = shop.setup(other), shop.sheet(other)["before_state_id"]
    for row in read:
        shop.kept(shop.flow(other, setup, state, row["cylinder"], row["typed"]))
    again = client.get(f"/api/jobs/{other}/flow.csv").text

    def figures(content):
        return [line.split(",")[:4] for line in content.splitlines()[2:] if not line.endswith(",x")]

    assert figures(again) == figures(exported)
    assert len(figures(again)) == 5


def test_a_table_for_another_part_is_refused_whole(client, shop, bench):
    answer = client.post(
        f"/api/jobs/{bench[0]}/flow-table", params={"name": "six.csv"}, content="runner,before\n5,200\n6,201\n"
    )
    assert "names runner 6; this part has 5" in question(answer)["detail"]


def test_assumed_repeatability_is_said_until_the_bench_has_its_own(shop, bench):
    job, _, state = bench
    bench_id = new_id()
    shop.kept(shop.put(f"/benches/{bench_id}", {"name": f"Borrowed {bench_id[:6]}"}))
    setup = shop.setup(job, bench_id=bench_id)
    shop.kept(shop.flow(job, setup, state, 1, "200"))
    assert any("not known yet; 0.5 % assumed" in str(sentence) for sentence in shop.sheet(job)["margin"])
    change = {"version": 1, "name": f"Ours {bench_id[:6]}", "repeatability_percent": 0.3, "session_shift_percent": 0.1}
    shop.kept(shop.client.patch(f"/api/benches/{bench_id}", json=change))
    assert not any("assumed" in str(sentence) for sentence in shop.sheet(job)["margin"])
