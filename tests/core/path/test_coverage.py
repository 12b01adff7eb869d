"""Tubes outside of what the sources of their losses cover: said, and with a range that holds it."""

import pytest

from elvarn.core.path.coverage import crowded, findings_of_tube, straight_length
from elvarn.core.path.passage import Bend, Geometry, estimated

BORE = 0.07


def codes(bends=(), length=2.0, bore_out=BORE, roughness=1e-4):
    return [one.code for one in findings_of_tube(BORE, bore_out, length, bends, roughness)]


@pytest.mark.parametrize(
    ("tube", "code"),
    [
        ({"bends": ((90, 0.7),)}, "bend_radius"),
        ({"bends": ((90, 25),), "length": 9.0}, "bend_radius"),
        ({"bends": ((45, 1.5), (45, 1.5)), "length": 0.4}, "bends_near"),
        ({"bore_out": 0.09, "length": 0.04}, "cone_stalls"),
        ({"bore_out": 0.09, "length": None}, "taper_length"),
        ({"roughness": 0.07}, "rough"),
    ],
)
def test_what_is_not_covered_is_found(tube, code):
    assert codes(**tube) == [code]


@pytest.mark.parametrize(
    "tube",
    [
        {},
        {"bends": ((90, 1),)},
        {"bends": ((90, 0),)},  # a mitre has its own model
        {"bends": ((45, 1.5), (45, 1.5))},
        {"bends": ((45, 1.5), (45, 1.5)), "length": None},
        {"bore_out": 0.09, "length": 0.3},
        {"bore_out": 0.05, "length": 0.04},
    ],
)
def test_what_is_covered_is_let_pass(tube):
    assert codes(**tube) == []


def test_the_finding_names_the_value_and_what_is_covered():
    [finding] = findings_of_tube(BORE, BORE, 2.0, ((90, 0.7),), 1e-4)
    assert finding.text == "bend's radius in bores 0.7, its sources cover 1 to 20"
    assert finding.doubt


def test_bends_take_their_arcs_off_the_length():
    """Two quarters of 1.5 bores take π · 1.5 bores of it."""
    assert straight_length(((90, 1.5), (90, 1.5)), 1.0, BORE) == pytest.approx(1 - 3.14159265 * 1.5 * BORE)
    assert straight_length(((180, 3), (180, 3)), 0.5, BORE) == 0
    assert crowded(((90, 1.5), (90, 1.5)), 0.8, BORE)
    assert not crowded(((90, 1.5), (90, 1.5)), 0.9, BORE)


def test_near_bends_have_a_range_that_holds_what_interaction_does():
    """Half of what two bends lose, either way; the middle of the estimate stays."""
    bends = (Bend(90, 1.5), Bend(90, 1.5))
    near = estimated("tube", Geometry(BORE, length=0.6, bends=bends))
    far = estimated("tube", Geometry(BORE, length=1.1, bends=bends))
    assert [one.code for one in near.findings] == ["bends_near"]
    assert far.findings == ()
    assert near.high / near.area > far.high / far.area
    assert near.low / near.area < far.low / far.area
