"""Parts, their states and pieces."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy import ColumnElement, func, or_, select
from sqlalchemy.orm import Session, joinedload, selectinload

from elvarn.store.models import Part, PartPiece, PartState


def hold_shelf(session: Session) -> None:
    """Wait for whoever is laying parts on the shelf, and keep others waiting until the transaction ends."""
    session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended("shelf", 0))))


def parts_of(session: Session, job_ids: Sequence[UUID]) -> Sequence[Part]:
    """Parts of jobs with their states, in the order in which they came."""
    wanted = select(Part).where(Part.job_id.in_(job_ids)).order_by(Part.created_at, Part.name)
    return session.scalars(wanted.options(joinedload(Part.states))).unique().all()


def parts_in_jobs(session: Session, job_ids: Sequence[UUID], state_ids: Sequence[UUID]) -> Sequence[Part]:
    """Parts of jobs, and those to which these states belong, with all their states, in the order in which they came."""
    owners = select(PartState.part_id).where(PartState.id.in_(state_ids))
    wanted = select(Part).where(or_(Part.job_id.in_(job_ids), Part.id.in_(owners)))
    return session.scalars(wanted.order_by(Part.created_at, Part.name).options(joinedload(Part.states))).unique().all()


def part_with_its_states(session: Session, part_id: UUID) -> Part | None:
    """A part with all its states, in one question."""
    return session.get(Part, part_id, options=[joinedload(Part.states)])


def parts_with_states(session: Session, state_ids: Sequence[UUID]) -> Sequence[Part]:
    """Parts to which these states belong, with all their states."""
    return parts_in_jobs(session, [], state_ids)


def parts_like(session: Session, part: Part) -> Sequence[Part]:
    """The part, with every other of its maker and number, the oldest first."""
    wanted = select(Part).where(Part.id == part.id)
    if part.number:
        wanted = select(Part).where(Part.number == part.number, Part.maker.is_not_distinct_from(part.maker))
    return session.scalars(wanted.options(selectinload(Part.states)).order_by(Part.created_at)).all()


def piece_link(session: Session, piece_id: UUID) -> PartPiece | None:
    """How a piece belongs to its assembly."""
    return session.scalars(select(PartPiece).where(PartPiece.piece_id == piece_id)).first()


def pieces_of_others(session: Session, part_id: UUID) -> list[tuple[PartPiece, Part]]:
    """Pieces of every other assembly, with the assembly."""
    wanted = select(PartPiece, Part).join(Part, Part.id == PartPiece.part_id).where(PartPiece.part_id != part_id)
    return [(row[0], row[1]) for row in session.execute(wanted.order_by(Part.name, PartPiece.position))]


def numbered_manifolds(session: Session) -> Sequence[Part]:
    """Manifolds that have a number, with their states, the oldest first."""
    wanted = (
        select(Part)
        .where(Part.kind == "manifold", Part.number.is_not(None), Part.number != "")
        .order_by(Part.created_at)
    )
    return session.scalars(wanted.options(joinedload(Part.states))).unique().all()


def shelf_parts(session: Session, kind: str | None = None) -> Sequence[Part]:
    """Parts on the shelf with their states, by kind and name; pieces of an assembly lie inside it."""
    pieces = select(PartPiece.piece_id)
    here = Part.job_id.is_(None) & Part.archived_at.is_(None)
    wanted = select(Part).where(here, Part.id.not_in(pieces)).order_by(Part.kind, Part.name)
    if kind is not None:
        wanted = wanted.where(Part.kind == kind)
    return session.scalars(wanted.options(joinedload(Part.states))).unique().all()


@dataclass(frozen=True)
class ShelfSearch:
    """What is looked for on the shelf: every word, in whatever is said of a part; a kind, a maker; only these parts;
    the part that a state is of; those put away instead of those that lie here."""

    words: tuple[str, ...] = ()
    kind: str | None = None
    maker: str | None = None
    among: Sequence[UUID] | None = None
    state: UUID | None = None
    archived: bool = False


def count_on_shelf(session: Session, search: ShelfSearch) -> dict[str, int]:
    """How many parts are found, by kind, whatever kind is looked for."""
    wanted = select(Part.kind, func.count()).where(*_found(search)).group_by(Part.kind)
    return {row[0]: row[1] for row in session.execute(wanted)}


def count_put_away(session: Session) -> int:
    """How many parts were put away from the shelf."""
    away = Part.job_id.is_(None) & Part.archived_at.is_not(None)
    return session.scalar(select(func.count()).select_from(Part).where(away)) or 0


def makers_on_shelf(session: Session) -> list[str]:
    """Makers of parts on the shelf, by name."""
    wanted = select(Part.maker).where(Part.job_id.is_(None), Part.maker.is_not(None)).distinct().order_by(Part.maker)
    return [maker for maker in session.scalars(wanted) if maker]


def shelf_page(session: Session, search: ShelfSearch, most: int, after: int) -> Sequence[Part]:
    """At most so many of the parts that are found, by kind and name, after so many of them, with their states."""
    wanted = select(Part.id).where(*_found(search))
    if search.kind is not None:
        wanted = wanted.where(Part.kind == search.kind)
    page = wanted.order_by(Part.kind, Part.name, Part.id).limit(most).offset(after)
    loaded = select(Part).where(Part.id.in_(page)).options(joinedload(Part.states))
    return session.scalars(loaded.order_by(Part.kind, Part.name, Part.id)).unique().all()


def _found(search: ShelfSearch) -> list[ColumnElement[bool]]:
    """Conditions of a search but for the kind; pieces of an assembly lie inside it."""
    told = func.concat_ws(" ", Part.name, Part.maker, Part.number, Part.kind, Part.material, Part.note)
    found: list[ColumnElement[bool]] = [Part.job_id.is_(None), Part.id.not_in(select(PartPiece.piece_id))]
    found.append(Part.archived_at.is_not(None) if search.archived else Part.archived_at.is_(None))
    found += [told.icontains(word, autoescape=True) for word in search.words]
    if search.maker is not None:
        found.append(Part.maker == search.maker)
    if search.state is not None:
        found.append(Part.states.any(PartState.id == search.state))
    if search.among is not None:
        found.append(Part.id.in_(search.among))
    return found


def next_state_sequence(session: Session, part_id: UUID) -> int:
    """Number of the state that the next cut makes. The part is held until this is kept: two cuts never share one."""
    session.execute(select(Part.id).where(Part.id == part_id).with_for_update())
    return (session.scalar(select(func.max(PartState.sequence)).where(PartState.part_id == part_id)) or 0) + 1
