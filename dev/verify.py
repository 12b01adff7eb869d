"""Everything that `./elvarn test` runs: style, types, import contracts, front end, then the tests."""

import json
import os
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from elvarn.host.bootstrap import npm

# One more process than the machine has cores: those that wait for a server or a browser leave theirs to the others.
# A file's tests share what its fixtures made; the order is that of tests/conftest.py.
SIDE_BY_SIDE = ("-n", str((os.cpu_count() or 1) + 1), "--dist", "loadfile", "--no-loadscope-reorder")


def run(root: Path, chosen: list[str]) -> None:
    """Run the checks and all tests, or only the tests named. Ends with the exit code of what failed first."""
    python = sys.executable
    if chosen:
        raise SystemExit(subprocess.run([python, "-m", "pytest", *chosen], cwd=root, check=False).returncode)
    with ThreadPoolExecutor() as side_by_side:
        checks = [side_by_side.submit(check, root) for check in (_check_program, _check_front_end)]
    for check in checks:
        check.result()
    sys.stdout.flush()
    every = [python, "-m", "pytest", *SIDE_BY_SIDE]
    raise SystemExit(subprocess.run(every, cwd=root, check=False).returncode)


def _check_program(root: Path) -> None:
    bin_folder = Path(sys.executable).parent
    _check("style", [bin_folder / "ruff", "check", "src", "dev", "tests", "elvarn"], root)
    _check("format", [bin_folder / "ruff", "format", "--check", "-q", "src", "dev", "tests", "elvarn"], root)
    _check("types", [sys.executable, "-m", "mypy"], root)
    _check("import contracts", [bin_folder / "lint-imports", "--no-logo"], root)


def write_types(root: Path) -> None:
    """Write the front end's types from the API's own description."""
    schema = _schema_file(root)
    npm("exec", "--", "openapi-typescript", str(schema), "-o", "src/api/schema.d.ts", "--default-non-nullable=false")


def _check_front_end(root: Path) -> None:
    schema = str(_schema_file(root))
    steps = (
        ("front end: types from the API", ["exec", "--", "openapi-typescript", schema, "-o", "src/api/schema.d.ts",
                                           "--default-non-nullable=false", "--check"]),
        ("front end: style", ["exec", "--", "eslint", "--max-warnings=0", "src"]),
        ("front end: format", ["exec", "--", "prettier", "--check", "--log-level=warn", "src"]),
        ("front end: types", ["run", "--silent", "typecheck"]),
        ("front end: units", ["exec", "--", "vitest", "run", "--reporter=dot"]),
    )  # fmt: skip
    for name, arguments in steps:
        began = time.monotonic()
        try:
            npm(*arguments)
        except subprocess.CalledProcessError as error:
            _failed(name, error.returncode)
        print(f"· {name}: good, {time.monotonic() - began:.1f} s", flush=True)
    if (root / "web" / "node_modules" / "@primeui").exists():
        _failed("front end: licence (a package that needs a key was installed: @primeui)", 1)


def _schema_file(root: Path) -> Path:
    from sqlalchemy import create_engine

    from elvarn.api.app import create_app

    app = create_app(create_engine("postgresql+psycopg://nowhere"), root, root, "")
    target = root / "build" / "openapi.json"
    target.parent.mkdir(exist_ok=True)
    target.write_text(json.dumps(app.openapi(), indent=1))
    return target


def _check(name: str, command: list[str | Path], root: Path) -> None:
    began = time.monotonic()
    environment = {**os.environ, "PYTHONPATH": f"{root / 'src'}{os.pathsep}{root}"}
    done = subprocess.run(command, cwd=root, check=False, env=environment, capture_output=True, text=True)
    if done.returncode:
        print(done.stdout, done.stderr)
        _failed(name, done.returncode)
    print(f"· {name}: good, {time.monotonic() - began:.1f} s", flush=True)


def _failed(name: str, code: int) -> None:
    print(f"elvarn: {name} failed. What it said is above.", file=sys.stderr)
    raise SystemExit(code)
