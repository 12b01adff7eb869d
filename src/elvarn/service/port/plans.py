"""What a part is to become: its stations, the law of its areas, where no metal may come off."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from math import floor, pi
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from elvarn import units
from elvarn.core.port.next_cut import Bar
from elvarn.core.port.target import AreaLaw, Target
from elvarn.core.port.wall import Material
from elvarn.given import given
from elvarn.service.kernel.errors import Invalid
from elvarn.service.kernel.find import find
from elvarn.service.kernel.writes import edit, find_for_edit, write_once
from elvarn.service.port.assembly import Piece, checked_pieces, make_pieces
from elvarn.service.port.recipes import Recipe, checked, recipe_of
from elvarn.service.record.job import JobRecord
from elvarn.store import queries
from elvarn.store.models import AnySection, Engine, Job, Part, PartState, PortPlan, WallReading
from elvarn.typed import Degrees, MetresPerSecond, Millimetres, Rpm, SquareMillimetres

REACH_M = 0.150  # of a tool from an end; common practice, no source
MOST_STATIONS = 40
USUAL_STATIONS = 7
USUAL_LENGTH = 0.30  # m of a runner that nobody measured: its stations can be changed at any time
ZONES = (Bar.LAND, Bar.BOSS, Bar.WELD)
MATERIALS = {"magnes": Material.MAGNESIUM, "iron": Material.IRON, "compos": Material.COMPOSITE,
             "plast": Material.COMPOSITE, "nylon": Material.COMPOSITE, "alum": Material.ALUMINIUM}  # fmt: skip


@given
class Zone:
    """Where no metal may come off, or none before metal was put on: from where to where, on one runner or all."""

    kind: str
    from_mm: Millimetres
    to_mm: Millimetres
    runner: int | None = None


@given
class ByHand:
    at_mm: Millimetres
    area_mm2: SquareMillimetres


@given
class LawTakes:
    """What the law of the areas takes: an area for constant area, taper (at the entry) and head port; the angle of a
    taper; speed and velocity for a constant velocity; areas by hand; the radius of the entry's bell, with any law."""

    area_mm2: SquareMillimetres | None = None
    taper_deg: Degrees = 0.0
    rpm: Rpm | None = None
    velocity_m_s: MetresPerSecond | None = None
    by_hand: list[ByHand] = field(default_factory=list)
    bell_mm: Millimetres = 0.0


@given
class PlanBody:
    """What may be said of a plan."""

    material: str
    stations: list[str]
    law: str = AreaLaw.BEST
    takes: LawTakes = field(default_factory=LawTakes)
    reach_mm: Millimetres = 1000 * REACH_M
    least_wall_mm: Millimetres | None = None
    zones: list[Zone] = field(default_factory=list)
    jet_runners: list[int] = field(default_factory=list)
    recipe: Recipe = field(default_factory=Recipe)
    pieces: list[Piece] = field(default_factory=list)
    accepted: list[str] = field(default_factory=list)


@given
class NewPortPlan:
    person_id: UUID
    job_id: UUID
    part_id: UUID
    plan: PlanBody


@given
class PortPlanEdit:
    """A plan said anew, on the version that was seen."""

    version: int
    plan: PlanBody


@dataclass(frozen=True)
class PlanFacts:
    """A plan as it counts: what was said, or what is usual where nobody said anything."""

    row: PortPlan | None
    material: Material
    material_stated: bool
    stations: tuple[float, ...]
    law: AreaLaw
    takes: LawTakes
    reach: float
    least_wall: float
    zones: tuple[Zone, ...]
    jet_runners: tuple[int, ...]
    recipe: Recipe

    def bar(self, runner: int, place: float, length: float) -> Bar | None:
        """What bars a station of a runner."""
        if self.material is Material.COMPOSITE:
            return Bar.MOULDED
        for zone in self.zones:
            inside = zone.from_mm / 1000 - 1e-6 <= place <= zone.to_mm / 1000 + 1e-6
            if inside and zone.runner in (None, runner):
                return Bar(zone.kind)
        return Bar.REACH if self.reach < place < length - self.reach else None

    def target(self, engine: Engine | None) -> Target:
        """The law as the core takes it."""
        takes = self.takes
        return Target(
            self.law,
            area=takes.area_mm2 / 1e6 if takes.area_mm2 is not None else None,
            taper_deg=float(takes.taper_deg),
            flow=inlet_flow(engine, takes.rpm),
            velocity=float(takes.velocity_m_s) if takes.velocity_m_s is not None else None,
            by_hand={round(one.at_mm / 1000, 6): one.area_mm2 / 1e6 for one in takes.by_hand},
            bell=takes.bell_mm / 1000,
        )


