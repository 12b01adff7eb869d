"""The database's life: it comes back when it dies, and starts from whatever a power cut or a copy left behind."""

import os
import pwd
import shutil
import signal
import time
from contextlib import contextmanager
from pathlib import Path

import psycopg
import pytest

from dev.asking import get, put
from dev.trial import TrialServer, running
from elvarn.host.cluster import Cluster
from elvarn.host.postmaster import EMPTY_AT_REST, postmaster, release_of
from elvarn.host.watchdog import watched
from elvarn.store.engine import database_url, open_engine
from tests.shop import new_id

ROOT = Path(__file__).resolve().parents[2]
PEOPLE = ["Tester"]
ROOT_ONLY = pytest.mark.skipif(os.geteuid() != 0, reason="only root can do this")


@pytest.fixture(scope="module")
def used(tmp_path_factory):
    """A data folder that was worked in, and is at rest."""
    folder = tmp_path_factory.mktemp("used")
    opened(folder)
    with running(ROOT, folder / "data", "--empty") as url:
        put(url, f"/people/{new_id()}", {"name": PEOPLE[0]})
    return folder / "data"


@pytest.fixture
def copied(used, folder):
    """A copy of it."""
    shutil.copytree(used, folder / "data")
    return folder / "data"


def opened(folder):
    """Let root's other users pass through a folder of the tests."""
    for parent in (folder, *folder.parents):
        if parent.owner() == pwd.getpwuid(os.geteuid()).pw_name and str(parent).startswith("/tmp/"):
            parent.chmod(0o755)


def people(url):
    return [person["name"] for person in get(url, "/shop")["people"]]


def comes_back(url):
    """What the server answers once the database is back, and after how long."""
    began = time.monotonic()
    while time.monotonic() < began + 30:
        try:
            return people(url), time.monotonic() - began
        except OSError:
            time.sleep(0.05)
    raise AssertionError("it did not come back")


@contextmanager
def database(data):
    """The database of a data folder alone, without the server before it."""
    data.chmod(0o711 if os.geteuid() == 0 else 0o700)
    cluster = Cluster(data)
    cluster.start()
    try:
        yield cluster
    finally:
        cluster.stop()


def names(cluster):
    with psycopg.connect(database_url(open_engine(cluster.url))) as connection:
        return [row[0] for row in connection.execute("select name from person order by name")]


def restarted(cluster, before):
    """Wait until another process serves the folder; how long it took."""
    began = time.monotonic()
    while postmaster(cluster.folder) in (None, before) or not cluster.answers():
        assert time.monotonic() < began + 30, "it did not come back"
        time.sleep(0.05)
    return time.monotonic() - began


class TestDying:
    @pytest.mark.parametrize("number", [signal.SIGKILL, signal.SIGQUIT, signal.SIGTERM])
    def test_a_database_that_ends_is_started_again(self, copied, number):
        with database(copied) as cluster, watched(cluster):
            port = cluster.port
            guest = psycopg.connect(database_url(open_engine(cluster.url)))
            for _ in range(2):
                before = postmaster(cluster.folder)
                os.kill(before, number)
                assert restarted(cluster, before) < 15
            guest.close()
            assert cluster.port == port
            assert names(cluster) == PEOPLE

    def test_one_that_ends_again_while_it_is_started_is_started_again(self, copied, monkeypatch):
        with database(copied) as cluster, watched(cluster):
            ensure, fell = cluster._ensure_database, []

            def falls_once():
                if not fell:
                    fell.append(os.kill(postmaster(cluster.folder), signal.SIGKILL))
                ensure()

            monkeypatch.setattr(cluster, "_ensure_database", falls_once)
            before = postmaster(cluster.folder)
            os.kill(before, signal.SIGKILL)
            restarted(cluster, before)
            while not fell or not cluster.answers():
                time.sleep(0.05)
            assert names(cluster) == PEOPLE

    def test_a_server_that_runs_goes_on_with_it(self, copied):
        with running(ROOT, copied, "--empty") as url:
            parent = postmaster(copied / "postgres")
            children = Path(f"/proc/{parent}/task/{parent}/children").read_text().split()
            os.kill(int(children[-1]), signal.SIGKILL)  # one of its processes takes nothing along
            assert comes_back(url)[0] == PEOPLE
            assert postmaster(copied / "postgres") == parent
            os.kill(parent, signal.SIGKILL)
            found, after = comes_back(url)
            assert found == PEOPLE
            assert after < 15


