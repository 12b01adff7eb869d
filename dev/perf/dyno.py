"""Dyno files and live pulls beside reference runs."""

import csv
import io
import time
from datetime import UTC, datetime
from uuid import uuid4

import numpy as np
from sqlalchemy import Engine, text

from dev.asking import get, put
from dev.perf.door import address, new_page
from dev.perf.figure import Measured
from dev.perf.rigs import serving
from elvarn.demo.hill_climb_five import STOCK, STOCK_DAY
from elvarn.exchange.pull_out import write_recording
from elvarn.rigs.dyno import DEMO_DESIGNS, Dyno
from elvarn.rigs.dyno_model import DynoModel
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


BRUSH_LIMIT_S, MOVES = 0.060, 60
BRUSHED = """(moves) => new Promise((done) => {
  const box = document.querySelector('.plate'), at = box.getBoundingClientRect(), taken = []
  const send = (type, x) => box.dispatchEvent(new PointerEvent(type,
    { clientX: at.left + x, clientY: at.top + 80, bubbles: true, button: 0, pointerId: 1 }))
  send('pointerdown', 150)
  const step = () => {
    const began = performance.now()
    send('pointermove', 260 + 6 * taken.length)
    requestAnimationFrame(() => setTimeout(() => {
      taken.push(performance.now() - began)
      if (taken.length < moves) step()
      else { send('pointerup', 600); done(taken) }
    }))
  }
  step()
})"""


def brush(port: int, job: str) -> Measured:
    """From a move of the pointer to the frame that shows the band, in a browser."""
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium")
        page = new_page(browser, port)
        page.goto(f"http://127.0.0.1:{port}/jobs/{job}/dyno")
        page.wait_for_selector(".plate svg")
        taken = sorted(page.evaluate(BRUSHED, MOVES))
        browser.close()
    slow = taken[int(0.95 * MOVES)] / 1000
    return Measured(
        "a band brushed on the dyno's plate",
        f"{slow * 1e3:.0f} ms",
        f"95 % of {MOVES} moves; the middle one {taken[MOVES // 2]:.0f} ms",
        f"{BRUSH_LIMIT_S * 1e3:.0f} ms",
        slow <= BRUSH_LIMIT_S,
    )


LIVE_RATE = 50.0


def live(engine: Engine, port: int, job: str) -> Measured:
    """A pull recorded live at fifty samples a second: which of those that the dyno sent are kept."""
    url = address(port)
    model = DynoModel(DEMO_DESIGNS, time.monotonic, np.random.default_rng(3))
    sent = Counted(Dyno(model))
    sent.rate = LIVE_RATE
    with serving(sent) as at:
        dyno, recording = str(uuid4()), str(uuid4())
        put(url, f"/dynos/{dyno}", {"name": f"perf {dyno[:6]}", "kind": "engine", "line": {"port": at}})
        view, shop = get(url, f"/jobs/{job}"), get(url, "/shop")
        new = {
            "person_id": shop["people"][0]["id"],
            "job_id": job,
            "build_id": view["builds"][0]["id"],
            "dyno_id": dyno,
            "started_at": datetime.now(UTC).isoformat(),
            "checked": ["blade", "hoses", "inside", "bolts", "straps"],
        }
        put(url, f"/recordings/{recording}", new)
        kept = _kept(engine, recording)
    lost = len(set(sent.times[: len(kept)]) - set(kept))
    return Measured(
        f"a live pull at {LIVE_RATE:.0f} samples a second",
        f"{lost} lost",
        f"{len(kept)} kept of those that came until its end",
        "0 lost",
        lost == 0 and len(kept) > 100,
    )


class Counted(Dyno):
    """A dyno that remembers when each of its samples was."""

    def __init__(self, dyno: Dyno) -> None:
        super().__init__(dyno.model)
        self.times: list[str] = []

    def line(self) -> str:
        line = super().line()
        self.times.append(line.split(",", maxsplit=1)[0])
        return line


def _kept(engine: Engine, recording: str) -> list[str]:
    """The times of the samples that are kept, once the pull is over."""
    over = text("select ended_at is not null from recording where id = :id")
    wanted = text("select samples from recording_piece where recording_id = :id order by number")
    with engine.connect() as connection:
        while not connection.execute(over, {"id": recording}).scalar():
            connection.rollback()
            time.sleep(0.2)
        pieces = connection.execute(wanted, {"id": recording}).scalars()
        return [f"{sample[0]:.6g}" for piece in pieces for sample in piece]
