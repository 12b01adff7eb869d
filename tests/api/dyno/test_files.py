"""Dyno files in, and pulls out and in again."""

from io import BytesIO

import numpy as np
import pytest
from PIL import Image

from tests.api.dyno.asking import PORTED, RPM, STOCK, content, said


def test_columns_are_mapped_once(shop, job):
    odd = content(STOCK, headings="A;B;C")
    first = shop.kept(shop.preview(odd))
    assert first["mapping"] is None
    assert "Map them by hand" in first["findings"][0]["text"]
    mapping = {"speed_column": 0, "torque_column": 1, "torque_unit": "N·m", "power_column": 2, "power_unit": "kW",
               "speed_unit": "rpm", "rpm_at_100": None, "drum": None}  # fmt: skip
    shop.kept(shop.pull(*job[:2], odd, mapping=mapping))
    again = shop.kept(shop.preview(content(PORTED, headings="A;B;C")))
    assert again["remembered"]
    assert again["mapping"] == mapping


@pytest.mark.parametrize(
    ("file", "words"),
    [
        (b"time;Nm\n0,1;200\n0,2;201\n0,3;202\n", "Map them by hand"),
        (b"rpm;Nm\n3000;200\n", "1 usable row"),
    ],
)
def test_an_unusable_file_says_why_when_it_is_dropped(shop, file, words):
    assert words in shop.kept(shop.preview(file))["findings"][0]["text"]


@pytest.mark.parametrize("file", [b"", b"nothing here", b"\x00\x01"])
def test_what_is_no_table_is_refused(shop, file):
    assert shop.preview(file).status_code == 422


def test_one_row_is_no_pull(shop, job):
    answer = shop.pull(*job[:2], b"rpm;Nm\n3000;200\n")
    assert "5 speeds or more" in answer.json()["detail"]


def test_torque_and_power_that_contradict_each_other_are_asked_about(shop, job):
    file = content(STOCK, headings="n, rpm;M, Nm;P, kW", power_factor=1.341)
    problem = shop.pull(*job[:2], file).json()
    assert problem["code"] == "contradiction"
    assert [offer["label"] for offer in problem["offers"]] == [
        "The units are N·m and hp",
        "Torque counts, marked",
        "Power counts, marked",
    ]
    shop.kept(shop.pull(*job[:2], file, **problem["offers"][0]["patch"]))
    marked = shop.pull(job[0], job[2], file, **problem["offers"][1]["patch"])
    shop.kept(marked)
    assert any("its torque was taken" in sentence for sentence in said(shop.get(f"/jobs/{job[0]}/dyno")))


def test_an_exported_pull_imports_again_unchanged(shop, job, client):
    identifier, stock, ported = job
    pull = shop.kept(shop.pull(identifier, stock, content(STOCK)))["id"]
    exported = client.get(f"/api/pulls/{pull}.csv").text
    again = shop.kept(shop.pull(identifier, ported, exported.encode()))["id"]
    body = [line for line in exported.splitlines() if not line.startswith("#")]
    assert body == [
        line for line in client.get(f"/api/pulls/{again}.csv").text.splitlines() if not line.startswith("#")
    ]


