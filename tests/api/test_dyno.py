"""Dyno files in, pulls against stock, the verdict; pulls out and in again."""

from collections import Counter

import numpy as np
import pytest

from elvarn.core.dyno.correction import Standard, correct, power_from_torque
from elvarn.core.gas.air import Weather
from elvarn.service.record import curves
from tests.shop import new_id

NOTHING = {"margin": [], "trust": []}
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
def job(shop, monkeypatch):
    """A whole job with a cut, so that there is stock and a ported build, and a dyno of which nothing is known; ids of
    job, stock, ported."""
    dyno = new_id()
    shop.kept(shop.put(f"/dynos/{dyno}", {"name": f"new {dyno[:8]}", "kind": "engine"}))
    monkeypatch.setattr(shop, "engine_dyno", dyno)
    identifier = shop.job(kind="whole_job", use="hill climb", band_low_rpm=4500, band_high_rpm=6800)
    shop.cut(identifier)
    stock, ported = shop.builds(identifier)
    return identifier, stock["id"], ported["id"]


def said(sheet):
    every = [*sheet["judged"]["said"], *sheet["margin"], *sheet["trust"]]
    return ["".join(piece["text"] for piece in sentence["pieces"]) for sentence in every]


def cell(sheet, row=1, use="hill climb"):
    table = sheet["judged"]["table"]
    return table["rows"][row]["cells"][[one["name"] for one in table["uses"]].index(use)]


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


def test_columns_are_mapped_once(shop, job):
    odd = content(STOCK, headings="A;B;C")
    first = shop.kept(shop.preview(odd))
    assert first["mapping"] is None
    assert "Map them by hand" in first["findings"][0]["text"]
    mapping = {"speed_column": 0, "torque_column": 1, "torque_unit": "N·m", "power_column": 2, "power_unit": "kW",
               "speed_unit": "rpm", "rpm_at_100": None}  # fmt: skip
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
    sheet = shop.get(f"/jobs/{identifier}/dyno")
    assert sheet["judged"]["head"]["figure"] is None
    assert sheet["judged"]["head"]["unlike"] == "not comparable: power and dyno"
    assert said(sheet)[0].startswith(
        "Stage 2, entries and curves and stock: not comparable: power and dyno. Pull both alike"
    )
    assert sheet["plate"]["differences"] == []


AIR = {"air_temperature_c": 25, "air_pressure_kpa": 96.0, "air_humidity_percent": 40}


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


