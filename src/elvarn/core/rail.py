"""The steps of the work, in its order: the one list of them, and the kinds of job with the steps that each needs."""

from dataclasses import dataclass
from enum import StrEnum


class Step(StrEnum):
    """A step of the work: its word everywhere in the house, its label, and the letters that go there after `g`."""

    label: str
    letters: str

    def __new__(cls, word: str, label: str, letters: str) -> "Step":
        step = str.__new__(cls, word)
        step._value_ = word
        step.label = label
        step.letters = letters
        return step

    CHECKIN = "checkin", "Check-in", "ti"
    PATH = "path", "Air path", "p"
    BENCH = "bench", "Bench", "b"
    PORT = "port", "Port work", "o"
    FIT = "fit", "Fit", "f"
    DYNO = "dyno", "Dyno", "d"
    HANDOVER = "handover", "Hand-over", "h"


@dataclass(frozen=True)
class Kind:
    """A kind of job: its code, its title, and the steps it needs besides check-in and hand-over."""

    code: str
    title: str
    between: tuple[Step, ...]

    @property
    def rail(self) -> tuple[Step, ...]:
        return (Step.CHECKIN, *self.between, Step.HANDOVER)


KINDS = (
    Kind("port_by_post", "Sent-in part, port work", (Step.BENCH, Step.PORT)),
    Kind("whole_job", "Full job", (Step.PATH, Step.BENCH, Step.PORT, Step.FIT, Step.DYNO)),
    Kind("comparison", "Build comparison", (Step.PATH, Step.BENCH, Step.DYNO)),
    Kind("development", "Development", (Step.PATH, Step.BENCH, Step.PORT, Step.DYNO)),
    Kind("tube", "Intake tube only", (Step.PATH, Step.BENCH, Step.FIT)),
    Kind("fit", "Fitting only", (Step.FIT,)),
)
