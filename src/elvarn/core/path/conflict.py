"""A conflict of a part with its place: the reason, how grave it is, its remedy and what that takes."""

from dataclasses import dataclass
from enum import StrEnum

from elvarn.core.path.features import Features, Neighbours, Surroundings


class Severity(StrEnum):
    """Hard: it can't be fitted so. Soft: it can, at a cost. Information: good to know."""

    HARD = "hard"
    SOFT = "soft"
    INFORMATION = "information"


@dataclass(frozen=True)
class Remedy:
    """What to do, and what that takes: minutes of work [min], what is to be bought, in words, and the kind of step
    that rules may forbid ("spacer", "welding")."""

    words: str
    minutes: float = 0.0
    buy: str = ""
    takes: str = ""


@dataclass(frozen=True)
class Conflict:
    """A reason against a part. `code` is stable; minutes are estimates from common practice, no source. `step` [m] is
    how far two openings that meet differ, in front of the part or behind it."""

    code: str
    severity: Severity
    text: str
    remedy: Remedy
    step: float = 0.0
    in_front: bool = False


@dataclass(frozen=True)
class Case:
    """A part at a place: its features, its neighbours, and what is round it."""

    part: Features
    at: Neighbours
    around: Surroundings


def millimetres(metres: float) -> str:
    """A length in words.

    Arguments: metres [m].
    Returns: the length in mm, with its unit.
    Raises: nothing.
    Source: definition.
    """
    return f"{round(metres * 1000, 1):g} mm"


def all_of(words: list[str]) -> str:
    """Words in a row.

    Arguments: words: at least one.
    Returns: "a, b and c".
    Raises: nothing.
    Source: definition.
    """
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"
