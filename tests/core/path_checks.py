"""Computations for the check rows of demand, tuning, losses, throttle and injectors."""

from math import pi

from elvarn.core import constants
from elvarn.core.engine import demand, geometry, injector, tuning
from elvarn.core.gas import air
from elvarn.core.gas.discharge import round_area
from elvarn.core.path import losses, throttle

CFM = constants.CUBIC_FOOT_PER_MINUTE
INCH = constants.INCH
FOOT = constants.FOOT
POUND_PER_HOUR = constants.POUND / 3600
CC_PER_MINUTE = 1e-6 / 60
LITRE = 1e-3


def air_demand(row):
    volume = row["displ_in3"] * INCH**3 if "displ_in3" in row else row["displ_cc"] * 1e-6
    return demand.air_demand(volume, row["rpm"], row["VE"]) / CFM


def mach_index(row):
    speed = geometry.mean_piston_speed(row["stroke_mm"] / 1000, row["rpm"])
    return demand.mach_index(
        row["bore_mm"] / 1000, speed, row["valve_mm"] / 1000, row["valves"], row["Ci"], row["a_ms"]
    )


def speed_at_index(row):
    return demand.speed_at_mach_index(
        0.6,
        row["bore_mm"] / 1000,
        row["stroke_mm"] / 1000,
        row["valve_mm"] / 1000,
        row["valves"],
        row["Ci"],
        row["a_ms"],
    )


def engelman_imperial(row):
    runner = tuning.Section(row["L_in"] * INCH, row["A_in2"] * INCH**2)
    volume = row["Vd_in3"] * INCH**3
    return tuning.engelman_speed(runner, volume, row["CR"], row["a_fts"] * FOOT, row["K"]).speed_rpm


def runner_frequency(row):
    volume = tuning.effective_cylinder_volume(row["Vd_cc"] * 1e-6, row["CR"])
    return tuning.helmholtz_frequency(row["A_mm2"] * 1e-6, row["L_mm"] / 1000, volume, row["a_ms"])


def engelman_metric(row):
    runner = tuning.Section(row["L_mm"] / 1000, row["A_mm2"] * 1e-6)
    return tuning.engelman_speed(runner, row["Vd_cc"] * 1e-6, row["CR"], row["a_ms"]).speed_rpm


def plenum_frequency(row):
    area, volume = round_area(row["duct_mm"] / 1000), row["V_litre"] * LITRE
    return tuning.helmholtz_frequency(area, row["L_mm"] / 1000, volume, row["a_ms"])


def resonance(row):
    duct = tuning.Section(row["L_mm"] / 1000, round_area(row["duct_mm"] / 1000))
    return tuning.resonance_speed(duct, row["V_litre"] * LITRE, row["cyl_in_group"], row["a_ms"]).speed_rpm


def warm_over_cold(row):
    warm, cold = (air.Weather(273.15 + t, 101325, 0.0) for t in (50, 20))
    return air.speed_of_sound(warm) / air.speed_of_sound(cold)


def engelman_constant(row):
    """The printed constant, from the metric formula with unit areas, lengths and volumes in inches and feet."""
    runner = tuning.Section(INCH, INCH**2)
    speed = tuning.engelman_speed(runner, INCH**3, 3.0, FOOT, constant=1.0).speed_rpm
    return speed / (2 / 4) ** 0.5


def smooth_bend(row):
    friction = losses.friction_factor(row["Re"], row["roughness_m"] / row["D_m"])
    return losses.smooth_bend(90, row["r_over_D"], friction).value


def areas(row, first, second):
    return round_area(row[first] / 1000), round_area(row[second] / 1000)


def diffuser(row):
    return losses.conical_diffuser(*areas(row, "d1_mm", "d2_mm"), row["included_angle_deg"]).value


def contraction_crane(row):
    return losses.sudden_contraction(*areas(row, "d_up_mm", "d_dn_mm")).low


def friction(row):
    return losses.friction_factor(row["Re"], row["eps_over_D"])


def open_fraction(row):
    return throttle.open_fraction(row["bore_mm"] / 1000, row["shaft_mm"] / 1000, row["psi_deg"], row["psi0_deg"])


def open_area(row):
    return open_fraction(row) * pi / 4 * row["bore_mm"] ** 2


def throttle_drop(row):
    bore, shaft = row["bore_mm"] / 1000, row["shaft_mm"] / 1000
    return throttle.throttle_drop(row["cfm"] * CFM, bore, shaft, row["Cd"], row["rho_kgm3"])


def injector_size(row):
    fuel_for_work = row["BSFC_lb_hph"] * constants.POUND / (constants.HORSEPOWER * 3600)
    power = row["hp"] * constants.HORSEPOWER
    return injector.required_fuel_flow(power, fuel_for_work, row["injectors"], row["max_duty"]) / POUND_PER_HOUR


def injector_pressure(row):
    return injector.flow_at_pressure(row["flow"], row["dp1"], row["dp2"])


