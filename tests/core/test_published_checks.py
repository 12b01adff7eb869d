"""Every check row of the topics that Elvarn computes, with its source in the test's name."""

from math import pi, sqrt

import numpy as np
import pytest

from elvarn import units
from elvarn.core import constants
from elvarn.core.bench import drift, leak, power, reference
from elvarn.core.bench.balance import spread_of
from elvarn.core.dyno import correction, curves
from elvarn.core.gas import air, discharge, orifice
from elvarn.core.statistics import repeatability, student, uncertainty
from tests.core.check_rows import check_rows
from tests.core.fit_checks import FIT_COMPUTED
from tests.core.path_checks import PATH_COMPUTED
from tests.core.port_checks import PORT_COMPUTED

CFM = constants.CUBIC_FOOT_PER_MINUTE
INCH_OF_WATER = constants.INCH_OF_WATER
SQUARE_INCH = constants.INCH**2

# Rows that name something Elvarn does not compute, each with the reason.
NOT_COMPUTED = {
    "T02-33": "water at 4 °C: the conventional inch of water is the only one offered",
    "T02-34": "water at 60 °F: as above",
    "T02-35": "water at 20 °C: as above",
    "T02-37": "error of taking one for the other: as above",
    "T07-12": "monotone cubic: curves are taken as piecewise linear",
    "T07-17": "Savitzky–Golay: curves are not smoothed",
    "T07-18": "moving average: as above",
    "T13-11": "trapezoid: uneven stations are stacked as frusta",
    "T13-22": "mouth of a bell: it is measured, not computed",
}


def weather(row):
    pressure = row.get("p_Pa", 1000 * row.get("p_total_kPa", 0))
    return air.Weather(row["t_C"] + 273.15, pressure, row["RH"])


def dry_standard(celsius, pascal):
    return air.Weather(celsius + 273.15, pascal, 0.0)


def square_root_error(low, high, flow):
    """Percent by which mass flow falls short of the square-root law between two depressions."""
    return 100 * (flow(high) / flow(low) / sqrt(high / low) - 1)


def sharp_orifice(inches):
    drop = inches * INCH_OF_WATER
    return orifice.expansibility_iso_5167(0.0, 101325, drop) * sqrt(drop)


def nozzle(inches):
    return discharge.isentropic_volume_flow(1.0, inches * INCH_OF_WATER, air.STANDARD_AIR)


def plate(row):
    re = row["Re_D"]
    return orifice.discharge_coefficient_iso_5167(row["D_m"], row["beta"], re, row["taps"])


def pair(row):
    return row["before"], row["after"]


def coefficient(row, area):
    depression = row["inH2O"] * INCH_OF_WATER
    return discharge.discharge_coefficient(row["cfm"] * CFM, area, depression, row["rho_kgm3"])


def unit_flow(row):
    velocity = discharge.incompressible_velocity(row["inH2O"] * INCH_OF_WATER, row["rho_kgm3"])
    return velocity * SQUARE_INCH / CFM


def feet(value):
    return value / constants.FOOT


def venturi(row):
    ratio = row["d_m"] / row["D_m"]
    epsilon = orifice.expansibility_nozzle(ratio, row["p1_Pa"], row["dp_Pa"], row["kappa"])
    return orifice.differential_mass_flow(
        orifice.MACHINED_VENTURI_COEFFICIENT, epsilon, row["D_m"], row["d_m"], row["dp_Pa"], row["rho1"]
    )


def crossings(a_rpm, a_value, b_rpm, b_value, band):
    grid = np.unique(np.concatenate((a_rpm, b_rpm, band)))
    grid = grid[(grid >= band[0]) & (grid <= band[1])]
    return curves.crossing_speeds(grid, np.interp(grid, b_rpm, b_value) - np.interp(grid, a_rpm, a_value))


def mean_power(row, low, high):
    return curves.band_mean(np.array(row["rpm"]), np.array(row["kW"]), low, high)


def mean_torque(row):
    rpm = np.array(row["rpm"])
    torque = np.array([correction.torque_from_power(kw * 1000, n) for n, kw in zip(rpm, row["kW"], strict=True)])
    return curves.band_mean(rpm, torque, 3000, 6000)


