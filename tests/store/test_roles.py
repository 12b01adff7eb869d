"""What the application's role may not do to the database, whatever a request would make it say."""

import pytest
from sqlalchemy import text
from sqlalchemy.exc import ProgrammingError

TRIGGERS = text("""
    select tgname from pg_trigger join pg_class on tgrelid = pg_class.oid
    where relname = 'flow_reading' and not tgisinternal
""")


@pytest.mark.parametrize(
    "statement",
    [
        "drop trigger {trigger} on flow_reading",
        "alter table flow_reading disable trigger all",
        "set session_replication_role = replica",
        "alter table reading drop constraint ck_reading_taken_at",
        "drop table flow_reading cascade",
        "truncate reading cascade",
        "create table beside (id int)",
        "update alembic_version set version_num = '0001'",
        "create role another superuser",
        "copy reading to '/tmp/readings'",
    ],
)
def test_it_changes_no_schema(engine, statement):
    with engine.begin() as connection:
        trigger = connection.scalar(TRIGGERS)
        assert trigger
        with pytest.raises(ProgrammingError, match=r"permission denied|must be owner|must be superuser"):
            connection.execute(text(statement.format(trigger=trigger)))


def test_it_reads_and_writes_rows(engine):
    with engine.begin() as connection:
        name = text("insert into person (id, name, content_digest) values (gen_random_uuid(), 'T', '') returning name")
        assert connection.scalar(name) == "T"
        assert connection.scalar(text("select version_num from alembic_version"))
