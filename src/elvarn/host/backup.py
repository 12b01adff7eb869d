"""A copy of all that a shop keeps, in one archive: the database as it stood at one moment, every file, and a list of
both with their digests. It is made while Elvarn runs, and read back into an empty folder."""

import hashlib
import json
import os
import shutil
import subprocess
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from typing import IO, Any

from sqlalchemy import Connection, text

from elvarn import __version__
from elvarn.host.alone import TakenError, alone
from elvarn.host.cluster import DATABASE, Cluster, secret_in
from elvarn.host.user import close_to_others
from elvarn.service.kernel.files import is_digest
from elvarn.store.engine import open_engine
from elvarn.store.migrate import known_schemas, migrate
from elvarn.store.roles import OWNER

FORMAT = "elvarn-backup-1"
LIST, DUMP, FILES = "elvarn-backup.json", "database.dump", "files"
COUNTED = {"job": "jobs", "reading": "readings", "part": "parts", "stored_file": "files"}
PIECE = 1024 * 1024
LARGEST_LIST = 100_000_000  # bytes


class BackupError(RuntimeError):
    """A copy can't be made or read back; the message says why and what to do."""


@dataclass(frozen=True)
class Member:
    """One file of an archive."""

    size_bytes: int
    sha256: str


@dataclass(frozen=True)
class Contents:
    """What an archive holds. `damaged` are files that the database names and that were not whole on the disk."""

    made_at: str
    elvarn: str
    schema: str
    postgresql: str
    counts: dict[str, int]
    members: dict[str, Member]
    damaged: list[str] = field(default_factory=list)
    format: str = FORMAT

    def words(self) -> str:
        """How much of what there is."""
        counted = [f"{self.counts.get(table, 0)} {word}" for table, word in COUNTED.items()]
        return f"{', '.join(counted[:-1])} and {counted[-1]}"


def backup(data: Path, target: Path) -> Contents:
    """Copy what is kept in a data folder into a new archive, whether Elvarn runs on it or not. Raises BackupError."""
    if not (data / "postgres").exists():
        raise BackupError(f"{data} is no data folder of Elvarn: there is nothing to copy. Name it with --data.")
    if target.exists():
        raise BackupError(f"{target} exists already. Choose another name; a copy never takes another's place.")
    with _running(Cluster(data)) as cluster:
        return copy_of(cluster, target)


def copy_of(cluster: Cluster, target: Path) -> Contents:
    """Copy a running database and its files into a new archive, which has its name once it is whole. Raises
    BackupError."""
    partial = target.with_name(f".{target.name}.part")
    try:
        with partial.open("wb") as out:
            with zipfile.ZipFile(out, "w") as archive:
                contents = _written(cluster, archive, target.parent)
            out.flush()
            os.fsync(out.fileno())
        partial.replace(target)
    except OSError as error:
        raise BackupError(
            f"{target} can't be written: {error.strerror}. Make room, or choose another place."
        ) from error
    finally:
        partial.unlink(missing_ok=True)
    return contents


def restore(source: Path, data: Path) -> Contents:
    """Read an archive back into an empty or new data folder. Raises BackupError, and then leaves the folder empty."""
    if data.exists() and any(data.iterdir()):
        raise BackupError(f"{data} is not empty. A copy is read back into a new folder: name one with --data.")
    with _opened(source) as archive:
        contents = checked(archive)
        data.mkdir(parents=True, exist_ok=True)
        try:
            _read_back(archive, contents, data)
        except BaseException:
            for path in data.iterdir():
                shutil.rmtree(path) if path.is_dir() else path.unlink()
            raise
    return contents


def checked(archive: zipfile.ZipFile) -> Contents:
    """What an archive holds, once every digest was found right. Raises BackupError."""
    contents = _contents(archive)
    if contents.schema not in known_schemas():
        raise BackupError(
            f"This copy was made by a newer Elvarn ({contents.elvarn}). Update this one first, then read it back."
        )
    if DUMP not in contents.members:
        raise BackupError("This copy is damaged: its list names no database. Take another copy.")
    for name, member in contents.members.items():
        try:
            with archive.open(name) as stored:
                digest = _digest(stored)
        except (KeyError, zipfile.BadZipFile, OSError, EOFError, ValueError) as error:
            raise BackupError(f"This copy is damaged: {name} can't be read. Take another copy.") from error
        if digest != member.sha256 or (name != DUMP and not _is_file(name)):
            raise BackupError(f"This copy is damaged: {name} is not what it was. Take another copy.")
    return contents


