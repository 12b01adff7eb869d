"""The schema that migrations make is the one that the models mean."""

import pytest
from alembic import command
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

from elvarn.core.rail import KINDS, Step
from elvarn.store.migrate import config_for, migrate
from elvarn.store.models.reading.base import Reading
from tests.shop import new_id


def test_migrations_and_models_agree(engine):
    command.check(config_for(engine))


def test_migrating_again_changes_nothing(engine):
    migrate(engine)
    command.check(config_for(engine))


def test_every_kind_of_reading_is_append_only(engine):
    kinds = {mapper.local_table.name for mapper in Reading.__mapper__.self_and_descendants}
    question = text("select tgrelid::regclass::text as name from pg_trigger where tgname like '%_append_only'")
    with engine.connect() as connection:
        assert {row.name for row in connection.execute(question)} == kinds | {
            "strike",
            "setup",
            "handed_sheet",
            "pull_card",
            "recording_piece",
        }


@pytest.mark.parametrize("at", ["1999-12-31", "9999-01-01", "infinity"])
def test_no_reading_is_dated_outside_of_what_a_screen_can_show(engine, shop, at):
    job = shop.job()
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    shop.kept(shop.flow(job, setup, state, 1, "201.6"))
    again = text("""insert into reading (id, content_digest, person_id, job_id, kind, marks, taken_at)
                    select gen_random_uuid(), content_digest, person_id, job_id, kind, marks, cast(:at as timestamptz)
                    from reading where job_id = cast(:job as uuid)""")
    with engine.connect() as connection, pytest.raises(IntegrityError, match="ck_reading_taken_at"):
        connection.execute(again, {"at": at, "job": job})


def test_rails_follow_the_order_of_work(engine):
    with engine.connect() as connection:
        rails = {row.code: row.rail for row in connection.execute(text("select code, rail from job_kind"))}
        words = {row.word for row in connection.execute(text("select word from rail_step"))}
    assert set(rails) == {kind.code for kind in KINDS}
    assert words == set(Step)
    for rail in rails.values():
        assert rail == sorted(rail, key=list(Step).index)
        assert (rail[0], rail[-1]) == ("checkin", "handover")


def test_a_task_stands_at_a_step_of_the_work(client, shop):
    body = {"person_id": shop.person, "job_id": shop.job(), "rail_step": "takein", "title": "Look at it"}
    refused = shop.put(f"/steps/{new_id()}", body)
    assert refused.status_code == 422
    assert "no step of the work" in refused.json()["detail"]


@pytest.mark.parametrize("setting", ["fsync", "synchronous_commit"])
def test_a_commit_is_on_disk(engine, setting):
    with engine.connect() as connection:
        assert connection.execute(text(f"show {setting}")).scalar() == "on"