class TestDays:
    def test_another_day_without_weather_is_not_comparable(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(STOCK * 1.108), pulled_at="2026-03-09T14:00:00Z"))
        head = shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]
        assert (head["figure"], head["unlike"]) == (None, "not comparable: weather")

    def test_as_observed_another_day_is_not_comparable_whatever_is_known_of_the_air(self, shop, job):
        identifier, stock, ported = job
        low, high = ({**AIR, "air_pressure_kpa": p} for p in (94.0, 101.0))
        shop.kept(shop.pull(identifier, stock, content(STOCK), **low))
        shop.kept(shop.pull(identifier, ported, content(STOCK * 1.07), **high, pulled_at="2026-03-09T14:00:00Z"))
        assert shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]["figure"] is not None
        observed = shop.get(f"/jobs/{identifier}/dyno", standard="observed")["judged"]["head"]
        assert (observed["figure"], observed["unlike"]) == (None, "not comparable: weather")

    def test_air_that_is_mended_counts_in_what_the_dyno_repeats_within(self, shop, job):
        identifier, stock, ported = job
        for minute, build in enumerate((stock, stock, ported)):
            at = f"2026-03-02T14:{minute:02d}:00Z"
            shop.kept(shop.pull(identifier, build, content(STOCK), **AIR, pulled_at=at))
        before = cell(shop.get(f"/jobs/{identifier}/dyno"))["half_width"]["value"]
        shop.kept(shop.card(shop.get(f"/jobs/{identifier}/dyno")["pulls"][0], air_pressure_kpa=99.0))
        assert cell(shop.get(f"/jobs/{identifier}/dyno"))["half_width"]["value"] > before

    def test_peaks_name_what_they_are_held_against(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(shop.pull(identifier, ported, content(PORTED)))
        words = said(shop.get(f"/jobs/{identifier}/dyno", reference=ported))
        (peak,) = [text for text in words if text.startswith("Peak power")]
        assert "; stage 2, entries and curves " in peak

    def test_a_day_apart_is_wider_than_one_day(self, shop, job):
        identifier, stock, ported = job
        for at in ("09:00", "10:00", "11:00"):
            shop.kept(shop.pull(identifier, stock, content(STOCK), **AIR, pulled_at=f"2026-03-02T{at}:00Z"))
        for at in ("12:00", "13:00", "14:00"):
            shop.kept(shop.pull(identifier, ported, content(STOCK * 1.03), **AIR, pulled_at=f"2026-03-02T{at}:00Z"))
        near = cell(shop.get(f"/jobs/{identifier}/dyno"))
        assert near["real"]
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        for pull in sheet["pulls"][3:]:
            shop.kept(shop.card(pull, pulled_at=pull["pulled_at"].replace("03-02", "03-05")))
        far = shop.get(f"/jobs/{identifier}/dyno")
        assert not cell(far)["real"]
        assert "both on one day" in cell(far)["word"]
        assert cell(far)["half_width"]["value"] > 1.5 * near["half_width"]["value"]
        assert [pull["session"] for pull in far["pulls"]] == [1, 1, 1, 2, 2, 2]

    def test_stock_again_at_the_end_takes_the_drift_out_and_says_so(self, shop, job):
        identifier, stock, ported = job
        for minute, build, share in ((0, stock, 1.0), (5, stock, 1.001), (20, ported, 1.01), (25, ported, 1.011),
                                     (40, stock, 0.975), (45, stock, 0.976)):  # fmt: skip
            at = f"2026-03-02T14:{minute:02d}:00Z"
            shop.kept(shop.pull(identifier, build, content(STOCK * share), **AIR, pulled_at=at))
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        assert cell(sheet)["percent"] == f"+{100 * (1.0105 / np.sqrt(1.0005 * 0.9755) - 1):.1f} %"
        assert "Stock came back −2.5 % off: the drift is taken out." in said(sheet)
        assert [pull["mount"] for pull in sheet["pulls"]] == [0, 0, 1, 1, 2, 2]

    def test_a_struck_pull_between_two_of_stock_still_was_a_change_over(self, shop, job):
        identifier, stock, ported = job
        for minute, build in ((0, stock), (10, ported), (20, stock)):
            shop.kept(shop.pull(identifier, build, content(STOCK), **AIR, pulled_at=f"2026-03-02T14:{minute:02d}:00Z"))
        pull = shop.get(f"/jobs/{identifier}/dyno")["pulls"][1]["id"]
        strike = {"person_id": shop.person, "reason": "slipped", "struck_at": "2026-03-02T15:00:00Z"}
        shop.kept(shop.put(f"/strikes/{pull}", strike))
        mounts = [one["mount"] for one in shop.get(f"/jobs/{identifier}/dyno")["pulls"] if not one["struck"]]
        assert mounts == [0, 2]

    def test_stock_that_comes_back_far_off_spoils_the_day(self, shop, job):
        identifier, stock, ported = job
        for minute, build, share in ((0, stock, 1.0), (5, stock, 1.001), (20, ported, 1.01), (40, stock, 0.94)):
            at = f"2026-03-02T14:{minute:02d}:00Z"
            shop.kept(shop.pull(identifier, build, content(STOCK * share), **AIR, pulled_at=at))
        head = shop.get(f"/jobs/{identifier}/dyno")["judged"]["head"]
        assert head["figure"] is None
        assert head["unlike"] == "not comparable: stock itself drifted by 6.0 % that day"

    def test_unknown_humidity_is_no_zero(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK), **AIR))
        later = {**AIR, "air_humidity_percent": None, "pulled_at": "2026-03-09T14:00:00Z"}
        shop.kept(shop.pull(identifier, ported, content(STOCK), **later))
        unknown = shop.get(f"/jobs/{identifier}/dyno")
        assert any("Humidity not known on 1 of 2 pulls." in text for text in said(unknown))
        shop.kept(shop.card(unknown["pulls"][1], air_humidity_percent=50))
        known = shop.get(f"/jobs/{identifier}/dyno")
        assert cell(known)["figure"] == cell(unknown)["figure"]
        assert cell(known)["half_width"]["value"] < cell(unknown)["half_width"]["value"]


