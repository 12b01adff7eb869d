"""Parts put away from the shelf, or taken away where nothing rests on them."""

from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.sentences import what_rests
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.store import queries
from elvarn.store.models import Part


@given
class PartAway:
    """Whether a part is put away from the shelf, on the version that was seen."""

    version: int
    archived: bool


def put_part_away(session: Session, part_id: UUID, change: PartAway) -> Part:
    """Put a part away from the shelf, or back on it: it is no candidate meanwhile, and builds keep it. Raises Stale
    where it was changed meanwhile."""
    part = find_for_edit(session, Part, part_id, "part")
    edit(part, change.version, {"archived_at": datetime.now(UTC) if change.archived else None}, "part")
    session.flush()
    return part


def delete_part(session: Session, part_id: UUID, version: int) -> None:
    """Take a part away. Raises Invalid where something rests on it; Stale where it was changed meanwhile."""
    part = find_for_edit(session, Part, part_id, "part")
    edit(part, version, {}, "part")
    resting = queries.rests_on_part(session, part_id)
    if resting:
        raise Invalid(
            f"{what_rests(resting)} '{part.name}'. Put it away instead: nothing measured is lost.", path="part"
        )
    session.flush()
    queries.drop_part(session, part)
