"""Dynos, at the engine or at the wheels."""

from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.writes import write_once
from elvarn.service.shop.fields import check_percent, named
from elvarn.store.models import Dyno
from elvarn.typed import Percent

KINDS = {"engine": "at the engine", "hub": "at the hubs", "roller": "on rollers"}
LOADS = ("", "inertia", "brake")


@dataclass(frozen=True)
class DynoView:
    """A dyno: its kind in words too, and whether its power is the engine's or the wheels'."""

    id: UUID
    name: str
    kind: str
    kind_words: str
    load: str
    measures: str
    repeatability_percent: float | None
    day_shift_percent: float | None
    version: int


@given
class NewDyno:
    """A dyno. `repeatability_percent`: what two pulls of one mount differ by at most, 19 times in 20;
    `day_shift_percent`: standard deviation from day to day."""

    name: str
    kind: str
    load: str = ""
    repeatability_percent: Percent | None = None
    day_shift_percent: Percent | None = None


def dyno_view(row: Dyno) -> DynoView:
    """A dyno as it is shown."""
    return DynoView(
        row.id,
        row.name,
        row.kind,
        KINDS[row.kind],
        row.load,
        row.measures,
        row.repeatability_percent,
        row.day_shift_percent,
        row.version,
    )


def add_dyno(session: Session, identifier: UUID, new: NewDyno) -> DynoView:
    """A dyno, at the engine, at the hubs or on rollers."""
    if new.kind not in KINDS:
        raise Invalid(f"'{new.kind}' is no kind of dyno. Known: {', '.join(KINDS)}.", path="kind")
    if new.load not in LOADS:
        raise Invalid(f"'{new.load}' is no load. Known: inertia, brake, or empty.", path="load")
    check_percent(new.repeatability_percent, "repeatability_percent")
    check_percent(new.day_shift_percent, "day_shift_percent")

    def make(digest: str) -> Dyno:
        return Dyno(
            id=identifier,
            content_digest=digest,
            name=named(new.name),
            kind=new.kind,
            load=new.load,
            repeatability_percent=new.repeatability_percent,
            day_shift_percent=new.day_shift_percent,
        )

    return dyno_view(write_once(session, Dyno, identifier, new, make))