class TestCards:
    def test_a_pull_is_named_moved_dated_and_its_air_mended(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK), label="a.csv"))
        pull = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]
        changed = {"label": "b", "build_id": ported, "pulled_at": "2026-03-01T10:00:00Z", "air_temperature_c": "77 °F",
                   "air_pressure_kpa": "29.5 inHg", "declared": {"fuel": " 98 "}}  # fmt: skip
        shop.kept(shop.card(pull, **changed))
        after = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]
        assert (after["label"], after["build_id"], after["version"]) == ("b", ported, 2)
        assert after["air_temperature_c"] == pytest.approx(25)
        assert after["air_pressure_kpa"] == pytest.approx(99.898, abs=0.001)
        assert after["typed"]["air_pressure_kpa"] == "29.5 inHg"
        assert after["declared"] == {"fuel": "98"}
        assert after["row_count"] == len(RPM)
        stale = shop.card(pull, label="c")
        assert (stale.status_code, stale.json()["code"]) == (409, "stale")

    @pytest.mark.parametrize(
        ("change", "path"),
        [
            ({"standard_in_file": "sae"}, "facts.standard_in_file"),
            ({"air_humidity_percent": 40}, "air_temperature_c"),
            ({"declared": {"colour": "red"}}, "declared"),
            ({"declared": {"fuel": "x" * 200}}, "declared.fuel"),
            ({"air_pressure_kpa": "29.5 stone"}, "facts.air_pressure_kpa"),
        ],
    )
    def test_what_can_not_be_said_is_refused_with_its_place(self, shop, job, change, path):
        identifier, stock, _ = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        answer = shop.card(shop.get(f"/jobs/{identifier}/dyno")["pulls"][0], **change)
        assert (answer.status_code, answer.json()["path"].removeprefix("facts.")) == (422, path.removeprefix("facts."))

    @pytest.mark.parametrize(
        ("given", "percent"),
        [
            ({"air_dew_point_c": 13.9}, 50.0),
            ({"air_wet_bulb_c": "64.2 °F"}, 50.0),
            ({"air_humidity_percent": 50}, 50.0),
        ],
    )
    def test_humidity_comes_by_itself_by_dew_point_or_by_wet_bulb(self, shop, job, given, percent):
        """At 25 °C and 101.325 kPa 50 % has its dew point at 13.9 °C and its wet bulb at 17.9 °C: psychrometric chart,
        from memory."""
        identifier, stock, _ = job
        air = {"air_temperature_c": 25, "air_pressure_kpa": 101.325, "air_humidity_percent": None}
        facts = {**air, **given}
        shop.kept(shop.pull(identifier, stock, content(STOCK), facts=facts))
        kept = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]["air_humidity_percent"]
        assert kept == pytest.approx(percent, abs=0.7)

    @pytest.mark.parametrize(
        ("given", "path", "words"),
        [
            ({"air_dew_point_c": 30}, "air_dew_point_c", "above the air's temperature"),
            ({"air_wet_bulb_c": 30}, "air_wet_bulb_c", "wet bulb"),
            ({"air_wet_bulb_c": 14, "air_humidity_percent": 40}, "air_wet_bulb_c", "not several"),
        ],
    )
    def test_a_humidity_that_can_not_be_is_refused(self, shop, job, given, path, words):
        identifier, stock, _ = job
        answer = shop.pull(
            identifier, stock, content(STOCK), facts={"air_temperature_c": 25, "air_pressure_kpa": 100, **given}
        ).json()
        assert answer["path"] == path
        assert words in answer["detail"]

    def test_a_build_of_another_job_is_refused(self, shop, job):
        identifier, stock, _ = job
        other = shop.job()
        shop.cut(other)
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        pull = shop.get(f"/jobs/{identifier}/dyno")["pulls"][0]
        answer = shop.card(pull, build_id=shop.builds(other)[0]["id"])
        assert "belongs to another job" in answer.json()["detail"]

    def test_what_changed_since_the_last_pull_is_listed(self, shop, job):
        identifier, stock, ported = job
        shop.kept(shop.pull(identifier, stock, content(STOCK), declared={"fuel": "98", "injectors": "365"}))
        more = {"declared": {"fuel": "98", "injectors": "550"}, "pulled_at": "2026-03-02T15:00:00Z"}
        shop.kept(shop.pull(identifier, ported, content(PORTED), **more))
        first, second = shop.get(f"/jobs/{identifier}/dyno")["pulls"]
        assert first["changes"] == {"items": [], "several": False}
        assert second["changes"]["several"]
        assert second["changes"]["items"][1] == "injectors: 365 → 550"
        assert (first["engine_version"], second["engine_version"]) == (1, 2)
        assert "not comparable: injectors" in said(shop.get(f"/jobs/{identifier}/dyno"))[0]

    def test_a_file_that_was_kept_before_is_asked_about(self, shop, job):
        identifier, stock, ported = job
        mine = content(STOCK + 0.777)
        shop.kept(shop.pull(identifier, stock, mine))
        asked = shop.pull(identifier, ported, mine, accepted=[]).json()
        assert asked["code"] == "seen_before"
        assert "kept before, as a pull of 2 Mar 2026 in this job" in asked["detail"]


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


