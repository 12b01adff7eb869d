"""Pulls against stock, the verdict, and what is not comparable."""

from collections import Counter

import numpy as np
import pytest

from elvarn.core.dyno.correction import Standard, correct
from elvarn.core.gas.air import Weather
from elvarn.service.record import curves
from tests.api.dyno.asking import AIR, NOTHING, PORTED, RPM, STOCK, cell, content, said
from tests.shop import new_id


def test_two_pulls_give_a_verdict_that_can_be_checked(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(PORTED)))
    sheet = shop.get(f"/jobs/{identifier}/dyno", units="metric")
    inside = (RPM >= 4500) & (RPM <= 6800)
    mean = [np.trapezoid((t * RPM * np.pi / 30000)[inside], RPM[inside]) / 2300 for t in (STOCK, PORTED)]
    shown = cell(sheet)["figure"]["value"]
    assert shown == pytest.approx(mean[1] - mean[0], rel=1e-3)
    head = sheet["judged"]["head"]
    assert (head["figure"]["value"], head["real"]) == (shown, cell(sheet)["real"])
    words = said(sheet)
    assert any("loses up to" in text for text in words)
    assert "As observed: the weather is part of the difference." in words
    assert sheet["basis"] == "as observed"


def test_another_band_is_asked_for_alone(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(STOCK * 0.9)))
    low = shop.get(f"/jobs/{identifier}/dyno/band", low_rpm=2600, high_rpm=3600)
    assert low["head"]["figure"]["value"] < 0
    assert "chosen band" in [use["name"] for use in low["table"]["uses"] if use["chosen"]]
    assert "Keep stock for chosen band" in "".join(piece["text"] for piece in low["said"][0]["pieces"])
    assert shop.get(f"/jobs/{shop.job()}/dyno/band", low_rpm=2600, high_rpm=3600) is None


def test_a_band_that_was_not_pulled_has_no_figure(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(PORTED)))
    high = shop.get(f"/jobs/{identifier}/dyno/band", low_rpm=8000, high_rpm=9000)
    assert high["head"]["figure"] is None
    assert (
        "8000 to 9000 rpm was not pulled, or less than half of it; both reach 2500 to 7000 rpm"
        in said({**NOTHING, "judged": high})[0]
    )
    part = shop.get(f"/jobs/{identifier}/dyno/band", low_rpm=6000, high_rpm=7600)
    assert "Of 6000 to 7600 rpm only 6000 to 7000 rpm was pulled" in " ".join(said({**NOTHING, "judged": part}))
    assert "average over 6000 to 7000 rpm" in part["head"]["where"]
    assert [one["partly"] for one in part["table"]["rows"][1]["cells"]][-1]
    assert high["head"]["words"] == "This band was not pulled"


def test_pulls_without_common_speeds_are_told(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK[:20], rpm=RPM[:20])))
    shop.kept(shop.pull(identifier, ported, content(PORTED[50:], rpm=RPM[50:])))
    sheet = shop.get(f"/jobs/{identifier}/dyno")
    assert sheet["plate"]["differences"] == []
    assert "they share none" in said(sheet)[0]


def test_wheel_and_engine_figures_are_not_mixed_unasked(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    problem = shop.pull(identifier, ported, content(PORTED), dyno_id=shop.wheel_dyno).json()
    assert problem["code"] == "wheel_and_engine"
    keep = problem["offers"][-1]
    shop.kept(shop.pull(identifier, ported, content(PORTED), dyno_id=shop.wheel_dyno, **keep["patch"]))
    sheet = shop.get(f"/jobs/{identifier}/dyno")
    assert sheet["judged"]["head"]["figure"] is None
    assert sheet["judged"]["head"]["unlike"] == "not comparable: power and dyno"
    assert said(sheet)[0].startswith(
        "Stage 2, entries and curves and stock: not comparable: power and dyno. Pull both alike"
    )
    assert sheet["plate"]["differences"] == []


def test_weather_brings_both_to_the_same_standard(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK), **AIR))
    shop.kept(shop.pull(identifier, ported, content(STOCK), **{**AIR, "air_pressure_kpa": 100.0}))
    sheet = shop.get(f"/jobs/{identifier}/dyno", units="metric")
    low, high = (correct(Standard.SAE_J1349, Weather(298.15, p, 0.4)).factor for p in (96e3, 100e3))
    assert cell(sheet)["percent"] == f"−{100 * (1 - high / low):.1f} %"
    assert [pull["factor"] for pull in sheet["pulls"]] == pytest.approx([low, high])
    assert sheet["basis"] == "SAE J1349"
    observed = shop.get(f"/jobs/{identifier}/dyno", standard="observed")
    assert (observed["basis"], cell(observed)["percent"]) == ("as observed", "0.0 %")


