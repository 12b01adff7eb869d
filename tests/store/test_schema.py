"""The schema that migrations make is the one that the models mean."""

import pytest
from alembic import command
from sqlalchemy import text

from elvarn.store.migrate import config_for, migrate
from elvarn.store.models import RAIL
from elvarn.store.models.reading import Reading


def test_migrations_and_models_agree(engine):
    command.check(config_for(engine))


def test_migrating_again_changes_nothing(engine):
    migrate(engine)
    command.check(config_for(engine))


def test_every_kind_of_reading_is_append_only(engine):
    tables = {mapper.local_table.name for mapper in Reading.__mapper__.self_and_descendants} | {"strike", "setup"}
    question = text("select tgrelid::regclass::text as name from pg_trigger where tgname like '%_append_only'")
    with engine.connect() as connection:
        assert {row.name for row in connection.execute(question)} == tables


def test_rails_follow_the_order_of_work(engine):
    with engine.connect() as connection:
        rails = [row.rail for row in connection.execute(text("select rail from job_kind"))]
    assert len(rails) == 6
    for rail in rails:
        assert rail == sorted(rail, key=RAIL.index)
        assert (rail[0], rail[-1]) == ("takein", "handover")


@pytest.mark.parametrize("setting", ["fsync", "synchronous_commit"])
def test_a_commit_is_on_disk(engine, setting):
    with engine.connect() as connection:
        assert connection.execute(text(f"show {setting}")).scalar() == "on"