def inlet_flow(engine: Engine | None, speed_rpm: int | None) -> float | None:
    """What a piston draws on average while it goes down [m³/s]: its area times the mean piston speed."""
    if engine is None or not engine.bore_mm or not engine.stroke_mm or not speed_rpm:
        return None
    return pi / 4 * (engine.bore_mm / 1000) ** 2 * 2 * engine.stroke_mm / 1000 * speed_rpm / 60


def plan_facts(
    session: Session, record: JobRecord, state: PartState, measured: Sequence[AnySection | WallReading]
) -> PlanFacts:
    """The plan of a state's part; where none was made, the usual with the stations that were measured."""
    row = queries.port_plan_of(session, record.job.id, state.part_id)
    if row is None:
        stated, stations = _material_of(state.part), _usual_stations(record, state, measured)
        usual = (stations, AreaLaw.BEST, LawTakes(), REACH_M, 0.0, (), (), Recipe())
        return PlanFacts(None, stated or Material.ALUMINIUM, stated is not None, *usual)
    places = sorted({*row.stations_m, *(_near(one.place_m, row.stations_m) for one in measured)})
    return PlanFacts(
        row,
        Material(row.material),
        True,
        tuple(places),
        AreaLaw(row.law),
        takes_of(row.law_takes),
        row.reach_m,
        row.least_wall_m or 0.0,
        tuple(Zone(**zone) for zone in row.zones),
        tuple(row.jet_runners),
        recipe_of(row.recipe),
    )


def takes_of(kept: dict[str, Any]) -> LawTakes:
    """What a law takes, as the table keeps it."""
    by_hand = [ByHand(**one) for one in kept.get("by_hand", [])]
    return LawTakes(**{**kept, "by_hand": by_hand})


def add_plan(session: Session, identifier: UUID, new: NewPortPlan) -> PortPlan:
    """Say what a part is to become. Raises Invalid for what can't be, naming it."""
    find(session, Job, new.job_id, "job")
    part = find(session, Part, new.part_id, "part")
    said = _checked(new.plan)
    make_pieces(session, part, new.person_id, said["pieces"])

    def make(digest: str) -> PortPlan:
        ids = {"id": identifier, "content_digest": digest, "person_id": new.person_id}
        return PortPlan(**ids, job_id=new.job_id, part_id=new.part_id, **said)

    return write_once(session, PortPlan, identifier, new, make)


def edit_plan(session: Session, identifier: UUID, change: PortPlanEdit) -> PortPlan:
    """Say it anew. Raises Stale where somebody else did so meanwhile."""
    row = find_for_edit(session, PortPlan, identifier, "port plan")
    said = _checked(change.plan)
    edit(row, change.version, said, "port plan")
    make_pieces(session, find(session, Part, row.part_id, "part"), row.person_id, said["pieces"])
    session.flush()
    return row


def _checked(plan: PlanBody) -> dict[str, Any]:
    """The columns of a plan. Raises Invalid, naming the field."""
    if plan.material not in list(Material):
        said = f"'{plan.material}' is no material" if plan.material else "Choose the material"
        raise Invalid(f"{said}: {', '.join(Material)}.", path="plan.material")
    if plan.law not in list(AreaLaw):
        raise Invalid(f"'{plan.law}' is no law: {', '.join(AreaLaw)}.", path="plan.law")
    if not 0 <= plan.reach_mm <= 2000:
        raise Invalid(f"A tool that reaches {plan.reach_mm:g} mm can't be: 0 to 2000.", path="plan.reach_mm")
    if plan.least_wall_mm is not None and not 0 < plan.least_wall_mm <= 100:
        raise Invalid(f"A least wall of {plan.least_wall_mm:g} mm can't be.", path="plan.least_wall_mm")
    none = next((number for number in plan.jet_runners if not 1 <= number <= 16), None)
    if none is not None:
        raise Invalid(f"There is no runner {none}: 1 to 16 can be.", path="plan.jet_runners")
    _check_takes(plan.takes)
    for number, zone in enumerate(plan.zones):
        _check_zone(zone, f"plan.zones.{number}")
    takes = plan.takes
    return {
        "material": plan.material,
        "stations_m": _stations(plan.stations),
        "law": plan.law,
        "law_takes": {
            "area_mm2": float(takes.area_mm2) if takes.area_mm2 is not None else None,
            "taper_deg": float(takes.taper_deg),
            "rpm": int(takes.rpm) if takes.rpm is not None else None,
            "velocity_m_s": float(takes.velocity_m_s) if takes.velocity_m_s is not None else None,
            "by_hand": [{"at_mm": float(one.at_mm), "area_mm2": float(one.area_mm2)} for one in takes.by_hand],
            "bell_mm": float(takes.bell_mm),
        },
        "reach_m": plan.reach_mm / 1000,
        "least_wall_m": plan.least_wall_mm / 1000 if plan.least_wall_mm is not None else None,
        "zones": [
            {"kind": z.kind, "from_mm": float(z.from_mm), "to_mm": float(z.to_mm), "runner": z.runner}
            for z in plan.zones
        ],
        "jet_runners": sorted(set(plan.jet_runners)),
        "recipe": checked(plan.recipe, plan.accepted),
        "pieces": checked_pieces(plan.pieces),
    }


