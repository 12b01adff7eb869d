"""Rows copied into their tables are what a unit of work would have made of them, and break the same rules."""

from datetime import UTC, datetime
from uuid import UUID, uuid4

import pytest
from sqlalchemy.exc import DataError, IntegrityError
from sqlalchemy.orm import Session

from elvarn.store.bulk import lay_down
from elvarn.store.models import DimensionReading, Part, PartState
from elvarn.store.revision import shelf_revision

NOW = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)


def row_of(shop, kind="tube", **more):
    return Part(id=uuid4(), content_digest="", person_id=UUID(shop.person), kind=kind, name="Copied",
                features={"cast": True}, **more)  # fmt: skip


def state_of(part, shop):
    return PartState(
        id=uuid4(), content_digest="", person_id=UUID(shop.person), part_id=part.id, sequence=1, label="new"
    )


def length_of(state, shop):
    return DimensionReading(id=uuid4(), content_digest="", person_id=UUID(shop.person), taken_at=NOW, marks=["kept"],
                            part_state_id=state.id, element_kind="tube", quantity="length", value_si=0.4,
                            figure=400, unit="mm")  # fmt: skip


def test_what_was_laid_down_comes_back_as_it_was_with_the_columns_own_defaults(engine, shop):
    parts = [row_of(shop, price=12.5), row_of(shop)]
    states = [state_of(part, shop) for part in parts]
    lengths = [length_of(state, shop) for state in states]
    with Session(engine) as session, session.begin():
        for rows in (parts, states, lengths):
            lay_down(session, rows)
    with Session(engine) as session:
        here = [session.get(Part, part.id) for part in parts]
        assert [(part.price, part.features, part.claims, part.on_hand, part.version) for part in here] == [
            (12.5, {"cast": True}, [], 0, 1), (None, {"cast": True}, [], 0, 1),
        ]  # fmt: skip
        assert [part.states[0].label for part in here] == ["new", "new"]
        read = session.get(DimensionReading, lengths[0].id)
        assert (read.kind, read.value_si, read.taken_at, read.marks) == ("dimension", 0.4, NOW, ["kept"])


def test_it_raises_the_shelfs_revision(engine, shop):
    with Session(engine) as session, session.begin():
        before = shelf_revision(session)
    with Session(engine) as session, session.begin():
        lay_down(session, [row_of(shop)])
    with Session(engine) as session, session.begin():
        assert shelf_revision(session) != before


@pytest.mark.parametrize(("more", "error"), [({"lead_days": -1}, IntegrityError), ({"name": "a\0b"}, DataError)])
def test_what_breaks_a_rule_of_the_database_is_told_as_such(engine, shop, more, error):
    part = row_of(shop)
    for name, value in more.items():
        setattr(part, name, value)
    with Session(engine) as session, pytest.raises(error):
        lay_down(session, [part])


def test_nothing_is_laid_down_of_nothing(engine):
    with Session(engine) as session:
        lay_down(session, [])
