"""The house as a stranger finds it: who asks the database, how long a file is, and which rooms a step has."""

import ast
from pathlib import Path

import pytest

from elvarn.core.rail import Step

ROOT = Path(__file__).resolve().parents[1]
SERVICE = ROOT / "src" / "elvarn" / "service"
BELOW_THE_STEPS = {
    "kernel": {"Session", "IntegrityError", "event", "object_session"},
    "record": {"Session", "object_session", "set_committed_value"},
    "shop": {"Session", "Engine"},
}
LONGEST, LONGEST_COMPONENT = 350, 400


def imported(file):
    """Names that a module takes from SQLAlchemy."""
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom) and (node.module or "").split(".")[0] == "sqlalchemy":
            yield from (alias.name for alias in node.names)
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names if alias.name.split(".")[0] == "sqlalchemy")


@pytest.mark.parametrize("room", sorted(path.name for path in SERVICE.iterdir() if (path / "__init__.py").exists()))
def test_use_cases_ask_the_database_through_its_queries_alone(room):
    """A step holds a session, and hands it on."""
    allowed = BELOW_THE_STEPS.get(room, {"Session"})
    files = (SERVICE / room).rglob("*.py")
    beyond = {f"{file.name}: {name}" for file in files for name in imported(file) if name not in allowed}
    assert beyond == set()


@pytest.mark.parametrize("step", Step)
def test_a_step_says_how_a_job_stands_there(step):
    assert (SERVICE / step / "standing.py").exists()


def test_no_module_and_no_component_is_long():
    modules = [(file, LONGEST) for folder in ("src", "dev") for file in (ROOT / folder).rglob("*.py")]
    components = [(file, LONGEST_COMPONENT) for file in (ROOT / "web" / "src").rglob("*.vue")]
    long = {
        file.name: lines
        for file, most in modules + components
        if "migrations" not in file.parts and (lines := len(file.read_text().splitlines())) > most
    }
    assert long == {}