class TestFiles:
    def test_a_unit_that_the_file_does_not_say_is_asked_for(self, shop, job):
        identifier, stock, _ = job
        file = content(STOCK, headings="n in rpm;torque;kW")
        assert "doesn't say the unit of its torque" in shop.kept(shop.preview(file))["findings"][0]["text"]
        problem = shop.pull(identifier, stock, file).json()
        assert problem["code"] == "unit_asked"
        assert problem["offers"][0]["label"] == "N·m, in which torque and power agree"
        shop.kept(shop.pull(identifier, stock, file, **problem["offers"][0]["patch"]))
        assert shop.kept(shop.preview(file))["remembered"]

    def test_a_speed_that_may_be_of_the_road_is_asked_for(self, shop, job):
        identifier, stock, _ = job
        file = content(STOCK, headings="Speed;Nm;kW")
        seen = shop.kept(shop.preview(file))
        assert seen["mapping"] is None
        mapping = {"speed_column": 0, "torque_column": 1, "torque_unit": "N·m", "power_column": 2, "power_unit": "kW",
                   "speed_unit": ""}  # fmt: skip
        problem = shop.pull(identifier, stock, file, mapping=mapping).json()
        assert [offer["label"] for offer in problem["offers"]] == [
            "rpm, in which torque and power agree",
            "km/h",
            "mph",
        ]

    def test_a_pull_far_off_stock_is_asked_about(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        problem = shop.pull(identifier, ported, content(STOCK * 1.36)).json()
        assert (problem["code"], problem["detail"][:31]) == ("far_from_stock", "This pull lies +36 % off stock'")
        shop.kept(shop.pull(identifier, ported, content(STOCK * 1.36), **problem["offers"][0]["patch"]))

    def test_several_runs_of_a_file_are_several_pulls(self, shop, job):
        identifier, stock, _ = job
        one, two = (content(STOCK + extra).decode().split("\n") for extra in (0.31, 0.47))
        file = "\n".join([*one, *two[1:]]).encode()
        seen = shop.kept(shop.preview(file))
        assert [(run["first_row"], run["last_row"]) for run in seen["runs"]] == [(0, 90), (91, 181)]
        for run in seen["runs"]:
            rows = {"first_row": run["first_row"], "last_row": run["last_row"], "accepted": []}
            shop.kept(shop.pull(identifier, stock, file, **rows))
        assert [pull["row_count"] for pull in shop.get(f"/jobs/{identifier}/dyno")["pulls"]] == [91, 91]
        again = shop.pull(identifier, stock, file, first_row=80, last_row=120, accepted=[]).json()
        assert again["code"] == "seen_before"

    def test_what_the_file_says_of_air_and_correction_is_taken_up(self, shop):
        file = b"# Air temp 77 degF, Baro 29.45 inHg, corrected SAE J607\n" + content(STOCK)
        assert shop.kept(shop.preview(file))["stated"] == {
            "air": {"air_temperature_c": "77 degF", "air_pressure_kpa": "29.45 inHg"},
            "standard": "sae_j607",
        }

    def test_road_speed_asks_for_the_gearing(self, shop, job):
        identifier, stock, _ = job
        rows = "\n".join(f"{n / 40:.2f},{m:.2f}" for n, m in zip(RPM, STOCK, strict=True))
        file = f"Road speed [km/h],Torque [Nm]\n{rows}".encode()
        seen = shop.kept(shop.preview(file))
        assert "rpm at 100 km/h" in shop.pull(identifier, stock, file).json()["detail"]
        shop.kept(shop.pull(identifier, stock, file, mapping={**seen["mapping"], "rpm_at_100": 4000}))
        assert shop.get(f"/jobs/{identifier}/dyno")["plate"]["curves"][0]["engine_speed_rpm"][-1] == 7000


def test_a_drums_pulls_are_compared_smoothed_alike_alone(shop, job):
    """Once known, the inertia is remembered for files with the same headings."""
    identifier, stock, ported = job

    def drum(power):
        time = np.arange(0, 9, 0.05)
        turns = np.sqrt(150.0**2 + time * 2 * power / 2.5) * 60 / (2 * np.pi)
        lines = [f"{t:.2f},{n:.4f},{n * 1.4:.3f}" for t, n in zip(time, turns, strict=True)]
        return "\n".join(["time [s],Drum speed [rpm],rpm", *lines]).encode()

    seen = shop.kept(shop.preview(drum(60_000)))
    assert "moment of inertia" in seen["findings"][0]["text"]
    mapping = {**seen["mapping"], "drum": {**seen["mapping"]["drum"], "inertia_kg_m2": 2.5}}
    shop.kept(shop.pull(identifier, stock, drum(60_000), mapping=mapping))
    again = shop.kept(shop.preview(drum(63_000)))
    assert again["mapping"]["drum"]["inertia_kg_m2"] == 2.5
    wide = {**mapping, "drum": {**mapping["drum"], "smoothing_s": 0.6}}
    pull = shop.kept(shop.pull(identifier, ported, drum(63_000), mapping=wide))["id"]
    assert shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]["unlike"] == "not comparable: smoothing"
    shop.kept(shop.put(f"/strikes/{pull}", {"person_id": shop.person, "reason": "smoothed otherwise",
                                            "struck_at": "2026-03-02T10:00:00Z"}))  # fmt: skip
    shop.kept(shop.pull(identifier, ported, drum(63_000), mapping=mapping, accepted=["seen_before"]))
    head = shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]
    assert head["figure"] is not None


def test_a_kept_pull_is_mapped_anew_from_its_file(shop, job):
    """Torque and power of the file are swapped by hand; mapped anew the pull is right, and the wrong one struck out."""
    identifier, stock, _ = job
    odd = content(STOCK, headings="A;B;C")
    wrong = {"speed_column": 0, "torque_column": 2, "torque_unit": "N·m", "power_column": None, "power_unit": ""}
    first = shop.kept(shop.pull(identifier, stock, odd, mapping=wrong))["id"]
    seen = shop.kept(shop.post(f"/pulls/{first}/preview", {}))
    assert (seen["mapping"]["torque_column"], seen["remembered"]) == (2, True)
    right = {**seen["mapping"], "torque_column": 1}
    second = shop.kept(shop.pull(identifier, stock, odd, mapping=right, replaces=first))["id"]
    pulls = {one["id"]: one["struck"] for one in shop.get(f"/jobs/{identifier}/dyno")["pulls"]}
    assert pulls[first]["reason"] == "mapped anew"
    assert pulls[second] is None
    other = shop.pull(identifier, stock, content(PORTED), replaces=second)
    assert (other.status_code, other.json()["path"]) == (422, "replaces")


def test_curves_go_out_as_a_file_that_is_read_again_and_as_a_picture(shop, job, client):
    identifier, stock, ported = job
    assert client.get(f"/api/jobs/{identifier}/designs.csv").status_code == 404
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    assert client.get(f"/api/jobs/{identifier}/designs.svg").status_code == 404
    shop.kept(shop.pull(identifier, ported, content(PORTED)))
    seen = shop.kept(shop.preview(client.get(f"/api/jobs/{identifier}/designs.csv").content))
    assert [run["mapping"]["speed_column"] for run in seen["runs"]] == [0, 2]
    again = shop.kept(shop.pull(identifier, stock, client.get(f"/api/jobs/{identifier}/designs.csv").content))
    assert again["id"]
    points = client.get(f"/api/jobs/{identifier}/designs.png")
    assert points.headers["content-type"] == "image/png"
    assert Image.open(BytesIO(points.content)).width == 2 * (680 + 20)
    picture = client.get(f"/api/jobs/{identifier}/designs.svg").text
    assert picture.startswith("<svg")
    assert "stage 2" in picture
