"""Grains behind the numbers, whose table is in tests/checks; a step that is too long."""

import pytest

from elvarn.core.errors import OutOfRange
from elvarn.core.port.grit import GRAINS, Grit, GritSystem, skipped


@pytest.mark.parametrize("system", list(GritSystem))
def test_a_higher_number_is_finer(system):
    grains = [GRAINS[system][number] for number in sorted(GRAINS[system])]
    assert grains == sorted(grains, reverse=True)


def test_80_to_120_is_one_step_and_80_to_180_skips_one():
    assert skipped(Grit(80), Grit(120)) == []
    assert skipped(Grit(80), Grit(180))[0].number in (120, 150)


def test_one_number_of_two_systems_is_not_one_grit():
    assert Grit(320, GritSystem.CAMI).grain < 0.8 * Grit(320).grain
    assert Grit(400).grain == pytest.approx(Grit(320, GritSystem.CAMI).grain, rel=0.05)


def test_an_unknown_number_is_refused_with_the_known():
    with pytest.raises(OutOfRange, match=r"Grit 90 \(P\) is not known\. Use one of: 24, 36"):
        _ = Grit(90).grain
