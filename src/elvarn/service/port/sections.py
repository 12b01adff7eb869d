"""Sections and walls of runners as they are measured: kept as typed, asked about where they can hardly be."""

import re
from collections.abc import Callable
from dataclasses import field
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.port.plausible import GAUGED_WITHIN, READ_WITHIN, WALL, seen_section, unlike_neighbours
from elvarn.core.port.wall import Place
from elvarn.given import Moment, given
from elvarn.service.kernel.errors import Invalid, Offer, Question
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import write_once
from elvarn.service.port.typed import read_section, section_of
from elvarn.store import queries
from elvarn.store.models import AnySection, Part, PartState, SectionReading, WallReading
from elvarn.typed import ClockHours

UNLIKELY, SMALLER, THICKER = "unlikely", "smaller", "thicker"
MADE_SMALLER = {"filled": "Filled here", "insert": "Insert fitted", "welded": "Welded up"}
SAME_PLACE = 0.0005  # m: stations nearer than that are one
LONGEST = 2.0  # m
MOST_RUNNERS = 16
MOST_AREA = 0.07  # m²: a bore of 300 mm
_UNIT = re.compile(r"\s*(?:sq\s*)?(?:mm|cm|in|m)\s*(?:\^?2|²)?(?![a-z])", re.IGNORECASE)


@given
class NewSection:
    """A section across a runner as measured, so far in from its entry: "38 x 44", "D 42 x 36", "1219 mm2". `accepted`
    are doubts under which it is kept, or what made it smaller."""

    person_id: UUID
    job_id: UUID | None
    part_state_id: UUID
    cylinder: int
    place: str
    typed: str
    taken_at: Moment
    accepted: list[str] = field(default_factory=list)


@given
class NewWall:
    """A wall of a runner as gauged, so far in from its entry, at an hour of the clock seen from there; what it holds:
    wall, spot or water."""

    person_id: UUID
    job_id: UUID | None
    part_state_id: UUID
    cylinder: int
    place: str
    hour: ClockHours
    typed: str
    taken_at: Moment
    holds: str = Place.WALL
    accepted: list[str] = field(default_factory=list)


def add_section(session: Session, identifier: UUID, new: NewSection) -> SectionReading:
    """Keep a section. Raises Invalid for one that can't be, Question for one that is unlikely or grew smaller."""
    place = place_of(new.place)
    typed = read_section(new.typed)
    doubts = doubts_of_area(session, new, section_of(typed.shape, typed.sizes).area, place, _other_units)

    def make(digest: str) -> SectionReading:
        return SectionReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            taken_at=new.taken_at,
            marks=doubts,
            part_state_id=new.part_state_id,
            cylinder=new.cylinder,
            place_m=place,
            typed=new.typed.strip(),
            shape=typed.shape,
            sizes=list(typed.sizes),
        )

    return write_once(session, SectionReading, identifier, new, make)


def add_wall(session: Session, identifier: UUID, new: NewWall) -> WallReading:
    """Keep a wall. Raises Invalid for one that can't be, Question for one that is unlikely or grew."""
    place = place_of(new.place)
    if new.holds not in list(Place):
        raise Invalid(f"'{new.holds}' is nothing that a wall holds: wall, spot or water.", path="holds")
    if not 0 < new.hour <= 12:
        raise Invalid(f"{new.hour:g} o'clock can't be: 1 to 12, seen from the entry.", path="hour")
    typed = units.parse(new.typed, "length", "mm")
    if typed.si <= 0 or typed.si > 0.1:
        raise Invalid(f"A wall of {new.typed} can't be. Gauge it again.", path="typed")
    doubts = _doubts_of_wall(session, new, typed, place)

    def make(digest: str) -> WallReading:
        return WallReading(
            id=identifier,
            content_digest=digest,
            person_id=new.person_id,
            job_id=new.job_id,
            taken_at=new.taken_at,
            marks=doubts,
            part_state_id=new.part_state_id,
            cylinder=new.cylinder,
            place_m=place,
            hour=float(new.hour),
            holds=new.holds,
            typed=new.typed.strip(),
            thickness_m=typed.si,
        )

    return write_once(session, WallReading, identifier, new, make)


def place_of(text: str) -> float:
    """How far in from the entry a place is [m]. Raises Invalid for one that can't be."""
    typed = units.parse(text, "length", "mm")
    if not 0 <= typed.si <= LONGEST:
        raise Invalid(f"A station {text} in can't be: 0 is the entry, 2 m the most.", path="place")
    return typed.si


def states_up_to(session: Session, state_id: UUID, cylinder: int) -> list[UUID]:
    """Ids of the part's states up to this one. Raises Invalid for a runner that can't be."""
    state = find(session, PartState, state_id, "part state")
    part = find(session, Part, state.part_id, "part")
    builds = queries.builds_of(session, [part.job_id]) if part.job_id else []
    most = max((build.cylinder_count for build in builds), default=MOST_RUNNERS)
    if not 1 <= cylinder <= most:
        raise Invalid(f"There is no runner {cylinder}: 1 to {most} can be.", path="cylinder")
    return [one.id for one in part.states if one.sequence <= state.sequence]


