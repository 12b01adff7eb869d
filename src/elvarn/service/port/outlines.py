"""Outlines of openings as they are traced: kept as seen from the entry, in metres, with how they were measured."""

from dataclasses import asdict, dataclass, field
from math import hypot, radians
from typing import Annotated
from uuid import UUID

import numpy as np
from pydantic import Field
from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.arrays import Array
from elvarn.core.port.meeting import NAMES, Of
from elvarn.core.port.outline import Outline, outline_of, turned
from elvarn.core.port.plausible import seen_section
from elvarn.core.port.scale import KnownLength, Scale, edge_within, scale_from_corners, scale_of
from elvarn.given import Moment, given
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.writes import write_once
from elvarn.service.port.sections import MOST_AREA, UNLIKELY, NewSection, doubts_of_area, place_of, states_up_to
from elvarn.service.port.traced import MOST_POINTS
from elvarn.store.models import OutlineReading, StoredFile

Place = Annotated[list[float], Field(min_length=2, max_length=2)]
Places = Annotated[list[Place], Field(max_length=MOST_POINTS)]
FURTHEST = 100_000  # dots, or mm, from the corner
BORE_OF = {Of.OPENING: "throttle", Of.THROTTLE: "throttle"}
MOST_MARKS, MOST_WITHIN = 2, 100
FROM_ENTRY, FROM_HEAD = "entry", "head"


@given
class NewLength:
    """Two places in a picture [dots] and how far they are apart, as typed."""

    first: Place
    second: Place
    typed: str


@given
class NewPicture:
    """A picture in which an outline lies: its scale by known lengths, or by the corners of a rectangle of known sides,
    from the upper left clockwise [dots];
    `tapped_within` is how many dots a point of the screen covered as they were tapped."""

    digest: str
    lengths: Annotated[list[NewLength], Field(max_length=10)] = field(default_factory=list)
    corners: Annotated[list[Place], Field(max_length=4)] = field(default_factory=list)
    width: str = ""
    height: str = ""
    tapped_within: float = 1.0


@given
class NewOutline:
    """An outline beside a part state. Points and marks are in dots of a picture (y down), else in mm (y up); `turn_deg`
    turns them anticlockwise so that twelve o'clock is up; what was seen from the head's side is turned over. Marks are
    two bolt holes by which it is laid on others. `by_hand`: points were tapped or moved, not found."""

    person_id: UUID
    job_id: UUID | None
    part_state_id: UUID
    of: str
    points: Places
    taken_at: Moment
    cylinder: int | None = None
    place: str = ""
    marks: Annotated[list[Place], Field(max_length=MOST_MARKS)] = field(default_factory=list)
    picture: NewPicture | None = None
    source: str = "hand"
    seen_from: str = FROM_ENTRY
    turn_deg: float = 0.0
    by_hand: bool = False
    accepted: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class _Measured:
    """An outline in metres, its marks, and how far its edge may lie off."""

    outline: Outline
    marks: Array
    edge: float | None


def add_outline(session: Session, identifier: UUID, new: NewOutline) -> OutlineReading:
    """Keep an outline. Raises Invalid for one that can't be, CoreError for points that are none or a picture without
    scale, Question for a section that is unlikely or grew smaller."""
    of, place = _of(new)
    found = _measured(session, new)
    doubts = _doubts(session, new, of, place, found.outline)

    def make(digest: str) -> OutlineReading:
        return OutlineReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            taken_at=new.taken_at,
            marks=doubts,
            part_state_id=new.part_state_id,
            of=of,
            cylinder=new.cylinder,
            place_m=place,
            points_m=found.outline.points.round(7).tolist(),
            marks_m=found.marks.round(7).tolist(),
            area_m2=found.outline.area,
            perimeter_m=found.outline.perimeter,
            edge_m=found.edge,
            source="picture" if new.picture else new.source,
            file_digest=new.picture.digest if new.picture else None,
            scale=asdict(new.picture) if new.picture else None,
        )

    return write_once(session, OutlineReading, identifier, new, make)


