"""An assembly's pieces along a runner: where one ends and the next begins, and at which stage each stands."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.job.parts import NewPart, add_part
from elvarn.service.kernel.errors import Invalid
from elvarn.store.models import Part, PartState
from elvarn.typed import Millimetres

MOST_PIECES = 6


@given
class Piece:
    """A piece that a runner goes through, and where it ends, from the runner's entry."""

    role: str
    to_mm: Millimetres


@dataclass(frozen=True)
class PieceView:
    """A piece at its latest state: from where to where it reaches along a runner [mm], where that was said."""

    part_id: UUID
    role: str
    from_mm: float | None
    to_mm: float | None
    state: str
    stage: int | None
    in_work: bool


def checked_pieces(pieces: Sequence[Piece]) -> list[dict[str, Any]]:
    """Pieces as the table keeps them. Raises Invalid for names or ends that can't be."""
    if len(pieces) > MOST_PIECES:
        raise Invalid(f"{len(pieces)} pieces are too many: {MOST_PIECES} at most.", path="plan.pieces")
    for number, one in enumerate(pieces):
        if not one.role.strip() or not 0 < one.to_mm <= 2000:
            text = f"Piece {number + 1}: give its name and where it ends, such as 'upper half to 120'."
            raise Invalid(text, path=f"plan.pieces.{number}")
    for number, (first, second) in enumerate(pairwise(pieces), start=1):
        if second.to_mm <= first.to_mm:
            text = f"{second.role} ends {second.to_mm:g} mm in, {first.role} before it {first.to_mm:g} mm in."
            raise Invalid(f"{text} List them from the entry on.", path=f"plan.pieces.{number}")
    names = [one.role.strip().lower() for one in pieces]
    if len(set(names)) < len(names):
        raise Invalid("Two pieces have one name. Give each its own.", path="plan.pieces")
    return [{"role": one.role.strip(), "to_mm": float(one.to_mm)} for one in pieces]


def make_pieces(session: Session, whole: Part, person_id: UUID, kept: Sequence[dict[str, Any]]) -> None:
    """Every piece that is named is a part of its own, with its own stages; one that is there already stays."""
    known = {link.role.lower() for link in whole.pieces}
    for one in kept:
        role = one["role"]
        if role.lower() in known:
            continue
        identifier = uuid5(whole.id, f"piece {role.lower()}")
        add_part(
            session,
            identifier,
            NewPart(
                person_id, whole.job_id, whole.kind, f"{whole.name}, {role}", uuid5(identifier, "state 1"),
                maker=whole.maker, material=whole.material, piece_of=whole.id, role=role,
            ),
        )  # fmt: skip
        session.expire(whole, ["pieces"])


def pieces_of(whole: Part, kept: Sequence[dict[str, Any]]) -> list[PieceView]:
    """The pieces of an assembly, from the entry on; those that lie along no runner last."""
    ends = {one["role"].lower(): float(one["to_mm"]) for one in kept}
    starts = dict(zip(ends, [0.0, *ends.values()], strict=False))
    found = []
    for link in whole.pieces:
        state = latest(link.piece)
        role = link.role.lower()
        found.append(
            PieceView(
                link.piece_id, link.role, starts.get(role), ends.get(role), state.label, state.stage, state.in_work
            )
        )
    return sorted(found, key=lambda one: (one.to_mm is None, one.to_mm or 0.0, one.role))


def piece_of(whole: Part, piece_id: UUID) -> tuple[Part, str]:
    """A piece of an assembly with its role. Raises Invalid for none of its."""
    link = next((link for link in whole.pieces if link.piece_id == piece_id), None)
    if link is None:
        raise Invalid("That is no piece of this part. Reload.", path="piece_id")
    return link.piece, link.role


def latest(part: Part) -> PartState:
    return max(part.states, key=lambda state: state.sequence)
