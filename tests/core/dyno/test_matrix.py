"""Two things changed apart and together: figures by hand, one family of four, empty cells and unlike pulls refused."""

from math import log, sqrt

import numpy as np
import pytest

from elvarn.core.dyno.learned import DynoKnown, learned_dyno
from elvarn.core.dyno.matrix import FIGURES, effects, half_width_of
from elvarn.core.dyno.pairing import Pull
from elvarn.core.dyno.profile import band_profile
from elvarn.core.dyno.pull import clean_pull
from elvarn.core.errors import NotEnoughData
from elvarn.core.statistics.modulus import modulus_quantile
from elvarn.core.statistics.scatter import Scatter

RPM = np.linspace(3000, 7000, 81)
FLAT = clean_pull(RPM, np.full(81, 200.0))
BAND = (4000, 6500)
PROFILE = band_profile(*BAND)
KNOWN = learned_dyno()
BASE = FLAT.mean_power(*BAND)


def cell(*percents, mount=0, day="1", **more):
    return [Pull(FLAT.times(1 + percent / 100), day, mount, **more) for percent in percents]


def test_the_figures_are_those_of_a_two_level_factorial():
    found = effects(cell(0), cell(3, mount=1), cell(2, mount=2), cell(6, mount=3), KNOWN, PROFILE)
    for verdict, percent in ((found.first, 3), (found.second, 2), (found.both, 6)):
        assert 100 * verdict.change / BASE == pytest.approx(percent)
    logs = 100 * (log(1.06) - log(1.03) - log(1.02))
    assert 100 * found.interaction.change / BASE == pytest.approx(100 * (np.exp(logs / 100) - 1))


def test_the_half_widths_are_those_of_the_rule_with_four_judged_together():
    found = effects(cell(0), cell(3, mount=1), cell(2, mount=2), cell(6, mount=3), KNOWN, PROFILE)
    q = modulus_quantile(FIGURES, 4)
    alone, cross = (q * sqrt(n * (0.36**2 + 0.3**2)) for n in (2, 4))
    for verdict, wide in ((found.first, alone), (found.interaction, cross)):
        d = 100 * log(1 + verdict.change / BASE)
        assert 100 * verdict.half_width / BASE == pytest.approx(wide * 100 * verdict.change / BASE / d)


def test_days_that_all_share_count_alone():
    other = cell(50, day="2")
    found = effects([*cell(0), *other], cell(3, mount=1), cell(2, mount=2), cell(5, mount=3), KNOWN, PROFILE)
    assert 100 * found.first.change / BASE == pytest.approx(3)


@pytest.mark.parametrize(
    ("cells", "words"),
    [
        (([], cell(1), cell(1), cell(1)), "A cell has no pull"),
        ((cell(0, declared={"fuel": "95"}), cell(1), cell(1), cell(1)), "not alike"),
        ((cell(0, weather=False), cell(1, day="2"), cell(1, day="2"), cell(1, day="2")), "weather"),
    ],
)
def test_what_can_not_be_judged_is_refused(cells, words):
    with pytest.raises(NotEnoughData, match=words):
        effects(*cells, KNOWN, PROFILE)


def test_a_band_that_a_pull_does_not_reach_is_refused():
    with pytest.raises(NotEnoughData, match="Not all reach"):
        effects(cell(0), cell(1), cell(1), cell(1), KNOWN, band_profile(4000, 7500))


def test_more_pulls_narrow_a_planned_comparison_down_to_its_mounts():
    exact = DynoKnown(Scatter(0.36, 40), Scatter(0.5, 40), Scatter(0.3, 40), Scatter(0.8, 40))
    widths = [half_width_of(exact, n, n) for n in (1, 2, 8)]
    assert widths[0] > widths[1] > widths[2] > modulus_quantile(1, 40) * sqrt(2) * 0.3
    assert widths[0] == pytest.approx(modulus_quantile(1, 40) * sqrt(2 * 0.36**2 + 2 * 0.3**2))
