"""What is well and what is not: machine, set-up, folder, database, disk, files, fonts, lines, copies; and what to do.

Standard library only: it has to say why nothing else runs.
"""

import argparse
import contextlib
import fcntl
import hashlib
import os
import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from elvarn.host import bootstrap
from elvarn.host.postmaster import port_of, postmaster, release_of

LITTLE_ROOM, NO_ROOM = 1_000_000_000, 100_000_000  # bytes
LEAST_MEMORY = 1_000_000_000
MOST_READ = 2_000_000_000  # bytes of files whose digests are taken
OLD_COPY_S = 2 * 24 * 3600
RELEASES = Path("/usr/lib/postgresql")
OTHERS = 0o077


@dataclass(frozen=True)
class Found:
    """One thing that was looked at: whether it is good, what it is, and what to do where it is not."""

    state: Literal["good", "doubt", "harm"]
    what: str
    text: str
    remedy: str = ""


def examine(root: Path, data: Path) -> int:
    """Print what was found. Returns 1 where something keeps Elvarn from working."""
    harm = False
    for look in LOOKS:
        for found in _looked(look, root, data):
            harm = harm or found.state == "harm"
            print(f"{found.state:6} {found.what:9} {found.text}")
            if found.remedy:
                print(f"{'':16} → {found.remedy}")
    return int(harm)


def _looked(look: "Look", root: Path, data: Path) -> Iterator[Found]:
    """What one look finds; what it may not look at is told too."""
    try:
        yield from look(root, data)
    except PermissionError as error:
        yield Found(
            "doubt", "rights", f"{error.filename} is not yours to look at.", "Ask again as its owner, or as root."
        )


def machine(_: Path, __: Path) -> Iterator[Found]:
    version = ".".join(map(str, sys.version_info[:3]))
    yield Found("good", "machine", f"{_debian()}, {os.cpu_count()} processors, Python {version}")
    memory = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")
    if memory < LEAST_MEMORY:
        text = f"{memory / 1e9:.1f} GB of memory is little"
        yield Found("doubt", "machine", text, "Large files may be refused; give it 2 GB.")
    made = (bootstrap.ROOT / "src" / "elvarn" / "__init__.py").stat().st_mtime
    if time.time() < made - 24 * 3600:
        text = f"the clock says {time.strftime('%d %b %Y')}, before this program was made"
        yield Found("harm", "machine", text, "Set the clock: readings are dated by it.")


def set_up(_: Path, __: Path) -> Iterator[Found]:
    missing = [name for name, there in bootstrap.wanted_packages("start") if not there]
    if missing:
        remedy = f"./elvarn start installs them, or: apt-get install {' '.join(missing)}"
        yield Found("harm", "set-up", f"missing Debian packages: {', '.join(missing)}", remedy)
    stale = [name for name, current in bootstrap.made("start") if not current]
    if stale:
        text = f"not made yet, or older than their sources: {', '.join(stale)}"
        yield Found("doubt", "set-up", text, "./elvarn start makes them; that needs the network once.")
    if not missing and not stale:
        yield Found("good", "set-up", "everything is there and of this version")


def folder(_: Path, data: Path) -> Iterator[Found]:
    if not data.exists():
        yield Found("good", "folder", f"{data} is not there yet; the first start makes it")
        return
    if not (data / "postgres").exists():
        yield Found("doubt", "folder", f"{data} holds no database yet", "./elvarn start --data makes one there.")
        return
    about = data.stat()
    mode = about.st_mode & 0o777
    closed = not mode & OTHERS or (mode == 0o711 and about.st_uid == 0)
    text = f"{data}, owned by {data.owner()}, mode {mode:o}"
    remedy = "" if closed else "The next start closes it to others."
    yield Found("good" if closed else "doubt", "folder", text, remedy)
    if os.geteuid() not in (0, about.st_uid):
        yield Found(
            "harm", "folder", f"you are not {data.owner()}", f"Start it as {data.owner()}, or choose another --data."
        )
    running = _runs_at(data)
    yield Found("good", "server", f"runs at {running}" if running else "is not running")


def database(_: Path, data: Path) -> Iterator[Found]:
    cluster = data / "postgres"
    release = release_of(cluster)
    if not release:
        return
    there = sorted(path.name for path in RELEASES.glob("*") if (path / "bin" / "postgres").exists())
    if release not in there:
        text = f"was made by PostgreSQL {release}; here is {', '.join(there) or 'none'}"
        remedy = (
            f"Install PostgreSQL {release}; or write a backup where it runs, and restore it here into a new folder."
        )
        yield Found("harm", "database", text, remedy)
        return
    process = postmaster(cluster)
    if process is None:
        stale = (cluster / "postmaster.pid").exists()
        text = "is at rest" + (", and did not end in peace; the next start lets it recover" if stale else "")
        yield Found("good", "database", f"PostgreSQL {release} {text}")
        return
    port = str(port_of(cluster))
    ready = [str(RELEASES / release / "bin" / "pg_isready"), "-q", "-h", "127.0.0.1", "-p", port]
    if subprocess.run(ready, check=False).returncode == 0:
        yield Found("good", "database", f"PostgreSQL {release} answers at port {port} (process {process})")
        return
    text = f"PostgreSQL {release} runs as process {process} and takes nobody in: it starts, recovers or stops"
    yield Found("doubt", "database", text, f"Look again in a minute; its log is {cluster / 'server.log'}.")