class TestMatrix:
    @pytest.fixture
    def four(self, shop, job):
        """Stock and the ported build, each behind two throttles; ids by name."""
        identifier, stock, ported = job
        builds = {"stock": stock, "ported": ported}
        throttle = shop.part("throttle", "Larger throttle")
        for name, source in (("stock, larger", stock), ("ported, larger", ported)):
            builds[name] = shop.varied(identifier, source, "throttle", throttle, name)
        return identifier, builds

    def pulled(self, shop, job, builds, **shares):
        for number, (name, share) in enumerate(shares.items()):
            at = f"2026-03-02T{10 + number}:00:00Z"
            build = builds[name.replace("_", ", ")]
            shop.kept(shop.pull(job, build, content(STOCK * share), **AIR, pulled_at=at))

    def test_each_change_alone_and_together(self, shop, four):
        identifier, builds = four
        self.pulled(shop, identifier, builds, stock=1.0, ported=1.03, stock_larger=1.02, ported_larger=1.06)
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        matrix = sheet["judged"]["matrix"]
        assert [row["name"] for row in matrix["rows"]] == ["stock", "stage 2, entries and curves"]
        assert [[one["figure"]["percent"] for one in row["cells"]] for row in matrix["rows"]] == [
            ["", "+2.0 %"],
            ["+3.0 %", "+6.0 %"],
        ]
        assert matrix["rows"][1]["adds"][0]["percent"] == "+2.9 %"
        assert any("beyond their sum" in text for text in said(sheet))

    def test_an_empty_control_cell_is_named_before_a_claim(self, shop, four):
        identifier, builds = four
        self.pulled(shop, identifier, builds, stock=1.0, ported=1.03, ported_larger=1.06)
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        cells = sheet["judged"]["matrix"]["rows"][0]["cells"]
        assert [one["empty"] for one in cells] == ["", "control, not pulled"]
        assert any("Stock with Larger throttle was not pulled" in text for text in said(sheet))
        assert not any("beyond their sum" in text for text in said(sheet))

    def test_one_thing_changed_makes_no_matrix(self, shop, four):
        identifier, builds = four
        self.pulled(shop, identifier, builds, stock=1.0, ported=1.03)
        assert shop.get(f"/jobs/{identifier}/dyno")["judged"]["matrix"] is None

    def test_claims_and_cost_stand_beside_what_was_measured(self, shop, job):
        identifier, stock, _ = job
        part, state = new_id(), new_id()
        body = {"person_id": shop.person, "job_id": None, "kind": "throttle", "name": "Promising"}
        shop.kept(shop.put(f"/parts/{part}", {**body, "state_id": state}))
        sheet = shop.get(f"/parts/{part}")
        claims = [{"words": "8 % more", "needs": "a tune", "gain_percent": 8}]
        kept = (
            "version",
            "name",
            "maker",
            "number",
            "material",
            "mass_kg",
            "lead_days",
            "note",
            "advertised",
            "features",
        )
        change = {**{name: sheet[name] for name in kept}, "price": 300, "claims": claims}
        shop.kept(shop.client.patch(f"/api/parts/{part}", json=change))
        larger = shop.varied(identifier, stock, "throttle", state, "stock, promising")
        for minute in (0, 1, 2):
            for build, share, hour in ((stock, 1.0, 10), (larger, 1.05, 12)):
                at = f"2026-03-02T{hour}:0{minute}:00Z"
                shop.kept(shop.pull(identifier, build, content(STOCK * share), **AIR, pulled_at=at))
        words = said(shop.get(f"/jobs/{identifier}/dyno"))
        assert (
            "Promising: claim 8 % power, with a tune. Measured with stock, promising: peak in the band +5.0 %, "
            "average +5.0 %."
        ) in words
        assert any("parts for 300 EUR" in text for text in words)


