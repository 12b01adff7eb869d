"""Speed of the air path: its solution, a thousand candidates, and a what-if from key to picture."""

import statistics
import time
from math import inf
from uuid import uuid4

import numpy as np

from dev.asking import Asking, get, post
from dev.perf.door import KEY, QUIET, address, new_page
from dev.perf.figure import Measured, median, timed
from elvarn.core.constants import CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION
from elvarn.core.engine.strokes import even_strokes
from elvarn.core.finding import Grade
from elvarn.core.gas.air import STANDARD_AIR
from elvarn.core.path.choice import CRITERIA, USUAL_WEIGHTS, score, unbeaten
from elvarn.core.path.engine_losses import Draw, engine_losses
from elvarn.core.path.passage import Passage, measured
from elvarn.core.path.routes import Routes, routes
from elvarn.core.path.substitutes import Substitutes, gains_of
from elvarn.core.path.tree import Branches, Element, ElementKind, Series

SOLUTION_LIMIT_S = 0.005
CANDIDATES = 1000
CANDIDATES_LIMIT = 3.0
WHAT_IF_LIMIT_S = 0.100
WEIGHTS = np.array([USUAL_WEIGHTS[name] for name in CRITERIA])
MORE = tuple(CRITERIA.values())


def twelve() -> tuple[Routes, list[Passage | None], Draw]:
    """Twelve elements: six in front of the plenum, the plenum, five runners."""
    kinds = ("inlet", "filter", "tube", "meter", "throttle", "adapter")
    upstream = tuple(Element(ElementKind(kind), kind) for kind in kinds)
    runners = tuple(Element(ElementKind.RUNNER, f"Runner {n}", n) for n in range(1, 6))
    tree = Series((*upstream, Element(ElementKind.PLENUM, "Plenum"), Branches(runners)))
    flows = (800, 612, 498, 655, 574, 900)
    found: list[Passage | None] = [measured(q * CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION, 0.070) for q in flows]
    found.append(Passage(inf, inf, inf, Grade.ESTIMATED, 0.088, 0.088))
    found += [measured((205 + n) * CUBIC_FOOT_PER_MINUTE, REFERENCE_DEPRESSION, 0.044, 0.040) for n in range(5)]
    return routes(tree), found, Draw(0.16, STANDARD_AIR, even_strokes(5, (1, 2, 4, 5, 3)))


def solution_in_the_core() -> Measured:
    """The path with all its sensitivities, twelve elements."""
    way, passages, draw = twelve()
    taken = median(lambda: engine_losses(way, passages, draw), 200)
    return Measured(
        "core solution of 12 elements with sensitivities",
        f"{taken * 1e3:.2f} ms",
        "8 widenings and both bounds in it",
        f"{SOLUTION_LIMIT_S * 1e3:.0f} ms",
        taken < SOLUTION_LIMIT_S,
    )


def candidates_in_the_core() -> tuple[Measured, float]:
    """A thousand candidates: gains between bounds, scores, marks; beside it the same arithmetic as bare NumPy."""
    generator = np.random.default_rng(2)
    values = np.column_stack([generator.uniform(0, 1, CANDIDATES) for _ in CRITERIA])
    ours = median(lambda: (score(values, MORE, WEIGHTS), unbeaten(values, MORE, WEIGHTS > 0)), 50)
    alone = median(lambda: _numpy_alone(values), 50)
    way, passages, draw = twelve()
    areas = generator.uniform(0.0015, 0.003, CANDIDATES)
    given = Substitutes(
        (2,), areas, 0.9 * areas, 1.1 * areas, np.ones(CANDIDATES, bool), *[np.full(CANDIDATES, 0.07)] * 2
    )
    gains = median(lambda: gains_of(way, passages, given, [draw]), 50)
    figure = Measured(
        f"core scores of {CANDIDATES} candidates",
        f"{ours * 1e3:.1f} ms",
        f"every pair compared in NumPy {alone * 1e3:.1f} ms; gains of all {gains * 1e3:.1f} ms",
        f"{CANDIDATES_LIMIT:.0f} ×, is {ours / alone:.2f} ×",
        ours <= CANDIDATES_LIMIT * alone,
    )
    return figure, ours


