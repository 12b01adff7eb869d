"""A migration that landed is never changed: a database made by it would be another one."""

import hashlib
from pathlib import Path

from alembic import command
from sqlalchemy import text

from elvarn.store.migrate import SCRIPTS, config_for, migrate
from tests.databases import copies, owner_of

LANDED = Path(__file__).with_name("landed.sha256")


def digests():
    files = sorted((SCRIPTS / "versions").glob("0*.py"))
    return {file.name: hashlib.sha256(file.read_bytes()).hexdigest() for file in files}


def test_no_migration_was_changed_since_it_landed():
    """A new one gets its line here with the commit that brings it."""
    kept = dict(reversed(line.split()) for line in LANDED.read_text().splitlines())
    assert digests() == kept


def test_a_reading_beyond_the_bounds_does_not_stop_a_start(run_folder):
    """It was kept before there were bounds; they hold for what comes after it."""
    with copies(run_folder / "data", "template_empty") as made:
        engine = owner_of(run_folder / "data", made)
        command.downgrade(config_for(engine), "0006")
        with engine.begin() as connection:
            connection.execute(text("set local session_replication_role = replica"))
            connection.execute(
                text("""
                insert into reading (id, content_digest, person_id, kind, marks, taken_at)
                values (gen_random_uuid(), '', gen_random_uuid(), 'flow', '{}', '0001-01-01 00:00+14')
            """)
            )
        migrate(engine)
        question = text("select convalidated from pg_constraint where conname = :name")
        with engine.connect() as connection:
            assert connection.scalar(question, {"name": "ck_reading_taken_at"}) is False
            assert connection.scalar(question, {"name": "ck_strike_struck_at"}) is True
        engine.dispose()
