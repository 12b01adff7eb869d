"""Pieces that change places between assemblies."""

from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid, Stale
from elvarn.service.kernel.find import find
from elvarn.store import queries
from elvarn.store.models import PartPiece, Person


@given
class PieceExchange:
    """Two pieces change places between the assemblies that they were seen in: sent twice, they change once."""

    person_id: UUID
    one_piece_id: UUID
    one_assembly_id: UUID
    other_piece_id: UUID
    other_assembly_id: UUID


def exchange_pieces(session: Session, exchange: PieceExchange) -> None:
    """Let two pieces change places. Raises Invalid where one is no piece, Stale where one moved meanwhile."""
    find(session, Person, exchange.person_id, "person")
    one, other = (_piece(session, piece) for piece in (exchange.one_piece_id, exchange.other_piece_id))
    if exchange.one_assembly_id == exchange.other_assembly_id:
        raise Invalid("Both pieces belong to the same assembly.", path="other_piece_id")
    if (one.part_id, other.part_id) == (exchange.other_assembly_id, exchange.one_assembly_id):
        return
    if (one.part_id, other.part_id) != (exchange.one_assembly_id, exchange.other_assembly_id):
        seen = {"one_assembly_id": exchange.one_assembly_id, "other_assembly_id": exchange.other_assembly_id}
        raise Stale("assemblies", {"one_assembly_id": one.part_id, "other_assembly_id": other.part_id}, seen)
    if one.role != other.role:
        text = f"A piece that is the {one.role or 'piece'} can't take the place of the {other.role or 'piece'}."
        raise Invalid(text, path="other_piece_id")
    links = (
        PartPiece(part_id=one.part_id, piece_id=other.piece_id, position=one.position, role=one.role),
        PartPiece(part_id=other.part_id, piece_id=one.piece_id, position=other.position, role=other.role),
    )
    session.delete(one)
    session.delete(other)
    session.flush()
    session.add_all(links)
    session.flush()


def _piece(session: Session, piece_id: UUID) -> PartPiece:
    link = queries.piece_link(session, piece_id)
    if link is None:
        raise Invalid("That piece belongs to no assembly. Make it a piece of one first.", path="one_piece_id")
    return link
