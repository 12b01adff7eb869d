"""Copies of all that is kept: made under load, read back identical; what is no whole copy of ours is refused."""

import json
import shutil
import subprocess
import sys
import threading
import zipfile
from datetime import UTC, datetime, timedelta
from io import BytesIO
from pathlib import Path

import psycopg
import pytest
from PIL import Image

from dev.asking import get, post, put
from dev.kills import kept, make_job
from dev.trial import TrialServer, running
from elvarn.host.backup import DUMP, LIST
from elvarn.host.cluster import Cluster
from elvarn.host.safekeeping import keep_one
from elvarn.service.shop.safekeeping import KEPT_DAYS
from elvarn.store.engine import database_url, open_engine
from tests.host.test_database import opened
from tests.shop import new_id

ROOT = Path(__file__).resolve().parents[2]


def elvarn(*words):
    """Run the command; its exit code and what it said."""
    environment = {"PYTHONPATH": str(ROOT / "src"), "ELVARN_ROOT": str(ROOT), "PATH": "/usr/bin:/bin"}
    command = [sys.executable, "-m", "elvarn", *map(str, words)]
    done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
    return done.returncode, done.stdout + done.stderr


def everything(data):
    """Every row of every table of a running database, as text, in an order of its own."""
    cluster = Cluster(data)
    tables = "select tablename from pg_tables where schemaname = 'public'"
    with psycopg.connect(database_url(open_engine(cluster.owner_url))) as connection:
        names = [row[0] for row in connection.execute(tables)]
        return {
            name: sorted(row[0] for row in connection.execute(f"select t::text from {name} t"))
            for name in names
        }  # fmt: skip


def files_of(data):
    return {path.name: path.read_bytes() for path in (data / "files").rglob("*") if path.is_file()}


@pytest.fixture(scope="module")
def shop(tmp_path_factory):
    """A demo shop at rest and a copy of it."""
    folder = tmp_path_factory.mktemp("shop")
    opened(folder)
    with running(ROOT, folder / "data"):
        code, said = elvarn("backup", folder / "copy.zip", "--data", folder / "data")
        assert code == 0, said
        rows = everything(folder / "data")
    return folder / "data", folder / "copy.zip", rows, said


def test_a_copy_of_the_demo_reads_back_identical(shop, folder):
    data, copy, rows, said = shop
    assert "jobs" in said
    code, told = elvarn("restore", copy, "--data", folder / "back")
    assert code == 0, told
    with running(ROOT, folder / "back"):
        assert everything(folder / "back") == rows
        assert files_of(folder / "back") == files_of(data)
        assert len(files_of(data)) > 3


def test_a_shop_at_rest_can_be_copied_too(shop, folder):
    data, copy, _, _ = shop
    code, said = elvarn("backup", folder / "again.zip", "--data", data)
    assert code == 0, said
    with zipfile.ZipFile(copy) as one, zipfile.ZipFile(folder / "again.zip") as two:
        lists = [json.loads(archive.read(LIST)) for archive in (one, two)]
        assert lists[0]["counts"] == lists[1]["counts"]
        assert set(lists[0]["members"]) == set(lists[1]["members"]) == set(one.namelist()) - {LIST}


def test_what_was_acknowledged_before_a_copy_under_load_is_in_it(folder):
    with running(ROOT, folder / "data", "--empty") as url:
        base = make_job(url)
        acknowledged, over = [], threading.Event()

        def capture():
            while not over.is_set():
                identifier = new_id()
                body = {**base, "cylinder": 1, "typed": "201.6", "taken_at": "2026-03-02T09:00:00Z"}
                put(url, f"/flow-readings/{identifier}", body)
                acknowledged.append(identifier)

        def send_pictures():
            for shade in range(20):
                out = BytesIO()
                Image.new("L", (40, 40), shade).save(out, "PNG")
                post(url, "/pictures?name=a.png", out.getvalue())

        threads = [threading.Thread(target=work) for work in (capture, send_pictures)]
        for thread in threads:
            thread.start()
        while len(acknowledged) < 20:
            pass
        before = list(acknowledged)
        code, said = elvarn("backup", folder / "copy.zip", "--data", folder / "data")
        over.set()
        for thread in threads:
            thread.join()
        assert code == 0, said
        assert "damaged" not in said
        after = everything(folder / "data")
    code, said = elvarn("restore", folder / "copy.zip", "--data", folder / "back")
    assert code == 0, said
    with running(ROOT, folder / "back", "--empty") as url:
        found = kept(url, base["job_id"])
        assert len(found) == len(set(found))
        assert set(before) <= set(found) <= set(acknowledged)
        restored = everything(folder / "back")
    for table in ("reading", "flow_reading", "flow_setup", "person", "part_state", "stored_file"):
        assert set(restored.get(table, [])) <= set(after.get(table, []))
    assert {row.split(",")[0].strip("(") for row in restored["stored_file"]} == set(files_of(folder / "back"))


