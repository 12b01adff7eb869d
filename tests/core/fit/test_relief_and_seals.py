"""Relief that is shared never breaks a wall; a ring in its gland."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import NotEnoughData, OutOfRange
from elvarn.core.fit.relief import Side, shared_relief
from elvarn.core.fit.seal import fill, seal_findings, squeeze, stretch

SIZES = st.floats(0.0005, 0.02)


@given(st.lists(st.tuples(SIZES, SIZES), min_size=1, max_size=5), st.floats(0, 1))
def test_relief_never_breaks_a_wall_and_gives_what_is_missing(walls, part):
    sides = [Side(f"part {n}", wall, least) for n, (wall, least) in enumerate(walls)]
    short = part * sum(side.room for side in sides)
    shares = shared_relief(short, sides)
    assert sum(shares) == pytest.approx(short, abs=1e-9)
    for side, share in zip(sides, shares, strict=True):
        assert 0 <= share <= side.room + 1e-9


def test_the_thicker_wall_gives_more():
    lid, floor = Side("lid", 0.006, 0.003), Side("floor", 0.004, 0.003)
    assert shared_relief(0.002, [lid, floor]) == pytest.approx([0.0015, 0.0005])


def test_what_no_wall_has_is_refused_with_what_each_has():
    with pytest.raises(NotEnoughData, match=r"5\.0 mm are missing; in hand: lid 3\.0 mm, floor 1\.0 mm"):
        shared_relief(0.005, [Side("lid", 0.006, 0.003), Side("floor", 0.004, 0.003)])
    with pytest.raises(NotEnoughData, match="no part"):
        shared_relief(0.001, [])
    with pytest.raises(OutOfRange):
        shared_relief(-0.001, [])
    with pytest.raises(OutOfRange):
        Side("lid", 0, 0.003)


def test_a_ring_that_is_squeezed_and_fills_as_usual_has_nothing_against_it():
    squeezed, filled = squeeze(0.00353, 0.0027), fill(0.00353, 0.0027, 0.0048)
    assert seal_findings(squeezed, filled, 0.02, face=True) == []


def test_a_loose_a_full_and_a_stretched_one_are_told():
    found = seal_findings(squeeze(0.00353, 0.0033), 0.92, stretch(0.060, 0.066), face=False)
    assert [one.code for one in found] == ["squeeze", "fill", "stretch"]
    assert "7 %" in found[0].text
    assert "0 to 5 % are usual" in found[2].text
    assert stretch(0.060, 0.059) < 0
