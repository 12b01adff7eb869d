"""What a database folder says of the server on it: whether it lives, at which port, and which release made it."""

import os
import signal
from contextlib import suppress
from pathlib import Path

# Folders that a server needs and that are empty at rest: some ways of copying leave them out.
EMPTY_AT_REST = (
    "pg_commit_ts", "pg_dynshmem", "pg_notify", "pg_replslot", "pg_serial", "pg_snapshots", "pg_stat", "pg_stat_tmp",
    "pg_tblspc", "pg_twophase", "pg_wal/archive_status", "pg_logical/mappings", "pg_logical/snapshots",
)  # fmt: skip
PORT_LINE, STATUS_LINE = 3, 7  # of postmaster.pid


def release_of(folder: Path) -> str:
    """The major release that made a database folder; empty where none did, or nothing says so."""
    with suppress(OSError):
        return (folder / "PG_VERSION").read_text().strip()
    return ""


def postmaster(folder: Path) -> int | None:
    """The process that serves this very folder, or None: what the folder says may be stale, or copied along."""
    with suppress(OSError, ValueError, IndexError):
        process = int((folder / "postmaster.pid").read_text().splitlines()[0])
        try:
            lives = _works_in(process, folder)
        except PermissionError:  # somebody else's: whether it works in here is not ours to see
            lives = _is_a_server(process)
        return process if lives else None
    return None


def port_of(folder: Path) -> int:
    """The port that the server on this folder listens on. Raises OSError, IndexError or ValueError where none says."""
    return int((folder / "postmaster.pid").read_text().splitlines()[PORT_LINE])


def hurry_on(folder: Path) -> None:
    """Where the server on this folder takes nobody in any more and waits for its guests to leave, who never do: tell it
    not to wait."""
    process = postmaster(folder)
    with suppress(OSError, IndexError):
        status = (folder / "postmaster.pid").read_text().splitlines()[STATUS_LINE].strip()
        if process is not None and status == "stopping":
            os.kill(process, signal.SIGINT)


def forget_the_dead(folder: Path) -> None:
    """Take away what a server left behind that did not end in peace, or that came with a copy. Where one of its
    processes still runs, it is ended first: it would write beside the next server."""
    if postmaster(folder) is None:
        for process in (int(name) for name in os.listdir("/proc") if name.isdigit()):
            with suppress(ProcessLookupError, PermissionError):
                if _works_in(process, folder):
                    os.kill(process, signal.SIGQUIT)
        (folder / "postmaster.pid").unlink(missing_ok=True)


def heal_a_copy(folder: Path) -> None:
    """Make the empty folders that a copy left out, and close the folder to others, as the server wants it."""
    for name in EMPTY_AT_REST:
        (folder / name).mkdir(mode=0o700, parents=True, exist_ok=True)
    folder.chmod(0o700)


def _works_in(process: int, folder: Path) -> bool:
    """Whether a process is one of a server's on this folder: they all work in it, and nobody else does. Raises
    PermissionError where that is not to be seen."""
    with suppress(FileNotFoundError, ProcessLookupError):
        return os.readlink(f"/proc/{process}/cwd") == str(folder.resolve()) and _is_a_server(process)
    return False


def _is_a_server(process: int) -> bool:
    with suppress(OSError):
        return Path(f"/proc/{process}/comm").read_text().strip() == "postgres"
    return False
