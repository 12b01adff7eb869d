"""What is kept in memory holds until something is written, and no longer."""

from uuid import uuid4

import pytest
from sqlalchemy import select
from sqlalchemy.orm import sessionmaker

from elvarn.service import shop
from elvarn.service.changes import Changes
from elvarn.store.models import Person


@pytest.fixture
def watched(engine):
    sessions, changes = sessionmaker(engine), Changes()
    changes.watch(sessions)
    return sessions, changes


def test_a_value_is_made_once_until_a_write(watched):
    sessions, changes = watched
    made = []

    def make():
        made.append(len(made))
        return made[-1]

    assert [changes.since("key", make), changes.since("key", make), changes.since("other", make)] == [0, 0, 1]
    with sessions.begin() as session:
        session.execute(select(Person.id)).all()
    assert changes.since("key", make) == 0
    with sessions.begin() as session:
        shop.add_person(session, uuid4(), shop.NewPerson(f"Kept {uuid4().hex[:6]}"))
    assert changes.since("key", make) == 2


def test_a_write_that_is_taken_back_changes_nothing(watched):
    sessions, changes = watched
    first = changes.since("key", object)
    session = sessions()
    shop.add_person(session, uuid4(), shop.NewPerson(f"Gone {uuid4().hex[:6]}"))
    session.rollback()
    session.close()
    again = changes.since("key", object)
    assert again is first