def _of(new: NewOutline) -> tuple[Of, float]:
    """What it is of, and how far in. Raises Invalid."""
    if new.of not in list(Of):
        raise Invalid(f"'{new.of}' has no outline here: {', '.join(Of)}.", path="of")
    if new.source not in ("hand", "file"):
        raise Invalid(f"'{new.source}' is no way to get an outline: a picture, file or hand.", path="source")
    if new.seen_from not in (FROM_ENTRY, FROM_HEAD):
        raise Invalid(f"'{new.seen_from}' is no side to look from: entry or head.", path="seen_from")
    if not abs(new.turn_deg) <= 360:
        raise Invalid(f"It can't be turned by {new.turn_deg:g}°: −360 to 360.", path="turn_deg")
    of = Of(new.of)
    if of is not Of.RUNNER:
        return of, 0.0
    if new.cylinder is None:
        raise Invalid("Which runner is it of?", path="cylinder")
    return of, place_of(new.place)


def _measured(session: Session, new: NewOutline) -> _Measured:
    _check_dots(new)
    points, marks = np.array(new.points, float).reshape(-1, 2), np.array(new.marks, float).reshape(-1, 2)
    edge = None
    if new.picture:
        if session.get(StoredFile, new.picture.digest) is None:
            raise Invalid("That picture is not kept here. Drop it again.", path="picture.digest")
        scale = _scale(new.picture)
        dots, points, marks = points, scale.metres(points), scale.metres(marks)
        dot = scale.dot(dots[0]) if len(dots) else 0.0
        edge = edge_within(outline_of(points), scale, dot)
        if new.by_hand:
            edge = hypot(edge, new.picture.tapped_within * dot)
    else:
        points, marks = points / 1000, marks / 1000
    if new.seen_from == FROM_HEAD:
        points, marks = points * [-1, 1], marks * [-1, 1]
    turn = radians(new.turn_deg)
    outline, marks = outline_of(turned(points, turn)), turned(marks, turn)
    middle = outline.centroid
    return _Measured(outline.moved(-middle), marks - middle, edge)


def _check_dots(new: NewOutline) -> None:
    """Raises Invalid for a place that lies in no picture or drawing."""
    picture = new.picture
    known = [*picture.corners, *(end for one in picture.lengths for end in (one.first, one.second))] if picture else []
    for at in (*new.points, *new.marks, *known):
        if max(abs(at[0]), abs(at[1])) > FURTHEST:
            raise Invalid(f"{at[0]:.6g}, {at[1]:.6g} lies in no picture. Trace it again.", path="points")


def _scale(picture: NewPicture) -> Scale:
    if not 0 < picture.tapped_within <= MOST_WITHIN:
        raise Invalid(f"Nobody taps within {picture.tapped_within:g} dots: 1 to {MOST_WITHIN}.", path="tapped_within")
    if picture.corners:
        width, height = (units.parse(text, "length", "mm").si for text in (picture.width, picture.height))
        return scale_from_corners([(x, y) for x, y in picture.corners], width, height, picture.tapped_within)
    known = [
        KnownLength((one.first[0], one.first[1]), (one.second[0], one.second[1]), _length(one.typed))
        for one in picture.lengths
    ]
    return scale_of(known, picture.tapped_within)


def _length(typed: str) -> float:
    return units.parse(typed, "length", "mm").si


def _doubts(session: Session, new: NewOutline, of: Of, place: float, outline: Outline) -> list[str]:
    said = f"{1e6 * outline.area:,.0f} mm²"
    if of is Of.RUNNER and new.cylinder is not None:
        section = NewSection(
            new.person_id, new.job_id, new.part_state_id, new.cylinder, new.place, said, new.taken_at, new.accepted
        )
        return doubts_of_area(session, section, outline.area, place, lambda *_: [])
    states_up_to(session, new.part_state_id, new.cylinder if new.cylinder is not None else 1)
    if outline.area > MOST_AREA:
        raise Invalid(f"The {NAMES[of]} would have {said}: nothing here is so wide. Is the scale right?", path="points")
    unlikely = seen_section(outline.area, BORE_OF.get(of, "runner"))
    if unlikely and UNLIKELY not in new.accepted:
        keep = Offer(f"Save {said} anyway, flagged", {"accepted": [*new.accepted, UNLIKELY]})
        raise Question(UNLIKELY, f"{unlikely} Is the scale right?", [keep], path="points")
    return [UNLIKELY] if unlikely else []
