"""Conflicts of a part at its place. What counts as one is common practice, no source."""

import pytest

from elvarn.core.path.conflict import Severity
from elvarn.core.path.conflicts import conflicts
from elvarn.core.path.features import Features, Home, Joint, Neighbours, Plug, Rule, RuleKind, Surroundings
from elvarn.core.path.unchecked import unchecked

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


class TestMadeForTheEngine:
    EIGHT = Surroundings(cylinders=8, head_flange="tall port", port_pitch=0.1118, bank_angle=90)

    def test_five_runners_do_not_fit_an_eight(self):
        one = found(Features(kind="manifold", runners=5), around=self.EIGHT)["runner_count"]
        assert (one.severity, one.text) == (Severity.HARD, "5 runners; the engine has 8 cylinders.")
        assert found(Features(kind="manifold", runners=8), around=self.EIGHT) == {}

    @pytest.mark.parametrize(
        ("other", "code"),
        [
            ({"head_flange": "low port"}, "head_flange"),
            ({"port_pitch": 0.1060}, "port_pitch"),
            ({"bank_angle": 60}, "bank_angle"),
        ],
    )
    def test_flange_pitch_and_angle_are_hard(self, other, code):
        assert found(Features(kind="manifold", **other), around=self.EIGHT)[code].severity is Severity.HARD

    def test_what_matches_is_no_conflict(self):
        same = Features(kind="manifold", runners=8, head_flange="Tall  Port", port_pitch=0.1110, bank_angle=90)
        assert found(same, around=self.EIGHT) == {}


class TestRules:
    def test_a_part_against_the_rules_is_ruled_out_in_the_rules_words(self):
        around = Surroundings(
            stock_casting="F5", rules=(Rule(RuleKind.STOCK_CASTING, words="manifold of the homologated type"),)
        )
        one = found(Features(kind="manifold", casting="S5"), around=around)["rule_stock_casting"]
        assert one.severity is Severity.HARD
        assert one.text == (
            "Against the rules: its casting is 'S5', stock's 'F5'. The rule: “manifold of the homologated type”."
        )
        assert found(Features(kind="manifold", casting="f5"), around=around) == {}

    @pytest.mark.parametrize(("bore", "codes"), [(0.0701, {"rule_throttle_bore"}), (0.0700, set())])
    def test_a_throttle_larger_than_the_class_allows(self, bore, codes):
        around = Surroundings(rules=(Rule(RuleKind.THROTTLE_BORE, 0.070),))
        assert set(found(Features(kind="throttle", outlet=Joint(opening=bore)), around=around)) == codes

    def test_a_step_that_it_takes_counts_as_the_part_does(self):
        """Its blade swings into the opening, which takes a spacer; where the rules forbid one, they say so too."""
        rules = (Rule(RuleKind.SPACER, words="no spacers"), Rule(RuleKind.WELDING))
        larger = Features(kind="throttle", outlet=Joint(opening=0.074), swing=0.014)
        codes = found(larger, MANIFOLD, around=Surroundings(rules=rules))
        assert "it takes a spacer or adapter to fit" in codes["rule_spacer"].text
        assert "rule_welding" not in codes
        bare = Features(kind="manifold", homes=())
        around = Surroundings(homes=(Home("injector"),), rules=rules)
        assert "it takes welding" in found(bare, around=around)["rule_welding"].text

    def test_a_lip_that_can_be_left_breaks_no_rule(self):
        rules = (Rule(RuleKind.SPACER), Rule(RuleKind.WELDING))
        assert set(found(throttle(), Features(inlet=Joint(opening=0.066)), around=Surroundings(rules=rules))) == {
            "opening_steps_in",
            "blade_swings_into",
            "rule_spacer",
        }
        flush = Features(kind="throttle", outlet=Joint(opening=0.070))
        smaller = Features(kind="manifold", inlet=Joint(opening=0.066), weldable=False, flange_metal=0.004)
        assert set(found(flush, smaller, around=Surroundings(rules=rules))) == {"opening_steps_in"}


def test_a_throttle_is_not_opened_to_match_and_one_that_can_not_be_welded_is_not_built_up():
    """A 74.4 mm throttle behind an 80 mm tube flange is not bored: its plate goes with its bore."""
    plate = Features(kind="throttle", inlet=Joint(opening=0.0744))
    remedy = found(plate, before=Features(kind="tube", outlet=Joint(opening=0.080)))["opening_steps_in"].remedy
    assert remedy.words == "A conical adapter: its bore can't be opened"
    composite = Features(kind="manifold", inlet=Joint(opening=0.066), flange_metal=0.004, weldable=False)
    assert "weld first" not in found(throttle(), composite)["opening_steps_in"].remedy.words


class TestUnchecked:
    def words(self, part, around=None, **at):
        return [one.what for one in unchecked(part, Neighbours(**at), around or Surroundings())]

    def test_what_nobody_stated_is_listed_what_could_rule_it_out_first(self):
        around = Surroundings(cylinders=5, ports=("purge", "brake servo"), boost=60e3, head_flange="F5")
        found_here = unchecked(Features(kind="manifold", splits=True), Neighbours(), around)
        assert [one.what for one in found_here if one.decides] == [
            "runner count", "head flange", "height (the bonnet isn't measured)", "port for the brake servo",
            "boost rating",
        ]  # fmt: skip
        assert self.words(Features(kind="manifold"), Surroundings(ports=("purge",)))[-1] == "vacuum ports"

    def test_a_part_of_which_all_is_stated_leaves_nothing(self):
        around = Surroundings(
            cylinders=5, head_flange="F5", bonnet_height=0.2, ports=("brake servo",), homes=(Home("injector"),)
        )
        whole = Features(
            kind="manifold", runners=5, head_flange="F5", height=0.15, ports=("brake servo",),
            homes=(Home("injector"),), inlet=MANIFOLD.inlet,
        )  # fmt: skip
        assert self.words(whole, around, before=THROTTLE) == []

    def test_only_what_its_kind_has_is_asked_for(self):
        around = Surroundings(cylinders=8, boost=60e3, ports=("brake servo",), fuel="methanol")
        assert self.words(Features(kind="tube"), around) == ["boost rating"]
        assert self.words(Features(kind="filter"), around) == []

    def test_a_clamped_end_needs_no_bolts(self):
        clamped = Features(kind="throttle", inlet=Joint(outside=0.08), outlet=MANIFOLD.inlet)
        assert self.words(clamped, before=Features(outlet=Joint(opening=0.07)), behind=MANIFOLD) == []
        bare = Features(kind="throttle", inlet=Joint(outside=0.08), outlet=Joint(opening=0.07))
        assert self.words(bare, behind=MANIFOLD, behind_name="the manifold") == ["bolts to the manifold"]
