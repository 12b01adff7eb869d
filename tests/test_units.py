"""What was typed, in SI; SI, as it is shown."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn import units
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE


@pytest.mark.parametrize(
    ("text", "quantity", "si", "unit"),
    [
        ("214.1", "flow", 214.1 * CUBIC_FOOT_PER_MINUTE, "cfm"),
        ("214,1", "flow", 214.1 * CUBIC_FOOT_PER_MINUTE, "cfm"),
        ("364 m³/h", "flow", 364 / 3600, "m3/h"),
        ("364m3/h", "flow", 364 / 3600, "m3/h"),
        ("1 234.5", "flow", 1234.5 * CUBIC_FOOT_PER_MINUTE, "cfm"),
        ("2 3/4 in", "length", 0.06985, "in"),
        ('3/4"', "length", 0.01905, "in"),
        ("70 mm", "length", 0.070, "mm"),
        ("28 inH2O", "depression", 6974.489, "inH2O"),
        ("7 kPa", "depression", 7000, "kPa"),
        ("−5 °C", "temperature", 268.15, "°C"),
        ("231 lb-ft", "torque", 313.194, "lbf·ft"),
    ],
)
def test_takes_what_the_trade_types(text, quantity, si, unit):
    typed = units.parse(text, quantity, units.PRESETS["trade"][quantity])
    assert typed.si == pytest.approx(si, rel=1e-5)
    assert typed.unit == unit


@pytest.mark.parametrize("text", ["", "abc", "12 bananas", "1,234", "--3", "214.1.2 cfm", "28 kg", "0/0", "3/0 cfm"])
def test_refuses_what_is_doubtful(text):
    with pytest.raises(units.UnitError):
        units.parse(text, "flow", "cfm")


def test_cfm_is_no_centi_femtometre():
    assert units.registry().Quantity(1, "cfm").to("m**3/s").magnitude == pytest.approx(CUBIC_FOOT_PER_MINUTE)


@given(st.sampled_from([(q, u) for q, names in units.SPELLINGS.items() for u in names]), st.floats(-900, 900))
def test_every_unit_goes_to_si_and_back(known, value):
    quantity, unit = known
    assert units.from_si(units.to_si(value, unit, quantity), unit, quantity) == pytest.approx(value, abs=1e-6)


def test_shows_three_to_four_digits_and_a_true_minus():
    assert units.show(214.06 * CUBIC_FOOT_PER_MINUTE, "flow", "trade").text == "214.1"
    assert units.show_difference(-3.04 * CUBIC_FOOT_PER_MINUTE, "flow", "trade").text == "−3.0"
    assert units.show_difference(0.001 * CUBIC_FOOT_PER_MINUTE, "flow", "trade").text == "0.0"
    assert units.percent_text(0.0702) == "+7.0 %"


def test_unknown_units_are_answered_with_the_known_ones():
    with pytest.raises(units.UnitError, match="CFM, m³/h"):
        units.known_unit("bananas", "flow")
