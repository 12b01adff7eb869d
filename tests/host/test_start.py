"""Starting and stopping: what is set up, what is refused, and that nothing is left running."""

import os
import signal
import socket
from pathlib import Path

import pytest

from dev.asking import get
from dev.trial import TrialServer, running
from elvarn.host.cluster import ClusterError, find_binaries

ROOT = Path(__file__).resolve().parents[2]


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


def test_a_taken_port_is_named(folder):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        port = str(taken.getsockname()[1])
        with pytest.raises(RuntimeError, match=rf"Port {port} is taken"):
            TrialServer(ROOT, folder, "--empty", "--port", port).start()


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
def test_a_folder_that_its_own_user_can_not_enter_is_named(folder):
    (folder / "closed").mkdir(mode=0o700)
    for more in ([], ["--as-root"]):
        with pytest.raises(RuntimeError, match=r"who can't enter .*Choose another folder with --data"):
            TrialServer(ROOT, folder / "closed" / "data", "--empty", *more).start()


def test_a_missing_database_says_what_to_install(monkeypatch, tmp_path):
    monkeypatch.setattr("elvarn.host.cluster.RELEASES", tmp_path)
    with pytest.raises(ClusterError, match="apt-get install postgresql"):
        find_binaries()
