"""What a computation has to say beside its figures."""

from dataclasses import dataclass
from enum import StrEnum


class Grade(StrEnum):
    """How well a statement stands."""

    MEASURED = "measured"
    COMPUTED = "computed"
    ESTIMATED = "estimated"
    RULE = "rule"


@dataclass(frozen=True)
class Finding:
    """One remark: a stable code, the sentence, and whether it casts doubt on the figure."""

    code: str
    text: str
    doubt: bool = False