def test_a_correction_of_the_file_is_undone_and_made_anew(shop, job):
    identifier, stock, ported = job
    factor = correct(Standard.DIN_70020, Weather(298.15, 96e3, 0.4)).factor
    shop.kept(shop.pull(identifier, stock, content(STOCK), **AIR))
    shop.kept(shop.pull(identifier, ported, content(STOCK * factor), **AIR, standard_in_file="din_70020"))
    sheet = shop.get(f"/jobs/{identifier}/dyno")
    assert sheet["basis"] == "SAE J1349"
    assert abs(cell(sheet)["figure"]["value"]) < 0.01


def test_unlike_corrections_that_can_not_be_undone_are_not_comparable(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK)))
    shop.kept(shop.pull(identifier, ported, content(PORTED), standard_in_file="iso_1585"))
    sheet = shop.get(f"/jobs/{identifier}/dyno")
    assert sheet["judged"]["head"]["unlike"] == "not comparable: correction"
    assert "Pulls stand on different corrections." in said(sheet)


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
    assert [row["is_reference"] for row in sheet["judged"]["table"]["rows"]] == [True]
    assert sheet["judged"]["head"]["figure"] is None
    assert sheet["pulls"][1]["struck"]["reason"] == "slipped"


def test_repeats_of_one_set_up_narrow_the_half_width(shop, job):
    identifier, stock, ported = job
    widths = []
    for _ in range(2):
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(PORTED)))
        widths.append(cell(shop.get(f"/jobs/{identifier}/dyno"))["half_width"]["value"])
    assert widths[1] < widths[0]


def test_a_posted_part_can_be_pulled_against_how_it_came(shop):
    job = shop.job()
    shop.cut(job)
    came, cut = shop.builds(job)
    shop.kept(shop.pull(job, came["id"], content(STOCK)))
    shop.kept(shop.pull(job, cut["id"], content(PORTED)))
    assert shop.get(f"/jobs/{job}/dyno")["judged"]["table"]["rows"][0]["name"] == "as received"


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
    assert sheet["headlines"] == [{"figure": "", "words": "Power not comparable: power and dyno"}]
    assert not sheet["plate"]


def test_two_engine_dynos_are_not_mixed(shop, job):
    identifier, stock, ported = job
    shop.kept(shop.pull(identifier, stock, content(STOCK), **AIR))
    other = new_id()
    shop.kept(shop.put(f"/dynos/{other}", {"name": f"other {other[:8]}", "kind": "engine"}))
    shop.kept(shop.pull(identifier, ported, content(PORTED), **AIR, facts={"dyno_id": other}))
    sheet = shop.get(f"/jobs/{identifier}/dyno")
    assert sheet["judged"]["head"]["figure"] is None
    assert "dyno" in sheet["judged"]["head"]["unlike"]
    assert sheet["judged"]["head"]["unlike"].startswith("not comparable")
    assert cell(sheet) is None


def test_what_matters_to_the_shop_is_what_a_small_difference_is_held_against(shop, job):
    """Three alike pulls of each differ by half a per cent; a shop that cares about no less than 8 % is told so."""
    identifier, stock, ported = job
    for n in range(3):
        shop.kept(shop.pull(identifier, stock, content(STOCK + n * 0.01), **AIR))
        shop.kept(shop.pull(identifier, ported, content(1.005 * (STOCK + n * 0.01)), **AIR))
    view, words = shop.get("/settings/path"), []
    for percent in ("8 %", "0.1 %"):
        change = {"version": view["version"], "settings": {**view["settings"], "matters_percent": percent}}
        view = shop.kept(shop.client.patch("/api/settings/path", json=change))
        words.append(shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]["words"])
    assert "no difference larger than 8 %" in words[0]
    assert "no difference larger" not in words[1]
