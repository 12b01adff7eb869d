"""A revision stands while nothing that hangs on it is written, and is raised by everything that does."""

import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

from elvarn.store.models import Base
from elvarn.store.revision import job_revision, open_jobs, shop_revision, whole_revision
from tests.shop import new_id

# Tables that no screen shows by themselves (a pull as it forms has a stream of its own), and those that are revisions.
APART = {"stored_file", "shop_state", "job", "part", "bench", "recording_piece"}
# Readings of a test's points, pulls and logs: their row in `reading` raises the job.
BY_READING = {"probe_reading", "pull_reading", "log_reading"}


def asked(engine, question, *given):
    with Session(engine) as session:
        return question(session, *given)


def test_every_table_raises_a_revision(engine):
    question = text("select tgrelid::regclass::text as name from pg_trigger where tgname like '%touch%'")
    with engine.connect() as connection:
        raising = {row.name for row in connection.execute(question)}
    tables = {table.name for table in Base.metadata.sorted_tables}
    assert tables - APART - BY_READING <= raising


@pytest.fixture
def job(shop):
    job = shop.job()
    shop.setup(job)
    return job


def edited(shop, job):
    view = shop.get(f"/jobs/{job}")
    names = ("title", "customer", "use", "band_low_rpm", "band_high_rpm", "due_on", "standard", "note", "version")
    shop.kept(shop.client.patch(f"/api/jobs/{job}", json={**{n: view[n] for n in names}, "note": "seen"}))


def read(shop, job):
    sheet = shop.sheet(job)
    shop.kept(shop.flow(job, sheet["setup"]["id"], sheet["before_state_id"], 1, "201.6"))
    return shop.sheet(job)["rungs"][0]["before"]["readings"][0]["id"]


def struck(shop, job):
    body = {"person_id": shop.person, "reason": "hose off", "struck_at": "2026-03-02T10:00:00Z"}
    shop.kept(shop.put(f"/strikes/{read(shop, job)}", body))


def checked(shop, job):
    setup = shop.sheet(job)["setup"]["id"]
    body = {"person_id": shop.person, "kind": "zero", "setup_id": setup, "bench_id": shop.bench, "typed": "0.2",
            "taken_at": "2026-03-02T10:00:00Z"}  # fmt: skip
    shop.kept(shop.put(f"/checks/{new_id()}", body))


def measured(shop, job):
    body = {"person_id": shop.person, "job_id": job, "part_state_id": shop.sheet(job)["before_state_id"],
            "element_kind": "runner", "cylinder": 1, "quantity": "bore", "typed": "44",
            "taken_at": "2026-03-02T10:00:00Z"}  # fmt: skip
    shop.kept(shop.put(f"/dimensions/{new_id()}", body))


def noted(shop, job):
    body = {"person_id": shop.person, "job_id": job, "rail_step": "port", "title": "80 grit"}
    shop.kept(shop.put(f"/steps/{new_id()}", body))


def received(shop, job):
    shop.kept(shop.put(f"/items/{new_id()}", {"person_id": shop.person, "job_id": job, "words": "gasket"}))


@pytest.mark.parametrize(
    "write", [edited, read, struck, checked, measured, noted, received, lambda shop, job: shop.cut(job)]
)
def test_what_is_written_of_a_job_raises_it(engine, shop, job, write):
    before, all_before = asked(engine, job_revision, job), asked(engine, whole_revision)
    write(shop, job)
    assert asked(engine, job_revision, job) != before
    assert asked(engine, whole_revision) != all_before


@pytest.mark.parametrize(
    "write", [edited, read, struck, checked, measured, noted, received, lambda shop, job: shop.cut(job)]
)
def test_what_is_written_of_a_job_raises_its_card(engine, shop, job, write):
    def of_card():
        return next(one for one in asked(engine, open_jobs, 1000, 0)[0].items() if str(one[0]) == job)

    before, shop_before = of_card(), asked(engine, shop_revision)
    write(shop, job)
    assert (of_card(), asked(engine, shop_revision)) != (before, shop_before)


def test_what_is_read_of_one_job_leaves_the_cards_of_others(engine, shop, job):
    other = shop.job()
    sheet = shop.sheet(other)
    setup = shop.setup(other)
    before, shop_before = asked(engine, open_jobs, 1000, 0)[0], asked(engine, shop_revision)
    shop.kept(shop.flow(other, setup, sheet["before_state_id"], 1, "201.6"))
    after = asked(engine, open_jobs, 1000, 0)[0]
    assert {str(one) for one in before if before[one] != after[one]} == {other}
    assert asked(engine, shop_revision) == shop_before


def test_another_job_stays_as_it_was(engine, shop, job):
    """But for the bench: what it reads of one job teaches it for all."""
    before = asked(engine, job_revision, job)
    other = shop.job()
    noted(shop, other)
    received(shop, other)
    shop.cut(other)
    assert asked(engine, job_revision, job) == before


def test_a_part_of_the_shelf_raises_the_jobs_that_mount_it(engine, shop):
    job, part, state = shop.job(kind="whole_job"), new_id(), new_id()
    body = {"person_id": shop.person, "job_id": None, "kind": "throttle", "name": "Throttle 70", "state_id": state}
    shop.kept(shop.put(f"/parts/{part}", body))
    build = shop.builds(job)[0]
    node = next(
        node["element"]["node_id"]
        for node in build["path"]["nodes"]
        if (node["element"] or {}).get("kind") == "throttle"
    )
    change = {"version": build["version"], "node_id": node, "part_state_id": state}
    shop.kept(shop.client.patch(f"/api/builds/{build['id']}", json=change))
    before = asked(engine, job_revision, job)
    bore = {"person_id": shop.person, "job_id": None, "part_state_id": state, "element_kind": "throttle",
            "cylinder": None, "quantity": "bore", "typed": "70", "taken_at": "2026-03-02T10:00:00Z"}  # fmt: skip
    shop.kept(shop.put(f"/dimensions/{new_id()}", bore))
    assert asked(engine, job_revision, job) != before


def test_people_raise_the_shop_and_figures_do_not(engine, shop, job):
    before = asked(engine, shop_revision)
    noted(shop, job)
    assert asked(engine, shop_revision) == before
    shop.kept(shop.put(f"/people/{new_id()}", {"name": f"New {new_id()[:6]}"}))
    assert asked(engine, shop_revision) != before


def test_a_write_that_is_taken_back_raises_nothing(engine, shop, job):
    before = asked(engine, job_revision, job)
    with engine.connect() as connection:
        connection.execute(text("update job set note = 'gone' where id = :id"), {"id": job})
        connection.rollback()
    assert asked(engine, job_revision, job) == before


def test_there_is_none_of_a_job_that_is_not_there(engine):
    assert asked(engine, job_revision, new_id()) is None
