"""A part read by itself: a throttle, a tube, a filter, or a runner of a part that belongs to no job."""

from collections.abc import Sequence
from dataclasses import field
from uuid import UUID, uuid5

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.gas.discharge import round_area
from elvarn.core.likeness import signature_of
from elvarn.core.path.tree import ElementKind
from elvarn.given import Moment, given
from elvarn.service.bench.asking import Beside, ask
from elvarn.service.bench.reading import reading_of
from elvarn.service.bench.setups import NewSetup, add_setup
from elvarn.service.bench.taken import Taken, check_pulled, figure_of
from elvarn.service.job.strikes import NewStrike, strike_out
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.record.part import PartFacts, load_facts, main_element
from elvarn.service.record.setup import declared
from elvarn.service.record.stated import at_reference
from elvarn.store.models import FlowReading, PartState, Setup
from elvarn.store.queries import KeptFigure


@given
class NewElementFlow:
    """A figure of a whole element (throttle, tube, filter), or of a runner of a part that belongs to no job. `accepted`
    and `replaces` answer what was asked."""

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
    accepted: list[str] = field(default_factory=list)
    replaces: list[UUID] = field(default_factory=list)
    refitted: bool = True


def capture_element(session: Session, identifier: UUID, new: NewElementFlow) -> FlowReading:
    """Keep the figure of a whole element. Raises Invalid for what can't be, Question for what may be meant otherwise,
    the same as at the bench."""
    setup = find(session, Setup, new.setup_id, "set-up")
    if setup.job_id != new.job_id:
        raise Invalid("That set-up is another job's. Note one for this figure.", path="setup_id")
    state = find(session, PartState, new.part_state_id, "part state")
    figure = figure_of(new.typed, new.default_unit, new.taken)
    check_pulled(figure)
    kind = _kind(new)
    sent_before = session.get(FlowReading, identifier) is not None
    replaced = set(new.replaces)
    here = [] if sent_before else _read_here(session, state, kind, new.cylinder)
    if not sent_before and not replaced <= {reading.id for reading in here}:
        raise Invalid("Only readings of this very part can be struck out for it. Reload.", path="replaces")
    left = [reading for reading in here if reading.id not in replaced]
    marks = [] if sent_before else ask(new, figure, _beside(session, new, kind, setup, state, left))

    def make(digest: str) -> FlowReading:
        row = reading_of(identifier, digest, new, kind, figure)
        row.marks, row.refitted = marks, new.refitted
        return row

    kept = write_once(session, FlowReading, identifier, new, make)
    for old in new.replaces:
        strike_out(session, old, NewStrike(new.person_id, "replaced by another reading", new.taken_at))
    return kept


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
    throttle: str = "off"
    cylinder: int | None = None
    job_id: UUID | None = None
    accepted: list[str] = field(default_factory=list)
    replaces: list[UUID] = field(default_factory=list)
    refitted: bool = True


def flow_of_part(session: Session, identifier: UUID, new: NewPartFlow) -> UUID:
    """Keep a figure of a part by itself. Raises Invalid for a depression or flow that can't be, Question for one that
    may be meant otherwise."""
    setup_id = uuid5(identifier, "setup")
    setup = NewSetup(
        person_id=new.person_id,
        job_id=new.job_id,
        bench_id=new.bench_id,
        depression=new.depression,
        entry_radius=new.entry_radius,
        throttle=new.throttle,
    )
    add_setup(session, setup_id, setup, alone=True)
    flow = NewElementFlow(
        new.person_id,
        new.job_id,
        setup_id,
        new.part_state_id,
        new.element_kind,
        new.typed,
        new.taken_at,
        cylinder=new.cylinder,
        accepted=new.accepted,
        replaces=new.replaces,
        refitted=new.refitted,
    )
    return capture_element(session, identifier, flow).id


def _kind(new: NewElementFlow) -> ElementKind:
    try:
        kind = ElementKind(new.element_kind)
    except ValueError as error:
        raise Invalid(f"'{new.element_kind}' is no kind of element.", path="element_kind") from error
    if (kind is ElementKind.RUNNER) != (new.cylinder is not None):
        raise Invalid("A runner's figure names its runner, another element's none.", path="cylinder")
    return kind


def _read_here(session: Session, state: PartState, kind: ElementKind, cylinder: int | None) -> list[FlowReading]:
    flows = load_facts(session, [state.id])[state.id].flows
    return [one for one in flows if (one.element_kind, one.cylinder) == (kind, cylinder)]


def _beside(
    session: Session,
    new: NewElementFlow,
    kind: ElementKind,
    setup: Setup,
    state: PartState,
    here: Sequence[FlowReading],
) -> Beside:
    """What is known beside the figure: the part's own readings as it is and as it came, else what its maker states."""
    facts = load_facts(session, {state.id, state.part.states[0].id})
    read = [r for one in facts.values() for r in one.flows if r.element_kind == kind and r.id not in new.replaces]
    others = [at_reference(reading) for reading in read]
    others_are = "the other runners" if kind is ElementKind.RUNNER else "what it read before"
    advertised = facts[state.id].advertised.flow_cfm
    if not others and advertised and kind == main_element(state.part.kind):
        others, others_are = [units.to_si(advertised, "cfm", "flow")], "what its maker states"
    as_now = signature_of(declared(setup))
    kept = [
        KeptFigure(r.id, r.figure, r.unit, at_reference(r), signature_of(declared(r.setup)) == as_now) for r in here
    ]
    subject = f"Runner {new.cylinder}" if new.cylinder else state.part.name
    bore = _smallest_bore(facts[state.id], kind, new.cylinder)
    return Beside(
        subject,
        kept,
        others,
        others_are,
        setup.depression_pa,
        round_area(bore) if bore else None,
        setup.bench.ranges,
        setup.bench.repeatability_percent,
    )


def _smallest_bore(facts: PartFacts, kind: ElementKind, cylinder: int | None) -> float | None:
    """The smallest section [m] that was measured, else that its maker states."""
    measured = [facts.dimension(kind, quantity, cylinder) for quantity in ("bore", "bore_out")]
    stated = [facts.advertised.bore_mm, facts.advertised.bore_out_mm] if kind == main_element(facts.part.kind) else []
    known = [bore for bore in measured if bore] or [bore / 1000 for bore in stated if bore]
    return min(known, default=None)
