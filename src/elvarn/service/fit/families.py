"""Engine families: what their engines have on the intake, what is in the way and what is worth renewing; learned from
each swap."""

from dataclasses import dataclass
from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from elvarn.service.fit.said import InterfaceSpec, InTheWay, Renewal
from elvarn.service.record.features import read
from elvarn.store import queries
from elvarn.store.models import EngineFamily, FitPlan


@dataclass(frozen=True)
class FamilyView:
    """A family by its name, with what is on the intake, in the way and worth renewing."""

    name: str
    interfaces: list[InterfaceSpec]
    in_the_way: list[InTheWay]
    renewals: list[Renewal]


@dataclass(frozen=True)
class Families:
    families: list[FamilyView]


def family_list(session: Session) -> Families:
    """Every family that the shop knows."""
    return Families(
        [
            FamilyView(
                row.name,
                [read(InterfaceSpec, one) for one in row.interfaces],
                [read(InTheWay, one) for one in row.in_the_way],
                [read(Renewal, one) for one in row.renewals],
            )
            for row in queries.families(session)
        ]
    )


def remember(session: Session, plan: FitPlan, person_id: UUID) -> None:
    """What was said of a swap is known of the engine's family from now on: nothing is taken from it. A line that the
    family has already is replaced, so that minutes and prices are the newest."""
    if not plan.family:
        return
    row = queries.family_named(session, plan.family)
    if row is None:
        row = EngineFamily(id=uuid4(), content_digest="", person_id=person_id, name=plan.family,
                           interfaces=[], in_the_way=[], renewals=[])  # fmt: skip
        session.add(row)
    named = [one for one in plan.extras if not one["words"].lower().startswith("unknown")]
    found = {
        "interfaces": _with(row.interfaces, named),
        "in_the_way": _with(row.in_the_way, plan.in_the_way),
        "renewals": _with(row.renewals, [{**one, "taken": False} for one in plan.renewals]),
    }
    for name, lines in found.items():
        if getattr(row, name) != lines:
            setattr(row, name, lines)
            row.version = (row.version or 1) + 1


def _with(known: list[dict[str, object]], more: list[dict[str, object]]) -> list[dict[str, object]]:
    lines = {str(one["words"]).lower(): one for one in known}
    lines.update({str(one["words"]).lower(): one for one in more})
    return list(lines.values())