def disk(_: Path, data: Path) -> Iterator[Found]:
    place = next(path for path in (data, *data.parents) if path.exists())
    free = shutil.disk_usage(place).free
    about = os.statvfs(place)
    text = f"{free / 1e9:.1f} GB free where {place} lies"
    if about.f_flag & os.ST_RDONLY:
        yield Found(
            "harm",
            "disk",
            f"{place} lies on a disk that can only be read",
            "Mount it to be written, or move the folder.",
        )
    elif free < NO_ROOM or (about.f_files and about.f_favail < 1000):
        yield Found("harm", "disk", text, "Make room: figures wait in the browser until there is.")
    else:
        little = free < LITTLE_ROOM
        yield Found("doubt" if little else "good", "disk", text, "Make room soon." if little else "")


def files(_: Path, data: Path) -> Iterator[Found]:
    kept = sorted(path for path in (data / "files").rglob("*") if path.is_file())
    damaged, left_out, read = [], 0, 0
    for path in kept:
        read += path.stat().st_size
        if read > MOST_READ:
            left_out += 1
        elif hashlib.sha256(path.read_bytes()).hexdigest() != path.name:
            damaged.append(path)
    if damaged:
        text = f"{len(damaged)} of {len(kept)} files are damaged, the first {damaged[0]}"
        yield Found("harm", "files", text, "Put them back from a copy: it holds them under the same names.")
    elif kept:
        beyond = f"; {left_out} more were not read" if left_out else ""
        yield Found("good", "files", f"{len(kept) - left_out} files are what they were{beyond}")


def fonts(root: Path, _: Path) -> Iterator[Found]:
    paper = list((root / "build" / "fonts").glob("*.ttf"))
    screen = list((root / "web" / "dist" / "assets").glob("*.woff2"))
    if paper and screen:
        yield Found("good", "fonts", f"{len(paper)} for paper, {len(screen)} for the screen")
    else:
        missing = "paper" if screen else "the screen" if paper else "paper and screen"
        yield Found("doubt", "fonts", f"none for {missing}", "./elvarn start makes them.")


def lines(_: Path, __: Path) -> Iterator[Found]:
    ports = sorted(path for name in ("ttyUSB*", "ttyACM*", "rfcomm*") for path in Path("/dev").glob(name))
    if not ports:
        yield Found("good", "lines", "no serial port is plugged in; benches in the network need none")
    for port in ports:
        free = os.access(port, os.R_OK | os.W_OK)
        remedy = "" if free else "sudo usermod -aG dialout $USER (or elvarn, where root starts it), then log in anew."
        yield Found("good" if free else "doubt", "lines", f"{port} {'may be read' if free else 'is not yours'}", remedy)


def copies(_: Path, data: Path) -> Iterator[Found]:
    found = sorted((data / "copies").glob("elvarn-*.zip"), key=lambda path: path.stat().st_mtime)
    if not (data / "postgres").exists():
        return
    if not found:
        yield Found("doubt", "copies", "no daily copy lies in the data folder", "./elvarn backup FILE makes one now.")
        return
    age = time.time() - found[-1].stat().st_mtime
    text = f"the last of {len(found)} is {found[-1].name}"
    remedy = "./elvarn backup FILE makes one now." if age > OLD_COPY_S else ""
    yield Found("doubt" if remedy else "good", "copies", text, remedy)


Look = Callable[[Path, Path], Iterator[Found]]
LOOKS: tuple[Look, ...] = (machine, set_up, folder, database, disk, files, fonts, lines, copies)


def _debian() -> str:
    with contextlib.suppress(OSError):
        told = dict(line.split("=", 1) for line in Path("/etc/os-release").read_text().splitlines() if "=" in line)
        return told.get("PRETTY_NAME", "an unknown system").strip('"')
    return "an unknown system"


def _runs_at(data: Path) -> str:
    """Where the Elvarn that holds this folder runs; empty where none does."""
    if not (data / "lock").exists():
        return ""
    with (data / "lock").open() as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_SH | fcntl.LOCK_NB)
        except BlockingIOError:
            return lock.read().strip()
    return ""


def _asked() -> int:
    """As the set-up asks it, before there is anything that knows the commands."""
    parser = argparse.ArgumentParser(prog="elvarn doctor")
    parser.add_argument("--data", type=Path, default=bootstrap.ROOT / "data")
    return examine(bootstrap.ROOT, parser.parse_args().data.resolve())


if __name__ == "__main__":
    raise SystemExit(_asked())
