"""Dyno files and live pulls beside reference runs."""

import csv
import io
import time

import numpy as np

from dev.perf.figure import Measured
from elvarn.demo.hill_climb_five import STOCK, STOCK_DAY
from elvarn.exchange.pull_out import write_recording
from elvarn.service.dyno.looked import doubts, look, rows_of, runs_in, traces_in
from elvarn.service.kernel.apart import Apart

FILES, ROWS = 20, 20_000
FILES_LIMIT = 2.5
FIELDS = ["time_s", "speed", "torque", "manifold_kpa", "mixture_lambda", "air_c", "outside_kpa", "humidity_percent"]


def files_in_the_core() -> Measured:
    """Twenty files, each looked at and read as a pull, against reading the same cells as figures."""
    files = [_file(seed) for seed in range(FILES)]
    began = time.perf_counter()
    for content in files:
        _alone(content)
    alone = time.perf_counter() - began
    apart = Apart()
    _ours(apart, files[0])  # the reading process is begun with the first file
    began = time.perf_counter()
    for content in files:
        _ours(apart, content)
    mine = time.perf_counter() - began
    apart.end()
    return Measured(
        f"{FILES} dyno files of {ROWS} rows",
        f"{mine:.2f} s",
        f"csv.reader and float() {alone:.2f} s",
        f"{FILES_LIMIT:g} ×, is {mine / alone:.1f} ×",
        mine <= FILES_LIMIT * alone,
    )


def _file(seed: int) -> bytes:
    """A pull as a dyno logs it, with its channels."""
    generator = np.random.default_rng(seed)
    speed = np.sort(generator.uniform(2400, 7500, ROWS))
    torque = STOCK.torque(speed, STOCK_DAY) * generator.normal(1, 0.001, ROWS)
    columns = [np.arange(ROWS) / 1000, speed, torque, 97 - (speed / 7000) ** 2, *(
        generator.normal(middle, 0.002, ROWS) for middle in (0.88, 21.0, 98.9, 45.0))]  # fmt: skip
    samples: list[list[float | None]] = [[round(float(value), 4) for value in row] for row in np.column_stack(columns)]
    return write_recording(FIELDS, samples, ["perf"]).encode()


def _alone(content: bytes) -> None:
    rows = list(csv.reader(io.StringIO(content.decode())))[3:]
    [[float(cell) for cell in row] for row in rows]


def _ours(apart: Apart, content: bytes) -> None:
    """All that is done of a dropped file until its rows are kept, in the process that reads files."""
    seen = apart(look, content)
    assert seen.mapping is not None
    runs = apart(runs_in, content, seen.mapping)
    apart(traces_in, content, runs, seen.mapping)
    apart(doubts, content, seen.mapping, runs)
    apart(rows_of, content, seen.mapping, "check", (runs[0].first_row, runs[0].last_row))
