"""The doctor: what is well is said to be so, and what is not comes with what to do."""

import hashlib
import os
import shutil
import time
from types import SimpleNamespace

import pytest

from elvarn.host import doctor
from elvarn.host.doctor import examine
from elvarn.host.postmaster import release_of

NOBODY = "0" * 64
RDONLY = {"f_flag": os.ST_RDONLY, "f_files": 9, "f_favail": 9, "f_frsize": 4096, "f_blocks": 10**7, "f_bfree": 10**7,
          "f_bavail": 10**7}  # fmt: skip


@pytest.fixture
def data(tmp_path):
    """A data folder as it looks at rest."""
    release = max(path.name for path in doctor.RELEASES.iterdir())
    for name in ("postgres", "files/ab", "copies"):
        (tmp_path / "data" / name).mkdir(parents=True)
    (tmp_path / "data" / "postgres" / "PG_VERSION").write_text(f"{release}\n")
    (tmp_path / "data" / "copies" / "elvarn-2026-03-02-040000.zip").write_bytes(b"")
    content = b"rpm,Nm\n"
    (tmp_path / "data" / "files" / "ab" / hashlib.sha256(content).hexdigest()).write_bytes(content)
    (tmp_path / "data").chmod(0o700)
    return tmp_path / "data"


@pytest.fixture
def root(tmp_path):
    """A program that is set up."""
    for name in ("build/fonts/a.ttf", "web/dist/assets/a.woff2"):
        (tmp_path / "root" / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / "root" / name).write_bytes(b"")
    return tmp_path / "root"


@pytest.fixture(autouse=True)
def set_up(monkeypatch):
    monkeypatch.setattr(doctor.bootstrap, "wanted_packages", lambda _: [("postgresql", True)])
    monkeypatch.setattr(doctor.bootstrap, "made", lambda _: [("pages", True)])


@pytest.fixture
def said(root, data, capsys):
    """What is said after something was done to it: its code, and the lines that are not good."""

    def ask():
        code = examine(root, data)
        lines = capsys.readouterr().out.splitlines()
        return code, [line for line in lines if not line.startswith("good")]

    return ask


def test_what_is_well_is_good_all_over(said):
    assert said() == (0, [])


def test_a_folder_that_is_not_there_yet_is_no_harm(root, tmp_path, capsys):
    assert examine(root, tmp_path / "nowhere") == 0
    assert "the first start makes it" in capsys.readouterr().out


def test_a_set_up_that_is_not_done(said, monkeypatch):
    monkeypatch.setattr(doctor.bootstrap, "wanted_packages", lambda _: [("postgresql", False)])
    monkeypatch.setattr(doctor.bootstrap, "made", lambda _: [("pages", False)])
    code, lines = said()
    assert code == 1
    assert "apt-get install postgresql" in "\n".join(lines)
    assert "pages" in "\n".join(lines)


def test_a_folder_of_another_release(said, data):
    (data / "postgres" / "PG_VERSION").write_text("9.6\n")
    code, lines = said()
    assert (code, release_of(data / "postgres")) == (1, "9.6")
    assert "was made by PostgreSQL 9.6" in lines[0]
    assert "backup" in lines[1]


def test_a_file_that_is_damaged(said, data):
    (data / "files" / "ab" / NOBODY).write_bytes(b"something else")
    code, lines = said()
    assert code == 1
    assert "1 of 2 files are damaged" in lines[0]


def test_a_folder_that_others_may_read(said, data):
    data.chmod(0o755)
    code, lines = said()
    assert code == 0
    assert "mode 755" in lines[0]


@pytest.mark.parametrize(("free", "word", "code"), [(5_000_000, "harm", 1), (500_000_000, "doubt", 0)])
def test_a_disk_with_little_room(said, monkeypatch, free, word, code):
    monkeypatch.setattr(shutil, "disk_usage", lambda _: SimpleNamespace(free=free))
    found, lines = said()
    assert found == code
    assert lines[0].startswith(word)
    assert "Make room" in lines[1]


def test_a_disk_that_can_only_be_read(said, monkeypatch):
    monkeypatch.setattr(os, "statvfs", lambda _: SimpleNamespace(**RDONLY))
    code, lines = said()
    assert code == 1
    assert "only be read" in lines[0]


def test_fonts_that_are_missing(said, root):
    shutil.rmtree(root / "build")
    assert "none for paper" in said()[1][0]


def test_a_copy_that_is_old(said, data, monkeypatch):
    a_week = time.time() + 7 * 24 * 3600
    monkeypatch.setattr(doctor.time, "time", lambda: a_week)
    assert "elvarn-2026-03-02-040000.zip" in said()[1][0]
    shutil.rmtree(data / "copies")
    assert "no daily copy" in said()[1][0]


def test_a_clock_that_was_lost(said, monkeypatch):
    monkeypatch.setattr(doctor.time, "time", lambda: 0.0)
    code, lines = said()
    assert code == 1
    assert "Set the clock" in lines[1]


def test_what_is_somebody_elses_is_told_and_the_rest_goes_on(root, data, capsys, monkeypatch):
    def closed(_, __):
        raise PermissionError(13, "Permission denied", str(data))
        yield

    monkeypatch.setattr(doctor, "LOOKS", (closed, doctor.fonts))
    assert examine(root, data) == 0
    told = capsys.readouterr().out
    assert f"{data} is not yours to look at" in told
    assert "for paper" in told
