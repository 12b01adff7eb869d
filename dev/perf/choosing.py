"""Speed of choosing: the first sheet of a thousand candidates, a what-if on a two-bank eight."""

import json
import statistics
from typing import Any
from uuid import uuid4

import numpy as np
from sqlalchemy import Engine, text

from dev.asking import Asking, get, put
from dev.perf.door import KEY, QUIET, address, new_page
from dev.perf.figure import Measured, median, timed
from dev.perf.path import CANDIDATES, KEY_TO_PICTURE, MORE, WEIGHTS, twelve
from elvarn.core.path.choice import CRITERIA, score, unbeaten
from elvarn.core.path.substitutes import Substitutes, gains_of

FIRST_SHEET_LIMIT = 5.0
WHAT_IF_EIGHT_LIMIT_S = 0.060
SPEEDS = 9
PATH = {"filter": "100 mm", "tube": "80 mm", "meter": "85 mm", "throttle": "74 mm"}
_ROWS = text("""
    select p.*, s.*, r.*, f.*, d.* from part p join part_state s on s.part_id = p.id
    left join flow_reading f on f.part_state_id = s.id left join dimension_reading d on d.part_state_id = s.id
    left join reading r on r.id in (f.id, d.id) where p.kind = 'tube' and p.job_id is null
""")


def first_sheet(engine: Engine, port: int, job: str) -> Measured:
    """The candidates' sheet after something was written, against the core's arithmetic and a bare load of its rows."""
    connection = Asking(port, KEY)
    url = address(port)
    part = get(url, "/shelf?kind=tube")["parts"][0]
    person = get(url, "/shop")["people"][0]["id"]

    def written() -> None:
        put(url, f"/wants/{uuid4()}", {"person_id": person, "part_id": part["id"], "count": 1})

    def ours() -> None:
        connection.request("GET", f"/api/jobs/{job}/candidates?kind=tube")
        connection.getresponse().read()

    taken = []
    for _ in range(5):
        written()
        taken.append(timed(ours))
    with engine.connect() as bare:
        rows = median(lambda: bare.execute(_ROWS).all(), 5)
    core = _core()
    mine, limit = statistics.median(taken), FIRST_SHEET_LIMIT * (core + rows)
    return Measured(
        f"first sheet of {CANDIDATES} candidates",
        f"{mine * 1e3:.0f} ms",
        f"core scores and gains {core * 1e3:.0f}, their rows alone {rows * 1e3:.0f} ms",
        f"{FIRST_SHEET_LIMIT:.0f} ×, is {mine / (core + rows):.1f} ×",
        mine <= limit,
    )


def _core() -> float:
    """Gains at as many speeds as the sheet draws, and scores."""
    generator = np.random.default_rng(2)
    values = np.column_stack([generator.uniform(0, 1, CANDIDATES) for _ in CRITERIA])
    way, passages, draw = twelve()
    areas = generator.uniform(0.0015, 0.003, CANDIDATES)
    bores = np.full(CANDIDATES, 0.07)
    given = Substitutes((2,), areas, 0.9 * areas, 1.1 * areas, np.ones(CANDIDATES, bool), bores, bores)
    gains = median(lambda: gains_of(way, passages, given, [draw] * SPEEDS), 5)
    return gains + median(lambda: (score(values, MORE, WEIGHTS), unbeaten(values, MORE, WEIGHTS > 0)), 10)


def what_if_on_an_eight(port: int) -> Measured:
    """From a key that widens a bore in thought to the drawn picture, on a path with two banks, headless Chromium."""
    job = _eight(port)
    times = _in_browser(port, f"/jobs/{job}/path", "table[aria-label='Loss ledger'] tbody tr", KEY_TO_PICTURE)
    middle = statistics.median(times) / 1e3
    return Measured(
        "what-if from key to picture, two-bank eight",
        f"{middle * 1e3:.0f} ms",
        f"headless Chromium, median of {len(times)}, slowest {max(times):.0f} ms",
        f"{WHAT_IF_EIGHT_LIMIT_S * 1e3:.0f} ms",
        middle < WHAT_IF_EIGHT_LIMIT_S,
    )


def _in_browser(port: int, path: str, until: str, script: str) -> list[float]:
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=QUIET)
        page = new_page(browser, port)
        page.goto(f"http://127.0.0.1:{port}{path}")
        page.wait_for_selector(until)
        for _ in range(2):
            page.keyboard.press("ArrowRight")
        page.wait_for_selector("section[aria-label='Tube']")
        times = [page.evaluate(script) for _ in range(21)]
        browser.close()
    return times


def _eight(port: int) -> str:
    """A job of a two-bank eight whose path was measured."""
    url, job, asking = address(port), str(uuid4()), Asking(port, KEY)
    person = {"person_id": get(url, "/shop")["people"][0]["id"]}
    engine = {"name": "eight", "layout": "vee", "bank_count": 2, "bore_mm": 101, "stroke_mm": 92, "limit_rpm": 6500}
    body = {"kind": "whole_job", "part": "Manifold", "runner_count": 8, "engine": engine, "title": "Two-bank eight"}
    shape = {"shape": "a throttle and plenum for each bank", "band_low_rpm": 2500, "band_high_rpm": 6000}
    put(url, f"/jobs/{job}", {**person, **body, **shape})
    build = get(url, f"/jobs/{job}")["builds"][0]
    for element in _elements(build["path"]):
        if element["kind"] in PATH:
            _mounted(asking, job, build["id"], element, person)
    manifold = next(one for one in get(url, f"/jobs/{job}")["parts"] if one["kind"] == "manifold")
    for cylinder in range(1, 9):
        _measure(asking, job, manifold["states"][0]["id"], "runner", "44 mm", person, cylinder)
    return job


def _mounted(asking: Asking, job: str, build: str, element: dict[str, Any], person: dict[str, str]) -> None:
    """A part with its bore at an element."""
    state, url = str(uuid4()), f"/api/builds/{build}"
    part = {**person, "job_id": job, "kind": element["kind"], "name": element["label"], "state_id": state}
    _send(asking, "PUT", f"/api/parts/{uuid4()}", part)
    version = next(b["version"] for b in _asked(asking, f"/api/jobs/{job}")["builds"] if b["id"] == build)
    _send(asking, "PATCH", url, {"version": version, "node_id": element["node_id"], "part_state_id": state})
    _measure(asking, job, state, element["kind"], PATH[element["kind"]], person)


def _measure(
    asking: Asking, job: str, state: str, kind: str, bore: str, person: dict[str, str], cylinder: int | None = None
) -> None:
    body = {"job_id": job, "part_state_id": state, "element_kind": kind, "cylinder": cylinder, "quantity": "bore",
            "typed": bore, "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
    _send(asking, "PUT", f"/api/dimensions/{uuid4()}", {**person, **body})


def _send(asking: Asking, method: str, path: str, body: dict[str, Any]) -> None:
    status, content = asking.answer(method, path, json.dumps(body), {"content-type": "application/json"})
    assert status == 200, content


def _asked(asking: Asking, path: str) -> Any:
    return json.loads(asking.answer("GET", path)[1])


def _elements(node: dict[str, Any]) -> list[dict[str, Any]]:
    return [node["element"]] if node.get("element") else [e for n in node["nodes"] for e in _elements(n)]
