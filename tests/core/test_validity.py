"""Validity ranges are data: each says who says so, lets its ends in as it tells, and refuses what is beyond."""

import ast
import importlib
import pkgutil
from math import inf, isfinite, nan, nextafter
from pathlib import Path

import pytest

import elvarn.core
from elvarn.core.errors import OutOfRange
from elvarn.core.validity import WRITTEN, Range

CORE = Path(elvarn.core.__file__).parent
MODULES = [module.name for module in pkgutil.walk_packages(elvarn.core.__path__, "elvarn.core.")]
RANGES = {
    f"{name.removeprefix('elvarn.core.')}.{word}": found
    for name in MODULES
    for word, found in vars(importlib.import_module(name)).items()
    if isinstance(found, Range)
}


@pytest.mark.parametrize("name", RANGES)
def test_a_range_holds_between_its_ends_and_nowhere_else(name):
    found = RANGES[name]
    assert found.low < found.high
    assert found.unit in WRITTEN
    assert found.source
    middle = found.low + 1 if found.high == inf else (found.low + found.high) / 2
    found.check(middle)
    for end, outside, shut in ((found.low, -inf, found.above), (found.high, inf, found.below)):
        if isfinite(end):
            assert (end in found) is not shut
            assert nextafter(end, outside) not in found
    for value in (found.low - 1, nan):
        with pytest.raises(OutOfRange) as refusal:
            found.check(value)
        assert refusal.value.quantity == found.quantity
        assert refusal.value.remedy


def test_the_core_has_ranges_and_they_are_found():
    assert {"path.losses.MITRE_ANGLE", "engine.tuning.CAM_DURATION", "gas.air.PRESSURE"} <= RANGES.keys()


def test_a_range_is_told_in_words():
    assert Range("t", "air", 233.15, 333.15, "°C", "x").words == "−40 to 60 °C"
    assert Range("a", "bend", 0, 180, "°", "x", above=True).words == "above 0, up to 180°"
    assert Range("r", "share", 0, 1, "%", "x", above=True, below=True).words == "above 0, below 100 %"
    assert Range("r", "ratio", 1, inf, "", "x", above=True).words == "above 1"
    assert Range("r", "radius", 0, inf, "mm", "x").words == "0 mm and more"


def test_a_refusal_names_the_value_and_what_can_be():
    with pytest.raises(OutOfRange) as refusal:
        Range("a", "mitre's angle", 0, 150, "°", "x", above=True).check(170)
    assert str(refusal.value) == "The mitre's angle is 170°. Above 0, up to 150° can be."


def test_the_nearest_value_inside():
    found = Range("d", "opening", 160, 320, "°", "x")
    assert [found.nearest(value) for value in (100, 200, 400)] == [160, 200, 320]


def test_no_function_keeps_limits_of_its_own():
    """`if not 0 <= x <= 90: raise` with figures in it is a range that nobody can read."""
    kept = []
    for file in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            if isinstance(node, ast.If) and any(isinstance(one, ast.Raise) for one in node.body):
                kept += [f"{file.name}:{node.lineno}" for one in ast.walk(node.test) if _has_two_figures(one)]
    assert kept == []


def _has_two_figures(node: ast.AST) -> bool:
    if not isinstance(node, ast.Compare) or len(node.ops) < 2:
        return False
    ends = [node.left, node.comparators[-1]]
    return all(isinstance(end, ast.Constant | ast.UnaryOp) for end in ends)
