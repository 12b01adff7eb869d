"""A strike-out as it is shown."""

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class StruckView:
    reason: str
    person: str
    at: datetime
