"""An engine as it is kept, as what the core computes with, and what follows from it at once."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from elvarn.core.engine import demand
from elvarn.core.engine.geometry import CamEvents, engine_displacement, mean_piston_speed
from elvarn.core.engine.strokes import ASSUMED_INLET_DURATION_DEG, Strokes, even_strokes
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal, speed_of_sound
from elvarn.core.path.charge import Charge, charge_temperature
from elvarn.service.record.air import weather_of
from elvarn.service.record.curves import CurveShelf
from elvarn.store.models import Engine, PullReading

STRIDE = 8  # every so many rows of a pull are enough for its filling
LEAST_FILLING, MOST_FILLING = 0.5, 1.4


@dataclass(frozen=True)
class EngineFacts:
    """An engine whose bore and stroke are known, in SI."""

    row: Engine
    bore: float
    stroke: float
    displacement: float
    strokes: Strokes
    boost: float
    cam: CamEvents | None

    @property
    def cylinder_displacement(self) -> float:
        return self.displacement / self.row.cylinder_count

    @property
    def fuel_for_work(self) -> float:
        return demand.FUEL_FOR_WORK_BOOSTED if self.row.boosted else demand.FUEL_FOR_WORK

    @property
    def limit_rpm(self) -> int:
        return self.row.limit_rpm or 7000


@dataclass(frozen=True)
class Filling:
    """Volumetric efficiency over speed, and where it comes from."""

    speed_rpm: Sequence[float]
    efficiency: Sequence[float]
    words: str
    measured: bool

    def at(self, rpm: float) -> float:
        return float(np.interp(rpm, self.speed_rpm, self.efficiency))


FULL = Filling((0.0, 1.0), (1.0, 1.0), "every cylinder full of outside air", measured=False)


def engine_facts(engine: Engine | None) -> EngineFacts | None:
    """What can be computed with, or None where bore or stroke is missing."""
    if engine is None or engine.bore_mm is None or engine.stroke_mm is None:
        return None
    bore, stroke = engine.bore_mm / 1000, engine.stroke_mm / 1000
    cam = cam_of(engine)
    duration = cam.inlet_duration if cam else ASSUMED_INLET_DURATION_DEG
    return EngineFacts(
        engine,
        bore,
        stroke,
        engine_displacement(bore, stroke, engine.cylinder_count),
        even_strokes(engine.cylinder_count, engine.firing_order, duration),
        (engine.boost_kpa or 0.0) * 1000 if engine.boosted else 0.0,
        cam,
    )


def cam_of(engine: Engine) -> CamEvents | None:
    """The cam's events, where those of the inlet are known."""
    if engine.inlet_opens_deg is None or engine.inlet_closes_deg is None:
        return None
    return CamEvents(
        engine.inlet_opens_deg, engine.inlet_closes_deg, engine.exhaust_opens_deg, engine.exhaust_closes_deg
    )


def filling_of(
    session: Session,
    curves: CurveShelf,
    facts: EngineFacts,
    charge: Charge | None,
    pulls: Sequence[PullReading],
    usual_percent: float,
    names: dict[UUID, str],
) -> Filling:
    """Filling from the power of a pull at the engine, by the usual fuel for it; else the shop's usual figure."""
    pull = next((p for p in pulls if p.card.dyno.measures == "engine"), None)
    if pull is None:
        usual = usual_percent / 100
        return Filling((0.0, 1.0), (usual, usual), f"VE assumed: {usual_percent:g} %", measured=False)
    curve = curves.curves(session, [pull.id])[0]
    name = names.get(pull.card.build_id, "a build")
    air = weather_of(pull.card) or STANDARD_AIR
    density = charge_density(charge, air)
    drawn = [
        demand.air_from_brake_power(float(power), facts.displacement, float(rpm), facts.fuel_for_work)
        for rpm, power in zip(curve.engine_speed_rpm[::STRIDE], curve.power[::STRIDE], strict=True)
    ]
    speeds = curve.engine_speed_rpm[::STRIDE]
    efficiency = np.clip(np.array(drawn) / (density * facts.displacement * speeds / 120), LEAST_FILLING, MOST_FILLING)
    words = f"VE estimated from the {name} pull, about ±8 %"
    return Filling(speeds.tolist(), efficiency.tolist(), words, measured=True)


def mass_flow(facts: EngineFacts, filling: Filling, rpm: float, charge: Charge | None) -> float:
    """Air that the engine draws at a speed, in kg/s; filling is of the plenum's air."""
    volume = demand.air_demand(facts.displacement, rpm, filling.at(rpm))
    return volume * charge_density(charge)


def charge_density(charge: Charge | None, air: Weather = STANDARD_AIR) -> float:
    """Density of the air in the plenum [kg/m³]: outside, or at the boost and as warm as it is behind the cooler."""
    if charge is None:
        return density_ideal(air)
    ratio = 1 + charge.boost / air.pressure
    warm = charge_temperature(charge, np.array([ratio]), air.temperature)
    return density_ideal(air) * ratio * air.temperature / float(warm[0])


def usual_charge(facts: EngineFacts) -> Charge | None:
    """The charge of a boosted engine of whose compressor and cooler nothing is stated; None without boost."""
    return Charge(facts.boost, frozenset()) if facts.boost else None


def inlet_mach_index(facts: EngineFacts, rpm: float) -> float | None:
    """Taylor's index at a speed, where the inlet valves are known."""
    row = facts.row
    if not row.inlet_valve_mm or not row.inlet_valve_count:
        return None
    speed = mean_piston_speed(facts.stroke, rpm)
    coefficient = demand.MEAN_FLOW_COEFFICIENT[1]
    sound = speed_of_sound(STANDARD_AIR)
    return demand.mach_index(facts.bore, speed, row.inlet_valve_mm / 1000, row.inlet_valve_count, coefficient, sound)
