"""Calculations on the air path, the engine's demand and injectors."""

from math import pi

from pydantic import Field

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER, REFERENCE_DEPRESSION, ZERO_CELSIUS
from elvarn.core.gas.air import STANDARD_AIR, Weather, density_ideal, speed_of_sound
from elvarn.core.path import backsolve, demand, injector, passage, tuning
from elvarn.core.takein.engine import engine_displacement
from elvarn.service.calc.fields import Fields


class SeriesIn(Fields):
    flows_cfm: dict[str, float] = Field(description="what each element passes alone, by its name, at one depression")
    share_limit_percent: float = 30.0


class SeriesOut(Fields):
    together_cfm: float = Field(description="losses in series: the estimate, usually low")
    at_most_cfm: float = Field(description="the weakest link: a bound")
    weakest: str
    shares_percent: dict[str, float]
    wanted_cfm: dict[str, float] = Field(description="what elements above the limit would have to pass")


def series(given: SeriesIn) -> SeriesOut:
    names, flows = list(given.flows_cfm), list(given.flows_cfm.values())
    together = backsolve.combined_flow(flows)
    shares = {name: 100 * (together / flow) ** 2 for name, flow in given.flows_cfm.items()}
    limit = given.share_limit_percent / 100
    wanted = {
        name: backsolve.flow_for_share(flows, place, limit)
        for place, name in enumerate(names)
        if len(flows) > 1 and shares[name] > given.share_limit_percent
    }
    weakest = min(given.flows_cfm, key=lambda name: given.flows_cfm[name])
    return SeriesOut(
        together_cfm=together,
        at_most_cfm=given.flows_cfm[weakest],
        weakest=weakest,
        shares_percent=shares,
        wanted_cfm=wanted,
    )


class BackSolveIn(Fields):
    together_cfm: float
    others_cfm: list[float]


class BackSolveOut(Fields):
    alone_cfm: float


def back_solve(given: BackSolveIn) -> BackSolveOut:
    return BackSolveOut(alone_cfm=backsolve.back_solved_flow(given.together_cfm, given.others_cfm))


class BendIn(Fields):
    angle_deg: float
    radius_over_bore: float = Field(description="centreline radius over bore; 0 is a mitre")


class TubeIn(Fields):
    bore_mm: float
    bore_out_mm: float | None = None
    length_mm: float | None = None
    bends: list[BendIn] = Field(default_factory=list)
    entry_radius_mm: float | None = None
    ribbed: bool = False


class TubeOut(Fields):
    flow_cfm: float
    flow_low_cfm: float
    flow_high_cfm: float


def tube_flow(given: TubeIn) -> TubeOut:
    def metres(millimetres: float | None) -> float | None:
        return None if millimetres is None else millimetres / 1000

    geometry = passage.Geometry(
        given.bore_mm / 1000,
        metres(given.bore_out_mm),
        metres(given.length_mm),
        metres(given.entry_radius_mm),
        bends=tuple(passage.Bend(bend.angle_deg, bend.radius_over_bore) for bend in given.bends),
        ribbed=given.ribbed,
    )
    found = passage.estimated("tube", geometry)

    def cfm(area: float | None) -> float:
        return passage.volume_flow_of(area or 0.0, REFERENCE_DEPRESSION) / CUBIC_FOOT_PER_MINUTE

    return TubeOut(flow_cfm=cfm(found.area), flow_low_cfm=cfm(found.low), flow_high_cfm=cfm(found.high))


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


class EffectiveAreaIn(Fields):
    flow_cfm: float
    depression_inh2o: float = 28.0


class EffectiveAreaOut(Fields):
    effective_area_mm2: float


def effective_area(given: EffectiveAreaIn) -> EffectiveAreaOut:
    flow, depression = given.flow_cfm * CUBIC_FOOT_PER_MINUTE, given.depression_inh2o * INCH_OF_WATER
    return EffectiveAreaOut(effective_area_mm2=1e6 * passage.effective_area(flow, depression))
