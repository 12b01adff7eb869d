"""Databases as every earlier state of the migrations made them, with the made-up shop of their day: they come up to the
newest schema with every row, and are shown."""

import re
import subprocess
from pathlib import Path

import psycopg
import pytest
from fastapi.testclient import TestClient

from dev.asking import bearer
from elvarn.api.app import create_app
from elvarn.host.cluster import Cluster
from elvarn.store.engine import database_url, open_engine
from elvarn.store.migrate import migrate
from tests.databases import engine_on
from tests.shop import KEY, Shop, new_id

ROOT = Path(__file__).resolve().parents[2]
DUMPS = sorted(Path(__file__).with_name("older").glob("*.dump"))
COLUMNS = """
    select table_name, column_name, data_type, is_nullable, column_default, is_generated
    from information_schema.columns where table_schema = 'public' order by 1, 2
"""
CONSTRAINTS = """
    select conrelid::regclass::text, conname, pg_get_constraintdef(oid)
    from pg_constraint where connamespace = 'public'::regnamespace order by 1, 2
"""
INDEXES = "select indexdef from pg_indexes where schemaname = 'public' order by 1"
TRIGGERS = """
    select event_object_table, trigger_name, event_manipulation, action_timing, action_statement
    from information_schema.triggers order by 1, 2, 3
"""
COUNTS = ("job", "part", "reading", "flow_reading", "pull_reading", "dimension_reading", "build_node", "strike")


def schema(engine):
    """Columns, constraints, indexes and triggers; without casts and brackets, of which reading back makes others."""
    with psycopg.connect(database_url(engine)) as connection:
        found = [connection.execute(question).fetchall() for question in (COLUMNS, CONSTRAINTS, INDEXES, TRIGGERS)]
    return [[re.sub(r"::(character varying|[a-z]+)(\[\])?|[()]", "", str(row)) for row in rows] for rows in found]


def counts(engine):
    with psycopg.connect(database_url(engine)) as connection:
        return {table: connection.execute(f"select count(*) from {table}").fetchone()[0] for table in COUNTS}


@pytest.fixture(scope="module")
def newest(engine):
    return schema(engine)


@pytest.fixture
def older(request, run_folder, engine):
    """A database read back from a dump; its owner's engine, and the application's."""
    cluster = Cluster(run_folder / "data")
    name = f"older_{new_id().replace('-', '')}"
    server = database_url(open_engine(cluster.owner_url))
    with psycopg.connect(server, autocommit=True) as connection:
        connection.execute(f"create database {name}")
    owner = engine_on(cluster.owner_url, name)
    command = [
        cluster.binaries / "pg_restore",
        "--no-owner",
        "--exit-on-error",
        "-d",
        database_url(owner),
        request.param,
    ]
    subprocess.run(command, check=True)
    ours = engine_on(cluster.url, name)
    yield owner, ours
    owner.dispose()
    ours.dispose()
    with psycopg.connect(server, autocommit=True) as connection:
        connection.execute(f"drop database {name} with (force)")


@pytest.mark.parametrize("older", DUMPS, ids=lambda path: path.stem, indirect=True)
def test_it_comes_up_to_the_newest_schema_with_every_row_and_is_shown(older, newest, tmp_path):
    owner, ours = older
    before = counts(owner)
    assert before["reading"] > 70
    migrate(owner)
    assert schema(owner) == newest
    assert counts(owner) == before
    app = create_app(ours, tmp_path, tmp_path, KEY)
    with TestClient(app, base_url="http://127.0.0.1", headers=bearer(KEY)) as client:
        jobs = [job["id"] for column in client.get("/api/board").json()["columns"] for job in column["jobs"]]
        assert len(jobs) >= 3
        for job in jobs:
            for sheet in ("", "/bench", "/checkin", "/dyno", "/sheet"):
                assert client.get(f"/api/jobs/{job}{sheet}").status_code == 200, sheet
        shop = Shop(client)
        mine = shop.job()
        shop.kept(shop.flow(mine, shop.setup(mine), shop.sheet(mine)["before_state_id"], 1, "201.6"))


def test_there_is_one_of_each_schema_that_landed():
    assert {path.stem[:4] for path in DUMPS} >= {"0001", "0002", "0003", "0004", "0006", "0007"}


class TestOfItsJob:
    """What no screen sends, and no program may write."""

    def refused(self, engine, statement, values):
        with psycopg.connect(database_url(engine)) as connection, pytest.raises(psycopg.errors.ForeignKeyViolation):
            connection.execute(statement, values)

    def test_a_flow_with_a_set_up_of_another_job(self, engine, client):
        shop = Shop(client)
        one, two = shop.job(), shop.job()
        setup, state = shop.setup(two), shop.sheet(one)["before_state_id"]
        self.refused(
            engine,
            """with r as (insert into reading (id, kind, job_id, person_id, taken_at, marks, content_digest)
                          values (gen_random_uuid(), 'flow', %(job)s, %(person)s, now(), '{}', '') returning id)
               insert into flow_reading (id, setup_id, part_state_id, element_kind, cylinder, typed, figure, unit,
                                         flow_m3_s)
               select id, %(setup)s, %(state)s, 'runner', 1, '200', 200, 'cfm', 0.1 from r""",
            {"job": one, "person": shop.person, "setup": setup, "state": state},
        )

    def test_a_dimension_of_another_jobs_part(self, engine, client):
        shop = Shop(client)
        one, two = shop.job(), shop.job()
        self.refused(
            engine,
            """with r as (insert into reading (id, kind, job_id, person_id, taken_at, marks, content_digest)
                          values (gen_random_uuid(), 'dimension', %(job)s, %(person)s, now(), '{}', '') returning id)
               insert into dimension_reading
               (id, part_state_id, element_kind, cylinder, quantity, figure, unit, value_si)
               select id, %(state)s, 'runner', 1, 'bore', 44, 'mm', 0.044 from r""",
            {"job": one, "person": shop.person, "state": shop.sheet(two)["before_state_id"]},
        )

    def test_an_element_with_a_set_up_of_another_job(self, client):
        shop = Shop(client)
        one, two = shop.job(), shop.job()
        body = {"person_id": shop.person, "job_id": one, "part_state_id": shop.sheet(one)["before_state_id"],
                "setup_id": shop.setup(two), "element_kind": "throttle", "typed": "500",
                "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
        answer = shop.put(f"/element-flow-readings/{new_id()}", body)
        assert (answer.status_code, answer.json()["path"]) == (422, "setup_id")
