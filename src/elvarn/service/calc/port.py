"""Calculations on the geometry of a port."""

from enum import StrEnum

from pydantic import Field

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.errors import Inconsistent, NotEnoughData
from elvarn.core.port import level, lubricant, section, stations, wall
from elvarn.service.calc.fields import Fields


class Shape(StrEnum):
    """Shapes of a section; which sizes each takes stands with it."""

    ROUND = "round"
    OVAL = "oval"
    ELLIPSE = "ellipse"
    RECTANGLE = "rounded rectangle"
    D = "d"


class SectionIn(Fields):
    shape: Shape = Shape.OVAL
    across_mm: float = Field(description="diameter of a round or a D; the smaller size of an oval; one side")
    along_mm: float | None = Field(default=None, description="the other size; of a D its height from the flat")
    radius_mm: float | None = Field(default=None, description="of the corners of a rounded rectangle; 0 is sharp")


class SectionOut(Fields):
    area_mm2: float
    perimeter_mm: float
    hydraulic_diameter_mm: float = Field(description="4 A/P: for friction alone")
    equal_diameter_mm: float = Field(description="of the circle that has the same area")


def section_of(given: SectionIn) -> SectionOut:
    found = _section(given)
    return SectionOut(
        area_mm2=1e6 * found.area,
        perimeter_mm=1000 * found.perimeter,
        hydraulic_diameter_mm=1000 * section.hydraulic_diameter(found),
        equal_diameter_mm=1000 * section.equal_diameter(found.area),
    )


def _section(given: SectionIn) -> section.Section:
    across = given.across_mm / 1000
    match given.shape:
        case Shape.ROUND:
            return section.Round(across)
        case Shape.OVAL:
            return section.Oval(across, _size(given.along_mm, "along_mm"))
        case Shape.ELLIPSE:
            return section.Ellipse(across, _size(given.along_mm, "along_mm"))
        case Shape.RECTANGLE:
            along, radius = _size(given.along_mm, "along_mm"), _size(given.radius_mm, "radius_mm")
            return section.RoundedRectangle(across, along, radius)
        case Shape.D:
            return section.DShape(across, _size(given.along_mm, "along_mm"))


def _size(millimetres: float | None, name: str) -> float:
    if millimetres is None:
        raise NotEnoughData(name, "This shape takes one size more.", f"Enter {name}.")
    return millimetres / 1000


class RunnerVolumeIn(Fields):
    stations_mm: list[float] = Field(description="distance of each along the middle, from the entry on")
    areas_mm2: list[float] = Field(description="of the sections there, square to it")
    poured_cc: float | None = None


class RunnerVolumeOut(Fields):
    volume_cc: float
    tapers_deg: list[float] = Field(description="included angle between each two; above 0 it narrows")
    findings: list[str]


def runner_volume(given: RunnerVolumeIn) -> RunnerVolumeOut:
    places, areas = [mm / 1000 for mm in given.stations_mm], [mm2 / 1e6 for mm2 in given.areas_mm2]
    volume, tapers = stations.integrated_volume(places, areas), stations.tapers(places, areas)
    poured = stations.against_pouring(volume, given.poured_cc / 1e6) if given.poured_cc is not None else None
    said = [*stations.taper_findings(tapers), *([poured] if poured else [])]
    return RunnerVolumeOut(volume_cc=1e6 * volume, tapers_deg=tapers, findings=[one.text for one in said])


class WallIn(Fields):
    wall_mm: float = Field(description="as it was gauged")
    bore_before_mm: float
    bore_after_mm: float
    core_shift_mm: float = 0.0
    material: wall.Material = wall.Material.ALUMINIUM
    holds: wall.Place = Field(default=wall.Place.WALL, description="a wall, a spot of it, or one against water")


class WallOut(Fields):
    left_mm: float = Field(description="where the core stood off most; below 0 it is through")
    least_mm: float
    may_be_cut_mm: float = Field(description="from the wall as it was gauged")
    enough: bool


def wall_left(given: WallIn) -> WallOut:
    left = wall.wall_left(
        given.wall_mm / 1000, given.bore_before_mm / 1000, given.bore_after_mm / 1000, given.core_shift_mm / 1000
    )
    room = wall.room(given.wall_mm / 1000, given.material, given.holds, given.core_shift_mm / 1000)
    return WallOut(
        left_mm=1000 * left,
        least_mm=1000 * room.least,
        may_be_cut_mm=1000 * room.depth,
        enough=left >= room.least,
    )


class CutDepthIn(Fields):
    area_mm2: float
    wanted_mm2: float = Field(description="the area it is to have")
    walls_mm: list[float] = Field(description="as they were gauged")
    clock: list[float] = Field(description="at which hour each, seen from the entry")
    holds: wall.Place = Field(default=wall.Place.WALL, description="a wall, a spot of it, or one against water")


class CutDepthOut(Fields):
    depth_mm: float = Field(description="where it is deepest")
    at_clock: float
    left_mm: float = Field(description="of the wall there")
    in_hand_mm: float = Field(description="before the least wall")
    added_mm2: float
    enough: bool = Field(description="whether the walls allow all of it")


def cut_depth(given: CutDepthIn) -> CutDepthOut:
    if len(given.walls_mm) != len(given.clock):
        text = f"{len(given.walls_mm)} walls stand at {len(given.clock)} hours."
        raise Inconsistent("clock", text, "Give each wall its hour.")
    gauged = [level.Gauged(h, mm / 1000, given.holds) for h, mm in zip(given.clock, given.walls_mm, strict=True)]
    wanted = (given.wanted_mm2 - given.area_mm2) / 1e6
    [cut] = level.level_cuts([level.ToCut(given.area_mm2 / 1e6, gauged, wanted)])
    return CutDepthOut(
        depth_mm=1000 * cut.depth,
        at_clock=cut.hour or 12.0,
        left_mm=1000 * cut.left,
        in_hand_mm=1000 * cut.in_hand,
        added_mm2=1e6 * cut.area,
        enough=cut.area >= wanted * (1 - 1e-6),
    )


class BottleIn(Fields):
    alcohol_percent: float = Field(default=70, description="by volume, of ethanol; the rest soapy water")


class BottleOut(Fields):
    ignites_from_c: float = Field(description="by the lowest source")
    ignites_to_c: float = Field(description="by the highest source")
    alcohol_by_mass_percent: float
    highly_flammable: bool


def flash_point(given: BottleIn) -> BottleOut:
    found = lubricant.bottle(given.alcohol_percent / 100)
    return BottleOut(
        ignites_from_c=found.lowest - ZERO_CELSIUS,
        ignites_to_c=found.highest - ZERO_CELSIUS,
        alcohol_by_mass_percent=100 * lubricant.by_mass(found.alcohol),
        highly_flammable=found.highly,
    )