def unreferenced(row):
    across = injector.pressure_across(row["rail_gauge_bar"], row["manifold_gauge_bar"])
    return injector.flow_at_pressure(row["flow_cc_min"], row["rated_dp_bar"], across)


def cc_per_minute(row):
    return injector.volume_from_mass_flow(row["lb_h"] * POUND_PER_HOUR, row["density_kg_L"] * 1000) / CC_PER_MINUTE


PATH_COMPUTED = {
    "T04-02": air_demand, "T04-03": air_demand, "T04-04": air_demand,
    "T04-07": lambda r: demand.power_from_air(r["air_kg_s"], r["AFR"], r["BSFC_g_kWh"] / 1000 / 3.6e6) / 1000,
    "T04-10": lambda r: demand.rule_of_thumb_power(r["cfm_28"] * CFM, r["cyl"]) / constants.HORSEPOWER,
    "T04-11": lambda r: demand.horsepower_constant_at(28 * constants.INCH_OF_WATER, r["k10"]),
    "T04-12": lambda r: demand.horsepower_constant_at(25 * constants.INCH_OF_WATER, r["k10"]),
    "T04-13": lambda r: demand.rule_of_thumb_peak_speed(r["cfm_28"] * CFM, r["in3_per_cyl"] * INCH**3),
    "T04-14": lambda r: geometry.mean_piston_speed(r["stroke_mm"] / 1000, r["rpm"]),
    "T04-15": lambda r: geometry.mean_piston_speed(r["stroke_mm"] / 1000, r["rpm"]),
    "T04-17": mach_index, "T04-19": speed_at_index,
    "T05-01": engelman_constant, "T05-02": engelman_imperial, "T05-03": engelman_imperial,
    "T05-05": lambda r: tuning.effective_cylinder_volume(r["Vd_cc"] * 1e-6, r["CR"]) * 1e6,
    "T05-06": runner_frequency, "T05-07": engelman_metric,
    "T05-11": lambda r: tuning.quarter_wave_frequency(r["L_m"], r["a_ms"]),
    "T05-14": lambda r: tuning.quarter_wave_speed(r["L_m"], r["q"], r["a_ms"]),
    "T05-17": lambda r: tuning.length_for_return(r["theta_deg"], r["N_rpm"], r["a_ms"]),
    "T05-18": plenum_frequency, "T05-19": resonance, "T05-22": plenum_frequency, "T05-23": resonance,
    "T05-24": lambda r: tuning.end_correction(r["r_mm"]),
    "T05-25": lambda r: tuning.end_correction(r["r_mm"], flanged=False),
    "T05-26": warm_over_cold,
    "T09-01": lambda r: losses.pressure_drop(r["K"], r["rho_kgm3"], r["V_ms"]),
    **dict.fromkeys(("T09-03", "T09-04", "T09-05", "T09-06"), smooth_bend),
    **dict.fromkeys(("T09-09", "T09-10", "T09-12"), lambda r: losses.mitre_bend(r["angle_deg"]).value),
    "T09-13": lambda r: losses.sudden_expansion(*areas(r, "d1_mm", "d2_mm")).value,
    "T09-16": contraction_crane, "T09-17": contraction_crane,
    "T09-18": diffuser, "T09-19": diffuser, "T09-20": diffuser,
    "T09-22": lambda r: losses.SHARP_ENTRY.value, "T09-23": lambda r: losses.REENTRANT_ENTRY.value,
    "T09-26": lambda r: losses.rounded_entry(r["r_over_D"]).value,
    "T09-27": friction, "T09-28": friction,
    "T09-29": lambda r: losses.screen(r["open_fraction"]).value,
    "T09-34": lambda r: losses.butterfly(r["closing_angle_deg"]).value,
    "T10-01": open_fraction, "T10-02": open_area, "T10-05": open_fraction, "T10-06": open_area,
    "T10-09": open_fraction, "T10-10": open_area,
    "T10-12": lambda r: throttle.wide_open_fraction(r["bore_mm"], r["shaft_mm"]),
    "T10-14": lambda r: throttle.wide_open_fraction(r["bore_mm"], r["thickness_mm"]),
    "T10-15": throttle_drop,
    "T10-17": lambda r: 1e6 * throttle.equivalent_area(
        r["cfm"] * CFM, r["inH2O"] * constants.INCH_OF_WATER, r["rho_kgm3"]),
    "T11-01": injector_pressure, "T11-03": injector_pressure, "T11-04": unreferenced,
    "T11-06": cc_per_minute, "T11-07": cc_per_minute,
    "T11-10": lambda r: r["cc_min"] * CC_PER_MINUTE * r["density_kg_L"] * 1000 / POUND_PER_HOUR,
    "T11-11": injector_size, "T11-12": injector_size,
    "T11-16": lambda r: 100 * injector.duty_of_pulse(r["pulse_ms"] / 1000, r["rpm"]),
    "T11-17": lambda r: 1e6 * injector.fuel_in_pulse(
        r["cc_min"] * CC_PER_MINUTE, r["pulse_ms"] / 1000, r["dead_ms"] / 1000, r["density_kg_L"] * 1000),
}  # fmt: skip
