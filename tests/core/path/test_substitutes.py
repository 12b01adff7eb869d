"""Many candidates at once give what each would give alone."""

import numpy as np
import pytest

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.gas.discharge import effective_area
from elvarn.core.path.engine_losses import engine_losses
from elvarn.core.path.passage import measured
from elvarn.core.path.substitutes import Substitutes, gains_of
from tests.core.path.test_flow import CFM, cfm, draw, five

PRESSURE = 101325.0


def candidates(places, *rows):
    areas = np.array([effective_area(flow * CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION) for flow, _, _ in rows])
    return Substitutes(places, areas, np.array([r[1] for r in rows]), np.array([r[2] for r in rows]))


@pytest.mark.parametrize(
    ("places", "rows"),
    [
        ((1,), [(620, 0.076, 0.076), (480, 0.068, 0.068), (560, 0.070, 0.074)]),
        (tuple(range(5, 10)), [(230, 0.046, 0.041), (190, 0.042, 0.039)]),
    ],
)
def test_each_candidate_gains_what_the_path_solved_with_it_gains(places, rows):
    way, passages = five()
    base = engine_losses(way, passages, draw())
    [found] = gains_of(way, passages, candidates(places, *rows), [draw()])
    for index, (flow, bore_in, bore_out) in enumerate(rows):
        other = list(passages)
        for place in places:
            other[place] = measured(flow * CFM, REFERENCE_DEPRESSION, bore_in, bore_out)
        again = engine_losses(way, other, draw())
        ends = sorted((
            (base.total - again.total) / (PRESSURE - base.total),
            (base.low - again.low) / (PRESSURE - base.low),
        ))  # fmt: skip
        assert (found.low[index], found.high[index]) == pytest.approx(ends, rel=1e-6)
        assert found.drops[index] == pytest.approx(again.total, rel=1e-9)


def test_an_unknown_candidate_has_no_number():
    way, passages = five()
    given = Substitutes((1,), np.array([np.nan, 0.003]), np.array([np.nan, 0.07]), np.array([np.nan, 0.07]))
    [found] = gains_of(way, passages, given, [draw()])
    assert np.isnan(found.low[0])
    assert np.isfinite(found.low[1])


def test_without_knowing_what_is_there_nothing_can_be_gained():
    way, passages = five()
    given = candidates((1,), (600, 0.07, 0.07))
    with pytest.raises(NotEnoughData):
        gains_of(way, [passages[0], None, *passages[2:]], given, [draw()])
    with pytest.raises(Inconsistent):
        gains_of(way, passages, Substitutes((1,), np.ones(2), np.ones(1), np.ones(1)), [draw()])


def test_runners_that_differ_are_each_solved():
    way, passages = five()
    uneven = [*passages[:5], *[cfm(200 + 3 * n, 0.044, 0.040) for n in range(5)]]
    given = candidates((1,), (620, 0.076, 0.076))
    base = engine_losses(way, uneven, draw())
    other = [uneven[0], measured(620 * CFM, REFERENCE_DEPRESSION, 0.076, 0.076), *uneven[2:]]
    again = engine_losses(way, other, draw())
    high = (base.total - again.total) / (PRESSURE - base.total)
    [found] = gains_of(way, uneven, given, [draw()])
    assert max(abs(found.low[0] - high), abs(found.high[0] - high)) > 0
    assert min(abs(found.low[0] - high), abs(found.high[0] - high)) < 1e-9
