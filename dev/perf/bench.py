"""Speed of the bench: a capture against bare inserts, a sample from the line to the screen, and a long soak."""

import gc
import itertools
import json
import os
import statistics
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4

import numpy as np
from sqlalchemy import Engine, text

from dev.asking import Asking
from dev.perf.door import KEY, new_page
from dev.perf.figure import Measured, timed
from dev.perf.rigs import serving
from elvarn.rigs.bench_model import FlowBenchModel
from elvarn.rigs.flow_bench import DEMO_PART, FlowBench

CAPTURES = 80
WARM = 16  # captures until every statement is planned
RUNNERS = 16
CAPTURE_LIMIT = 3.0
PIXELS_LIMIT_S = 0.150
RATE = 20.0
WARM_UP_MS = 5000  # the page fetches its other screens first
SOAK_RATE = 200.0
SETTLE_S = 60.0  # of the soak, before memory is counted: caches fill once
SERVER_ROOM_MB = 8.0
PAGE_ROOM_MB = 4.0

BARE = text(
    "insert into reading (id, content_digest, person_id, job_id, kind, taken_at, marks) "
    "values (:id, :digest, :person, :job, 'flow', now(), '{}')"
)
BARE_FLOW = text(
    "insert into flow_reading (id, setup_id, part_state_id, element_kind, cylinder, typed, figure, unit, flow_m3_s) "
    "values (:id, :setup, :state, 'runner', :cylinder, '200', 200, 'cfm', 0.0944)"
)


def capture_cost(engine: Engine, port: int) -> Measured:
    """A capture, from the request to its acknowledgement, less what an empty request takes, against the same two rows
    inserted bare and committed. By turns, so that all see the same machine."""
    connection = Asking(port, KEY)

    def put(path: str, body: dict[str, Any]) -> None:
        connection.request("PUT", path, json.dumps(body), {"content-type": "application/json"})
        answer = connection.getresponse()
        said = answer.read().decode()
        if answer.status != 200:
            raise RuntimeError(said)

    shop, job, setup = _get(port, "/api/shop"), str(uuid4()), str(uuid4())
    person, bench = shop["people"][0]["id"], shop["benches"][0]["id"]
    put(f"/api/jobs/{job}", {"person_id": person, "kind": "port_by_post", "part": "Perf", "runner_count": RUNNERS})
    put(f"/api/setups/{setup}", {"person_id": person, "job_id": job, "bench_id": bench, "depression": "28"})
    state = _get(port, f"/api/jobs/{job}/bench")["before_state_id"]
    cylinders = itertools.cycle(range(1, RUNNERS + 1))
    figure = {"person_id": person, "job_id": job, "setup_id": setup, "part_state_id": state, "typed": "219.4",
              "accepted": ["already_read"]}  # fmt: skip

    def capture() -> None:
        at = datetime.now(UTC).isoformat()
        put(f"/api/flow-readings/{uuid4()}", {**figure, "cylinder": next(cylinders), "taken_at": at})

    def bare() -> None:
        rows = {"person": UUID(person), "job": UUID(job), "setup": UUID(setup), "state": UUID(state)}
        given: dict[str, Any] = {**rows, "id": uuid4(), "digest": "0" * 64, "cylinder": next(cylinders)}
        with engine.begin() as insert:
            insert.execute(BARE, given)
            insert.execute(BARE_FLOW, given)

    def nothing() -> None:
        connection.request("GET", "/perf/same")
        connection.getresponse().read()

    works = (capture, bare, nothing)
    times = [[timed(work) for work in works] for _ in range(CAPTURES)]
    ours, reference, empty = (statistics.median(column) for column in zip(*times[WARM:], strict=True))
    cost = ours - empty
    return Measured(
        "capture, on disk before it is acknowledged",
        f"{cost * 1e3:.1f} ms",
        f"bare insert and commit {reference * 1e3:.1f}, empty request {empty * 1e3:.1f} ms",
        f"{CAPTURE_LIMIT:.0f} ×, is {cost / reference:.1f} ×",
        cost <= CAPTURE_LIMIT * reference,
    )


def sample_to_pixels(port: int, job: str) -> Measured:
    """From a sample on the line to its pixels, at twenty a second in headless Chromium."""
    with _bench(RATE) as (line, sent), _page(port, job, line) as page:
        page.wait_for_selector("[data-sample]")
        page.wait_for_timeout(WARM_UP_MS)
        shown = page.evaluate(WATCH, 100)
    delays = [seen / 1000 - sent[number] for number, seen in shown if number in sent]
    middle, late = statistics.median(delays), float(np.percentile(delays, 95))
    return Measured(
        f"sample to pixels at {RATE:.0f} a second",
        f"{middle * 1e3:.0f} ms",
        f"{len(delays)} samples, 95 % within {late * 1e3:.0f} ms",
        f"{PIXELS_LIMIT_S * 1e3:.0f} ms",
        late <= PIXELS_LIMIT_S,
    )


