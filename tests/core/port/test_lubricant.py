"""The bottle and the temperature from which it ignites; published values are in tests/checks."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.errors import OutOfRange
from elvarn.core.port.lubricant import HEAT, LOWEST, MODELLED, bottle, usual


def test_seventy_by_volume_is_highly_flammable_whatever_the_source():
    """T14-24: GHS category 2 is below 23 °C; data sheets print 16.6 °C, the model 23.2 °C."""
    found = bottle(0.7)
    assert found.highly
    assert found.lowest - ZERO_CELSIUS <= 16.6
    assert found.highest - ZERO_CELSIUS >= 23.2


def test_half_and_half_is_not_safe_on_a_hot_day():
    found = bottle(0.5)
    assert found.lowest - ZERO_CELSIUS < 26.4 < found.highest - ZERO_CELSIUS
    assert found.highest - ZERO_CELSIUS < 35


@given(st.floats(0.3, 0.95), st.floats(0.001, 0.05))
def test_more_alcohol_is_never_safer(alcohol, more):
    assert bottle(min(alcohol + more, 0.96)).lowest <= bottle(alcohol).lowest + 1e-9


def test_no_source_lies_above_the_model():
    assert all(LOWEST[mass] < MODELLED[mass] for mass in MODELLED)


def test_in_heat_half_dries_less():
    assert (usual(HEAT), usual(HEAT - 1)) == (0.5, 0.7)


@pytest.mark.parametrize("alcohol", [0.2, 1.0])
def test_what_is_no_such_bottle_is_refused(alcohol):
    with pytest.raises(OutOfRange, match="share of alcohol in the bottle"):
        bottle(alcohol)
