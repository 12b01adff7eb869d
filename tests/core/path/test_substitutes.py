"""Many candidates at once give what each would give alone."""

from dataclasses import replace

import numpy as np
import pytest

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.finding import Grade
from elvarn.core.gas.discharge import effective_area
from elvarn.core.path.engine_losses import engine_losses
from elvarn.core.path.passage import measured
from elvarn.core.path.substitutes import Substitutes, gains_of
from tests.core.path.test_flow import CFM, cfm, draw, five

PRESSURE = 101325.0


def candidates(places, *rows):
    areas = np.array([effective_area(flow * CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION) for flow, _, _ in rows])
    return given(places, areas, np.array([r[1] for r in rows]), np.array([r[2] for r in rows]))


def given(places, areas, bores_in, bores_out):
    """As they were read: without a range."""
    return Substitutes(places, areas, areas, areas, np.zeros(len(areas), bool), bores_in, bores_out)


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
    bores = np.array([np.nan, 0.07])
    [found] = gains_of(way, passages, given((1,), np.array([np.nan, 0.003]), bores, bores), [draw()])
    assert np.isnan(found.low[0])
    assert np.isfinite(found.low[1])


def test_without_knowing_what_is_there_nothing_can_be_gained():
    way, passages = five()
    one = candidates((1,), (600, 0.07, 0.07))
    with pytest.raises(NotEnoughData):
        gains_of(way, [passages[0], None, *passages[2:]], one, [draw()])
    with pytest.raises(Inconsistent):
        gains_of(way, passages, given((1,), np.ones(2), np.ones(1), np.ones(1)), [draw()])


def test_runners_that_differ_are_each_solved():
    way, passages = five()
    uneven = [*passages[:5], *[cfm(200 + 3 * n, 0.044, 0.040) for n in range(5)]]
    one = candidates((1,), (620, 0.076, 0.076))
    base = engine_losses(way, uneven, draw())
    other = [uneven[0], measured(620 * CFM, REFERENCE_DEPRESSION, 0.076, 0.076), *uneven[2:]]
    again = engine_losses(way, other, draw())
    high = (base.total - again.total) / (PRESSURE - base.total)
    [found] = gains_of(way, uneven, one, [draw()])
    assert max(abs(found.low[0] - high), abs(found.high[0] - high)) > 0
    assert min(abs(found.low[0] - high), abs(found.high[0] - high)) < 1e-9


class TestSpread:
    """A tube that passes as much as the one there now, once read and once estimated within 8 %."""

    def gain(self, there, estimated):
        way, passages = five()
        area, spread = passages[1].area, 0.08
        low, high = np.array([area * (1 - spread)]), np.array([area * (1 + spread)])
        one = Substitutes((1,), np.array([area]), low, high, np.array([estimated]), *[np.array([0.076])] * 2)
        if not estimated:
            one = given((1,), np.array([area]), np.array([0.076]), np.array([0.076]))
        there = replace(passages[1], grade=there, bore_in=0.076, bore_out=0.076)
        if there.grade is not Grade.MEASURED:
            there = replace(there, low=area * (1 - spread), high=area * (1 + spread))
        [found] = gains_of(way, [passages[0], there, *passages[2:]], one, [draw()])
        return found.low[0], found.high[0]

    def test_what_was_read_on_both_sides_is_alike(self):
        assert self.gain(Grade.MEASURED, estimated=False) == pytest.approx((0, 0), abs=1e-12)

    def test_an_estimate_against_what_was_read_may_be_better_or_worse(self):
        for low, high in (self.gain(Grade.MEASURED, estimated=True), self.gain(Grade.ESTIMATED, estimated=False)):
            assert low < -0.001 < 0.001 < high

    def test_two_estimates_share_their_error(self):
        assert self.gain(Grade.ESTIMATED, estimated=True) == pytest.approx((0, 0), abs=1e-12)

    def test_two_that_share_it_differ_by_what_each_end_gives(self):
        """A tenth more area on top of an estimate gains at either end of its range, and less where both are larger."""
        way, passages = five()
        area = passages[1].area
        there = replace(
            passages[1], grade=Grade.ESTIMATED, low=area * 0.9, high=area * 1.1, bore_in=0.076, bore_out=0.076
        )
        bores = [np.array([0.076])] * 2
        one = Substitutes((1,), *(np.array([area * 1.1 * f]) for f in (1, 0.9, 1.1)), np.array([True]), *bores)
        [found] = gains_of(way, [passages[0], there, *passages[2:]], one, [draw()])
        assert 0 < found.low[0] < found.high[0] < 0.02