GUM_ESTIMATES = {"coefficient": 0.605, "diameter": 0.050, "pressure_drop": 1500, "temperature": 295.15,
                 "pressure": 101000}  # fmt: skip
GUM_UNCERTAINTIES = {"coefficient": 0.605 * 0.008, "diameter": 0.00005, "pressure_drop": 7.5,
                     "temperature": uncertainty.rectangular(0.5), "pressure": uncertainty.rectangular(100)}  # fmt: skip


def convert(value, unit, target, quantity):
    return units.from_si(units.to_si(value, unit, quantity), target, quantity)


def wrong_with_total_pressure(row):
    total = air.Weather(row["t_C"] + 273.15, row["p_total_kPa"] * 1000, 0.0)
    moist = weather(row)
    return 100 * (correction.factor_sae_j1349(total) / correction.factor_sae_j1349(moist) - 1)


POINTS = {
    "A": (25, 99.0, 0.0),
    "B": (20, 101.325, 0.5),
    "C": (35, 100.0, 0.6),
    "D": (10, 102.0, 0.4),
    "E": (30, 84.0, 0.3),
}


def at_point(row):
    celsius, kilopascal, humidity = POINTS[row["point"]]
    return {"t_C": celsius, "p_total_kPa": kilopascal, "RH": humidity}


def inside_limits(row):
    findings = correction.correct(correction.Standard.ISO_1585, weather(row)).findings
    return "no" if any(finding.code == "factor_out_of_limits" for finding in findings) else "yes"


def density_error(row):
    return 100 * (air.density_ideal(weather(row)) / air.density_cipm_2007(weather(row)) - 1)


def geopotential(altitude):
    return 6356766 * altitude / (6356766 + altitude)


def atmosphere_density(row):
    temperature, pressure = air.standard_atmosphere(geopotential(row["geometric_altitude_m"]))
    return air.density_ideal(air.Weather(temperature, pressure, 0.0))


def atmosphere_pressure(row):
    return air.standard_atmosphere(geopotential(row["geometric_altitude_m"]))[1]


def density(row):
    return air.density_cipm_2007(weather(row))


def saturation(row):
    return air.saturation_pressure(row["t_C"] + 273.15)


def pressure(target):
    return lambda row: convert(row["value"], row["from"].split(" ")[0], target, "pressure")


def depression(target):
    return lambda row: convert(row["value"], "inH2O", target, "depression")


def factor(function):
    return lambda row: function(weather(row))