def soak(port: int, job: str, minutes: float) -> Measured:
    """Memory of server and page while a bench sends ten times as fast."""
    seconds = 60 * minutes
    with _bench(SOAK_RATE) as (line, sent), _page(port, job, line) as page:
        page.wait_for_selector("[data-sample]")
        tools = page.context.new_cdp_session(page)
        before = after = (0.0, 0.0)
        began = time.monotonic()
        settle = min(SETTLE_S, seconds / 4)
        while time.monotonic() - began < seconds:
            page.wait_for_timeout(1000)
            if before == (0.0, 0.0) and time.monotonic() - began > settle:
                before = _memory(tools)
            sent.clear()
        after = _memory(tools)
    server, pages = after[0] - before[0], after[1] - before[1]
    return Measured(
        f"soak at {SOAK_RATE:.0f} samples a second, {minutes:g} min",
        f"{server:+.1f} MB",
        f"server {after[0]:.0f} MB; page {pages:+.1f} MB of {after[1]:.1f} MB",
        f"{SERVER_ROOM_MB:.0f} and {PAGE_ROOM_MB:.0f} MB",
        server <= SERVER_ROOM_MB and pages <= PAGE_ROOM_MB,
    )


# Each new sample's number, and when the frame that shows it was drawn, in milliseconds of the epoch.
WATCH = """(count) => new Promise((resolve) => {
  const strip = document.querySelector('[data-sample]')
  const seen = []
  new MutationObserver((_, observer) => {
    const number = Number(strip.dataset.sample)
    requestAnimationFrame(() => requestAnimationFrame(() => {
      seen.push([number, performance.timeOrigin + performance.now()])
      if (seen.length === count) { observer.disconnect(); resolve(seen) }
    }))
  }).observe(strip, { attributes: true, attributeFilter: ['data-sample'] })
})"""


@contextmanager
def _bench(rate: float) -> Iterator[tuple[int, dict[int, float]]]:
    """A simulated bench on a free port, and when it sent each of its samples, by their number on the line."""
    began = time.monotonic() - 600
    model = FlowBenchModel(DEMO_PART, lambda: time.monotonic() - began, np.random.default_rng(1))
    model.run(True)
    bench = FlowBench(model)
    bench.rate = rate
    sent: dict[int, float] = {}
    count = iter(range(1, 1_000_000_000))
    line = bench.line

    def noted() -> str:
        sent[next(count)] = time.time()
        return line()

    bench.line = noted  # type: ignore[method-assign]
    with serving(bench) as port:
        yield port, sent


@contextmanager
def bench_line(port: int) -> Iterator[str]:
    """The shop's bench on the line of a simulated one; its id."""
    with _bench(RATE) as (line, _):
        _set_line(port, {"port": line})
        yield _get(port, "/api/shop")["benches"][0]["id"]
    _set_line(port, None)


@contextmanager
def _page(port: int, job: str, line: int) -> Iterator[Any]:
    """The bench's screen, with the shop's bench on this line."""
    from playwright.sync_api import sync_playwright

    _set_line(port, {"port": line})
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium")
        page = new_page(browser, port)
        page.goto(f"http://127.0.0.1:{port}/jobs/{job}/bench")
        yield page
        browser.close()
    _set_line(port, None)


def _set_line(port: int, line: dict[str, int] | None) -> None:
    bench = _get(port, "/api/shop")["benches"][0]
    kept = ("version", "name", "repeatability_percent", "session_shift_percent", "meter", "ranges")
    body = json.dumps({**{name: bench[name] for name in kept}, "line": line})
    connection = Asking(port, KEY)
    connection.request("PATCH", f"/api/benches/{bench['id']}", body, {"content-type": "application/json"})
    assert connection.getresponse().status == 200
    connection.close()


def _memory(tools: Any) -> tuple[float, float]:
    """Of this process, which serves, and of the page's own heap after a collection, in MB."""
    gc.collect()
    tools.send("HeapProfiler.collectGarbage")
    used = tools.send("Runtime.getHeapUsage")["usedSize"]
    pages = int(Path("/proc/self/statm").read_text().split()[1])
    return pages * os.sysconf("SC_PAGE_SIZE") / 1e6, used / 1e6


def _get(port: int, path: str) -> Any:
    connection = Asking(port, KEY)
    connection.request("GET", path)
    found = json.loads(connection.getresponse().read())
    connection.close()
    return found