class TestStale:
    @pytest.mark.parametrize("left", ["", "garbage\n", "999999\n/nowhere\n1\n5432\n\n127.0.0.1\n", "{self}\n"])
    def test_what_a_power_cut_left_is_no_server(self, copied, left):
        (copied / "postgres" / "postmaster.pid").write_text(left.replace("{self}", str(os.getpid())))
        with database(copied) as cluster:
            assert names(cluster) == PEOPLE

    def test_a_server_that_still_runs_is_kept(self, copied):
        with database(copied) as cluster:
            lives = postmaster(cluster.folder)
            Cluster(copied).start()
            assert postmaster(cluster.folder) == lives


class TestCopies:
    def test_a_copy_starts_beside_what_it_was_copied_from(self, used, copied):
        with database(used) as one:
            shutil.copy(one.folder / "postmaster.pid", copied / "postgres")
            with database(copied) as two:
                assert names(one) == names(two) == PEOPLE
                assert one.port != two.port
            assert names(one) == PEOPLE

    def test_a_copy_that_lost_its_rights_and_its_empty_folders_starts(self, copied):
        for name in EMPTY_AT_REST:
            path = copied / "postgres" / name
            if path.is_dir() and not any(path.iterdir()):
                path.rmdir()
        for path in (copied, *copied.rglob("*")):
            path.chmod(0o755 if path.is_dir() else 0o644)
        with database(copied) as cluster:
            assert names(cluster) == PEOPLE


def test_a_folder_of_another_release_is_told_how_to_move(copied):
    (copied / "postgres" / "PG_VERSION").write_text("9.6\n")
    with pytest.raises(RuntimeError, match=r"made by PostgreSQL 9\.6; .*backup FILE.*restore FILE"):
        TrialServer(ROOT, copied, "--empty").start()


def test_a_database_that_can_not_start_says_why_in_its_own_words(copied):
    (copied / "postgres" / "postgresql.conf").write_text("shared_buffers = nonsense\n")
    with pytest.raises(RuntimeError, match=r"did not start.*nonsense"):
        TrialServer(ROOT, copied, "--empty").start()


def test_a_folder_with_something_else_in_it_is_left_alone(folder):
    (folder / "letters.txt").write_text("dear all")
    with pytest.raises(RuntimeError, match=r"no data folder of Elvarn; it holds letters\.txt"):
        TrialServer(ROOT, folder, "--empty").start()
    assert [path.name for path in folder.iterdir()] == ["letters.txt"]


def test_everything_in_the_folder_is_its_owners_alone(copied):
    (copied / "files" / "ab").mkdir(parents=True)
    (copied / "files" / "ab" / "picture").write_bytes(b"x")
    copied.chmod(0o755)  # as folders were made before
    with running(ROOT, copied, "--empty"):
        modes = {path: path.stat().st_mode & 0o077 for path in (copied, *copied.rglob("*"))}
        assert {path: mode for path, mode in modes.items() if mode} == {}


class TestUsers:
    @ROOT_ONLY
    def test_root_starts_it_as_a_user_of_its_own_who_owns_the_folder(self, copied):
        server = TrialServer(ROOT, copied, "--empty")
        url = server.start()
        own = pwd.getpwnam("elvarn").pw_uid
        assert Path(f"/proc/{server.process.pid}").stat().st_uid == own
        assert Path(f"/proc/{postmaster(copied / 'postgres')}").stat().st_uid == own
        assert {path.stat().st_uid for path in (copied, *copied.rglob("*"))} == {own}
        assert people(url) == PEOPLE
        assert server.stop() == 0

    @ROOT_ONLY
    def test_it_may_stay_root_and_change_back(self, copied):
        for options in (["--as-root"], []):
            with running(ROOT, copied, "--empty", *options) as url:
                assert people(url) == PEOPLE

    @ROOT_ONLY
    def test_where_that_user_can_not_read_the_program_two_ways_on_are_told(self, folder, copied):
        closed = folder / "closed"
        closed.mkdir(mode=0o700)
        shutil.copytree(ROOT / "src", closed / "src")
        with pytest.raises(RuntimeError, match=r"who can't read .*closed\. Two ways on: move .*--as-root"):
            TrialServer(closed, copied, "--empty").start()


def test_a_release_is_told_of_a_folder(used, tmp_path):
    assert release_of(used / "postgres") == Cluster(used).binaries.parent.name
    assert release_of(tmp_path) == ""