class TestUses:
    def kept(self, shop, job, **use):
        return shop.client.post(f"/api/jobs/{job}/uses", json=use)

    def names(self, shop, job):
        return {
            use["name"]: (use["low_rpm"], use["kept"])
            for use in shop.get(f"/jobs/{job}/dyno")["judged"]["table"]["uses"]
        }

    def test_a_use_is_kept_changed_and_taken_away(self, shop, job):
        identifier, stock, _ = job
        shop.kept(shop.pull(identifier, stock, content(STOCK)))
        shop.kept(self.kept(shop, identifier, name=" slalom ", low_rpm="3000 rpm", high_rpm=5000))
        assert self.names(shop, identifier)["slalom"] == (3000, True)
        shop.kept(self.kept(shop, identifier, name="Road", low_rpm=2600, high_rpm=4000))
        found = self.names(shop, identifier)
        assert (found["Road"], "road" in found) == ((2600, True), False)
        shop.kept(self.kept(shop, identifier, name="Slalom"))
        assert "slalom" not in self.names(shop, identifier)

    @pytest.mark.parametrize(
        ("use", "words"),
        [
            ({"name": " "}, "Name the use"),
            ({"name": "x", "low_rpm": 5000, "high_rpm": 3000}, "is no band"),
            ({"name": "x", "low_rpm": 5000}, "is no band"),
            ({"name": "Hill climb", "low_rpm": 3000, "high_rpm": 5000}, "at check-in"),
        ],
    )
    def test_what_is_no_use_is_refused(self, shop, job, use, words):
        answer = self.kept(shop, job[0], **use)
        assert answer.status_code == 422
        assert words in answer.json()["detail"]

    def test_a_table_holds_so_many(self, shop, job):
        for number in range(3):
            shop.kept(self.kept(shop, job[0], name=f"use {number}", low_rpm=3000, high_rpm=5000))
        assert "Take one away" in self.kept(shop, job[0], name="one more", low_rpm=3000, high_rpm=5000).json()["detail"]


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
    picture = client.get(f"/api/jobs/{identifier}/designs.svg").text
    assert picture.startswith("<svg")
    assert "stage 2" in picture
