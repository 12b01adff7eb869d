"""What two designs' pulls say: each sentence for the case that it is for."""

import numpy as np
import pytest

from elvarn.core.dyno.compare import compare, over_band
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.finding import Finding
from elvarn.service.dyno.words import ComparedPulls, about_comparison, about_trust

RPM = np.linspace(2500, 7500, 101)
STOCK = clean_pull(RPM, 230 - ((RPM - 4500) / 260) ** 2)


def compared(other, band=None, **more):
    comparison = compare(STOCK, other)
    given = {
        "stock": "stock",
        "other": "stage 2",
        "comparison": comparison,
        "band": over_band(comparison, band),
        "repeatability": 0.01,
        "learned": True,
        "bases": ["sae_j1349", "sae_j1349"],
        "findings": [],
        "measures": ["engine"],
        "marks": [],
        "failure": None,
    }
    return ComparedPulls(**{**given, **more})


def said(facts, preset="metric"):
    return [sentence.text for sentence in about_comparison(facts, preset)]


def trust(facts):
    return [sentence.text for sentence in about_trust(facts)]


def test_a_gain_pays_a_loss_costs_and_what_is_inside_the_noise_is_not_resolved():
    assert said(compared(STOCK.times(1.05)))[0].startswith("Stage 2 makes more than stock: +")
    assert said(compared(STOCK.times(0.95)))[0].startswith("Stage 2 makes less than stock: −")
    words = said(compared(STOCK.times(1.004)))[0]
    assert words.startswith("Too close to call: Stage 2 vs stock +")
    assert "inside ±" in words


def test_the_verdict_names_band_percent_and_what_repeats_differ_by():
    words = said(compared(STOCK.times(1.05), (4500, 7000)))[0]
    assert "averaged over 4500 to 7000 rpm (+5.0 %). Clear: repeat pulls vary by ±1." in words


def test_loss_outside_the_band_is_told_all_the_same():
    ported = clean_pull(RPM, 231 - ((RPM - 5200) / 270) ** 2)
    words = said(compared(ported, (5500, 7000)))
    assert any(text.startswith("Stage 2 loses up to") and "between 2500 and" in text for text in words)
    assert any(text.startswith("Stage 2 gains up to") for text in words)
    assert any(text.startswith("The torque curves cross at") for text in words)


def test_peaks_are_given_with_their_speeds():
    assert any(text.startswith("Peak power in band:") and "stock" in text for text in said(compared(STOCK.times(1.05))))


def test_power_that_still_climbs_is_told_for_either_side():
    climbing = clean_pull(RPM, np.full(len(RPM), 230.0))
    assert any("Stage 2 was still climbing" in text for text in said(compared(climbing)))


def test_a_failure_is_said_instead_of_a_verdict():
    facts = compared(STOCK, comparison=None, band=None, failure="They share no speeds.")
    assert said(facts) == ["They share no speeds."]


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"measures": ["engine", "wheel"]}, "one pull is wheel hp, the other engine hp"),
        ({"bases": ["observed", "sae_j1349"]}, "Corrections differ"),
        ({"bases": ["observed", "observed"]}, "Uncorrected: another day"),
        ({"marks": ["trusted_torque"]}, "its torque was taken"),
        ({"marks": ["trusted_power"]}, "its power was taken"),
        ({"learned": False}, "1 % assumed. Make two pulls per build"),
        ({"findings": [Finding("run_down", "7 rows were cut.")]}, "7 rows were cut."),
    ],
)
def test_every_doubt_about_the_pulls_is_told(more, words):
    assert any(words in text for text in trust(compared(STOCK.times(1.05), **more)))


def test_wheel_against_engine_has_no_verdict():
    assert said(compared(STOCK.times(1.05), measures=["engine", "wheel"])) == []


def test_nothing_is_doubted_without_reason():
    assert trust(compared(STOCK.times(1.05))) == []


def test_the_same_finding_of_two_pulls_is_said_once():
    finding = Finding("run_down", "7 rows were cut.")
    assert trust(compared(STOCK.times(1.05), findings=[finding, finding])) == ["7 rows were cut."]
