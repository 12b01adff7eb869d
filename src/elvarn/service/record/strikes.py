"""A strike-out as it is shown."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from elvarn.store.models import Reading


@dataclass(frozen=True)
class StruckView:
    reason: str
    person: str
    at: datetime


def struck_view(reading: Reading, people: Mapping[UUID, str]) -> StruckView | None:
    """That a reading was struck out, why and by whom; None where it counts."""
    strike = reading.strike
    return StruckView(strike.reason, people[strike.person_id], strike.struck_at) if strike else None
