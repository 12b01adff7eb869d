"""Everything about one job, loaded once, and what can be told from it."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from statistics import fmean
from typing import TypeVar
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.bench.by_setup import SetupGain
from elvarn.core.bench.pairs import Pairs, Refit, alike_with_last
from elvarn.service.kernel.find import find
from elvarn.service.kernel.once import let_go
from elvarn.service.record.checks import load_checks
from elvarn.service.record.pairing import gains_of_setups, pairs_or_apart
from elvarn.service.record.part import PartFacts, facts_of
from elvarn.service.record.refits import sides_of
from elvarn.service.record.stated import at_reference, counts
from elvarn.service.record.trees import runner_states
from elvarn.service.shop.known import names_of_people
from elvarn.store import queries
from elvarn.store.models import Build, BuildNode, FlowReading, Job, Part, PartState, PullReading, Task

NOWHERE = UUID(int=0)  # the state of an element whose part is not known
OfJob = TypeVar("OfJob", Build, Part, FlowReading, PullReading, Task)


@dataclass(frozen=True)
class JobRecord:
    """A job with its parts, builds and flow readings; its pulls, tasks and people are asked for when they are looked
    at. The runners' part has a state before, once cut one after."""

    session: Session
    job: Job
    parts: Sequence[Part]
    builds: Sequence[Build]
    configured: Sequence[FlowReading]
    facts: dict[UUID, PartFacts]
    _runners: dict[tuple[UUID | None, bool], dict[int, list[FlowReading]]] = field(default_factory=dict, init=False)

    @cached_property
    def flows(self) -> Sequence[FlowReading]:
        """Flow readings as they were taken, without those of configuration tests."""
        return [reading for reading in self.configured if reading.plan_id is None]

    @cached_property
    def pulls(self) -> Sequence[PullReading]:
        return queries.pulls_of(self.session, [self.job.id])

    @cached_property
    def tasks(self) -> Sequence[Task]:
        return queries.tasks_of(self.session, [self.job.id])

    @cached_property
    def people(self) -> dict[UUID, str]:
        return names_of_people(self.session)

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
        key = (state.id if state else None, struck)
        if key not in self._runners:
            self._runners[key] = self._read_runners(state, struck)
        return self._runners[key]

    def _read_runners(self, state: PartState | None, struck: bool) -> dict[int, list[FlowReading]]:
        found: dict[int, list[FlowReading]] = {number: [] for number in range(1, self.cylinder_count + 1)}
        if state is None:
            return found
        for reading in self.flows:
            wanted = reading.part_state_id == state.id and reading.cylinder in found
            if wanted and (struck or (reading.strike is None and counts(reading))):
                found[reading.cylinder or 0].append(reading)
        return found

    def valid_readings(self, state: PartState | None) -> list[FlowReading]:
        """Valid readings of a state, as they were taken."""
        rows = [reading for readings in self.runner_readings(state).values() for reading in readings]
        return sorted(rows, key=lambda reading: reading.taken_at)

    def read_runners(self, state: PartState | None) -> set[int]:
        """Runners of which a valid reading of this state counts."""
        return {number for number, readings in self.runner_readings(state).items() if readings}

    @cached_property
    def sides(self) -> list[dict[int, list[Refit]]]:
        """Each runner's refits before and after."""
        return sides_of(*(self.runner_readings(state) for state in (self.before_state, self.after_state)))

    @cached_property
    def by_setup(self) -> tuple[SetupGain, ...]:
        """The gain of each set-up, where no figure can stand for all of them."""
        rows = (self.valid_readings(state) for state in (self.before_state, self.after_state))
        return gains_of_setups(self.session, self.sides, *rows)

    @cached_property
    def pairs(self) -> Pairs:
        """The runners that were read before and after, of what was set up alike."""
        return pairs_or_apart(self.sides, self.by_setup)

    @cached_property
    def means(self) -> tuple[dict[int, float], dict[int, float]]:
        """Mean flow of each runner before and after: of what was set up alike, else of what was set up as the last."""
        before, after = ({n: alike_with_last(refits) for n, refits in side.items()} for side in self.sides)
        for pair in self.pairs.alike:
            before[pair.runner], after[pair.runner] = pair.before, pair.after
        return before, after

    def element_readings(self, node: BuildNode) -> list[FlowReading]:
        """Valid readings of an element at its state."""
        facts = self.facts.get(node.part_state_id) if node.part_state_id else None
        return facts.readings(node.element_kind or "", node.cylinder) if facts else []

    def element_flow(self, node: BuildNode) -> float | None:
        """Mean of what was measured of an element at its state, in m³/s at the reference depression."""
        kept = [at_reference(reading) for reading in self.element_readings(node)]
        return fmean(kept) if kept else None

    def measured(self, node: BuildNode) -> bool:
        """Whether an element was flowed, or its bore measured."""
        return self.dimension(node, "bore") is not None or bool(self.element_readings(node))

    def dimension(self, node: BuildNode, quantity: str) -> float | None:
        """The last valid measurement of a dimension of an element, in SI."""
        facts = self.facts.get(node.part_state_id or NOWHERE)
        return facts.dimension(node.element_kind or "", quantity, node.cylinder) if facts else None

    def valid_pulls(self, build: Build | None) -> list[PullReading]:
        return [pull for pull in self.pulls if build and pull.card.build_id == build.id and pull.strike is None]

    def build_name(self, identifier: UUID) -> str:
        """The name of a build of the job."""
        return next((build.name for build in self.builds if build.id == identifier), "a build")