COMPUTED = {
    "T01-01": density, "T01-02": density, "T01-04": density, "T01-05": density, "T01-06": density,
    "T01-07": lambda r: air.density_ideal(weather(r)),
    "T01-08": density_error,
    "T01-11": lambda r: air.speed_of_sound(weather(r)),
    "T01-14": atmosphere_pressure, "T01-16": atmosphere_density, "T01-17": atmosphere_pressure,
    "T01-20": saturation, "T01-22": saturation, "T01-23": saturation,
    "T01-25": lambda r: air.relative_humidity_from_wet_bulb(r["t_dry_C"] + 273.15, r["t_wet_C"] + 273.15, r["p_Pa"]),
    "T02-03": lambda r: reference.flow_at_depression(r["cfm"], r["from_inH2O"], r["to_inH2O"]),
    "T02-06": lambda r: square_root_error(10, 28, nozzle),
    "T02-07": lambda r: square_root_error(25, 28, nozzle),
    "T02-08": lambda r: square_root_error(10, 28, sharp_orifice),
    "T02-10": lambda r: reference.standard_dry_volume_flow(r["acfm"], weather(r), dry_standard(20, 101325)),
    "T02-11": lambda r: reference.standard_dry_volume_flow(r["acfm"], weather(r), dry_standard(140 / 9, 101325)),
    "T02-13": lambda r: reference.mass_flow(r["cfm"] * CFM, r["rho_kgm3"]) / constants.POUND * 60,
    "T02-17": plate, "T02-19": plate, "T02-20": plate, "T02-21": plate,
    "T02-23": lambda r: orifice.expansibility_iso_5167(r["beta"], r["p1_Pa"], r["dp_Pa"], r["kappa"]),
    "T02-26": venturi,
    "T02-27": lambda r: 1000 * reference.inclined_manometer_head(
        r["L_mm"] / 1000, r["angle_deg"], r["SG"], r["tube_mm"] / 1000, r["well_mm"] / 1000),
    "T02-29": lambda r: r["Q_total_cfm"] - leak.leak_at_depression(r["leak_cfm"], 28, 28),
    "T02-30": lambda r: leak.leak_at_depression(r["leak_cfm"], 28, 10, r["n"]),
    "T02-31": lambda r: leak.leak_at_depression(r["leak_cfm"], 28, 10, r["n"]),
    "T02-32": lambda r: INCH_OF_WATER,
    "T03-04": lambda r: feet(discharge.incompressible_velocity(r["inH2O"] * INCH_OF_WATER, r["rho_kgm3"])),
    "T03-06": lambda r: feet(discharge.incompressible_velocity(28 * INCH_OF_WATER, 1.2236)) ,
    "T03-07": unit_flow, "T03-08": unit_flow,
    "T03-10": lambda r: discharge.isentropic_volume_flow(
        SQUARE_INCH, 28 * INCH_OF_WATER, air.Weather(288.15, 101325, 0.0)) / CFM,
    "T03-11": lambda r: feet(discharge.isentropic_exit_velocity(28 * INCH_OF_WATER, air.Weather(288.15, 101325, 0.0))),
    "T03-12": lambda r: coefficient(r, r["area_in2"] * SQUARE_INCH),
    "T03-13": lambda r: coefficient(r, r["area_in2"] * SQUARE_INCH),
    "T03-15": lambda r: coefficient(r, discharge.round_area(r["valve_dia_in"] * constants.INCH)),
    "T03-16": lambda r: coefficient(
        r, discharge.curtain_area(r["valve_dia_in"] * constants.INCH, r["lift_in"] * constants.INCH)),
    "T03-17": lambda r: discharge.incompressible_velocity(r["dp_inH2O"] * INCH_OF_WATER, r["rho_kgm3"]),
    "T03-20": lambda r: discharge.port_velocity_during_stroke(
        r["bore_mm"] / 1000, r["stroke_mm"] / 1000, r["rpm"], r["port_mm2"] / 1e6),
    "T03-21": lambda r: discharge.port_velocity_over_cycle(
        pi / 4 * (r["bore_mm"] / 1000) ** 2 * r["stroke_mm"] / 1000, r["rpm"], r["port_mm2"] / 1e6, r["VE"]),
    **dict.fromkeys(("T06-01", "T06-07", "T06-19", "T06-25"), factor(correction.atmospheric_factor_sae_j1349)),
    **dict.fromkeys(("T06-02", "T06-08", "T06-26"), factor(correction.factor_sae_j1349)),
    **dict.fromkeys(("T06-03", "T06-15"), factor(correction.factor_sae_j607)),
    **dict.fromkeys(("T06-04", "T06-10", "T06-16", "T06-28"), factor(correction.factor_din_70020)),
    **dict.fromkeys(("T06-05", "T06-11", "T06-17"), factor(correction.factor_iso_1585)),
    **dict.fromkeys(("T06-06", "T06-12", "T06-24"), lambda r: air.dry_pressure(weather(r)) / 1000),
    "T06-30": lambda r: correction.factor_sae_j607(weather(at_point({"point": "A"})))
    / correction.atmospheric_factor_sae_j1349(weather(at_point({"point": "A"}))),
    "T06-31": inside_limits,
    "T06-33": lambda r: r["P_obs_kW"] * correction.factor_sae_j1349(weather(at_point(r))),
    "T06-35": lambda r: wrong_with_total_pressure(at_point(r)),
    "T06-36": lambda r: constants.HORSEPOWER
    / correction.power_from_torque(constants.POUND_FORCE * constants.FOOT, 1.0),
    "T07-01": lambda r: 3000 * mean_power(r, 3000, 6000),
    "T07-02": lambda r: mean_power(r, 3000, 6000),
    "T07-03": lambda r: float(np.mean(r["kW"])),
    "T07-04": lambda r: mean_power(r, *r["band"]),
    "T07-07": lambda r: crossings(r["rpm"], r["A_kW"], r["rpm"], r["B_kW"], (2000, 6000))[0],
    "T07-08": lambda r: len(crossings(r["A"]["rpm"], r["A"]["kW"], r["B"]["rpm"], r["B"]["kW"], (3000, 6000))),
    "T07-11": lambda r: float(np.interp(r["at"], r["rpm"], r["kW"])),
    "T07-14": mean_torque,
    "T08-01": lambda r: student.paired_difference(*pair(r)).mean,
    "T08-02": lambda r: student.paired_difference(*pair(r)).standard_deviation,
    "T08-03": lambda r: student.paired_difference(*pair(r)).t,
    "T08-04": lambda r: student.paired_difference(*pair(r)).half_width,
    "T08-05": lambda r: student.welch(*pair(r))[0],
    "T08-06": lambda r: student.welch(*pair(r))[1],
    "T08-07": lambda r: 100 * spread_of(r["before"]),
    "T08-13": lambda r: repeatability.pooled_repeatability(r["groups"]),
    "T08-14": lambda r: repeatability.repeatability_limit(r["s_r"]),
    "T08-16": lambda r: repeatability.standard_error(r["s"], r["n"]),
    "T08-17": lambda r: drift.drift_free_difference(r["A1"], r["B"], r["A2"]),
    "T08-18": lambda r: drift.drift_free_deviation(r["s"]),
    "T08-23": lambda row: power.runs_per_arm(1.0, 0.8),
    "T08-24": lambda r: student.student_quantile(2),
    "T08-25": lambda r: reference.volume_flow_from_pressure_drop(**GUM_ESTIMATES) / CFM,
    "T08-26": lambda r: uncertainty.combined_standard_uncertainty(
        reference.volume_flow_from_pressure_drop, GUM_ESTIMATES, GUM_UNCERTAINTIES) / CFM,
    "T08-28": lambda r: 100 * uncertainty.ratio_uncertainty(0.002, 0.0025, 3),
    "T16-01": lambda r: units.to_si(1, "cfm", "flow"),
    "T16-02": lambda r: convert(1, "cfm", "l/min", "flow"),
    "T16-03": lambda r: convert(r["cfm"], "cfm", "l/min", "flow"),
    "T16-06": lambda r: r["kg_h"] / constants.POUND,
    "T16-07": lambda r: r["lb_h"] * constants.POUND / 3600,
    "T16-08": depression("mbar"), "T16-09": depression("kPa"),
    "T16-11": lambda r: convert(convert(r["value"], "inH2O", "Pa", "depression"), "Pa", "psi", "pressure"),
    "T16-12": lambda r: convert(convert(r["value"], "inH2O", "Pa", "depression"), "Pa", "inHg", "pressure"),
    "T16-13": pressure("mbar"), "T16-14": pressure("kPa"),
    "T16-17": lambda r: convert(r["value"], "kW", "hp", "power"),
    "T16-18": lambda r: convert(r["value"], "kW", "PS", "power"),
    "T16-19": lambda r: convert(r["value"], "PS", "hp", "power"),
    "T16-23": lambda r: units.to_si(r["value"], "°F", "temperature") - units.to_si(0, "°F", "temperature"),
    "T16-26": lambda r: r["value"] * constants.POUND / constants.FOOT**3,
    **PATH_COMPUTED,
    **PORT_COMPUTED,
    **FIT_COMPUTED,
}  # fmt: skip

ROWS = {row.identifier: row for row in check_rows()}


@pytest.mark.published
@pytest.mark.parametrize("identifier", sorted(COMPUTED))
def test_agrees_with_the_published_value(identifier):
    row = ROWS[identifier]
    result = COMPUTED[identifier](row.inputs)
    assert row.agrees(result), f"{identifier}: {result} is not {row.expected} ({row.tolerance}); source: {row.source}"


def test_every_row_is_computed_or_left_out_with_a_reason():
    assert set(ROWS) == set(COMPUTED) | set(NOT_COMPUTED)
    assert not set(COMPUTED) & set(NOT_COMPUTED)
