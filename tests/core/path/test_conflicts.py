"""Conflicts of a part at its place. What counts as one is common practice, no source."""

import pytest

from elvarn.core.path.conflicts import Severity, conflicts
from elvarn.core.path.features import Features, Home, Joint, Neighbours, Plug, Surroundings

MANIFOLD = Features(inlet=Joint(opening=0.070, bolt_count=4, bolt_spacing=(0.066, 0.066)), flange_metal=0.006)
THROTTLE = Features(
    inlet=Joint(opening=0.070, outside=0.076),
    outlet=Joint(opening=0.070, bolt_count=4, bolt_spacing=(0.066, 0.066)),
    swing=0.012,
)


def found(part, behind=None, before=None, around=None):
    at = Neighbours(before, behind, "the tube", "the manifold")
    return {one.code: one for one in conflicts(part, at, around or Surroundings())}


def throttle(**outlet):
    return Features(outlet=Joint(**{"opening": 0.070, **outlet}), swing=0.012)


def test_parts_that_match_have_no_conflict():
    assert found(THROTTLE, MANIFOLD) == {}


def test_a_larger_throttle_gains_nothing_and_its_blade_swings_into_the_opening():
    larger = Features(outlet=Joint(opening=0.074), swing=0.014)
    both = found(larger, MANIFOLD)
    step = both["opening_steps_in"]
    assert step.severity is Severity.SOFT
    assert step.text.startswith("Step in 4.0 mm: ")
    assert "gains nothing" in step.text
    assert both["blade_swings_into"].severity is Severity.HARD
    assert "17 mm" in both["blade_swings_into"].remedy.words
    assert found(MANIFOLD, before=larger)["blade_swings_into"].severity is Severity.HARD


def test_opening_it_to_match_needs_metal_in_the_flange():
    thin = Features(inlet=Joint(opening=0.066), flange_metal=0.004)
    assert "only 2.0 mm of flange" in found(throttle(), thin)["opening_steps_in"].text


def test_a_smaller_bore_gives_away_area():
    """77 into 82 mm gives away 12 % of the area."""
    tube = Features(outlet=Joint(opening=0.077))
    assert "12 % of the area" in found(tube, Features(inlet=Joint(opening=0.082)))["opening_steps_out"].text
    clamped = Features(inlet=Joint(opening=0.082, outside=0.088))
    assert "tapered" in found(tube, clamped)["coupled_step"].remedy.words
    assert found(tube, Features(inlet=Joint(opening=0.080, outside=0.086))) == {}


@pytest.mark.parametrize(
    ("joint", "code", "severity"),
    [
        ({"bolt_count": 3}, "bolt_count", Severity.HARD),
        ({"bolt_count": 4, "bolt_spacing": (0.068, 0.066)}, "bolt_pattern", Severity.SOFT),
        ({"bolt_count": 4, "bolt_spacing": (0.072, 0.066)}, "bolt_pattern", Severity.HARD),
    ],
)
def test_bolts(joint, code, severity):
    assert found(throttle(**joint), MANIFOLD)[code].severity is severity


def test_clamp_diameters():
    tube = Features(outlet=Joint(outside=0.080))
    assert "80 mm, and 76 mm at" in found(THROTTLE, before=tube)["clamp_diameter"].text


def test_connectors_can_be_adapted_signals_not():
    around = Surroundings(plugs=(Plug("throttle position", "six-way", "two tracks, opposed"),))
    other = Features(plugs=(Plug("throttle position", "four-way", "two tracks, opposed"),))
    wrong = Features(plugs=(Plug("Throttle position", "six-way", "one track"),))
    assert found(other, around=around)["connector"].severity is Severity.SOFT
    assert found(wrong, around=around)["signal"].severity is Severity.HARD


def test_homes_and_ports():
    around = Surroundings(
        homes=(Home("pressure sensor", 0.01265), Home("injector", 0.0138)), ports=("brake servo", "purge")
    )
    part = Features(homes=(Home("pressure sensor", 0.0119),), ports=("purge", "breather"))
    all_found = found(part, around=around)
    assert all_found["home_bore"].remedy.words == "Ream to 12.7 mm (by a qualified person, leak-checked)"
    assert all_found["home_missing"].severity is Severity.HARD
    assert all_found["port_missing"].severity is Severity.HARD
    assert "brakes" in all_found["port_missing"].text
    assert "breather" in all_found["port_spare"].text
    loose = Features(homes=(Home("injector", 0.0145), Home("pressure sensor", 0.01265)))
    assert "it will leak" in found(loose, around=around)["home_bore"].text


def test_room_boost_heat_and_welding():
    around = Surroundings(
        bonnet_height=0.16, boost=120e3, accessories=("alternator",), front_length=0.20, heat=400.0, welding=True
    )
    part = Features(
        height=0.165, front_length=0.225, boost_rating=100e3, heat_limit=390.0, weldable=False,
        fouls=("Alternator",), splits=False,
    )  # fmt: skip
    codes = found(part, around=around)
    hard = {code for code, one in codes.items() if one.severity is Severity.HARD}
    assert hard == {"bonnet", "accessory", "boost", "heat", "welding"}
    assert "25 mm shorter" in codes["front_length"].remedy.words
    assert codes["reach"].severity is Severity.INFORMATION
    assert next(iter(codes)) in hard
    near = found(Features(height=0.155), around=around)
    assert "Only 5 mm" in near["bonnet_close"].text
    assert near["boost_unknown"].severity is Severity.SOFT


def test_fuel():
    part = Features(fuels=("petrol", "E85"))
    assert found(part) == {}
    assert found(part, around=Surroundings(fuel="methanol"))["fuel"].severity is Severity.HARD


def test_what_nobody_stated_is_not_judged():
    assert found(Features(), around=Surroundings(bonnet_height=0.1, ports=("purge",))) == {}