def load_job(session: Session, identifier: UUID) -> JobRecord:
    """A job with all that belongs to it. Raises NotFound."""
    return _records(session, [find(session, Job, identifier, "job")])[0]


def load_jobs(session: Session, identifiers: Sequence[UUID]) -> list[JobRecord]:
    """Jobs with all that belongs to them, pulls and tasks too, in as many questions as one job takes."""
    records = _records(session, queries.jobs_of(session, identifiers))
    pulls = _by_job(queries.pulls_of(session, identifiers))
    tasks = _by_job(queries.tasks_of(session, identifiers))
    for record in records:
        vars(record).update(pulls=pulls.get(record.job.id, []), tasks=tasks.get(record.job.id, []))
    return records


def load_kept(session: Session, identifier: UUID) -> JobRecord:
    """A job loaded whole, to be kept beyond its session. Raises NotFound."""
    record = load_job(session, identifier)
    _ = record.pulls, record.tasks, record.people
    let_go(session)
    return record


def _records(session: Session, jobs: Sequence[Job]) -> list[JobRecord]:
    identifiers = [job.id for job in jobs]
    builds = queries.builds_of(session, identifiers)
    mounted = {node.part_state_id for build in builds for node in build.nodes if node.part_state_id}
    parts = queries.parts_in_jobs(session, identifiers, list(mounted))
    states = {state.id for part in parts for state in part.states if part.job_id in identifiers} | mounted
    readings = queries.flows_in_jobs(session, identifiers, list(states))
    load_checks(session)
    facts = facts_of(session, parts, states, (r for r in readings if r.plan_id is None))
    own_parts, own_builds, own_readings = _by_job(parts), _by_job(builds), _by_job(readings)

    def record(job: Job) -> JobRecord:
        own = own_parts.get(job.id, []), own_builds.get(job.id, []), own_readings.get(job.id, [])
        return JobRecord(session, job, *own, facts)

    return [record(job) for job in jobs]


def _by_job(rows: Iterable[OfJob]) -> dict[UUID | None, list[OfJob]]:
    found: dict[UUID | None, list[OfJob]] = {}
    for row in rows:
        found.setdefault(row.job_id, []).append(row)
    return found
