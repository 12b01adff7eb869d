"""Air paths as trees: which feed each cylinder once."""

import pytest

from elvarn.core.errors import Inconsistent
from elvarn.core.path.tree import (
    Branches,
    Element,
    ElementKind,
    Series,
    check_tree,
    elements,
    posted_manifold,
    usual_path,
)


def runner(number):
    return Element(ElementKind.RUNNER, f"Runner {number}", number)


def test_usual_paths_feed_every_cylinder():
    for count, banks in ((1, 1), (5, 1), (6, 2), (8, 2)):
        check_tree(usual_path(count, banks), count)
        check_tree(posted_manifold(count), count)


def test_cylinders_are_numbered_bank_by_bank():
    banks = [element.bank for element in elements(usual_path(8, 2)) if element.kind is ElementKind.RUNNER]
    assert banks == [1, 1, 1, 1, 2, 2, 2, 2]


@pytest.mark.parametrize(
    ("tree", "words"),
    [
        (Branches((runner(1), runner(1))), "Cylinder 1 is fed twice"),
        (Branches((runner(1), runner(3))), "Cylinder 2 is not fed"),
        (Branches((runner(1), runner(2), runner(3))), "Cylinder 3 does not exist"),
        (Branches((runner(1), Element(ElementKind.TUBE, "Dead end"))), "'Dead end' ends at no cylinder"),
        (Series((Element(ElementKind.FILTER, "Filter"), Branches(()))), "is empty"),
    ],
)
def test_refuses_a_path_that_does_not_feed_each_cylinder_once(tree, words):
    with pytest.raises(Inconsistent, match=words):
        check_tree(tree, 2)
