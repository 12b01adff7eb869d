"""Stated features of parts and surroundings of jobs as they are kept and sent (mm, kPa, °C), and in the core's SI."""

from collections.abc import Sequence
from dataclasses import asdict, field
from math import pi
from typing import Any, TypeVar

import numpy as np
from pydantic import TypeAdapter
from pydantic_core import to_jsonable_python

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.engine.tuning import Section
from elvarn.core.path import features as core
from elvarn.core.path.compressor_map import CompressorMap
from elvarn.core.path.features import RuleKind
from elvarn.core.path.passage import Bend
from elvarn.given import Day, given
from elvarn.service.record.specs import (
    BendSpec,
    BoreForm,
    Brakes,
    Had,
    HomeSpec,
    JointSpec,
    MapPoint,
    Noise,
    PlateSpec,
    PlugSpec,
    SectionSpec,
    WeaknessSpec,
)
from elvarn.store.models import Engine
from elvarn.typed import (
    Celsius,
    Count,
    CubicFeet,
    Days,
    Degrees,
    Kilopascals,
    Kilowatts,
    Litres,
    Millimetres,
    Number,
    Percent,
)

BRAKE_PORT = "brake servo"


@given
class PartFeatures:
    """What a part offers. Empty means that nobody said; an empty list that there is none. Of a compressor: its
    isentropic efficiency and the highest pressure ratio; of a cooler: the part of the heat above outside that it takes
    out, and its drop at a flow of outside air. How it is had: `next_run_on` with its places, an exchange with the days
    off the road; `in_box` what comes with it, `besides` what must be bought. Plates add to height and runner length.
    `nitrous_kw`: what its jets are said to give. `bore_form`: of a throttle, round its plate.
    `set_of`: how many bodies one of it holds, where it is sold as a set."""

    inlet: JointSpec | None = None
    outlet: JointSpec | None = None
    swing_mm: Millimetres | None = None
    plugs: list[PlugSpec] | None = None
    homes: list[HomeSpec] | None = None
    ports: list[str] | None = None
    height_mm: Millimetres | None = None
    front_length_mm: Millimetres | None = None
    boost_kpa: Kilopascals | None = None
    heat_limit_c: Celsius | None = None
    weldable: bool | None = None
    flange_metal_mm: Millimetres | None = None
    fouls: list[str] | None = None
    splits: bool | None = None
    fuels: list[str] | None = None
    runners: Count | None = None
    head_flange: str | None = None
    port_pitch_mm: Millimetres | None = None
    bank_angle_deg: Degrees | None = None
    casting: str | None = None
    welded: bool | None = None
    efficiency_percent: Percent | None = None
    ratio_limit: Number | None = None
    nitrous_kw: Kilowatts | None = None
    map_points: list[MapPoint] = field(default_factory=list)
    cooling_percent: Percent | None = None
    drop_kpa: Kilopascals | None = None
    drop_at_cfm: CubicFeet | None = None
    rear_mm: Millimetres | None = None
    side_mm: Millimetres | None = None
    plates: list[PlateSpec] = field(default_factory=list)
    had: Had | None = None
    bore_form: BoreForm | None = None
    set_of: Count | None = None
    next_run_on: Day | None = None
    run_places: Count | None = None
    off_road_days: Days | None = None
    in_box: list[str] = field(default_factory=list)
    besides: list[str] = field(default_factory=list)
    price_with_tax: bool | None = None
    weaknesses: list[WeaknessSpec] = field(default_factory=list)
    sections: list[SectionSpec] = field(default_factory=list)
    bends: list[BendSpec] = field(default_factory=list)
    ribbed: bool = False
    cast: bool = False


@given
class RuleSpec:
    """A rule of class or inspection: what it limits, how far where that is a bore, and its own words."""

    kind: RuleKind
    limit_mm: Millimetres | None = None
    words: str = ""


@given
class SurroundingsSpec:
    """What vehicle, engine and job ask of a part; `rules`: what class or inspection allow. `brakes`: what assists them;
    `noise`: whether intake noise is wanted."""

    bonnet_height_mm: Millimetres | None = None
    accessories: list[str] = field(default_factory=list)
    plugs: list[PlugSpec] = field(default_factory=list)
    homes: list[HomeSpec] = field(default_factory=list)
    ports: list[str] = field(default_factory=list)
    front_length_mm: Millimetres | None = None
    heat_c: Celsius | None = None
    welding: bool = False
    head_flange: str | None = None
    port_pitch_mm: Millimetres | None = None
    bank_angle_deg: Degrees | None = None
    rear_mm: Millimetres | None = None
    side_mm: Millimetres | None = None
    brakes: Brakes | None = None
    noise: Noise | None = None
    rules: list[RuleSpec] = field(default_factory=list)


@given
class Claim:
    """What a seller promises, and what else it needs for that. `gain_percent` where it is a gain in power."""

    words: str
    needs: str = ""
    gain_percent: Percent | None = None


@given
class Advertised:
    """Dimensions that a maker states."""

    bore_mm: Millimetres | None = None
    bore_out_mm: Millimetres | None = None
    length_mm: Millimetres | None = None
    volume_l: Litres | None = None
    flow_cfm: CubicFeet | None = None


Spec = TypeVar("Spec")


_ADAPTERS: dict[type[Any], TypeAdapter[Any]] = {}


def read(kind: type[Spec], kept: dict[str, Any]) -> Spec:
    """What was kept, as a spec; a field that a later version dropped is passed over."""
    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    adapter: TypeAdapter[Spec] = _ADAPTERS[kind]
    found: Spec = adapter.validate_python(kept)
    return found


