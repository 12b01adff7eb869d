"""Pulls and designs as files that import again unchanged."""

from itertools import zip_longest

from elvarn.core.dyno.channels import CHANNELS
from elvarn.exchange.table import write_table


def write_pull(
    engine_speed_rpm: list[float], torque: list[float], channels: dict[str, list[float | None]], comments: list[str]
) -> str:
    """A pull as it was stored with its channels, every digit kept: it imports again unchanged."""
    headings = ["engine speed", "torque", *(CHANNELS[name].label for name in channels)]
    units_row = ["rpm", "N·m", *(CHANNELS[name].unit for name in channels)]
    columns = [engine_speed_rpm, torque, *channels.values()]
    rows = [["" if value is None else repr(value) for value in row] for row in zip(*columns, strict=True)]
    return write_table(headings, units_row, rows, comments)


def write_designs(designs: list[tuple[str, list[float], list[float]]], comments: list[str]) -> str:
    """Curves of several designs beside each other, each with its speeds [rpm] and torques [N m]: read again, they are
    as many runs."""
    headings = [f"{what}, {name}" for name, _, _ in designs for what in ("engine speed", "torque")]
    columns = [[f"{value:.6g}" for value in values] for _, speeds, torques in designs for values in (speeds, torques)]
    rows = [list(row) for row in zip_longest(*columns, fillvalue="")]
    return write_table(headings, ["rpm", "N·m"] * len(designs), rows, comments)


def write_recording(fields: list[str], samples: list[list[float | None]], comments: list[str]) -> str:
    """Samples as a dyno sent them, in the order of `fields`: speed [rpm], torque [N m] and channels by name."""
    own = {"speed": ("engine speed", "rpm"), "torque": ("torque", "N·m")}
    headed = [own.get(name) or (CHANNELS[name].label, CHANNELS[name].unit) for name in fields]
    rows = [["" if value is None else repr(value) for value in sample] for sample in samples]
    return write_table([label for label, _ in headed], [unit for _, unit in headed], rows, comments)
