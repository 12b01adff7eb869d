"""Parts on the shelf with what is known of them, kept in this process for as long as the shelf stands as it is."""

from sqlalchemy.orm import Session

from elvarn.service.kernel.once import let_go
from elvarn.service.record.part import PartFacts, facts_of_parts
from elvarn.service.shop.known import known
from elvarn.store import queries
from elvarn.store.revision import shelf_revision


def on_shelf(session: Session, kind: str) -> list[PartFacts]:
    """The parts of a kind on the shelf, each at its last state, by name."""
    return known(session, ("on the shelf", kind), lambda: _loaded(session, kind), shelf_revision)


def _loaded(session: Session, kind: str) -> list[PartFacts]:
    """Loaded apart, in the same transaction: they are kept beyond it, and share no row with what else it loads."""
    with Session(session.connection()) as apart:
        parts = queries.shelf_parts(apart, kind)
        facts = facts_of_parts(apart, parts, [part.states[-1].id for part in parts])
        let_go(apart)
    return [facts[part.states[-1].id] for part in parts]
