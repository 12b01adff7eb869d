"""A folder into which a dyno's program writes its files: what is new in it is offered on every dyno screen."""

import hashlib
import os
import time
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from threading import Lock

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.dyno.pulls import PullPreview, preview
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.service.kernel.files import LARGEST_FILE, FileStore
from elvarn.service.shop.stored import store
from elvarn.store import queries
from elvarn.store.models import Setting

ENDINGS = (".csv", ".tsv", ".txt", ".xlsx")
STEADY_S = 1.5  # a file that was written to within may not be whole yet
MOST_FILES = 200  # of the latest that are looked at
LEFT = "watched_left"  # the setting that names those which were left out
MOST_LEFT = 2000


@dataclass(frozen=True)
class WatchedFile:
    """A file in the folder: its content's digest, its name, and when it was written last."""

    digest: str
    name: str
    written_at: datetime


@dataclass(frozen=True)
class WatchedView:
    """The folder, why it can't be read where that is so, and the files in it that are neither kept nor left out, the
    oldest first."""

    folder: str
    problem: str
    files: list[WatchedFile]


@given
class LeftOut:
    """A file that is left out for good."""

    digest: str


class WatchedFolder:
    """One folder, read when it is asked for; a file's digest is worked out once for each time that it was written."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._digests: dict[tuple[str, int, int], str] = {}
        self._lock = Lock()

    def files(self) -> list[WatchedFile]:
        """The whole files of a kind that may be a dyno's, directly in the folder. Raises OSError where it can't be
        read."""
        with self._lock, os.scandir(self.folder) as entries:
            found = sorted(self._whole(entries), key=lambda one: one[1].st_mtime)[-MOST_FILES:]
            digests = {(path.name, s.st_mtime_ns, s.st_size): self._digest(path, s) for path, s in found}
            self._digests = {key: digest for key, digest in digests.items() if digest}
            return [
                WatchedFile(digest, path.name, datetime.fromtimestamp(status.st_mtime, UTC))
                for (path, status), digest in zip(found, digests.values(), strict=True)
                if digest
            ]

    def read(self, digest: str) -> tuple[str, bytes]:
        """Name and content of a file in the folder. Raises NotFound where it has gone, or was written to meanwhile."""
        for one in self.files():
            if one.digest == digest:
                content = (self.folder / one.name).read_bytes()
                if hashlib.sha256(content).hexdigest() == digest:
                    return one.name, content
        raise NotFound("That file has gone from the folder, or was written to again. Look again.")

    def _whole(self, entries: Iterator["os.DirEntry[str]"]) -> Iterator[tuple[Path, os.stat_result]]:
        for entry in entries:
            if not entry.name.lower().endswith(ENDINGS) or not entry.is_file(follow_symlinks=False):
                continue
            status = entry.stat(follow_symlinks=False)
            if 0 < status.st_size <= LARGEST_FILE and time.time() - status.st_mtime >= STEADY_S:
                yield Path(entry.path), status

    def _digest(self, path: Path, status: os.stat_result) -> str:
        known = self._digests.get((path.name, status.st_mtime_ns, status.st_size))
        if known:
            return known
        try:
            return hashlib.sha256(path.read_bytes()).hexdigest()
        except OSError:
            return ""


def watched(session: Session, folder: WatchedFolder | None) -> WatchedView | None:
    """What is new in the watched folder; None where none is watched."""
    if folder is None:
        return None
    try:
        every = folder.files()
    except OSError as error:
        problem = f"{folder.folder} can't be read: {error.strerror}. Make it readable for who runs Elvarn."
        return WatchedView(str(folder.folder), problem, [])
    known = queries.files_that_were_read(session, [one.digest for one in every]) | set(_left(session))
    new = {one.digest: one for one in every if one.digest not in known}
    return WatchedView(str(folder.folder), "", list(new.values()))


def look_at(session: Session, folder: WatchedFolder | None, files: FileStore, run: Run, digest: str) -> PullPreview:
    """A file of the folder as a dropped one is looked at. Raises NotFound where it has gone."""
    if folder is None:
        raise NotFound("No folder is watched. Start Elvarn with --watch and a folder.")
    name, content = folder.read(digest)
    return preview(session, files, run, name, content)


def leave_out(session: Session, left: LeftOut) -> None:
    """Leave a file of the folder out; it stays where it is."""
    if len(left.digest) != 64:
        raise Invalid("That is no file's digest.", path="digest")
    row = session.get(Setting, LEFT)
    digests = [*(one for one in _left(session) if one != left.digest), left.digest][-MOST_LEFT:]
    store(session, LEFT, "watched folder", row.version if row else 0, {"digests": digests})


def _left(session: Session) -> list[str]:
    row = session.get(Setting, LEFT)
    return [str(one) for one in row.value.get("digests", [])] if row else []
