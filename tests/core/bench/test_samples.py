"""Samples of one set-up against NumPy and what must hold."""

import numpy as np
import pytest

from elvarn.core.bench.samples import range_findings, series_of, settled
from elvarn.core.errors import NotEnoughData, OutOfRange


def eddies(generator, count, kept, scatter=0.8, mean=200.0):
    """Samples that remember the last: an AR(1) series."""
    found, off = [], 0.0
    for _ in range(count):
        off = kept * off + np.sqrt(1 - kept**2) * generator.normal(0, scatter)
        found.append(mean + off)
    return found


def test_the_mean_is_the_figure_and_the_highest_flicker_is_not():
    found = series_of([199.0, 201.0, 200.0, 204.0])
    assert (found.count, found.mean, found.highest) == (4, 201.0, 204.0)
    assert found.scatter == pytest.approx(np.std([199, 201, 200, 204]))


@pytest.mark.independent
@pytest.mark.parametrize("kept", [0.0, 0.5, 0.8])
def test_the_scatter_of_the_mean_is_what_many_series_show(kept):
    generator = np.random.default_rng(4)
    series = [series_of(eddies(generator, 400, kept)) for _ in range(300)]
    seen = np.std([one.mean for one in series])
    assert np.mean([one.scatter_of_mean for one in series]) == pytest.approx(seen, rel=0.12)


def test_a_bench_that_still_climbs_has_not_settled():
    generator = np.random.default_rng(5)
    still = eddies(generator, 20, 0.5)
    steady = [6974.0] * 20
    assert settled(still, steady)
    climbing = [flow + 0.6 * n for n, flow in enumerate(still)]
    assert not settled(climbing, steady)
    assert not settled(still, [6000 + 40 * n for n in range(20)])
    assert not settled(still[:15], steady[:15])
    assert not settled([0.0] * 20, steady)


def test_the_ends_of_a_range_are_marked():
    assert range_findings(0.97)[0].code == "range_full"
    assert range_findings(0.2)[0].code == "range_bottom"
    assert range_findings(0.6) == []
    assert range_findings(0.0) == []


def test_no_sample_and_no_flow_are_refused():
    with pytest.raises(NotEnoughData):
        series_of([])
    with pytest.raises(OutOfRange):
        series_of([200.0, -1.0])
