"""Dyno files in, pulls against stock, the verdict; pulls out and in again."""

from collections import Counter

import numpy as np
import pytest

from elvarn.core.dyno.correction import power_from_torque
from elvarn.service.record import curves
from tests.shop import new_id

RPM = np.arange(2500, 7001, 50)
STOCK = 230 - ((RPM - 4600) / 300) ** 2
PORTED = 229 - ((RPM - 5000) / 310) ** 2


def content(torque, headings="rpm;Nm;kW", power_factor=1.0, rpm=RPM):
    rows = [
        f"{n};{m:.2f};{power_from_torque(float(m), float(n)) / 1000 * power_factor:.3f}".replace(".", ",")
        for n, m in zip(rpm, torque, strict=True)
    ]
    return "\n".join([headings, *rows]).encode()


@pytest.fixture
def job(shop):
    """A whole job with a cut, so that there is stock and a ported build; ids of job, stock, ported."""
    identifier = shop.job(kind="whole_job", use="hill climb", band_low_rpm=4500, band_high_rpm=6800)
    shop.cut(identifier)
    stock, ported = shop.builds(identifier)
    return identifier, stock["id"], ported["id"]


def said(sheet):
    every = [*sheet["comparison"]["said"], *sheet["margin"], *sheet["comparison"]["trust"]]
    return ["".join(piece["text"] for piece in sentence["pieces"]) for sentence in every]


def test_two_pulls_give_a_verdict_that_can_be_checked(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(PORTED)))
    sheet = shop.get(f"/jobs/{identifier}/dyno", units="metric")
    inside = (RPM >= 4500) & (RPM <= 6800)
    mean = [np.trapezoid((t * RPM * np.pi / 30000)[inside], RPM[inside]) / 2300 for t in (STOCK, PORTED)]
    shown = sheet["comparison"]["band"]["power"]["mean_difference"]["value"]
    assert shown == pytest.approx(mean[1] - mean[0], abs=0.01)
    words = said(sheet)
    assert words[0].startswith(f"Stage 2, entries and curves makes more than stock: +{shown:.1f} kW, averaged over")
    assert "Clear: repeat pulls vary by" in words[0]
    assert "loses up to" in words[1]
    assert "Uncorrected" in " ".join(words)
    assert sheet["comparison"]["basis"] == "as observed"


def test_another_band_is_asked_for_alone(shop, job, client):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(PORTED)))
    low = shop.get("/comparison/band", stock=stock, other=ported, low_rpm=2600, high_rpm=3600)
    assert low["band"]["power"]["mean_difference"]["value"] < 0
    assert "makes less than stock" in low["said"][0]["pieces"][1]["text"]
    none = client.get(
        "/api/comparison/band", params={"stock": stock, "other": new_id(), "low_rpm": 3000, "high_rpm": 4000}
    )
    assert (none.status_code, none.json()["code"]) == (404, "not_found")


def test_a_band_that_was_not_reached_is_told_and_all_speeds_are_shown(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(PORTED)))
    high = shop.get("/comparison/band", stock=stock, other=ported, low_rpm=8000, high_rpm=9000)
    assert "Choose it within 2500 to 7000 rpm" in high["said"][0]["pieces"][0]["text"]
    assert (high["band"]["low_rpm"], high["band"]["high_rpm"]) == (2500, 7000)


def test_pulls_without_common_speeds_are_told(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK[:20], rpm=RPM[:20])))
    shop.kept(shop.pull(identifier, ported, content(PORTED[50:], rpm=RPM[50:])))
    comparison = shop.get(f"/jobs/{identifier}/dyno")["comparison"]
    assert comparison["power"] is None
    assert "they share none" in comparison["said"][0]["pieces"][0]["text"]


def test_columns_are_mapped_once(shop, job):
    odd = content(STOCK, headings="A;B;C")
    first = shop.kept(shop.preview(odd))
    assert first["mapping"] is None
    assert "Map them by hand" in first["findings"][0]["text"]
    mapping = {"speed_column": 0, "torque_column": 1, "torque_unit": "N·m", "power_column": 2, "power_unit": "kW"}
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


