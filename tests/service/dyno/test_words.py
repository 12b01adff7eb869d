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
        "use": "hill climb",
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
    assert said(compared(STOCK.times(1.05)))[0].startswith("Stage 2 pays for hill climb: +")
    assert said(compared(STOCK.times(0.95)))[0].startswith("Stage 2 costs power for hill climb: −")
    words = said(compared(STOCK.times(1.004)))[0]
    assert words.startswith("Stage 2 against stock for hill climb: +")
    assert "not resolved" in words


def test_the_verdict_names_band_percent_and_what_repeats_differ_by():
    words = said(compared(STOCK.times(1.05), (4500, 7000)))[0]
    assert "from 4,500 to 7,000 rpm (+5.0 %), real: repeats of one set-up differ by 1." in words


def test_no_use_no_word_of_it():
    assert said(compared(STOCK.times(1.05), use=None))[0].startswith("Stage 2 pays: +")


def test_loss_outside_the_band_is_told_all_the_same():
    ported = clean_pull(RPM, 231 - ((RPM - 5200) / 270) ** 2)
    words = said(compared(ported, (5500, 7000)))
    assert any(text.startswith("It gives away up to") and "between 2,500 and" in text for text in words)
    assert any(text.startswith("It gains up to") for text in words)
    assert any(text.startswith("The torque curves cross at") for text in words)


def test_peaks_are_given_with_their_speeds():
    assert any(text.startswith("Peak in the band:") and "stock" in text for text in said(compared(STOCK.times(1.05))))


def test_power_that_still_climbs_is_told_for_either_side():
    climbing = clean_pull(RPM, np.full(len(RPM), 230.0))
    assert any("Power of stage 2 still climbs" in text for text in said(compared(climbing)))


def test_a_failure_is_said_instead_of_a_verdict():
    facts = compared(STOCK, comparison=None, band=None, failure="They share no speeds.")
    assert said(facts) == ["They share no speeds."]


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"measures": ["engine", "wheel"]}, "the difference is no gain"),
        ({"bases": ["observed", "sae_j1349"]}, "not corrected alike"),
        ({"bases": ["observed", "observed"]}, "as observed, without weather"),
        ({"marks": ["trusted_torque"]}, "its torque was taken"),
        ({"marks": ["trusted_power"]}, "its power was taken"),
        ({"learned": False}, "taken to differ by 1 % until its own are learned"),
        ({"findings": [Finding("run_down", "7 rows were cut.")]}, "7 rows were cut."),
    ],
)
def test_every_doubt_about_the_pulls_is_told(more, words):
    assert any(words in text for text in trust(compared(STOCK.times(1.05), **more)))


def test_nothing_is_doubted_without_reason():
    assert trust(compared(STOCK.times(1.05))) == []


def test_the_same_finding_of_two_pulls_is_said_once():
    finding = Finding("run_down", "7 rows were cut.")
    assert trust(compared(STOCK.times(1.05), findings=[finding, finding])) == ["7 rows were cut."]