def _written(cluster: Cluster, archive: zipfile.ZipFile, beside: Path) -> Contents:
    members, damaged = {}, []
    with _snapshot(cluster) as connection:
        counts, schema = _counts(connection), connection.scalar(text("select version_num from alembic_version"))
        named = connection.scalars(text("select digest from stored_file order by digest")).all()
        options = ["--format=custom", "--no-owner", "--no-privileges"]
        moment = connection.scalar(text("select pg_export_snapshot()"))
        with tempfile.NamedTemporaryFile(dir=beside, prefix=".elvarn-", suffix=".dump") as dump:
            _postgres(cluster, "pg_dump", *options, "--snapshot", moment, "--file", dump.name)
            members[DUMP] = _add(archive, DUMP, Path(dump.name))
    for digest in named:
        path = cluster.data / FILES / digest[:2] / digest
        name = f"{FILES}/{digest[:2]}/{digest}"
        if path.exists() and _digest_of(path) == digest:
            members[name] = _add(archive, name, path)
        else:
            damaged.append(digest)
    made_at, release = datetime.now(UTC).isoformat(timespec="seconds"), cluster.binaries.parent.name
    contents = Contents(made_at, __version__, schema, release, counts, members, damaged)
    archive.writestr(LIST, json.dumps(asdict(contents), indent=1))
    return contents


def _read_back(archive: zipfile.ZipFile, contents: Contents, data: Path) -> None:
    for name in contents.members:
        if name != DUMP:
            path = data / name
            path.parent.mkdir(parents=True, exist_ok=True)
            with archive.open(name) as stored, path.open("wb") as written:
                shutil.copyfileobj(stored, written, PIECE)
                written.flush()
                os.fsync(written.fileno())
    with _running(Cluster(data)) as cluster, tempfile.NamedTemporaryFile(suffix=".dump") as dump:
        with archive.open(DUMP) as stored:
            shutil.copyfileobj(stored, dump, PIECE)
        dump.flush()
        options = ["--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction"]
        _postgres(cluster, "pg_restore", *options, "--dbname", DATABASE, dump.name)
        owner = open_engine(cluster.owner_url)
        try:
            migrate(owner)
        finally:
            owner.dispose()


def _postgres(cluster: Cluster, program: str, *arguments: str) -> None:
    """Run one of the database's programs against the running server. Raises BackupError."""
    environment = {
        **os.environ, "PGHOST": "127.0.0.1", "PGPORT": str(cluster.port), "PGUSER": OWNER, "PGDATABASE": DATABASE,
        "PGPASSWORD": secret_in(cluster.owner_secret),
    }  # fmt: skip
    command = [str(cluster.binaries / program), *arguments]
    done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
    if done.returncode:
        raise BackupError(f"{program} ended with {done.returncode}: {done.stderr.strip()[-600:]}")


@contextmanager
def _running(cluster: Cluster) -> Iterator[Cluster]:
    """The cluster with its server: Elvarn's own where it runs, or one that is started for this."""
    try:
        with alone(cluster.data) as say_where:
            say_where("a copy being made or read back")
            close_to_others(cluster.data)
            cluster.start()
            try:
                yield cluster
            finally:
                cluster.stop()
    except TakenError:
        if not cluster.answers():
            raise BackupError("Elvarn is just starting or stopping. Try again in a moment.") from None
        yield cluster


@contextmanager
def _opened(source: Path) -> Iterator[zipfile.ZipFile]:
    try:
        with zipfile.ZipFile(source) as archive:
            yield archive
    except FileNotFoundError as error:
        raise BackupError(f"There is no {source}.") from error
    except zipfile.BadZipFile as error:
        raise BackupError(f"{source} is no copy of Elvarn's, or breaks off. Take another copy.") from error


def _contents(archive: zipfile.ZipFile) -> Contents:
    try:
        if archive.getinfo(LIST).file_size > LARGEST_LIST:
            raise ValueError(LIST)
        found: dict[str, Any] = json.loads(archive.read(LIST))
        form = str(found["format"])
        if form == FORMAT:
            return Contents(**{**found, "members": {name: Member(**one) for name, one in found["members"].items()}})
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise BackupError("This archive is no copy of Elvarn's: its list is missing or can't be read.") from error
    raise BackupError(f"This copy is written as {form}; here {FORMAT} is read. Update Elvarn, then read it back.")


def _add(archive: zipfile.ZipFile, name: str, path: Path) -> Member:
    archive.write(path, name, zipfile.ZIP_STORED)  # the dump is packed already, and so are pictures
    return Member(path.stat().st_size, _digest_of(path))


def _is_file(name: str) -> bool:
    parts = name.split("/")
    return len(parts) == 3 and parts[0] == FILES and is_digest(parts[2]) and parts[2].startswith(parts[1])


def _digest_of(path: Path) -> str:
    with path.open("rb") as file:
        return _digest(file)


def _digest(file: IO[bytes]) -> str:
    digest = hashlib.sha256()
    read: Callable[[], bytes] = lambda: file.read(PIECE)  # noqa: E731
    for piece in iter(read, b""):
        digest.update(piece)
    return digest.hexdigest()


@contextmanager
def _snapshot(cluster: Cluster) -> Iterator[Connection]:
    """A connection that sees the database as it stands now, however long it looks."""
    engine = open_engine(cluster.owner_url)
    try:
        with engine.connect() as connection:
            yield connection.execution_options(isolation_level="REPEATABLE READ")
    finally:
        engine.dispose()


def _counts(connection: Connection) -> dict[str, int]:
    return {table: connection.scalar(text(f"select count(*) from {table}")) or 0 for table in COUNTED}