class TestRefused:
    def changed(self, copy, target, change):
        """The copy with its members as `change` makes them."""
        with zipfile.ZipFile(copy) as source, zipfile.ZipFile(target, "w") as written:
            for name in source.namelist():
                content = change(name, source.read(name))
                if content is not None:
                    written.writestr(name, content)
        return target

    def refused(self, source, data, words):
        code, said = elvarn("restore", source, "--data", data)
        assert code == 1
        assert words in said
        assert not data.exists() or not any(data.iterdir())

    def test_a_folder_that_is_not_empty(self, shop, folder):
        (folder / "letters.txt").write_text("dear all")
        code, said = elvarn("restore", shop[1], "--data", folder)
        assert code == 1
        assert "is not empty" in said
        assert (folder / "letters.txt").read_text() == "dear all"

    def test_a_copy_that_breaks_off(self, shop, folder):
        (folder / "half.zip").write_bytes(shop[1].read_bytes()[:-2000])
        self.refused(folder / "half.zip", folder / "back", "breaks off")

    def test_a_copy_that_is_none(self, folder):
        (folder / "some.zip").write_text("no archive")
        self.refused(folder / "some.zip", folder / "back", "no copy of Elvarn's")
        self.refused(folder / "nothing.zip", folder / "back", "There is no")

    @pytest.mark.parametrize("which", [DUMP, "files/"])
    def test_a_member_with_a_letter_changed(self, shop, folder, which):
        def flip(name, content):
            return content[:-1] + bytes([content[-1] ^ 1]) if name.startswith(which) else content

        self.refused(self.changed(shop[1], folder / "bad.zip", flip), folder / "back", "is not what it was")

    def test_a_member_that_is_gone(self, shop, folder):
        target = self.changed(shop[1], folder / "bad.zip", lambda name, content: None if name == DUMP else content)
        self.refused(target, folder / "back", "can't be read")

    @pytest.mark.parametrize(
        ("field", "value", "words"),
        [
            ("schema", "9999", "made by a newer Elvarn"),
            ("format", "elvarn-backup-2", "Update Elvarn"),
            (
                "members",
                {DUMP: {"size_bytes": 1, "sha256": ""}, "../../etc/x": {"size_bytes": 1, "sha256": ""}},
                "damaged",
            ),
            ("members", {}, "its list names no database"),
            ("members", 7, "no copy of Elvarn's"),
        ],
    )
    def test_a_list_that_says_something_else(self, shop, folder, field, value, words):
        def relist(name, content):
            return json.dumps({**json.loads(content), field: value}) if name == LIST else content

        self.refused(self.changed(shop[1], folder / "bad.zip", relist), folder / "back", words)

    def test_a_name_outside_of_the_folder(self, shop, folder):
        def smuggled(name, content):
            if name != LIST:
                return content
            found = json.loads(content)
            member = next(one for name, one in found["members"].items() if name != DUMP)
            return json.dumps({**found, "members": {**found["members"], "files/../../out": member}})

        source = self.changed(shop[1], folder / "bad.zip", smuggled)
        with zipfile.ZipFile(source, "a") as archive:
            inside = next(name for name in archive.namelist() if name.startswith("files/"))
            archive.writestr("files/../../out", archive.read(inside))
        self.refused(source, folder / "back", "is not what it was")
        assert not (folder / "out").exists()

    def test_a_dump_that_the_database_does_not_take_leaves_the_folder_empty(self, shop, folder):
        import hashlib

        bad = b"no dump"

        def other(name, content):
            if name == DUMP:
                return bad
            if name != LIST:
                return content
            found = json.loads(content)
            found["members"][DUMP] = {"size_bytes": len(bad), "sha256": hashlib.sha256(bad).hexdigest()}
            return json.dumps(found)

        self.refused(self.changed(shop[1], folder / "bad.zip", other), folder / "back", "pg_restore ended with")

    def test_a_copy_takes_no_other_file_s_place(self, shop):
        before = shop[1].read_bytes()
        code, said = elvarn("backup", shop[1], "--data", shop[0])
        assert (code, shop[1].read_bytes()) == (1, before)
        assert "exists already" in said

    def test_a_place_that_is_none(self, shop, folder):
        code, said = elvarn("backup", folder / "nowhere" / "copy.zip", "--data", shop[0])
        assert code == 1
        assert "can't be written" in said


def test_a_file_that_is_damaged_on_the_disk_is_told(shop, folder):
    shutil.copytree(shop[0], folder / "data")
    damaged = next(path for path in (folder / "data" / "files").rglob("*") if path.is_file())
    damaged.write_bytes(b"")
    code, said = elvarn("backup", folder / "copy.zip", "--data", folder / "data")
    assert code == 0
    assert "Not in it: 1 files that are damaged" in said


@pytest.fixture(scope="module")
def working(tmp_path_factory):
    folder = tmp_path_factory.mktemp("daily")
    opened(folder)
    server = TrialServer(ROOT, folder / "data", "--empty")
    server.start()
    cluster = Cluster(folder / "data")
    yield cluster, server.url
    assert server.stop() == 0


class TestDaily:
    def keep(self, cluster, at):
        engine = open_engine(cluster.url)
        keep_one(cluster, engine, at)
        engine.dispose()
        return sorted((cluster.data / "copies").glob("*.zip"))

    def test_one_is_made_a_day_and_those_of_a_week_are_kept(self, working):
        cluster, url = working
        now = datetime.now(UTC)
        assert len(self.keep(cluster, now)) == 1
        assert len(self.keep(cluster, now + timedelta(hours=3))) == 1
        for day in range(1, KEPT_DAYS + 4):
            found = self.keep(cluster, now + timedelta(days=day))
        assert len(found) == KEPT_DAYS
        assert datetime.fromisoformat(get(url, "/board")["last_copy"]["made_at"]) == now + timedelta(days=day)
        with zipfile.ZipFile(found[-1]) as archive:
            assert DUMP in archive.namelist()

    def test_a_folder_that_is_gone_is_told_on_the_board(self, working):
        cluster, url = working
        with psycopg.connect(database_url(open_engine(cluster.owner_url))) as connection:
            connection.execute("delete from setting")
            connection.execute(
                "insert into setting (name, value, version) values ('safekeeping', %s, 1)",
                [json.dumps({"daily": True, "folder": "/nowhere/at/all"})],
            )
        self.keep(cluster, datetime.now(UTC))
        last = get(url, "/board")["last_copy"]
        assert last["made_at"] is None
        assert "/nowhere/at/all" in last["problem"]
