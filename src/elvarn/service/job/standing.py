"""How a job stands at one step of the work, and what is to be done there."""

from dataclasses import dataclass

from elvarn.core.rail import Step


@dataclass(frozen=True)
class Todo:
    """What is to be done at a step, in words: at the step's own place on the rail, or right after another one."""

    words: str
    after: Step | None = None


@dataclass(frozen=True)
class Standing:
    """Whether a step is done, what is done of it in a word or two, and what is to be done there, in that order."""

    done: bool
    status: str
    todo: tuple[Todo, ...] = ()
