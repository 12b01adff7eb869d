"""Everything about one job, loaded once, and what can be told from it."""

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.takein.progress import Progress, Standing, standing
from elvarn.service.facts import PartFacts, load_facts
from elvarn.service.stated import at_reference, counts, flows_by_runner
from elvarn.service.trees import runner_states
from elvarn.service.writes import find
from elvarn.store import queries
from elvarn.store.models import (
    Build,
    BuildNode,
    FlowReading,
    Job,
    Part,
    PartState,
    PullReading,
    Step,
)


@dataclass(frozen=True)
class JobRecord:
    """A job with its parts, builds, readings and steps. The runners' part has a state before, once cut one after."""

    job: Job
    parts: Sequence[Part]
    builds: Sequence[Build]
    flows: Sequence[FlowReading]
    pulls: Sequence[PullReading]
    steps: Sequence[Step]
    facts: dict[UUID, PartFacts]
    people: dict[UUID, str]

    @property
    def cylinder_count(self) -> int:
        return self.builds[0].cylinder_count if self.builds else 0

    @property
    def latest_build(self) -> Build | None:
        return self.builds[-1] if self.builds else None

    @property
    def stock_build(self) -> Build | None:
        return next((build for build in self.builds if build.is_stock), None)

    @property
    def before_state(self) -> PartState | None:
        found = runner_states(self.builds)
        return self.state(found[0][1]) if found else None

    @property
    def after_state(self) -> PartState | None:
        """The last state of the part that was read before, where it was cut."""
        before = self.before_state
        states = (self.state(identifier) for _, identifier in runner_states(self.builds))
        later = [s for s in states if s and before and s.part_id == before.part_id and s.sequence > before.sequence]
        return max(later, key=lambda state: state.sequence, default=None)

    @property
    def runners_to_read(self) -> Sequence[int]:
        """Every runner, or the reference runner alone where it stands for them."""
        every = range(1, self.cylinder_count + 1)
        reference = self.job.reference_runner
        return every if reference is None or reference not in every else (reference,)

    def state(self, identifier: UUID) -> PartState | None:
        known = self.facts.get(identifier)
        return known.state if known else None

    def runner_readings(self, state: PartState | None, *, struck: bool = False) -> dict[int, list[FlowReading]]:
        """Valid readings of each runner in a state that count here, or all that were taken, the struck ones too."""
        found: dict[int, list[FlowReading]] = {number: [] for number in range(1, self.cylinder_count + 1)}
        for reading in self.flows:
            wanted = state is not None and reading.part_state_id == state.id and reading.cylinder in found
            if wanted and (struck or (reading.strike is None and counts(reading))):
                found[reading.cylinder or 0].append(reading)
        return found

    def runner_flows(self, state: PartState | None) -> dict[int, list[float]]:
        """What each refit of each runner that was read passed, in m³/s at the reference depression."""
        return flows_by_runner(self.runner_readings(state))

    def element_flow(self, node: BuildNode) -> float | None:
        """Mean of what was measured of an element at its state, in m³/s at the reference depression."""
        facts = self.facts.get(node.part_state_id) if node.part_state_id else None
        kept = [at_reference(r) for r in facts.readings(node.element_kind or "", node.cylinder)] if facts else []
        return fmean(kept) if kept else None

    def dimension(self, node: BuildNode, quantity: str) -> float | None:
        """The last valid measurement of a dimension of an element, in SI."""
        facts = self.facts.get(node.part_state_id) if node.part_state_id else None
        return facts.dimension(node.element_kind or "", quantity, node.cylinder) if facts else None

    def valid_pulls(self, build: Build | None) -> list[PullReading]:
        return [pull for pull in self.pulls if build and pull.build_id == build.id and pull.strike is None]

    def flow_gain(self) -> float | None:
        """Mean gain on the bench as a fraction, over runners read before and after; None where none was."""
        before, after = self.runner_flows(self.before_state), self.runner_flows(self.after_state)
        both = [number for number in before if number in after]
        if not both:
            return None
        return sum(fmean(after[n]) for n in both) / sum(fmean(before[n]) for n in both) - 1

    def progress(self) -> Progress:
        stock = self.stock_build
        others = [build for build in self.builds if not build.is_stock]
        elements = [n for n in self.latest_build.nodes if n.element_kind] if self.latest_build else []
        measured = [n for n in elements if self.dimension(n, "bore") is not None or self.element_flow(n) is not None]
        fitting = [step for step in self.steps if step.rail_step == "fit"]
        after = self.after_state
        return Progress(
            runners=self.runners_to_read,
            before=self.runner_flows(self.before_state).keys(),
            after=self.runner_flows(after).keys(),
            cut=after is not None,
            stage=after.stage if after else None,
            stock_pulls=len(self.valid_pulls(stock)),
            other_pulls=sum(len(self.valid_pulls(build)) for build in others),
            fit_steps=len(fitting),
            fit_done=sum(step.state == "done" for step in fitting),
            elements=len(elements),
            elements_measured=len(measured),
            handed_over=self.job.closed_at is not None,
        )

    def standing(self) -> Standing:
        return standing(self.job.kind.rail, self.progress())


def load_job(session: Session, identifier: UUID) -> JobRecord:
    """A job with all that belongs to it. Raises NotFound."""
    job = find(session, Job, identifier, "job")
    parts = queries.parts_of(session, identifier)
    builds = queries.builds_of(session, identifier)
    states = {state.id for part in parts for state in part.states}
    states |= {node.part_state_id for build in builds for node in build.nodes if node.part_state_id}
    return JobRecord(
        job,
        parts,
        builds,
        queries.flow_readings_of(session, identifier),
        queries.pulls_of(session, identifier),
        queries.steps_of(session, identifier),
        load_facts(session, states),
        queries.names_of_people(session),
    )