def _check_takes(takes: LawTakes) -> None:
    if takes.area_mm2 is not None and not 100 <= takes.area_mm2 <= 8000:
        text = f"An area of {takes.area_mm2:g} mm² is no runner's: 100 to 8000. Square inches? 1 in² is 645 mm²."
        raise Invalid(text, path="plan.takes.area_mm2")
    for number, one in enumerate(takes.by_hand):
        if not 100 <= one.area_mm2 <= 8000:
            text = f"An area of {one.area_mm2:g} mm² is no runner's: 100 to 8000."
            raise Invalid(text, path=f"plan.takes.by_hand.{number}.area_mm2")
    if takes.velocity_m_s is not None and not 10 <= takes.velocity_m_s <= 340:
        raise Invalid(f"{takes.velocity_m_s:g} m/s can't be held: 10 to 340.", path="plan.takes.velocity_m_s")
    if not 0 <= takes.bell_mm <= 60:
        raise Invalid(f"A bell of {takes.bell_mm:g} mm radius can't be: 0 to 60.", path="plan.takes.bell_mm")


def _check_zone(zone: Zone, path: str) -> None:
    if zone.kind not in ZONES:
        raise Invalid(f"'{zone.kind}' is no zone: {', '.join(ZONES)}.", path=f"{path}.kind")
    if not 0 <= zone.from_mm <= zone.to_mm:
        text = f"A zone from {zone.from_mm:g} to {zone.to_mm:g} mm can't be: list it from the entry on."
        raise Invalid(text, path=f"{path}.to_mm")


def _stations(typed: Sequence[str]) -> list[float]:
    """Places of stations [m]. Raises Invalid for one out of order, naming it."""
    if len(typed) > MOST_STATIONS:
        raise Invalid(f"{len(typed)} stations are too many: up to {MOST_STATIONS}.", path="plan.stations")
    places = [round(units.parse(one, "length", "mm").si, 6) for one in typed]
    for number, (first, second) in enumerate(pairwise(places), start=2):
        if second <= first:
            text = f"Station {number} stands at {typed[number - 1]}, the one before it at {typed[number - 2]}."
            raise Invalid(f"{text} List them from the entry on.", path="plan.stations")
    if places and not 0 <= places[0] <= places[-1] <= 2:
        raise Invalid("Stations stand 0 to 2000 mm in.", path="plan.stations")
    return places


def _material_of(part: Part) -> Material | None:
    words = (part.material or "").lower()
    return next((material for word, material in MATERIALS.items() if word in words), None)


def _usual_stations(
    record: JobRecord, state: PartState, measured: Sequence[AnySection | WallReading]
) -> tuple[float, ...]:
    """Those that were measured, else evenly over the runner's length."""
    found: list[float] = []
    for one in sorted(measured, key=lambda row: row.place_m):
        if not found or one.place_m - found[-1] > 0.0005:
            found.append(one.place_m)
    if found:
        return tuple(found)
    step = floor(200 * runner_length(record, state) / (USUAL_STATIONS - 1) + 1e-9) / 200  # none beyond the runner
    return tuple(round(step * n, 6) for n in range(USUAL_STATIONS))


def runner_length(record: JobRecord, state: PartState) -> float:
    """Length of the longest runner of a state that was measured, else a usual one [m]."""
    facts = record.facts.get(state.id)
    numbers = range(1, record.cylinder_count + 1)
    lengths = [length for n in numbers if facts and (length := facts.dimension("runner", "length", n))]
    return max(lengths, default=USUAL_LENGTH)


def _near(place: float, stations: Sequence[float]) -> float:
    """The planned station that a measured place is at, or the place itself."""
    return next((one for one in stations if abs(one - place) < 0.0005), place)
