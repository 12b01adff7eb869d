"""How long a shelf of many parts takes to appear, beside a shelf of few: two shops, looked at by turns."""

import statistics
import tempfile
from contextlib import ExitStack
from pathlib import Path
from typing import Any

from dev.asking import get
from dev.perf.door import QUIET, address, new_page
from dev.perf.figure import Measured
from dev.perf.path import CANDIDATES, lay_tubes
from dev.perf.served import served

FEW, MANY, GROWS = 50, 5000, 1.3
TURNS = 15


def first_paint(root: Path) -> Measured:
    """From the address to the shelf's rows, headless Chromium, a new browser context each time."""
    from playwright.sync_api import sync_playwright

    with ExitStack() as shops, sync_playwright() as playwright:
        ports = [_shelf_of(shops, root, count) for count in (FEW, MANY)]
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=QUIET)
        times = [[_rows_there(browser, port) for port in ports] for _ in range(TURNS)]
        browser.close()
    few, many = (statistics.median(column) for column in zip(*times[1:], strict=True))
    return Measured(
        f"first paint of a shelf of {MANY} parts",
        f"{many:.0f} ms",
        f"of {FEW} parts {few:.0f} ms, by turns",
        f"{GROWS} ×, is {many / few:.2f} ×",
        many <= GROWS * few,
    )


def _shelf_of(shops: ExitStack, root: Path, count: int) -> int:
    """The port of a shop with so many parts on its shelf."""
    folder = shops.enter_context(tempfile.TemporaryDirectory(prefix="elvarn-perf-"))
    port, _, _ = shops.enter_context(served(root, Path(folder)))
    rest = max(1, count - get(address(port), "/shelf")["found"])
    for batch in range(0, rest, CANDIDATES):
        lay_tubes(port, f"Tube {batch}", min(CANDIDATES, rest - batch))
    return port


def _rows_there(browser: Any, port: int) -> float:
    """Time from the address to the first row [ms]."""
    page = new_page(browser, port)
    page.goto(f"http://127.0.0.1:{port}/shelf")
    page.wait_for_selector(".part-row")
    taken = float(page.evaluate("performance.now()"))
    page.context.close()
    return taken
