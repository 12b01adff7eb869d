"""Files in the data folder, by the digest of their content."""

import hashlib
import os
import re
from pathlib import Path
from tempfile import NamedTemporaryFile

from sqlalchemy.orm import Session

from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.store.models import StoredFile

LARGEST_FILE = 20 * 1024 * 1024


def is_digest(text: str) -> bool:
    """Whether a text is a digest as files are named by."""
    return re.fullmatch(r"[0-9a-f]{64}", text) is not None


class FileStore:
    """Content by digest below one folder; the same content is kept once."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def keep(self, session: Session, name: str, content: bytes) -> str:
        """Keep a file on disk, then in the database. Returns its digest. Raises Invalid for an empty or huge one."""
        if not content:
            raise Invalid(f"'{name}' is empty. Choose it again.", path="file")
        if len(content) > LARGEST_FILE:
            raise Invalid(f"'{name}' is over 20 MB. Send a smaller one.", path="file")
        digest = hashlib.sha256(content).hexdigest()
        path = self._path(digest)
        if not _holds(path, content):
            _write(path, content)
        if session.get(StoredFile, digest) is None:
            session.add(StoredFile(digest=digest, name=name, size_bytes=len(content)))
            session.flush()
        return digest

    def read(self, digest: str) -> bytes:
        """The content of a kept file. Raises NotFound."""
        if not is_digest(digest) or not self._path(digest).exists():
            raise NotFound("That file is not kept here. Drop it again.")
        content = self._path(digest).read_bytes()
        if hashlib.sha256(content).hexdigest() != digest:
            raise NotFound("That file was damaged on the disk. Drop it again, or take it from a copy of the folder.")
        return content

    def _path(self, digest: str) -> Path:
        return self.folder / digest[:2] / digest


def _holds(path: Path, content: bytes) -> bool:
    """Whether a file is there whole: a power cut may have left an empty one."""
    return path.exists() and path.stat().st_size == len(content) and path.read_bytes() == content


def _write(path: Path, content: bytes) -> None:
    """On the disk before it has its name; what does not fit leaves nothing behind."""
    path.parent.mkdir(parents=True, exist_ok=True)
    with NamedTemporaryFile(dir=path.parent, suffix=".part", delete=False) as partial:
        try:
            partial.write(content)
            partial.flush()
            os.fsync(partial.fileno())
            Path(partial.name).replace(path)
        except OSError:
            Path(partial.name).unlink(missing_ok=True)
            raise
    folder = os.open(path.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)
