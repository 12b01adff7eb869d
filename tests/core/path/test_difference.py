"""How two paths differ."""

from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.path.difference import Place, build_changes

places = st.builds(
    Place,
    kind=st.sampled_from(("filter", "tube", "throttle")),
    label=st.just("x"),
    cylinder=st.none(),
    holds=st.tuples(st.sampled_from("ab"), st.just("")),
)


@given(st.lists(places, max_size=6))
def test_a_path_does_not_differ_from_itself(path):
    assert build_changes(path, path) == []


@given(st.lists(places, max_size=6), st.lists(places, max_size=6))
def test_nothing_of_either_path_is_lost(before, after):
    found = build_changes(before, after)
    gone = [d.before for d in found if d.before and not d.after]
    new = [d.after for d in found if d.after and not d.before]
    assert len(before) - len(gone) == len(after) - len(new)
    assert all(d.before.kind == d.after.kind for d in found if d.before and d.after)


def test_an_exchange_an_addition_and_a_removal():
    tube, meter = Place("tube", "Tube", None, ("narrow", "")), Place("meter", "Meter", None, ("m", ""))
    wide, adapter = Place("tube", "Tube", None, ("wide", "")), Place("adapter", "Adapter", None, ("a", ""))
    found = build_changes([tube, meter], [wide, adapter])
    assert (found[0].before, found[0].after) == (tube, wide)
    assert [(d.before, d.after) for d in found[1:]] == [(meter, None), (None, adapter)]
