"""Public core functions say what they take, return and refuse, and where they come from; what they say is held against
their signature, their body, and the page of sources."""

import ast
import importlib
import inspect
import pkgutil
import re
import textwrap
from pathlib import Path
from typing import get_args

import numpy as np
import pint
import pytest

import elvarn.core
from elvarn.core import errors

MODULES = [module.name for module in pkgutil.walk_packages(elvarn.core.__path__, "elvarn.core.")]
FUNCTIONS = [
    function
    for name in MODULES
    for _, function in inspect.getmembers(importlib.import_module(name), inspect.isfunction)
    if function.__module__ == name and not function.__name__.startswith("_") and name != "elvarn.core.errors"
]
SECTIONS = ("Arguments", "Returns", "Raises", "Source")
ERRORS = {name for name, found in vars(errors).items() if inspect.isclass(found)} | {"ValueError"}
UNITS = pint.UnitRegistry()
UNITS.define("money = [money]")
UNITS.define("CFM = foot ** 3 / minute")
# In brackets where a unit stands: figures that carry whatever unit their caller has.
ANY_UNIT = re.compile(r"^(any|as the|same) ")
# A name that says what it is, and the unit that it then has to have.
BY_NAME = {
    "_rpm": "rpm", "_deg": "°", "pressure": "Pa", "depression": "Pa", "density": "kg/m³", "area": "m²", "bore": "m",
    "length": "m", "stroke": "m", "diameter": "m", "lift": "m", "temperature": "K", "torque": "N m", "velocity": "m/s",
    "volume_flow": "m³/s", "mass_flow": "kg/s", "displacement": "m³", "ratio": "-", "fraction": "-", "efficiency": "-",
    "count": "-", "speed_of_sound": "m/s",
}  # fmt: skip
DEFINED = ("definition", "geometry", "common practice, no source", "derivation", "none")


@pytest.fixture(scope="module")
def sources(request):
    """The works and laws of docs/sources.md, as they are named there."""
    page = (Path(request.config.rootpath) / "docs" / "sources.md").read_text()
    named = [line.split("|")[1].strip() for line in page.splitlines() if line.startswith("| ")]
    return [name for name in named if name not in ("---", "Named as")]


def sections(function):
    """The four parts of a docstring, in their order."""
    words = inspect.getdoc(function) or ""
    places = [(m.start(), m.end(), m[1]) for m in re.finditer(r"^([A-Z][a-z]+): ?", words, re.MULTILINE)]
    assert tuple(name for *_, name in places) == SECTIONS, "Arguments, Returns, Raises and Source, each once"
    ends = [begin for begin, *_ in places[1:]] + [len(words)]
    return {name: " ".join(words[end:stop].split()) for (_, end, name), stop in zip(places, ends, strict=True)}


def clauses(told, names):
    """What is told of each argument: from its name to the next one's."""
    found = {}
    at = {name: re.search(rf"\b{name}(?= \[)", told) or re.search(rf"\b{name}\b", told) for name in names}
    for name, match in at.items():
        assert match, f"{name} is not explained"
    begins = sorted((match.start(), match.end(), name) for name, match in at.items())
    for (_, end, name), following in zip(begins, [*begins[1:], (len(told), 0, "")], strict=True):
        found[name] = told[end : following[0]]
    for name, following in reversed(list(zip(found, list(found)[1:], strict=False))):
        if re.fullmatch(r"(?:,| and)? ?", found[name]):  # "before, after [m³/s]"
            found[name] = found[following]
    return found


def in_brackets(text):
    """Units that stand in brackets: the shape of an array does not."""
    return re.findall(r"\[([^\]]+)\]", text)


def dimension(unit):
    """The dimension of a unit as it is written here. Fails for what is no unit."""
    return UNITS.parse_units(unit.replace("-", "dimensionless").replace("°", "degree")).dimensionality


def is_number(annotation):
    """Whether a figure, or several of them, or none. Several integers are places or cylinders: they have no unit."""
    if annotation in (float, int, float | None, int | None, np.dtype[np.float64]):
        return True
    return any(is_number(part) for part in get_args(annotation) if part is not int)


