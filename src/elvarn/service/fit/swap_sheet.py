"""The swap sheet: strands of the swap, its tasks in order with what holds them up, what is next and what refuses."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.fit.interface import KINDS, Verb
from elvarn.core.fit.order import FitTask
from elvarn.core.fit.schools import SCHOOLS, SEALS
from elvarn.core.fit.swap import Strand
from elvarn.core.rail import Step
from elvarn.service.fit.said import InterfaceSpec, InTheWay, OwnStep, Renewal
from elvarn.service.fit.signing import refusals
from elvarn.service.fit.state import PlanState, state_of
from elvarn.service.fit.swap_words import margin_of
from elvarn.service.fit.tuner import tuner_page
from elvarn.service.job.cautions import CAUTIONS
from elvarn.service.job.photos import PhotoView, photos_of_tasks
from elvarn.service.kernel.find import find
from elvarn.service.kernel.sentences import Sentence, first_up
from elvarn.service.record.features import read
from elvarn.service.shop.known import names_of_people
from elvarn.service.shop.settings import path_settings
from elvarn.store import queries
from elvarn.store.models import Build, Job, Task


@dataclass(frozen=True)
class StrandView:
    """A line of the sheet. `state` is "done", "open", "held", "safety" or "question"; `facts` what is lost without it
    and which way it flows; `tasks` keys of its tasks."""

    key: str
    code: str
    on: str
    off: str
    goes_on: str
    verb: str
    how: str
    question: str
    facts: list[str]
    needs: list[str]
    tasks: list[str]
    done: int
    state: str
    part: bool


@dataclass(frozen=True)
class TaskReading:
    """What was measured at a task, as it was typed, and when."""

    typed: str
    at: datetime


@dataclass(frozen=True)
class FitTaskView:
    """A task: its state, keys of the tasks that it waits for and why, what to watch, what is measured at it and what
    was."""

    id: UUID
    version: int
    key: str
    title: str
    phase: str
    state: str
    strand: str
    code: str
    how: str
    tools: list[str]
    people: int
    safety: bool
    waits: list[str]
    because: str
    asks: str
    readings: list[TaskReading]
    result: str | None
    minutes: float | None
    done_at: datetime | None
    done_by: str | None
    doubts: list[str]


@dataclass(frozen=True)
class WayView:
    word: str
    why: str


@dataclass(frozen=True)
class SchoolView:
    """A question on which careful people differ, its ways with their reasons, and the one taken."""

    code: str
    question: str
    ways: list[WayView]
    taken: str


@dataclass(frozen=True)
class KitLine:
    """Something that the swap needs: how many, and how many were counted."""

    words: str
    wanted: int
    counted: int | None


@dataclass(frozen=True)
class SwapView:
    """A swap as it stands. `now` is the key of the next task; `refused` what keeps it from being signed off; `past`
    what was done and is no longer asked for."""

    id: UUID
    version: int
    family: str
    mock_up: bool
    seal: str
    seals: list[str]
    off: str
    on: str
    on_build_id: UUID
    strands: list[StrandView]
    tasks: list[FitTaskView]
    now: str | None
    refused: list[str]
    changes: list[str]
    left_over: list[str]
    past: list[str]
    kit: list[KitLine]
    in_the_way: list[InTheWay]
    renewals: list[Renewal]
    extras: list[InterfaceSpec]
    steps: list[OwnStep]
    said: dict[str, dict[str, str]]
    schools: list[SchoolView]
    signed_off: str
    margin: list[Sentence]
    tuner: list[Sentence]


@dataclass(frozen=True)
class BuildChoice:
    id: UUID
    name: str


@dataclass(frozen=True)
class SwapSheet:
    """The swap of a job, none where none was begun; the builds that one can be of; what usually sits on an intake, and
    the shop's own steps."""

    swap: SwapView | None
    builds: list[BuildChoice]
    currency: str
    verbs: list[str]
    usual: list[str]
    minutes: float
    cautions: list[str]
    alike: bool
    photos: list[PhotoView]


