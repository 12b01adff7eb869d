"""Paths by name, and elements put in and taken out."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elvarn.core.errors import Inconsistent
from elvarn.core.path import shapes
from elvarn.core.path.routes import routes
from elvarn.core.path.tree import Branches, Element, ElementKind, Series, check_tree, elements, usual_path


@pytest.mark.parametrize(("cylinders", "banks"), [(1, 1), (2, 1), (4, 1), (5, 1), (6, 2), (8, 2), (12, 2)])
def test_every_shape_feeds_each_cylinder_once(cylinders, banks):
    found = shapes.named_paths(cylinders, banks)
    for tree in found.values():
        check_tree(tree, cylinders)
        assert routes(tree).cylinders == tuple(range(1, cylinders + 1))
    assert (shapes.EACH_BANK in found) == (banks > 1)
    assert (shapes.EACH_CYLINDER in found) == (cylinders > 1)


def test_each_bank_has_its_own_throttle():
    way = routes(shapes.named_paths(6, 2)[shapes.EACH_BANK])
    assert {len(stage.cylinders) for stage in way.every_stage()} == {6, 3, 1}


@given(st.integers(0, 9))
def test_what_is_taken_out_is_gone_and_the_rest_keeps_its_order(place):
    tree = usual_path(5)
    labels = [element.label for element in elements(tree)]
    left = [element.label for element in elements(shapes.without(tree, place))]
    assert left == labels[:place] + labels[place + 1 :]


@given(st.integers(0, 4), st.booleans())
def test_what_is_put_in_stands_at_its_place(place, before):
    tree = usual_path(5)
    labels = [element.label for element in elements(tree)]
    new = shapes.with_element(tree, place, Element(ElementKind.ADAPTER, "Adapter"), before=before)
    at = place if before else place + 1
    assert [element.label for element in elements(new)] == [*labels[:at], "Adapter", *labels[at:]]
    check_tree(new, 5)


def test_in_front_of_a_runner_it_belongs_to_its_cylinder_and_behind_it_nothing_goes():
    tree = usual_path(4)
    adapter = Element(ElementKind.ADAPTER, "Adapter")
    new = shapes.with_element(tree, 6, adapter, before=True)
    check_tree(new, 4)
    assert next(e for e in elements(new) if e.kind is ElementKind.ADAPTER).cylinder == 2
    with pytest.raises(Inconsistent, match="comes the cylinder"):
        shapes.with_element(tree, 6, adapter)


def test_a_branching_left_with_one_way_is_straightened():
    ducts = Branches((Element(ElementKind.INLET, "L"), Element(ElementKind.INLET, "R")))
    tree = Series((ducts, Element(ElementKind.RUNNER, "Runner", 1)))
    left = shapes.without(tree, 0)
    assert left == Series((Element(ElementKind.INLET, "R"), Element(ElementKind.RUNNER, "Runner", 1)))
    with pytest.raises(Inconsistent, match="Nothing would be left"):
        shapes.without(Element(ElementKind.RUNNER, "Runner", 1), 0)
