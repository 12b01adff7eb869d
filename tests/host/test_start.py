"""Starting, stopping and being killed: nothing that was acknowledged is lost, and nothing is there twice."""

import json
import os
import signal
import socket
import threading
from pathlib import Path
from tempfile import TemporaryDirectory
from urllib.error import HTTPError, URLError
from urllib.request import Request, urlopen
from uuid import uuid4

import pytest

from dev.trial import TrialServer, running
from elvarn.host.cluster import ClusterError, find_binaries, free_port

ROOT = Path(__file__).resolve().parents[2]
CAPTURES = 200
RUNNERS = 16


@pytest.fixture
def folder():
    with TemporaryDirectory(prefix="elvarn-start-") as name:
        path = Path(name)
        path.chmod(0o755)
        yield path


def put(url, path, body):
    headers = {"content-type": "application/json"}
    with urlopen(Request(f"{url}/api{path}", json.dumps(body).encode(), headers, method="PUT"), timeout=10) as answer:
        return json.load(answer)


def get(url, path):
    with urlopen(f"{url}/api{path}", timeout=10) as answer:
        return json.load(answer)


def postmaster(folder):
    return int((folder / "postgres" / "postmaster.pid").read_text().splitlines()[0])


def make_job(url):
    """Person, bench, job and set-up; what a capture needs."""
    person, bench, job, setup = (str(uuid4()) for _ in range(4))
    put(url, f"/people/{person}", {"name": "Tester"})
    put(url, f"/benches/{bench}", {"name": "Bench"})
    put(url, f"/jobs/{job}", {"person_id": person, "kind": "port_by_post", "part": "M", "runner_count": RUNNERS})
    put(url, f"/setups/{setup}", {"person_id": person, "job_id": job, "bench_id": bench, "depression": "28"})
    state = get(url, f"/jobs/{job}/bench")["before_state_id"]
    return {"person_id": person, "job_id": job, "setup_id": setup, "part_state_id": state, "accepted": ["already_read"]}


class Capturing(threading.Thread):
    """Sends captures one after the other, as the browser's outbox does: where none answers, the same one again once the
    server is back."""

    def __init__(self, server, base):
        super().__init__()
        self.server, self.base = server, base
        self.acknowledged = []
        self.progress = threading.Condition()
        self.back = threading.Event()

    def run(self):
        for number in range(CAPTURES):
            identifier = str(uuid4())
            body = {**self.base, "cylinder": number % RUNNERS + 1, "typed": f"{200 + number / 100:.2f}",
                    "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
            while not self.sent(identifier, body):
                assert self.back.wait(60)
            with self.progress:
                self.acknowledged.append(identifier)
                self.progress.notify_all()

    def sent(self, identifier, body):
        try:
            put(self.server.url, f"/flow-readings/{identifier}", body)
        except HTTPError as error:
            error.close()
            if error.code < 500:
                raise
            return False
        except (URLError, OSError):
            return False
        return True

    def wait_for(self, count):
        with self.progress:
            assert self.progress.wait_for(lambda: len(self.acknowledged) >= count, timeout=60)
            return list(self.acknowledged)


def kept(url, job):
    rungs = get(url, f"/jobs/{job}/bench")["rungs"]
    return [reading["id"] for rung in rungs for reading in rung["before"]["readings"]]


def test_every_acknowledged_reading_is_there_once_after_server_and_database_were_killed(folder):
    server = TrialServer(ROOT, folder, "--empty")
    base = make_job(server.start())
    capturing = Capturing(server, base)
    capturing.start()
    for count, with_database in ((50, False), (120, True)):
        acknowledged = capturing.wait_for(count)
        capturing.back.clear()
        if with_database:
            os.kill(postmaster(folder), signal.SIGKILL)
        server.stop(signal.SIGKILL)
        url = server.start()
        capturing.back.set()
        assert set(acknowledged) <= set(kept(url, base["job_id"]))
    capturing.wait_for(CAPTURES)
    capturing.join()
    found = kept(server.url, base["job_id"])
    assert server.stop() == 0
    assert len(found) == len(set(found)) == CAPTURES
    assert set(found) == set(capturing.acknowledged)


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGINT])
def test_a_signal_stops_server_and_database_cleanly(folder, number):
    server = TrialServer(ROOT, folder, "--empty")
    server.start()
    port = int((folder / "postgres" / "postmaster.pid").read_text().splitlines()[3])
    assert server.stop(number) == 0
    assert not (folder / "postgres" / "postmaster.pid").exists()
    with pytest.raises(ConnectionRefusedError):
        socket.create_connection(("127.0.0.1", port))


def test_the_demo_is_the_same_at_every_first_start_and_filled_once(folder):
    def ids(url):
        return [
            (job["id"], job["next"], job["gain"]) for column in get(url, "/board")["columns"] for job in column["jobs"]
        ]

    with running(ROOT, folder / "one") as url:
        first = ids(url)
    with running(ROOT, folder / "one") as url:
        assert ids(url) == first
    with running(ROOT, folder / "two") as url:
        assert ids(url) == first
    assert len(first) == 3


def test_an_empty_start_is_empty_and_asks_who_is_there(folder):
    with running(ROOT, folder, "--empty") as url:
        assert get(url, "/shop")["people"] == []
        assert get(url, "/board")["count"] == 0


def test_a_second_server_on_the_folder_is_refused(folder):
    with running(ROOT, folder, "--empty"), pytest.raises(RuntimeError, match="already runs on"):
        TrialServer(ROOT, folder, "--empty").start()


def test_a_taken_port_is_named(folder, monkeypatch):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", free_port()))
        monkeypatch.setattr("dev.trial.free_port", lambda: taken.getsockname()[1])
        with pytest.raises(RuntimeError, match=rf"Port {taken.getsockname()[1]} is taken"):
            TrialServer(ROOT, folder, "--empty").start()


def test_the_database_asks_for_its_password_and_listens_on_loopback_only(folder):
    import psycopg

    with running(ROOT, folder, "--empty"):
        lines = (folder / "postgres" / "postmaster.pid").read_text().splitlines()
        assert lines[5].strip() == "127.0.0.1"
        with pytest.raises(psycopg.OperationalError, match="password"):
            psycopg.connect(f"host=127.0.0.1 port={lines[3]} user=elvarn dbname=elvarn password=wrong")
        assert (folder / "database-password").stat().st_mode & 0o077 == 0
        if os.geteuid() == 0:
            assert Path(f"/proc/{lines[0]}").stat().st_uid != 0


@pytest.mark.skipif(os.geteuid() != 0, reason="only root's database runs as somebody else")
def test_a_folder_that_the_database_user_can_not_enter_is_named(folder):
    (folder / "closed").mkdir(mode=0o700)
    with pytest.raises(RuntimeError, match=r"who can't enter .*Choose another folder with --data"):
        TrialServer(ROOT, folder / "closed" / "data", "--empty").start()


def test_a_missing_database_says_what_to_install(monkeypatch, tmp_path):
    monkeypatch.setattr("elvarn.host.cluster.Path", lambda _: tmp_path)
    with pytest.raises(ClusterError, match="apt-get install postgresql"):
        find_binaries()
