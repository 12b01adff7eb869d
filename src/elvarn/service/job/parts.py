"""Parts as they are noted."""

from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.store.models import Part, PartPiece, PartState


@given
class NewPart:
    """A part with its first state; `piece_of` names the part that it is a piece of, and `role` which."""

    person_id: UUID
    job_id: UUID | None
    kind: str
    name: str
    state_id: UUID
    state_label: str = "as received"
    maker: str | None = None
    number: str | None = None
    material: str | None = None
    piece_of: UUID | None = None
    role: str = ""


def add_part(session: Session, identifier: UUID, new: NewPart) -> Part:
    """A part with its first state."""
    part = write_once(session, Part, identifier, new, lambda digest: part_row(identifier, new, digest))
    if new.piece_of is not None and session.get(PartPiece, (new.piece_of, identifier)) is None:
        whole = find(session, Part, new.piece_of, "part")
        session.add(PartPiece(part_id=whole.id, piece_id=identifier, position=len(whole.pieces), role=new.role))
        session.flush()
    return part


def part_row(identifier: UUID, new: NewPart, digest: str) -> Part:
    """A part with its first state, as the rows that keep them."""
    return Part(
        id=identifier,
        content_digest=digest,
        person_id=new.person_id,
        job_id=new.job_id,
        kind=new.kind,
        name=new.name,
        maker=new.maker,
        number=new.number,
        material=new.material,
        states=[
            PartState(
                id=new.state_id,
                content_digest=digest,
                person_id=new.person_id,
                sequence=1,
                label=new.state_label,
            )
        ],
    )
