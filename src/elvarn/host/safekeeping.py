"""Copies of all that is kept: by hand, and every day while Elvarn runs."""

import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from datetime import UTC, datetime, timedelta
from pathlib import Path

from sqlalchemy import Engine
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from elvarn.host.backup import BackupError, Contents, backup, copy_of, restore
from elvarn.host.cluster import Cluster, ClusterError
from elvarn.host.user import default_data_folder
from elvarn.service.shop.safekeeping import KEPT_DAYS, LastCopy, note_copy, safekeeping
from elvarn.store.engine import open_engine

OWN_FOLDER = "copies"
NAMED = "elvarn-%Y-%m-%d-%H%M%S.zip"  # in the time of the place
FIRST_S, GLANCE_S = 120.0, 600.0  # after a start, and between looks whether one is due
DAY = timedelta(hours=22)  # the same time of the day, whenever the machine was switched on


def backup_by_hand(root: Path, data: Path | None, target: Path) -> None:
    """Copy a data folder, and say what is in the copy. Ends with 1 where it can't be."""
    contents = _or_fail(lambda: backup(_folder(root, data), target))
    print(f"{contents.words()} are in {target} ({target.stat().st_size / 1e6:.1f} MB).")
    if contents.damaged:
        count = len(contents.damaged)
        print(f"Not in it: {count} files that are damaged or gone from the disk. An older copy may have them.")


def restore_by_hand(root: Path, data: Path | None, source: Path) -> None:
    """Read a copy back, and say what is there now. Ends with 1 where it can't be."""
    folder = _folder(root, data)
    contents = _or_fail(lambda: restore(source, folder))
    print(f"{contents.words()} of {contents.made_at} are back. Start it: ./elvarn start --data {folder}")


@contextmanager
def daily(cluster: Cluster) -> Iterator[None]:
    """Make a copy every day within this, as the shop set it."""
    over = threading.Event()
    keeping = threading.Thread(target=_keep, args=(cluster, over), name="daily copy", daemon=True)
    keeping.start()
    try:
        yield
    finally:
        over.set()


def keep_one(cluster: Cluster, engine: Engine, now: datetime) -> None:
    """Make a copy where one is due, note how it went, and let go of those that are older than a week."""
    with Session(engine) as session:
        found = safekeeping(session)
    last = found.last
    if not found.settings.daily or (last.made_at and now - last.made_at < DAY):
        return
    folder = Path(found.settings.folder) if found.settings.folder else cluster.data / OWN_FOLDER
    target = folder / f"{now.astimezone():{NAMED}}"
    try:
        if not found.settings.folder:
            folder.mkdir(exist_ok=True)
        copy_of(cluster, target)
        last = LastCopy(now, target.stat().st_size, "")
        _let_go(folder, now)
    except (BackupError, OSError) as error:
        last = LastCopy(last.made_at, last.size_bytes, str(error))
    with Session(engine) as session, session.begin():
        note_copy(session, last)


def _keep(cluster: Cluster, over: threading.Event) -> None:
    wait = FIRST_S
    while not over.wait(wait):
        wait = GLANCE_S
        try:
            engine = open_engine(cluster.url)
            try:
                keep_one(cluster, engine, datetime.now(UTC))
            finally:
                engine.dispose()
        except (SQLAlchemyError, OSError, ValueError, IndexError) as error:  # the database is away: later
            print(f"The daily copy has to wait: {type(error).__name__}", file=sys.stderr, flush=True)


def _let_go(folder: Path, now: datetime) -> None:
    """Take away the daily copies that are older than a week; what is called otherwise is not ours."""
    for old in folder.iterdir():
        with suppress(ValueError):
            if datetime.strptime(old.name, NAMED).astimezone() < now - timedelta(days=KEPT_DAYS):
                old.unlink()


def _folder(root: Path, data: Path | None) -> Path:
    return (data or default_data_folder(root)).resolve()


def _or_fail(work: Callable[[], Contents]) -> Contents:
    try:
        return work()
    except (BackupError, ClusterError, OSError) as error:
        print(f"elvarn: {error}", file=sys.stderr)
        raise SystemExit(1) from error