def swap_sheet(session: Session, job_id: UUID) -> SwapSheet:
    """The swap of a job."""
    find(session, Job, job_id, "job")
    builds = queries.builds_of(session, [job_id])
    plan = queries.fit_plan_of(session, job_id)
    swap = None
    if plan is not None:
        state = state_of(session, plan)
        swap = _swap(session, state, {build.id: build for build in builds})
    tasks = [row for row in queries.tasks_of(session, [job_id]) if row.rail_step == Step.FIT]
    return SwapSheet(
        swap,
        [BuildChoice(build.id, build.name) for build in builds],
        path_settings(session).settings.currency,
        [verb for verb in Verb if verb is not Verb.LOOK],
        [kind.name for kind in KINDS],
        sum(row.minutes or 0 for row in tasks),
        CAUTIONS["fit"],
        swap is not None and not swap.strands,
        photos_of_tasks(session, job_id),
    )


def _swap(session: Session, state: PlanState, builds: Mapping[UUID, Build]) -> SwapView:
    plan = state.plan
    people = names_of_people(session)
    off, on = builds[plan.off_build_id], builds[plan.on_build_id]
    signed = state.rows.get("sign off")
    by = people.get(signed.done_by_id, "") if signed and signed.done_by_id else ""
    return SwapView(
        id=plan.id,
        version=plan.version,
        family=plan.family,
        mock_up=plan.mock_up,
        seal=plan.seal,
        seals=list(SEALS),
        off=off.name,
        on=on.name,
        on_build_id=on.id,
        strands=[_strand(state, one) for one in state.strands],
        tasks=[_task(state, task, state.rows[key], people) for key, task in state.tasks.items() if key in state.rows],
        now=state.following.key if state.following else None,
        refused=refusals(state),
        changes=state.changes,
        left_over=[words for one in state.strands for words in one.left],
        past=state.past,
        kit=[KitLine(words, wanted, plan.kit.get(words)) for words, wanted in state.kit.items()],
        in_the_way=[read(InTheWay, one) for one in plan.in_the_way],
        renewals=[read(Renewal, one) for one in plan.renewals],
        extras=[read(InterfaceSpec, one) for one in plan.extras],
        steps=[read(OwnStep, one) for one in plan.steps],
        said=plan.said,
        schools=[
            SchoolView(one.code, one.question, [WayView(way.word, way.why) for way in one.ways], state.at.way(one.code))
            for one in SCHOOLS
        ],
        signed_off=f"{by}, {signed.done_at:%Y-%m-%d}" if signed and signed.done_at else "",
        margin=margin_of(state),
        tuner=tuner_page(session, state, off, on),
    )


def _strand(state: PlanState, one: Strand) -> StrandView:
    keys = [key for key, task in state.tasks.items() if task.strand == one.key]
    done = sum(state.done(key) for key in keys)
    kind = one.kind
    facts = []
    if kind and kind.idle:
        facts.append(f"At idle: {kind.idle}; at full throttle: {kind.full}.")
    if kind and kind.lost:
        facts.append(f"Left off: {kind.lost}.")
    return StrandView(
        key=one.key,
        code=state.plan.codes.get(one.key, ""),
        on=one.on,
        off=one.off,
        goes_on=one.goes_on,
        verb=one.verb,
        how=one.how,
        question=one.question,
        facts=facts,
        needs=[f"{need.count} × {need.words}" for need in one.needs],
        tasks=keys,
        done=done,
        state=_stands(state, one, keys, done),
        part=one.part,
    )


def _stands(state: PlanState, one: Strand, keys: list[str], done: int) -> str:
    if one.question:
        return "question"
    if keys and done == len(keys):
        return "done"
    if any(state.tasks[key].safety for key in keys):
        return "safety"
    following = next((key for key in keys if key in state.still_open), None)
    return "held" if following and state.graph.holds_up(following, state.still_open) else "open"


def _task(state: PlanState, task: FitTask, row: Task, people: Mapping[UUID, str]) -> FitTaskView:
    held = state.graph.holds_up(task.key, state.still_open) if row.state != "done" else []
    return FitTaskView(
        id=row.id,
        version=row.version,
        key=task.key,
        title=task.title,
        phase=task.phase,
        state=row.state,
        strand=task.strand,
        code=state.plan.codes.get(task.strand, ""),
        how=task.how,
        tools=list(task.tools),
        people=task.people,
        safety=task.safety,
        waits=[one.key for one in held],
        because=first_up(held[0].why) if held else "",
        asks=task.asks.words if task.asks else "",
        readings=[TaskReading(str(one["typed"]), datetime.fromisoformat(str(one["at"]))) for one in row.readings],
        result=row.result,
        minutes=row.minutes,
        done_at=row.done_at,
        done_by=people.get(row.done_by_id) if row.done_by_id else None,
        doubts=row.doubts,
    )
