"""Calculations of the engine: the air it wants, the speeds its ducts favour, its injectors."""

from math import pi

from pydantic import Field

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, ZERO_CELSIUS
from elvarn.core.engine import demand, injector, tuning
from elvarn.core.engine.geometry import engine_displacement
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal, speed_of_sound
from elvarn.service.calc.fields import Fields


class DemandIn(Fields):
    bore_mm: float
    stroke_mm: float
    cylinders: int
    engine_speed_rpm: float
    filling_percent: float = 95.0


class DemandOut(Fields):
    displacement_l: float
    air_cfm: float
    air_kg_h: float


def air_demand(given: DemandIn) -> DemandOut:
    volume = engine_displacement(given.bore_mm / 1000, given.stroke_mm / 1000, given.cylinders)
    flow = demand.air_demand(volume, given.engine_speed_rpm, given.filling_percent / 100)
    return DemandOut(
        displacement_l=volume * 1000,
        air_cfm=flow / CUBIC_FOOT_PER_MINUTE,
        air_kg_h=flow * density_ideal(STANDARD_AIR) * 3600,
    )


class SectionIn(Fields):
    length_mm: float
    bore_mm: float


class TuningIn(Fields):
    sections: list[SectionIn] = Field(description="from the plenum to the valve, the port included")
    cylinder_displacement_cc: float
    compression_ratio: float
    charge_temperature_c: float = 40.0


class TuningOut(Fields):
    favoured_rpm: float
    low_rpm: float
    high_rpm: float
    assumes: str


def runner_tuning(given: TuningIn) -> TuningOut:
    sections = [tuning.Section(one.length_mm / 1000, pi / 4 * (one.bore_mm / 1000) ** 2) for one in given.sections]
    sound = speed_of_sound(Weather(given.charge_temperature_c + ZERO_CELSIUS, STANDARD_AIR.pressure, 0.0))
    volume = given.cylinder_displacement_cc * 1e-6
    found = tuning.engelman_speed(tuning.equivalent_section(sections), volume, given.compression_ratio, sound)
    return TuningOut(
        favoured_rpm=found.speed_rpm, low_rpm=found.low_rpm, high_rpm=found.high_rpm, assumes=found.assumes
    )


class InjectorIn(Fields):
    flow_cc_min: float
    rated_kpa: float = Field(300.0, description="pressure across it at which it was rated")
    rail_kpa: float = Field(300.0, description="gauge")
    manifold_kpa: float = Field(0.0, description="gauge, negative below the outside air")
    power_kw: float
    injectors: int
    fuel: str = "petrol"
    boosted: bool = False


class InjectorOut(Fields):
    pressure_across_kpa: float
    flow_cc_min: float
    duty_percent: float
    judgement: str


def injector_duty(given: InjectorIn) -> InjectorOut:
    across = injector.pressure_across(given.rail_kpa * 1000, given.manifold_kpa * 1000)
    flow = injector.flow_at_pressure(given.flow_cc_min, given.rated_kpa * 1000, across)
    fuel_for_work = demand.FUEL_FOR_WORK_BOOSTED if given.boosted else demand.FUEL_FOR_WORK
    mass = flow / 60e6 * injector.PETROL_DENSITY
    needed = fuel_for_work * injector.fuel_factor(given.fuel)
    duty = injector.duty_for_power(given.power_kw * 1000, needed, given.injectors, mass)
    judgement = "stop" if duty > injector.DUTY_STOP else "a warning" if duty > injector.DUTY_WARNING else "fine"
    return InjectorOut(
        pressure_across_kpa=across / 1000, flow_cc_min=flow, duty_percent=100 * duty, judgement=judgement
    )
