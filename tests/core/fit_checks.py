"""Computations for the check rows of threads, bolts and seals."""

from elvarn.core.constants import INCH
from elvarn.core.fit import bolt, seal
from elvarn.core.fit.bolt import BoltClass
from elvarn.core.fit.thread import PIPES, Thread, thread_of, thread_percent

MM = 1e-3
NPT = PIPES["1/8-27 NPT"]


def class_of(words):
    thread, name = words.split()
    return thread_of(thread), BoltClass(name)


def by_nut_factor(row):
    """At a fraction of the proof load that the row states."""
    thread, _ = class_of(row["bolt"])
    return bolt.torque_for(row["fraction"] * row["proof_N"], thread, row["K"])


def of_row(row):
    thread = Thread("M6", 6 * MM, row["P"] * MM)
    assert abs(thread.pitch_diameter - row["d2_mm"] * MM) < 1e-6
    return thread


def preload(row):
    return bolt.assembly_preload(of_row(row), row["Rp02_MPa"] * 1e6, row["mu"])


def ring(row):
    return row["section_mm"] * MM, row["gland_depth_mm"] * MM


FIT_COMPUTED = {
    "T12-02": lambda r: thread_of(r["thread"]).stress_area * 1e6,
    **dict.fromkeys(
        ["T12-05", "T12-06", "T12-08"],
        lambda r: bolt.proof_load(thread_of(r["thread"]), BoltClass(r["property_class"])),
    ),
    **dict.fromkeys(["T12-10", "T12-11", "T12-12", "T12-13"], by_nut_factor),
    "T12-15": preload,
    "T12-16": lambda r: bolt.torque_by_friction(preload(r), of_row(r), r["mu"], r["Dkm_mm"] * MM),
    "T12-17": lambda r: r["value"] * bolt.LBF_IN,
    "T12-23": lambda r: 100 * thread_percent(thread_of(r["thread"]), r["drill_mm"] * MM),
    **dict.fromkeys(["T12-26", "T12-27"], lambda r: thread_of(r["thread"]).tap_drill / MM),
    "T12-29": lambda _: NPT.pitch_diameter_small / INCH,
    "T12-30": lambda _: NPT.pitch_diameter_hand_tight / INCH,
    "T12-31": lambda _: NPT.effective_length / INCH,
    "T12-32": lambda _: sum(NPT.drills) / 2 / INCH,
    "T12-33": lambda _: NPT.minor_small / INCH,
    **dict.fromkeys(["T12-34", "T12-38"], lambda r: 100 * seal.squeeze(*ring(r))),
    **dict.fromkeys(["T12-35", "T12-39"], lambda r: 100 * seal.fill(*ring(r), r["gland_width_mm"] * MM)),
    "T12-40": lambda r: bolt.clamped([r["preload_N"]] * r["bolts"], r["gasket_area_mm2"] * MM**2) / 1e6,
}  # fmt: skip
