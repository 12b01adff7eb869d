"""Public core functions say what they take, return and refuse, and where they come from."""

import importlib
import inspect
import pkgutil
import re

import pytest

import elvarn.core

MODULES = [module.name for module in pkgutil.walk_packages(elvarn.core.__path__, "elvarn.core.")]
FUNCTIONS = [
    function
    for name in MODULES
    for _, function in inspect.getmembers(importlib.import_module(name), inspect.isfunction)
    if function.__module__ == name and not function.__name__.startswith("_") and name != "elvarn.core.errors"
]


@pytest.mark.parametrize(
    "function", FUNCTIONS, ids=lambda f: f"{f.__module__.removeprefix('elvarn.core.')}.{f.__name__}"
)
def test_docstring_says_what_is_needed(function):
    words = inspect.getdoc(function) or ""
    for part in ("Arguments:", "Returns:", "Raises:", "Source:"):
        assert part in words, f"{part} is missing"
    arguments = words.split("Arguments:")[1].split("Returns:")[0]
    for name, parameter in inspect.signature(function).parameters.items():
        assert re.search(rf"\b{name}\b", arguments), f"{name} is not explained"
        if parameter.annotation in (float, int):
            after = arguments.split(name, 1)[1]
            assert "[" in after or "unit" in arguments, f"{name} has no unit"
