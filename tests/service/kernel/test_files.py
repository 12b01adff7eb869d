"""Files by their digest: whole on the disk or not there, and checked when they are read."""

from concurrent.futures import ThreadPoolExecutor

import pytest
from sqlalchemy.orm import Session

from elvarn.service.kernel import files
from elvarn.service.kernel.errors import Invalid, NotFound
from elvarn.service.kernel.files import FileStore

CONTENT = b"n,M\n2000,150\n"


@pytest.fixture
def store(tmp_path):
    return FileStore(tmp_path)


def kept(engine, store, content=CONTENT):
    with Session(engine) as session, session.begin():
        return store.keep(session, "pull.csv", content)


def on_disk(store):
    return sorted(path for path in store.folder.rglob("*") if path.is_file())


def test_the_same_content_is_kept_once(engine, store):
    assert kept(engine, store) == kept(engine, store)
    assert [path.read_bytes() for path in on_disk(store)] == [CONTENT]


def test_a_file_that_a_power_cut_left_empty_is_written_again(engine, store):
    digest = kept(engine, store)
    on_disk(store)[0].write_bytes(b"")
    assert kept(engine, store) == digest
    assert store.read(digest) == CONTENT


def test_a_damaged_file_is_told_and_not_handed_out(engine, store):
    digest = kept(engine, store)
    on_disk(store)[0].write_bytes(CONTENT.replace(b"150", b"250"))
    with pytest.raises(NotFound, match="damaged"):
        store.read(digest)


def test_a_full_disk_leaves_nothing_behind(engine, store, monkeypatch):
    def full(_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(files.os, "fsync", full)
    with pytest.raises(OSError, match="space"):
        kept(engine, store)
    assert on_disk(store) == []


def test_equal_files_at_once_do_not_meet(store):
    path = store.folder / "ab" / "abc"
    with ThreadPoolExecutor(8) as several:
        list(several.map(lambda _: files._write(path, CONTENT), range(16)))
    assert on_disk(store) == [path]
    assert path.read_bytes() == CONTENT


@pytest.mark.parametrize("digest", ["../../etc/passwd", "f" * 64, "", "g" * 64, "\0"])
def test_what_is_no_digest_is_not_here(store, digest):
    with pytest.raises(NotFound):
        store.read(digest)


def test_nothing_is_no_file(engine, store):
    with pytest.raises(Invalid, match="empty"):
        kept(engine, store, b"")
