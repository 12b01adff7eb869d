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


@dataclass(frozen=True)
class DynoView:
    id: UUID
    name: str
    measures: str
    repeatability_percent: float | None
    version: int


@given
class NewDyno:
    name: str
    measures: str
    repeatability_percent: Percent | None = None


def add_dyno(session: Session, identifier: UUID, new: NewDyno) -> DynoView:
    """A dyno, at the engine or at the wheels."""
    if new.measures not in ("engine", "wheel"):
        raise Invalid("A dyno measures at the 'engine' or at the 'wheel'.", path="measures")
    check_percent(new.repeatability_percent, "repeatability_percent")

    def make(digest: str) -> Dyno:
        return Dyno(
            id=identifier,
            content_digest=digest,
            name=named(new.name),
            measures=new.measures,
            repeatability_percent=new.repeatability_percent,
        )

    row = write_once(session, Dyno, identifier, new, make)
    return DynoView(row.id, row.name, row.measures, row.repeatability_percent, row.version)
