"""A cut makes a state of the part, and a build that has it."""

from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.trees import with_state
from elvarn.store import queries
from elvarn.store.models import Build, Part, PartState

STAGE_WORDS = {0: "gasket match", 1: "stage 1, clean-up", 2: "stage 2, entries and curves", 3: "stage 3, cut open"}


@given
class NewState:
    """A part after cutting."""

    person_id: UUID
    part_id: UUID
    stage: int | None = None
    label: str | None = None


def cut_part(session: Session, identifier: UUID, new: NewState) -> PartState:
    """Note that a part was cut: a new state, and the build that has it."""
    part = find(session, Part, new.part_id, "part")
    if new.stage is not None and new.stage not in STAGE_WORDS:
        raise Invalid(f"There is no stage {new.stage}; 0 to 3 are known.", path="stage")
    label = (new.label or STAGE_WORDS.get(new.stage if new.stage is not None else -1) or "after port work").strip()

    def make(digest: str) -> PartState:
        return PartState(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            part_id=part.id,
            sequence=queries.next_state_sequence(session, part.id),
            label=label,
            stage=new.stage,
        )

    state = write_once(session, PartState, identifier, new, make)
    if part.job_id is not None:
        _build_with(session, part.job_id, state, new.person_id)
    return state


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
