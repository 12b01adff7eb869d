"""A disk that takes no more: it is said so, nothing kept is lost, and what waits is kept once there is room."""

import os
import resource
import subprocess
import time
from contextlib import closing, contextmanager, suppress
from io import BytesIO
from pathlib import Path
from urllib.parse import urlsplit

import pytest
from PIL import Image

from dev.asking import Asking, get, put
from dev.kills import kept, make_job
from dev.trial import TrialServer, running
from tests.shop import new_id

ROOT = Path(__file__).resolve().parents[2]
ROOT_ONLY = pytest.mark.skipif(os.geteuid() != 0, reason="only root makes disks; others limit the size of a file")
DISK_MB = 110
LARGEST_OF_THE_DATABASE = 17 * 1024**2  # bytes; a piece of its log has 16 MB


@contextmanager
def disk(folder, size):
    """A disk of this size at a folder."""
    subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={size},mode=755", "tmpfs", str(folder)], check=True)
    try:
        yield
    finally:
        subprocess.run(["umount", "-l", str(folder)], check=True)


def asked(url, method, path, body, kind="application/json"):
    """Status and body of an answer, whatever it is."""
    with closing(Asking(urlsplit(url).port, url.key)) as connection:
        connection.request(method, f"/api{path}", body, {"content-type": kind})
        answer = connection.getresponse()
        return answer.status, answer.read().decode()


def picture(side):
    """A picture of so many dots a side, and about as many bytes as dots."""
    out = BytesIO()
    Image.new("L", (side, side)).save(out, "PNG", compress_level=0)
    return out.getvalue()


def fill(path):
    """Write until the disk takes no more."""
    with path.open("wb", buffering=0) as file, suppress(OSError):
        while file.write(b"\0" * 4096):
            pass


@ROOT_ONLY
def test_a_full_disk_is_told_and_takes_nothing_along(folder):
    with disk(folder, f"{DISK_MB}m"), running(ROOT, folder / "data", "--empty") as url:
        base = make_job(url)
        acknowledged, refused = [], []
        for number in range(4000):
            identifier = new_id()
            body = {**base, "cylinder": 1, "typed": f"{200 + number / 1000:.3f}", "taken_at": "2026-03-02T09:00:00Z"}
            if number == 50:
                fill(folder / "ballast")
                status, said = asked(url, "POST", "/pictures?name=a.png", picture(600), "image/png")
                assert status == 507
                assert "Make room" in said
            try:
                put(url, f"/flow-readings/{identifier}", body)
                acknowledged.append(identifier)
            except OSError as error:
                refused.append((identifier, body, getattr(error, "code", None)))
                break
        assert len(acknowledged) > 50
        assert [code for _, _, code in refused] == [507]
        (folder / "ballast").unlink()
        identifier, body, _ = refused[0]
        until = time.monotonic() + 40
        while time.monotonic() < until:
            try:
                put(url, f"/flow-readings/{identifier}", body)
                break
            except OSError:
                time.sleep(0.2)
        assert kept(url, base["job_id"]) == [*acknowledged, identifier]


@ROOT_ONLY
def test_a_folder_that_can_only_be_read_is_named(folder):
    with disk(folder, "20m"):
        subprocess.run(["mount", "-o", "remount,ro", str(folder)], check=True)
        with pytest.raises(RuntimeError, match=r"data folder .*can't be used: Read-only file system"):
            TrialServer(ROOT, folder / "data", "--empty").start()


def test_a_file_that_the_machine_does_not_take_is_told(folder):
    """As an ordinary user may try it: the size of a file is limited."""
    unlimited = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (LARGEST_OF_THE_DATABASE, unlimited[1]))
    try:
        started = TrialServer(ROOT, folder / "data", "--empty")
        url = started.start()
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, unlimited)
    status, said = asked(url, "POST", "/pictures?name=a.png", picture(4300), "image/png")
    assert status == 507
    assert "Make room" in said
    assert [path for path in (folder / "data" / "files").rglob("*") if path.is_file()] == []
    assert get(url, "/board")["count"] == 0
    assert started.stop() == 0
