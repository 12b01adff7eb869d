"""A cut makes a state of the part, and a build that has it."""

from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import first_up, what_rests
from elvarn.service.kernel.writes import find_for_edit, write_once
from elvarn.service.port.assembly import piece_of
from elvarn.service.record.trees import with_state
from elvarn.service.shop.settings import STAGES, path_settings, stage_words
from elvarn.store import queries
from elvarn.store.models import Build, Part, PartState


@given
class NewState:
    """A part after cutting, or `in_work` one that is about to be cut; of an assembly whole, or one of its pieces."""

    person_id: UUID
    part_id: UUID
    stage: int | None = None
    label: str | None = None
    in_work: bool = False
    piece_id: UUID | None = None


@given
class Finish:
    person_id: UUID


def cut_part(session: Session, identifier: UUID, new: NewState) -> PartState:
    """Note that a part was cut: a new state, and the build that has it."""
    part = find(session, Part, new.part_id, "part")
    if new.stage is not None and new.stage not in STAGES:
        raise Invalid(f"There is no stage {new.stage}; 0 to 3 are known.", path="stage")
    _none_in_work(part, identifier)
    label = (new.label or _called(session, new.stage)).strip()
    whole_label = label
    if new.piece_id is not None:
        piece, role = piece_of(part, new.piece_id)
        _none_in_work(piece, piece_state_id(identifier))
        whole_label = f"{label}: {role}"

    def make(digest: str) -> PartState:
        return PartState(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            part_id=part.id,
            sequence=queries.next_state_sequence(session, part.id),
            label=whole_label,
            stage=new.stage,
            in_work=new.in_work,
        )

    state = write_once(session, PartState, identifier, new, make)
    if new.piece_id is not None and session.get(PartState, piece_state_id(identifier)) is None:
        session.add(_piece_state(session, state, new.piece_id, label))
        session.flush()
    if part.job_id is not None:
        _build_with(session, part.job_id, state, new.person_id)
    return state


def piece_state_id(identifier: UUID) -> UUID:
    """The state of the piece that was cut, by that of its assembly."""
    return uuid5(identifier, "piece")


def _piece_state(session: Session, whole: PartState, piece_id: UUID, label: str) -> PartState:
    """The piece goes on to its own next state; the others stay where they are."""
    return PartState(
        id=piece_state_id(whole.id),
        content_digest=whole.content_digest,
        person_id=whole.person_id,
        part_id=piece_id,
        sequence=queries.next_state_sequence(session, piece_id),
        label=label,
        stage=whole.stage,
        in_work=whole.in_work,
    )


def _called(session: Session, stage: int | None) -> str:
    """What a state is called after its stage, in the shop's words."""
    if stage is None:
        return "after port work"
    words = stage_words(path_settings(session).settings, stage).strip()
    return f"stage {stage}, {words}" if stage else words


def finish_stage(session: Session, identifier: UUID) -> PartState:
    """Say that a stage is done; said twice it stays so."""
    state = find_for_edit(session, PartState, identifier, "part state")
    state.in_work = False
    piece = session.get(PartState, piece_state_id(identifier))
    if piece is not None:
        piece.in_work = False
    session.flush()
    return state


def take_back(session: Session, identifier: UUID) -> NewState:
    """Take a stage back that was begun by mistake; what begins it anew is given back. Raises Invalid where it isn't in
    work, or something was measured or worked of it."""
    state = find_for_edit(session, PartState, identifier, "part state")
    if not state.in_work:
        raise Invalid(f"{first_up(state.label)} is done: it stays in the record.", path="stage")
    build = session.get(Build, uuid5(state.id, "build"))
    resting = queries.rests_on_state(session, state.id, uuid5(state.id, "build"))
    if build is not None:
        resting |= queries.rests_on_build(session, build.id)
    resting |= queries.rests_on_state(session, piece_state_id(state.id), uuid5(state.id, "build"))
    if resting:
        text = f"{what_rests(resting)} {state.label}. Nothing measured is lost: finish the stage instead."
        raise Invalid(text, path="stage")
    if build is not None:
        queries.drop_build(session, build)
    piece = session.get(PartState, piece_state_id(identifier))
    if piece is not None:
        queries.drop_state(session, piece)
    queries.drop_state(session, state)
    label = piece.label if piece else state.label
    return NewState(state.person_id, state.part_id, state.stage, label, True, piece.part_id if piece else None)


def _none_in_work(part: Part, identifier: UUID) -> None:
    open_one = next((state for state in part.states if state.in_work and state.id != identifier), None)
    if open_one is not None:
        raise Invalid(f"{first_up(open_one.label)} is in work. Finish it before the next begins.", path="stage")


def _build_with(session: Session, job_id: UUID, state: PartState, person_id: UUID) -> None:
    identifier = uuid5(state.id, "build")
    if session.get(Build, identifier) is not None:
        return
    builds = queries.builds_of(session, [job_id])
    names = {build.name for build in builds}
    name = state.label if state.label not in names else f"{state.label} ({state.sequence})"
    with_part = (
        b for b in reversed(builds) if any(n.part_state and n.part_state.part_id == state.part_id for n in b.nodes)
    )
    last = next(with_part, builds[-1])
    build = Build(
        id=identifier,
        content_digest=state.content_digest,
        person_id=person_id,
        job_id=job_id,
        name=name,
        is_stock=False,
        sequence=queries.next_build_sequence(session, job_id),
        cylinder_count=last.cylinder_count,
    )
    session.add(build)
    session.flush()
    session.add_all(with_state(last, identifier, state))
    session.flush()
