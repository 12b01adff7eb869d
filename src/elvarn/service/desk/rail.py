"""The rail of a job: the sum of how it stands at each step, and what is next."""

from dataclasses import dataclass
from importlib import import_module
from typing import Literal

from elvarn.core.rail import Step
from elvarn.service.job.standing import Standing, Todo
from elvarn.service.record.job import JobRecord

State = Literal["open", "waiting", "done", "here"]
ORDER = tuple(Step)


@dataclass(frozen=True)
class RailStep:
    """One step of the rail: its word, label, what is done of it, and its state."""

    word: str
    label: str
    status: str
    state: State


@dataclass(frozen=True)
class Rail:
    """The steps of a job, the one at which it stands, and what to do next."""

    steps: tuple[RailStep, ...]
    here: Step
    next: str


def rail_of(record: JobRecord) -> Rail:
    """Where a job stands: at the first thing to do in the order of work."""
    standings = {step: standing_at(step, record) for step in Step if step in record.job.kind.rail}
    todo = [(_place(step, one), step, one.words) for step, found in standings.items() for one in found.todo]
    _, here, words = min(todo, default=(0, Step.HANDOVER, "Handed over"))
    return Rail(tuple(_shown(step, found, here) for step, found in standings.items()), here, words)


def standing_at(step: Step, record: JobRecord) -> Standing:
    """How a job stands at a step, told by the step's own package."""
    found: Standing = import_module(f"elvarn.service.{step}.standing").standing(record)
    return found


def _place(step: Step, todo: Todo) -> float:
    return ORDER.index(step) if todo.after is None else ORDER.index(todo.after) + 0.5


def _shown(step: Step, standing: Standing, here: Step) -> RailStep:
    state: State = "here" if step == here else "done" if standing.done else "open"
    return RailStep(step, step.label, standing.status, state)
