"""Compression from the volumes above the piston."""

import pytest

from elvarn.core.engine.compression import clearance_volume, compression_ratio
from elvarn.core.errors import OutOfRange

PARTS = {"chamber": 50e-6, "crown": 0.0, "deck": 0.0005, "gasket_thickness": 0.001, "gasket_bore": 0.086, "bore": 0.084}


def test_an_engine_worked_by_hand():
    """50 cm³, half a millimetre of deck over 84 mm (2.771 cm³), a millimetre of gasket over 86 mm (5.809 cm³)."""
    clearance = clearance_volume(**PARTS)
    assert clearance == pytest.approx(58.580e-6, rel=1e-4)
    assert compression_ratio(600e-6, clearance) == pytest.approx(11.242, abs=0.001)


def test_a_dish_lowers_it_and_a_dome_raises_it():
    def ratio(crown):
        return compression_ratio(600e-6, clearance_volume(**{**PARTS, "crown": crown}))

    assert ratio(5e-6) < ratio(0.0) < ratio(-5e-6)


def test_a_dome_larger_than_the_chamber_is_refused():
    with pytest.raises(OutOfRange, match="sign"):
        clearance_volume(**{**PARTS, "crown": -70e-6})