def kept(spec: Any) -> dict[str, Any]:
    """A spec as it is kept: without what nobody stated."""
    plain: dict[str, Any] = to_jsonable_python(asdict(spec))
    return {name: value for name, value in plain.items() if value is not None}


def core_features(
    spec: PartFeatures, kind: str, bore_in: float | None = None, bore_out: float | None = None
) -> core.Features:
    """Features of a part of this kind in SI; a bore that was measured [m] counts for the one stated at that end."""
    return core.Features(
        inlet=_joint(spec.inlet, bore_in),
        outlet=_joint(spec.outlet, bore_out),
        swing=_metres(spec.swing_mm),
        plugs=None if spec.plugs is None else tuple(core.Plug(p.purpose, p.connector, p.signal) for p in spec.plugs),
        homes=None if spec.homes is None else tuple(core.Home(h.purpose, _metres(h.bore_mm)) for h in spec.homes),
        ports=None if spec.ports is None else tuple(spec.ports),
        height=_with_plates(spec),
        front_length=_metres(spec.front_length_mm),
        boost_rating=None if spec.boost_kpa is None else spec.boost_kpa * 1000,
        heat_limit=None if spec.heat_limit_c is None else spec.heat_limit_c + ZERO_CELSIUS,
        weldable=spec.weldable,
        flange_metal=_metres(spec.flange_metal_mm),
        fouls=None if spec.fouls is None else tuple(spec.fouls),
        splits=spec.splits,
        fuels=None if spec.fuels is None else tuple(spec.fuels),
        kind=kind,
        runners=spec.runners,
        head_flange=spec.head_flange or None,
        port_pitch=_metres(spec.port_pitch_mm),
        bank_angle=spec.bank_angle_deg,
        casting=spec.casting or None,
        welded=spec.welded,
        rear=_metres(spec.rear_mm),
        side=_metres(spec.side_mm),
        plates=tuple(plate.thickness_mm / 1000 for plate in spec.plates),
        hazards=tuple(core.Hazard(one.words, one.source, one.hazard) for one in spec.weaknesses),
        off_road_days=spec.off_road_days if spec.had is Had.EXCHANGE else None,
        no_longer_made=spec.had is Had.GONE,
    )


def core_surroundings(
    spec: SurroundingsSpec, engine: Engine | None, stock: PartFeatures | None, cylinders: int
) -> core.Surroundings:
    """Surroundings in SI, with what the engine and the manifold that it left the factory with tell."""
    boosted = engine is not None and engine.boosted and engine.boost_kpa
    return core.Surroundings(
        bonnet_height=_metres(spec.bonnet_height_mm),
        boost=engine.boost_kpa * 1000 if engine and engine.boost_kpa and boosted else None,
        accessories=tuple(spec.accessories),
        plugs=tuple(core.Plug(p.purpose, p.connector, p.signal) for p in spec.plugs),
        homes=tuple(core.Home(h.purpose, _metres(h.bore_mm)) for h in spec.homes),
        ports=_ports(spec),
        fuel=engine.fuel if engine else "petrol",
        front_length=_metres(spec.front_length_mm),
        heat=None if spec.heat_c is None else spec.heat_c + ZERO_CELSIUS,
        welding=spec.welding,
        cylinders=cylinders or None,
        head_flange=spec.head_flange or (stock.head_flange if stock else None) or None,
        port_pitch=_metres(spec.port_pitch_mm or (stock.port_pitch_mm if stock else None)),
        bank_angle=spec.bank_angle_deg or (stock.bank_angle_deg if stock else None),
        stock_casting=stock.casting if stock else None,
        rear=_metres(spec.rear_mm),
        side=_metres(spec.side_mm),
        rules=tuple(core.Rule(rule.kind, _metres(rule.limit_mm), rule.words) for rule in spec.rules),
    )


def _with_plates(spec: PartFeatures) -> float | None:
    """Height [m] with the plates under it."""
    return None if spec.height_mm is None else (spec.height_mm + sum(p.thickness_mm for p in spec.plates)) / 1000


def _ports(spec: SurroundingsSpec) -> tuple[str, ...]:
    """The ports that are asked for; brakes that vacuum assists ask for theirs."""
    named = any("brake" in port.lower() or "servo" in port.lower() for port in spec.ports)
    wanted = spec.brakes is Brakes.VACUUM and not named
    return (*spec.ports, BRAKE_PORT) if wanted else tuple(spec.ports)


def core_sections(spec: PartFeatures) -> list[Section]:
    """The sections of a runner from the plenum on, where they were stated."""
    return [
        Section(one.length_mm / 1000, pi / 4 * one.across_mm * (one.height_mm or one.across_mm) / 1e6)
        for one in spec.sections
    ]


def core_bends(spec: PartFeatures) -> tuple[Bend, ...]:
    """The bends of a tube."""
    return tuple(Bend(bend.angle_deg, bend.radius_over_bore) for bend in spec.bends)


def _joint(spec: JointSpec | None, bore: float | None) -> core.Joint | None:
    if spec is None:
        return core.Joint(opening=bore) if bore else None
    spacing = None
    if spec.bolt_across_mm and spec.bolt_along_mm:
        spacing = (spec.bolt_across_mm / 1000, spec.bolt_along_mm / 1000)
    return core.Joint(bore or _metres(spec.opening_mm), spec.bolt_count, spacing, _metres(spec.outside_mm))


def _metres(millimetres: float | None) -> float | None:
    return None if millimetres is None else millimetres / 1000


def map_of(points: Sequence[MapPoint]) -> CompressorMap:
    """A compressor's map in SI. Raises NotEnoughData for too few points."""
    return CompressorMap(
        np.array([point.flow_kg_s for point in points]),
        np.array([point.ratio for point in points]),
        np.array([point.efficiency_percent / 100 for point in points]),
    )
