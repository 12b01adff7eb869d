"""Databases for tests: one cluster a run, shared by the processes that test side by side, and copies of a template."""

import fcntl
from contextlib import contextmanager
from pathlib import Path
from uuid import uuid4

import psycopg
from sqlalchemy.engine import make_url

from elvarn.host.cluster import Cluster
from elvarn.store.engine import database_url, open_engine
from elvarn.store.migrate import migrate


@contextmanager
def copies(folder: Path, template: str, fill=migrate):
    """Make copies of a template: each use gives an engine on one of its own. The template is made by whom needs it
    first, with `fill`."""
    folder.mkdir(exist_ok=True)
    cluster = Cluster(folder)
    with (folder / "tests.lock").open("a") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        cluster.start()
        server = database_url(open_engine(cluster.owner_url))
        if not _has(server, template):
            _run(server, f"create database {template}_new")
            made = engine_on(cluster.owner_url, f"{template}_new")
            fill(made)
            made.dispose()
            _run(server, f"alter database {template}_new rename to {template}")
    name = f"test_{uuid4().hex}"
    _run(server, f"create database {name} template {template}")
    engine = engine_on(cluster.url, name)
    try:
        yield engine
    finally:
        engine.dispose()
        _run(server, f"drop database {name} with (force)")


def owner_of(folder: Path, engine):
    """An engine on the same database for whom owns it."""
    return engine_on(Cluster(folder).owner_url, engine.url.database)


def engine_on(url: str, name: str):
    return open_engine(make_url(url).set(database=name).render_as_string(hide_password=False))


def _has(server: str, name: str) -> bool:
    with psycopg.connect(server) as connection:
        return connection.execute("select 1 from pg_database where datname = %s", [name]).fetchone() is not None


def _run(server: str, statement: str) -> None:
    with psycopg.connect(server, autocommit=True) as connection:
        connection.execute(statement)
