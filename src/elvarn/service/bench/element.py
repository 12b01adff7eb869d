"""A part read by itself: a throttle, a tube, a filter, or a runner of a part that belongs to no job."""

from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn.core.path.tree import ElementKind
from elvarn.given import Moment, given
from elvarn.service.bench.reading import reading_of
from elvarn.service.bench.setups import NewSetup, add_setup
from elvarn.service.bench.taken import Taken, check_pulled, figure_of
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.store.models import FlowReading, PartState, Setup


@given
class NewElementFlow:
    """A figure of a whole element (throttle, tube, filter), or of a runner of a part that belongs to no job."""

    person_id: UUID
    job_id: UUID | None
    setup_id: UUID
    part_state_id: UUID
    element_kind: str
    typed: str
    taken_at: Moment
    default_unit: str = "cfm"
    cylinder: int | None = None
    taken: Taken | None = None


def capture_element(session: Session, identifier: UUID, new: NewElementFlow) -> FlowReading:
    """Keep the figure of a whole element."""
    if find(session, Setup, new.setup_id, "set-up").job_id != new.job_id:
        raise Invalid("That set-up is another job's. Note one for this figure.", path="setup_id")
    find(session, PartState, new.part_state_id, "part state")
    figure = figure_of(new.typed, new.default_unit, new.taken)
    check_pulled(figure)
    try:
        kind = ElementKind(new.element_kind)
    except ValueError as error:
        raise Invalid(f"'{new.element_kind}' is no kind of element.", path="element_kind") from error
    if (kind is ElementKind.RUNNER) != (new.cylinder is not None):
        raise Invalid("A runner's figure names its runner, another element's none.", path="cylinder")

    def make(digest: str) -> FlowReading:
        return reading_of(identifier, digest, new, kind, figure)

    return write_once(session, FlowReading, identifier, new, make)


@given
class NewPartFlow:
    """A part read on the bench by itself, on the shelf or in a job: one set-up and one figure."""

    person_id: UUID
    part_state_id: UUID
    element_kind: str
    bench_id: UUID
    depression: str
    typed: str
    taken_at: Moment
    entry_radius: str = "clay"
    cylinder: int | None = None
    job_id: UUID | None = None


def flow_of_part(session: Session, identifier: UUID, new: NewPartFlow) -> UUID:
    """Keep a figure of a part by itself. Raises Invalid for a depression or flow that can't be."""
    setup_id = uuid5(identifier, "setup")
    setup = NewSetup(
        person_id=new.person_id,
        job_id=new.job_id,
        bench_id=new.bench_id,
        depression=new.depression,
        entry_radius=new.entry_radius,
    )
    add_setup(session, setup_id, setup)
    flow = NewElementFlow(
        new.person_id,
        new.job_id,
        setup_id,
        new.part_state_id,
        new.element_kind,
        new.typed,
        new.taken_at,
        cylinder=new.cylinder,
    )
    return capture_element(session, identifier, flow).id