def doubts_of_area(
    session: Session,
    new: NewSection,
    area: float,
    place: float,
    meant: Callable[[NewSection, list[float]], list[Offer]],
) -> list[str]:
    """Under which doubts a section of a runner is kept; `meant` offers what else could have been meant. Raises Invalid
    for one that can't be, Question for one that is unlikely or grew smaller."""
    if area > MOST_AREA:
        raise Invalid(f"A section of {new.typed} is {1e4 * area:,.0f} cm²: no runner is so wide.", path="typed")
    states = states_up_to(session, new.part_state_id, new.cylinder)
    rows = queries.sections_of(session, states)
    areas = [section_of(row.shape, row.sizes).area for row in rows]
    unlikely = seen_section(area) or unlike_neighbours(area, areas)
    if unlikely and UNLIKELY not in new.accepted:
        keep = Offer(f"Save {new.typed} anyway, flagged", {"accepted": [*new.accepted, UNLIKELY]})
        raise Question(UNLIKELY, f"{unlikely} Wrong unit?", [*meant(new, areas), keep], path="typed")
    before = [a for row, a in zip(rows, areas, strict=True) if _same(row, new.cylinder, place)]
    smaller = bool(before) and area < before[-1] * (1 - READ_WITHIN)
    why = [name for name in MADE_SMALLER if name in new.accepted]
    if smaller and not why and SMALLER not in new.accepted:
        raise _smaller(new, area, before[-1])
    return [*([UNLIKELY] if unlikely else []), *(why or [SMALLER] if smaller else [])]


def _smaller(new: NewSection, area: float, before: float) -> Question:
    offers = [Offer(words, {"accepted": [*new.accepted, name]}) for name, words in MADE_SMALLER.items()]
    keep = Offer(f"Save {new.typed} anyway, flagged: gauge again", {"accepted": [*new.accepted, SMALLER]})
    text = (
        f"Runner {new.cylinder} at {new.place} had {1e6 * before:,.0f} mm², now {1e6 * area:,.0f} mm²: "
        "cutting makes it larger. What made it smaller?"
    )
    return Question(SMALLER, text, [*offers, keep], path="typed")


def _other_units(new: NewSection, areas: list[float]) -> list[Offer]:
    """The same figures in other units, where those would be likely."""
    bare = _UNIT.sub("", new.typed).strip()
    offers = []
    for unit in ("mm", "cm", "in", "mm2", "cm2", "in2"):
        try:
            meant = read_section(f"{bare} {unit}")
        except (Invalid, ValueError):
            continue
        area = section_of(meant.shape, meant.sizes).area
        if not seen_section(area) and not unlike_neighbours(area, areas):
            offers.append(Offer(f"Use {bare} {unit}", {"typed": f"{bare} {unit}"}))
    return offers


def _doubts_of_wall(session: Session, new: NewWall, typed: units.Typed, place: float) -> list[str]:
    states = states_up_to(session, new.part_state_id, new.cylinder)
    doubts = []
    if typed.si not in WALL:
        doubts.append(UNLIKELY)
        if UNLIKELY not in new.accepted:
            raise _unlikely_wall(new, typed)
    rows = [row for row in queries.walls_of(session, states) if _same(row, new.cylinder, place)]
    before = [row.thickness_m for row in rows if abs(row.hour - new.hour) < 0.01]
    if before and typed.si > before[-1] + GAUGED_WITHIN:
        why = [name for name in MADE_SMALLER if name in new.accepted]
        if not why and THICKER not in new.accepted:
            raise _thicker(new, before[-1])
        doubts += why or [THICKER]
    return doubts


def _unlikely_wall(new: NewWall, typed: units.Typed) -> Question:
    other = [name for name in ("mm", "in", "cm") if name != typed.unit]
    meant = [f"{typed.figure:g} {name}" for name in other if units.to_si(typed.figure, name, "length") in WALL]
    offers = [Offer(f"Use {one}", {"typed": one}) for one in meant]
    keep = Offer(f"Save {new.typed} anyway, flagged", {"accepted": [*new.accepted, UNLIKELY]})
    text = f"A wall of {new.typed} is outside the {WALL.words} that castings have. Wrong unit?"
    return Question(UNLIKELY, text, [*offers, keep], path="typed")


def _thicker(new: NewWall, before: float) -> Question:
    offers = [Offer(MADE_SMALLER[name], {"accepted": [*new.accepted, name]}) for name in ("welded", "filled")]
    keep = Offer(f"Save {new.typed} anyway, flagged: gauge again", {"accepted": [*new.accepted, THICKER]})
    text = f"The wall at {new.hour:g} o'clock was {1000 * before:.1f} mm: cutting makes it thinner. What was added?"
    return Question(THICKER, text, [*offers, keep], path="typed")


def _same(row: AnySection | WallReading, cylinder: int, place: float) -> bool:
    return row.cylinder == cylinder and abs(row.place_m - place) < SAME_PLACE
