"""Calculations on air, openings and metering."""

from pydantic import Field

from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, INCH_OF_WATER
from elvarn.core.gas import air, discharge, orifice
from elvarn.service.calc.fields import Air, Fields, texts


class MoistAirOut(Fields):
    density_kg_m3: float
    density_ideal_gas_kg_m3: float
    dry_pressure_kpa: float
    speed_of_sound_m_s: float


def moist_air(given: Air) -> MoistAirOut:
    weather = given.weather()
    return MoistAirOut(
        density_kg_m3=air.density_cipm_2007(weather),
        density_ideal_gas_kg_m3=air.density_ideal(weather),
        dry_pressure_kpa=air.dry_pressure(weather) / 1000,
        speed_of_sound_m_s=air.speed_of_sound(weather),
    )


class OpeningIn(Fields):
    bore_mm: float = Field(description="bore of the smallest section, mm")
    depression_inh2o: float = Field(28.0, description="depression, inches of water")
    flow_cfm: float | None = Field(None, description="flow that was read, CFM")
    air: Air = Air(temperature_c=20, pressure_kpa=101.325)


class OpeningOut(Fields):
    ceiling_cfm: float = Field(description="the most that the opening can pass, isentropic, in upstream air")
    incompressible_velocity_m_s: float
    discharge_coefficient: float | None = Field(description="referred to the bore's area, incompressible")
    above_ceiling: bool


def opening_ceiling(given: OpeningIn) -> OpeningOut:
    weather = given.air.weather()
    area, drop = discharge.round_area(given.bore_mm / 1000), given.depression_inh2o * INCH_OF_WATER
    density = air.density_cipm_2007(weather)
    ceiling = discharge.isentropic_volume_flow(area, drop, weather) / CUBIC_FOOT_PER_MINUTE
    coefficient = None
    if given.flow_cfm is not None:
        flow = given.flow_cfm * CUBIC_FOOT_PER_MINUTE
        coefficient = discharge.discharge_coefficient(flow, area, drop, density)
    return OpeningOut(
        ceiling_cfm=ceiling,
        incompressible_velocity_m_s=discharge.incompressible_velocity(drop, density),
        discharge_coefficient=coefficient,
        above_ceiling=given.flow_cfm is not None and given.flow_cfm > ceiling,
    )


class PlateIn(Fields):
    pipe_diameter_mm: float
    hole_diameter_mm: float
    pressure_drop_kpa: float
    tapping: str = "corner"
    air: Air = Air(temperature_c=20, pressure_kpa=101.325)


class PlateOut(Fields):
    volume_flow_cfm: float
    mass_flow_kg_s: float
    discharge_coefficient: float
    expansibility: float
    reynolds_number: float
    findings: list[str]


def orifice_plate(given: PlateIn) -> PlateOut:
    weather = given.air.weather()
    pipe, hole = given.pipe_diameter_mm / 1000, given.hole_diameter_mm / 1000
    found = orifice.plate_flow(pipe, hole, given.pressure_drop_kpa * 1000, weather, given.tapping)
    return PlateOut(
        volume_flow_cfm=found.mass / air.density_cipm_2007(weather) / CUBIC_FOOT_PER_MINUTE,
        mass_flow_kg_s=found.mass,
        discharge_coefficient=found.coefficient,
        expansibility=found.expansibility,
        reynolds_number=found.reynolds,
        findings=texts(orifice.orifice_findings(pipe, hole / pipe, found.reynolds, given.tapping)),
    )
