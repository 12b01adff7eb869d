"""Computations for the check rows of port geometry."""

from elvarn.core.constants import ZERO_CELSIUS
from elvarn.core.engine import tuning
from elvarn.core.gas.discharge import round_area
from elvarn.core.path import losses
from elvarn.core.port import lubricant, section, stations
from elvarn.core.port.grit import Grit, GritSystem

MM, MM2, CC = 1e-3, 1e-6, 1e-6


def rounded(row):
    return section.RoundedRectangle(row["w_mm"] * MM, row["h_mm"] * MM, row["r_mm"] * MM)


def held(row):
    return stations.integrated_volume([x * MM for x in row["stations_mm"]], [a * MM2 for a in row["areas_mm2"]]) / CC


def step(row):
    return losses.sudden_expansion(round_area(row["d_up_mm"] * MM), round_area(row["d_dn_mm"] * MM)).value


def taper(row):
    areas = [round_area(row["d1_mm"] * MM), round_area(row["d2_mm"] * MM)]
    return stations.tapers([0, row["L_mm"] * MM], areas)[0]


def joined(row):
    parts = [tuning.Section(row["L1"] * MM, row["A1"] * MM2), tuning.Section(row["L2"] * MM, row["A2"] * MM2)]
    return tuning.equivalent_section(parts).area / MM2


def grain(row):
    number = int(row["grit"].lstrip("P"))
    return 1e6 * Grit(number, GritSystem.P if row["grit"].startswith("P") else GritSystem.CAMI).grain


def flash(row):
    return lubricant.MODELLED[row["ethanol_mass_fraction"]] - ZERO_CELSIUS


PORT_COMPUTED = {
    **dict.fromkeys([f"T14-{n:02}" for n in (2, 4, 6, 7, 9, 10, 11, 12, 15)], grain),
    **dict.fromkeys(["T14-19", "T14-20", "T14-22"], flash),
    "T14-25": lambda r: 100 * lubricant.by_mass(r["vol_fraction"]),
    "T13-01": lambda r: section.Oval(r["width_mm"] * MM, r["height_mm"] * MM).area / MM2,
    "T13-03": lambda r: rounded(r).area / MM2,
    "T13-04": lambda r: section.hydraulic_diameter(rounded(r)) / MM,
    "T13-08": lambda r: section.hydraulic_diameter(section.Ellipse(r["a_mm"] * MM, r["b_mm"] * MM)) / MM,
    "T13-09": lambda r: stations.frustum_volume(r["L_mm"] * MM, r["A1_mm2"] * MM2, r["A2_mm2"] * MM2) / CC,
    "T13-12": held,
    "T13-14": joined,
    "T13-15": taper,
    "T13-16": lambda r: section.equal_diameter(r["area_mm2"] * MM2) / MM,
    "T13-18": step,
    "T13-19": lambda r: losses.pressure_drop(step(r), r["rho"], r["V_up_ms"]),
}  # fmt: skip