def test_wheel_and_engine_figures_are_not_mixed_unasked(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    problem = shop.pull(identifier, ported, content(PORTED), dyno_id=shop.wheel_dyno).json()
    assert problem["code"] == "wheel_and_engine"
    keep = problem["offers"][-1]
    shop.kept(shop.pull(identifier, ported, content(PORTED), dyno_id=shop.wheel_dyno, **keep["patch"]))
    assert any(
        "Not comparable: one pull is wheel hp" in sentence for sentence in said(shop.get(f"/jobs/{identifier}/dyno"))
    )


def test_weather_brings_both_to_the_same_standard(shop, job):
    identifier, stock, ported = job
    air = {"air_temperature_c": 25, "air_pressure_kpa": 96.0, "air_humidity_percent": 40}
    shop.kept(shop.pull(identifier, stock, content(STOCK), **air))
    shop.kept(shop.pull(identifier, ported, content(STOCK), **{**air, "air_pressure_kpa": 100.0}))
    sheet = shop.get(f"/jobs/{identifier}/dyno", units="metric")
    power = sheet["comparison"]["band"]["power"]
    assert power["mean_difference"]["value"] < 0
    assert power["stock_mean"]["value"] > power["other_mean"]["value"] * 1.04
    assert [pull["basis"] for pull in sheet["pulls"]] == ["SAE J1349", "SAE J1349"]
    assert sheet["comparison"]["basis"] == "SAE J1349"
    assert not any("Uncorrected" in sentence for sentence in said(sheet))


def test_unlike_corrections_are_told(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(PORTED), standard_in_file="iso_1585"))
    assert any("Corrections differ" in sentence for sentence in said(shop.get(f"/jobs/{identifier}/dyno")))


def test_a_struck_pull_counts_no_more(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    pull = shop.kept(shop.pull(identifier, ported, content(PORTED)))["id"]
    shop.kept(
        shop.put(
            f"/strikes/{pull}", {"person_id": shop.person, "reason": "slipped", "struck_at": "2026-03-02T15:00:00Z"}
        )
    )
    sheet = shop.get(f"/jobs/{identifier}/dyno")
    assert sheet["comparison"] is None
    assert sheet["pulls"][1]["struck"]["reason"] == "slipped"


def test_repeats_of_one_set_up_narrow_the_half_width(shop, job):
    identifier, stock, ported = job
    widths = []
    for _ in range(2):
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(PORTED)))
        widths.append(shop.get(f"/jobs/{identifier}/dyno")["comparison"]["band"]["power"]["half_width"]["value"])
    assert widths[1] == pytest.approx(widths[0] / np.sqrt(2), rel=1e-3)


def test_an_exported_pull_imports_again_unchanged(shop, job, client):
    identifier, stock, ported = job
    pull = shop.kept(shop.pull(identifier, stock, content(STOCK)))["id"]
    exported = client.get(f"/api/pulls/{pull}.csv").text
    again = shop.kept(shop.pull(identifier, ported, exported.encode()))["id"]
    body = [line for line in exported.splitlines() if not line.startswith("#")]
    assert body == [
        line for line in client.get(f"/api/pulls/{again}.csv").text.splitlines() if not line.startswith("#")
    ]


def test_a_posted_part_can_be_pulled_against_how_it_came(shop):
    job = shop.job()
    shop.cut(job)
    came, cut = shop.builds(job)
    shop.kept(shop.pull(job, came["id"], content(STOCK)))
    shop.kept(shop.pull(job, cut["id"], content(PORTED)))
    assert shop.get(f"/jobs/{job}/dyno")["comparison"]["stock"] == "as received"


def test_a_pull_is_cleaned_once(shop, job, monkeypatch):
    asked = Counter()

    def counted(module, name):
        work = getattr(module, name)
        monkeypatch.setattr(module, name, lambda *given: asked.update([name]) or work(*given))

    counted(curves, "clean_pull")
    identifier, stock, other = job
    for build in (stock, other):
        shop.kept(shop.pull(identifier, build, content(STOCK + 0.125)))
    shop.get(f"/jobs/{identifier}/dyno")
    shop.get(f"/jobs/{identifier}/dyno", units="metric")
    assert asked == {"clean_pull": 2}


def test_wheel_against_engine_is_no_headline_on_paper(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    keep = shop.pull(identifier, ported, content(PORTED), dyno_id=shop.wheel_dyno).json()["offers"][-1]["patch"]
    shop.kept(shop.pull(identifier, ported, content(PORTED), dyno_id=shop.wheel_dyno, **keep))
    sheet = shop.get(f"/jobs/{identifier}/sheet")
    assert sheet["headlines"] == [{"figure": "", "words": "Power not comparable: wheel against engine"}]
    assert not sheet["plate"]
