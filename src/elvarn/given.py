"""What comes from outside: dataclasses that refuse what they do not know, with texts and times that can be kept."""

from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta
from typing import Annotated, TypeVar, dataclass_transform

from pydantic import AfterValidator, AwareDatetime, ConfigDict

LONGEST_TEXT = 20_000  # letters: a long note; a table comes as a file
FIRST_YEAR = 2000  # nobody's bench was read into this before
AHEAD = timedelta(days=1)  # a clock may be wrong, and a place east of here is in tomorrow
AS_GIVEN = ConfigDict(extra="forbid", str_max_length=LONGEST_TEXT, allow_inf_nan=False)

Given = TypeVar("Given")


@dataclass_transform(frozen_default=True, field_specifiers=(field,))
def given(kind: type[Given]) -> type[Given]:
    """A frozen dataclass as a request sends it: unknown fields and texts beyond all measure are refused, by name."""
    made = dataclass(frozen=True)(kind)
    made.__pydantic_config__ = AS_GIVEN  # type: ignore[attr-defined]
    return made


def _not_far_off(at: datetime) -> datetime:
    if at.year < FIRST_YEAR:
        raise ValueError(f"{at.date()} is before {FIRST_YEAR}: set the clock, or type the date again")
    if at.year > datetime.now(UTC).year + 1 or at > datetime.now(UTC) + AHEAD:
        raise ValueError(f"{at.date()} is more than a day ahead: set the clock of this device")
    return at.astimezone(UTC)


def _not_another_century(day: date) -> date:
    if not FIRST_YEAR <= day.year < FIRST_YEAR + 100:
        raise ValueError(f"{day} is not in this century: type the date again")
    return day


Moment = Annotated[AwareDatetime, AfterValidator(_not_far_off)]
Day = Annotated[date, AfterValidator(_not_another_century)]