def is_array(annotation):
    return getattr(annotation, "__origin__", None) is np.ndarray


def raised(function):
    """Names of the errors that a function raises itself, by its body."""
    tree = ast.parse(textwrap.dedent(inspect.getsource(function)))
    found = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Raise) and isinstance(node.exc, ast.Call):
            found.add(node.exc.func.id)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "require_positive":
            found.add("OutOfRange")
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr == "check":
            found.add("OutOfRange")
    return found


def hints(function):
    return inspect.get_annotations(function, eval_str=True)


def every_function(test):
    return pytest.mark.parametrize(
        "function", FUNCTIONS, ids=lambda f: f"{f.__module__.removeprefix('elvarn.core.')}.{f.__name__}"
    )(test)


@every_function
def test_arguments_have_the_unit_and_shape_that_the_signature_asks_for(function):
    types = hints(function)
    arguments = {name: types.get(name) for name in inspect.signature(function).parameters}
    told = sections(function)["Arguments"]
    shared = told.rsplit(";", 1)[-1]
    for name, clause in clauses(told, arguments).items():
        if is_number(arguments[name]):
            units = in_brackets(clause) or in_brackets(shared)
            assert units, f"{name} has no unit"
            check_unit(name, units)
        if is_array(arguments[name]):
            assert re.search(r"shape \(|one shape", clause + shared), f"{name} has no shape"
        elif arguments[name] in (float, int):
            assert "shape (" not in clause, f"{name} is one figure, not an array"


def check_unit(name, units):
    for unit in units:
        assert ANY_UNIT.match(unit) or dimension(unit) is not None
    asked = next((unit for ending, unit in BY_NAME.items() if name.endswith(ending) and "_over_" not in name), None)
    if asked is not None and units and not ANY_UNIT.match(units[0]):
        assert dimension(units[0]) == dimension(asked), f"{name} is told in {units[0]}"


@every_function
def test_what_is_returned_is_told_with_its_unit_and_shape(function):
    told, returned = sections(function)["Returns"], hints(function)["return"]
    assert (told == "nothing.") == (returned in (None, type(None)))
    for unit in in_brackets(told):
        assert ANY_UNIT.match(unit) or dimension(unit) is not None
    if is_number(returned):
        assert in_brackets(told), "no unit"
    if is_array(returned):
        assert "shape" in told, "no shape"


@every_function
def test_refusals_are_told(function):
    told = sections(function)["Raises"]
    named = set(re.findall(r"\b[A-Z]\w+\b", told)) & ERRORS
    assert named or told.startswith(("nothing", "as ")), "names no error"
    assert not named or not told.startswith("nothing")
    if not told.startswith("as "):
        assert raised(function) <= named, "raises more than it tells"


@every_function
def test_the_source_can_be_found(function, sources):
    told = sections(function)["Source"].removeprefix("rule: ")
    known = [name for name in sources if name in told]
    pointed = re.findall(r"`(\w+(?:\.\w+)?)`", told)
    for name in pointed:
        assert name.split(".")[-1] in {*(f.__name__ for f in FUNCTIONS), *(m.split(".")[-1] for m in MODULES)}, name
    for page in re.findall(r"docs/\S+\.md", told):
        assert (Path(__file__).resolve().parents[2] / page).exists()
    assert known or pointed or told.startswith(DEFINED) or "docs/" in told, "names no source that is listed"
    without = re.sub("|".join(map(re.escape, sorted(known, key=len, reverse=True))) or "$^", "", told)
    assert not re.findall(r"\b(?:ISO|SAE|DIN|JCGM|ASTM|ASME|WMO) \w*\d+", without), "a work that is not listed"


def test_every_source_of_the_page_is_used(sources):
    files = [file for file in Path(elvarn.core.__file__).parent.rglob("*") if file.suffix in (".py", ".csv")]
    text = " ".join(" ".join(file.read_text().split()) for file in files)
    assert [name for name in sources if name not in text] == []
