"""How a swap stands: its strands, its tasks in order, what is done of them, and what holds the rest up."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from sqlalchemy.orm import Session

from elvarn.core.fit.order import FitTask, Graph, graph_of
from elvarn.core.fit.swap import Strand, kit_of
from elvarn.core.fit.tasks import Circumstances, tasks_of
from elvarn.service.fit.said import InTheWay, OwnStep, Renewal
from elvarn.service.fit.strands import strands_of
from elvarn.service.kernel.find import find
from elvarn.service.record.features import SurroundingsSpec, read
from elvarn.store import queries
from elvarn.store.models import BoltMap, FitNote, FitPlan, Job, NoteKind, Task

LONG_CAM_DEG = 40.0  # ° of overlap from which idle is lumpy; common practice, no source
LETTERS = {"vacuum": "V", "air": "A", "coolant": "C", "fuel": "F", "electric": "E", "bolted": "B", "earth": "G"}


@dataclass(frozen=True)
class PlanState:
    """A plan with all that follows from it at this moment."""

    plan: FitPlan
    job: Job
    strands: Sequence[Strand]
    at: Circumstances
    rows: Mapping[str, Task]
    bolts: Sequence[BoltMap]
    notes: Sequence[FitNote]

    @cached_property
    def graph(self) -> Graph:
        own = [
            FitTask(f"own {one.title.lower()}", one.title, one.phase, frozenset({"own"}))
            for one in (read(OwnStep, step) for step in self.plan.steps)
        ]
        return graph_of([*tasks_of(self.strands, self.at), *own])

    @cached_property
    def tasks(self) -> dict[str, FitTask]:
        """Tasks by their key, in order."""
        return {task.key: task for task in self.graph.tasks}

    def done(self, key: str) -> bool:
        """Whether a task is done."""
        row = self.rows.get(key)
        return row is not None and row.state == "done"

    @cached_property
    def past(self) -> list[str]:
        """What was done and is no longer asked for, since the builds or the plan changed."""
        return [row.title for key, row in self.rows.items() if key not in self.tasks and row.state == "done"]

    @cached_property
    def still_open(self) -> set[str]:
        return {key for key in self.tasks if not self.done(key)}

    @cached_property
    def safety_open(self) -> list[FitTask]:
        """Safety tasks that are not done, in order."""
        return [task for key, task in self.tasks.items() if task.safety and key in self.still_open]

    @cached_property
    def following(self) -> FitTask | None:
        """The next task that nothing holds up and that does not wait."""
        free = [task for key, task in self.tasks.items() if key in self.still_open and not self._held(key)]
        working = [task for task in free if not self._waits(task.key)]
        return next(iter(working), next(iter(free), None))

    def _held(self, key: str) -> bool:
        return bool(self.graph.holds_up(key, self.still_open))

    def _waits(self, key: str) -> bool:
        row = self.rows.get(key)
        return row is not None and row.state == "waiting"

    @cached_property
    def kit(self) -> dict[str, int]:
        """What the swap needs and how many: seals and parts of its strands, bolts of its flanges."""
        found = kit_of(self.strands)
        for flange in self.bolts:
            for place in flange.places:
                words = f"{flange.thread} × {place['length_mm'] or 1000 * flange.length_m:g} mm, {flange.bolt_class}"
                found[words] = found.get(words, 0) + 1
        for one in (read(Renewal, kept) for kept in self.plan.renewals):
            if one.taken:
                found[one.words] = found.get(one.words, 0) + 1
        return found

    @cached_property
    def short(self) -> dict[str, int]:
        """What is short of the kit, of what was counted or not counted yet."""
        counted = self.plan.kit
        return {words: wanted - counted.get(words, 0) for words, wanted in self.kit.items()
                if counted.get(words, 0) < wanted}  # fmt: skip

    @property
    def counted(self) -> bool:
        """Whether each item of the kit was counted."""
        return all(words in self.plan.kit for words in self.kit)

    @cached_property
    def for_now(self) -> list[str]:
        """What was mended for now only."""
        return [
            str(note.said["words"]) for note in self.notes
            if note.kind == NoteKind.BROKEN and note.said.get("for_now") and not note.said.get("mended")
        ]  # fmt: skip

    @cached_property
    def codes_back(self) -> list[str]:
        """Fault codes that came back after they were cleared, or were never cleared."""
        return [
            str(note.said["code"]) for note in self.notes
            if note.kind == NoteKind.CODE and note.said.get("state") != "gone"
        ]  # fmt: skip

    @cached_property
    def touched(self) -> set[str]:
        """Names of interfaces and kinds of elements that the swap touches."""
        return {name for one in self.strands for name in (one.on, one.kind.name if one.kind else one.off.lower())}

    @cached_property
    def changes(self) -> list[str]:
        """What the builds, parts or family say otherwise than when the tasks were written."""
        seen = {one["key"]: one for one in self.plan.seen}
        now = {one.key: one for one in self.strands}
        found = []
        for key, one in now.items():
            if key not in seen:
                found.append(f"new: {one.off or one.goes_on}, {one.verb}")
            elif seen[key] != seen_of(one):
                found.append(_otherwise(seen[key], one))
        found += [f"no longer: {one['off'] or one['goes_on']}" for key, one in seen.items() if key not in now]
        return found


def seen_of(strand: Strand) -> dict[str, str]:
    """A strand as it is remembered, to tell later whether it changed."""
    return {
        "key": strand.key,
        "off": strand.off,
        "goes_on": strand.goes_on,
        "verb": strand.verb.value,
        "how": strand.how,
    }


def _otherwise(was: Mapping[str, str], now: Strand) -> str:
    words = now.off or now.goes_on
    if was["goes_on"] != now.goes_on:
        return f"{words}: {was['goes_on'] or 'nothing'} → {now.goes_on or 'nothing'}"
    if was["verb"] != now.verb:
        return f"{words}: {was['verb']} → {now.verb}"
    if was["off"] != now.off:
        return f"{was['off']} → {now.off} comes off"
    return f"{words}: {now.how or 'as it was'}"


def state_of(session: Session, plan: FitPlan) -> PlanState:
    """How a plan stands."""
    job = find(session, Job, plan.job_id, "job")
    return PlanState(
        plan,
        job,
        strands_of(session, plan, job),
        _circumstances(plan, job),
        queries.tasks_of_plan(session, plan.id),
        queries.bolt_maps_of(session, plan.job_id),
        queries.fit_notes_of(session, plan.job_id),
    )


def _circumstances(plan: FitPlan, job: Job) -> Circumstances:
    around = read(SurroundingsSpec, job.surroundings)
    engine = job.engine
    overlap = None
    if engine and engine.inlet_opens_deg is not None and engine.exhaust_closes_deg is not None:
        overlap = engine.inlet_opens_deg + engine.exhaust_closes_deg
    return Circumstances(
        tuple(read(InTheWay, one).words for one in plan.in_the_way),
        tuple(one.words for one in (read(Renewal, kept) for kept in plan.renewals) if one.taken),
        around.brakes.value if around.brakes else None,
        plan.mock_up,
        plan.schools,
        overlap is not None and overlap >= LONG_CAM_DEG,
    )
