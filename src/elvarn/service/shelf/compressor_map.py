"""A compressor's map taken from a file."""

from dataclasses import asdict
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn.core.errors import CoreError
from elvarn.exchange.compressor_file import read_map
from elvarn.exchange.table import TableError
from elvarn.service.kernel.apart import Run
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.writes import edit, find_for_edit
from elvarn.service.record.features import map_of
from elvarn.service.record.specs import MapPoint
from elvarn.store.models import Part


def take_map(session: Session, run: Run, part_id: UUID, version: int, content: bytes) -> Part:
    """Keep a map as what is stated of a compressor, in place of an earlier one. Raises Invalid naming the row and what
    is wrong with it; Stale where the part was changed meanwhile."""
    part = find_for_edit(session, Part, part_id, "part")
    if part.kind != "compressor":
        raise Invalid(f"A {part.kind} has no compressor map.", path="file")
    try:
        points = [asdict(row) for row in run(read_map, content)]
        map_of([MapPoint(**point) for point in points])
    except (TableError, CoreError) as error:
        raise Invalid(str(error), path="file") from error
    edit(part, version, {"features": {**part.features, "map_points": points}}, "part")
    session.flush()
    return part