def _numpy_alone(values: np.ndarray) -> None:
    better = np.where(MORE, values, -values)
    low, high = better.min(axis=0), better.max(axis=0)
    ((better - low) / (high - low) * (WEIGHTS / WEIGHTS.sum())).sum(axis=1)
    as_good = np.ones((len(better), len(better)), dtype=bool)
    beats = np.zeros_like(as_good)
    for column in better.T:
        as_good &= column[:, None] >= column[None, :]
        beats |= column[:, None] > column[None, :]
    ~(as_good & beats).any(axis=0)


def candidates_request(port: int, same: dict[str, bytes], job: str, core_seconds: float) -> Measured:
    """The same over HTTP under weights that are moved: every request asks for others, so that none is an old answer."""
    lay_tubes(port, "Perf")
    connection = Asking(port, KEY)
    weights = iter(np.linspace(1, 9, 300))

    def fetch(path: str) -> bytes:
        connection.request("GET", path)
        return connection.getresponse().read()

    def ours() -> bytes:
        return fetch(f"/api/jobs/{job}/candidates/order?kind=tube&gain={next(weights):.4f}&price=3&work=2&mass=1")

    began = time.perf_counter()
    same["bytes"] = ours()
    first = time.perf_counter() - began
    taken, reference = [], []
    for _ in range(60):
        taken.append(timed(ours))
        reference.append(timed(lambda: fetch("/perf/same")))
    mine, plain = statistics.median(taken), statistics.median(reference)
    limit = core_seconds + 2 * plain
    return Measured(
        f"request for {CANDIDATES} of them under other weights",
        f"{mine * 1e3:.1f} ms",
        f"core {core_seconds * 1e3:.1f}, same bytes {plain * 1e3:.1f}, first of all {first * 1e3:.0f} ms",
        f"{limit * 1e3:.1f} ms",
        mine <= limit,
    )


def lay_tubes(port: int, name: str, count: int = CANDIDATES) -> None:
    """So many tubes on the shelf, each of its own size, flow and price."""
    url = address(port)
    shop = get(url, "/shop")
    generator = np.random.default_rng(3)
    rows = ["kind,name,price,lead_days,mass_kg,measured_bore_mm,measured_flow_cfm,at_inh2o"]
    for n in range(count):
        bore, flow = generator.uniform(60, 90), generator.uniform(350, 750)
        rows.append(f"tube,{name} {n},{generator.uniform(20, 900):.0f},{n % 30},{1 + n % 7},{bore:.1f},{flow:.1f},28")
    query = f"name=perf.csv&person_id={shop['people'][0]['id']}&bench_id={shop['benches'][0]['id']}"
    post(url, f"/shelf/import?{query}&r={uuid4()}", "\n".join(rows).encode())


def what_if(port: int, job: str) -> Measured:
    """From a key that widens a bore in thought to the drawn picture with the new ledger, headless Chromium."""
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=QUIET)
        page = new_page(browser, port)
        page.goto(f"http://127.0.0.1:{port}/jobs/{job}/path")
        page.wait_for_selector("table[aria-label='Loss ledger'] tbody tr")
        page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowRight")
        page.wait_for_selector("section[aria-label='Tube']")
        times = [page.evaluate(KEY_TO_PICTURE) for _ in range(21)]
        browser.close()
    middle = statistics.median(times) / 1e3
    return Measured(
        "what-if from key to picture",
        f"{middle * 1e3:.0f} ms",
        f"headless Chromium, median of 21, slowest {max(times):.0f} ms",
        f"{WHAT_IF_LIMIT_S * 1e3:.0f} ms",
        middle < WHAT_IF_LIMIT_S,
    )


# A key is pressed; the ledger's row of the tube changes; two frames later it is on the screen.
KEY_TO_PICTURE = """() => new Promise((done) => {
  const ledger = document.querySelector("table[aria-label='Loss ledger']")
  const began = performance.now()
  const seen = new MutationObserver(() => {
    seen.disconnect()
    requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - began)))
  })
  seen.observe(ledger, { subtree: true, characterData: true, childList: true })
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }))
})"""
