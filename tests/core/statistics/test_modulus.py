"""The studentised maximum modulus: against SciPy's distributions, a table, and a draw of its own."""

import numpy as np
import pytest
from scipy.stats import norm, t

from elvarn.core.errors import OutOfRange
from elvarn.core.statistics.modulus import modulus_quantile

# Stoline and Ury, Technometrics 21 (1979) 87: values computed, to three places.
TABLE = {
    (1, 4): 2.776, (1, 8): 2.306, (1, 14): 2.145, (1, 20): 2.086, (1, 44): 2.015,
    (4, 4): 4.003, (4, 8): 3.127, (4, 14): 2.830, (4, 20): 2.721, (4, 44): 2.592,
    (6, 4): 4.366, (6, 8): 3.365, (6, 14): 3.022, (6, 20): 2.897, (6, 44): 2.748,
    (8, 4): 4.621, (8, 8): 3.532, (8, 14): 3.157, (8, 20): 3.020, (8, 44): 2.856,
}  # fmt: skip


@pytest.mark.parametrize(("place", "quantile"), TABLE.items())
def test_the_table(place, quantile):
    assert modulus_quantile(*place) == pytest.approx(quantile, abs=6e-4)


@pytest.mark.parametrize("freedom", [1, 2.5, 4, 17, 300, 1e5])
def test_one_alone_is_students(freedom):
    assert modulus_quantile(1, freedom) == pytest.approx(t.ppf(0.975, freedom))


@pytest.mark.parametrize(("count", "quantile"), [(1, 1.960), (4, 2.491), (6, 2.631), (8, 2.727)])
def test_a_known_scatter_is_sidaks_of_the_normal_distribution(count, quantile):
    assert modulus_quantile(count, float("inf")) == pytest.approx(quantile, abs=6e-4)
    assert modulus_quantile(count, float("inf")) == pytest.approx(norm.ppf((1 + 0.95 ** (1 / count)) / 2))
    assert modulus_quantile(count, 9e4) == pytest.approx(modulus_quantile(count, float("inf")), rel=1e-4)


@pytest.mark.parametrize(("count", "freedom"), [(3, 4), (6, 9), (50, 2)])
def test_it_lies_between_student_and_bonferroni(count, freedom):
    alone, safe = t.ppf(0.975, freedom), t.ppf(1 - 0.025 / count, freedom)
    assert alone < modulus_quantile(count, freedom) < safe


def test_a_draw_of_many_stays_within_it_in_95_of_100():
    generator = np.random.default_rng(5)
    scatters = np.sqrt(generator.chisquare(6, 40_000) / 6)
    largest = np.abs(generator.normal(size=(40_000, 5))).max(axis=1) / scatters
    assert np.mean(largest <= modulus_quantile(5, 6)) == pytest.approx(0.95, abs=0.0036)  # 3.3 standard errors


def test_nothing_judged_is_refused():
    with pytest.raises(OutOfRange):
        modulus_quantile(0, 4)
