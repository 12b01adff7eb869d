"""Dynos, at the engine or at the wheels."""

from dataclasses import asdict, dataclass
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.instruments.dyno_line import DynoLine, sample_pattern
from elvarn.instruments.reach import LOAD_OFF
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.shop.fields import check_address, check_percent, named
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
    line: DynoLine | None


@given
class NewDyno:
    """A dyno. `repeatability_percent`: what two pulls of one mount differ by at most, 19 times in 20;
    `day_shift_percent`: standard deviation from day to day."""

    name: str
    kind: str
    load: str = ""
    repeatability_percent: Percent | None = None
    day_shift_percent: Percent | None = None
    line: DynoLine | None = None


@given
class DynoEdit:
    """A dyno said anew, on the version that was seen."""

    version: int
    dyno: NewDyno


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
        line_of(row),
    )


def add_dyno(session: Session, identifier: UUID, new: NewDyno) -> DynoView:
    """A dyno, at the engine, at the hubs or on rollers."""
    fields = _checked(new)
    made = write_once(
        session, Dyno, identifier, new, lambda digest: Dyno(id=identifier, content_digest=digest, **fields)
    )
    return dyno_view(made)


def edit_dyno(session: Session, identifier: UUID, change: DynoEdit) -> DynoView:
    """Say anew what a dyno is, repeats within, and where it answers. Raises Stale where somebody else did meanwhile."""
    row = find_for_edit(session, Dyno, identifier, "dyno")
    edit(row, change.version, _checked(change.dyno), "dyno")
    session.flush()
    return dyno_view(row)


def line_of(dyno: Dyno) -> DynoLine | None:
    """How a dyno's samples come in, or None where pulls come as files."""
    return None if dyno.line is None else DynoLine(**dyno.line)


def _checked(new: NewDyno) -> dict[str, Any]:
    """A dyno's fields as they are kept. Raises Invalid for what can't be."""
    if new.kind not in KINDS:
        raise Invalid(f"'{new.kind}' is no kind of dyno. Known: {', '.join(KINDS)}.", path="kind")
    if new.load not in LOADS:
        raise Invalid(f"'{new.load}' is no load. Known: inertia, brake, or empty.", path="load")
    check_percent(new.repeatability_percent, "repeatability_percent")
    check_percent(new.day_shift_percent, "day_shift_percent")
    return {
        "name": named(new.name),
        "kind": new.kind,
        "load": new.load,
        "repeatability_percent": new.repeatability_percent,
        "day_shift_percent": new.day_shift_percent,
        "line": _checked_line(new.line),
    }


def _checked_line(line: DynoLine | None) -> dict[str, Any] | None:
    if line is None:
        return None
    check_address(line, LOAD_OFF)
    try:
        sample_pattern(line.pattern)
    except ValueError as error:
        raise Invalid(str(error), path="line.pattern") from error
    return asdict(line)
