"""An evening at the dyno: twelve files dropped at once, by keyboard alone to which design for which use."""

import re
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
import pytest
from playwright.sync_api import expect

from dev.trial import running
from tests.browser.flows import go, ready
from tests.browser.test_whole_job import RPM, drop_by_key, dyno_file, new_whole_job

STOCK = 231 - ((RPM - 4500) / 300) ** 2
ROOT = Path(__file__).resolve().parents[2]
CUT, COPY = "stage 1, clean-up", "stage 1, clean-up, copy"
CURVES = {"stock": STOCK, CUT: STOCK + (RPM - 4800) / 180, COPY: STOCK + 9}
NAMES = [f"{name} {k}" for name in CURVES for k in ("a", "b", "c")]
UNNAMED = ["0010", "0011", "0012"]


@pytest.fixture(scope="module")
def url():
    """A server of its own: what these pulls repeat within would teach the dyno of every other test."""
    with TemporaryDirectory(prefix="elvarn-evening-") as name:
        folder = Path(name)
        folder.chmod(0o755)
        with running(ROOT, folder) as address:
            yield address


def evening(draws):
    """Three pulls of each of three designs under names that tell, and three that only number them: one of each."""
    for name, design in zip(NAMES + UNNAMED, [n.rsplit(" ", 1)[0] for n in NAMES] + list(CURVES), strict=True):
        yield dyno_file(f"{name}.csv", CURVES[design] + draws.normal(0, 0.4) + draws.normal(0, 0.15, len(RPM)))


def two_more_designs(page):
    """One by cutting, one by copying what was cut."""
    go(page, "b", "bench")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    page.keyboard.press("a")
    page.keyboard.press("Alt+1")
    expect(page.get_by_text("after, stage 1, clean-up")).to_be_visible()
    go(page, "p", "path")
    expect(page.get_by_role("group", name="Air path, stage 1, clean-up")).to_be_visible()
    page.keyboard.press("c")
    expect(page.get_by_role("group", name="Air path, stage 1, clean-up, copy")).to_be_visible()


@pytest.mark.parametrize("night", [False, True])
def test_twelve_files_by_keyboard_to_the_verdict(page, night):
    ready(page)
    if night:
        page.keyboard.press("m")
    new_whole_job(page, f"Evening {'at night' if night else 'by day'}")
    two_more_designs(page)
    go(page, "d", "dyno")
    drop_by_key(page, *evening(np.random.default_rng(12)))
    first = page.get_by_role("heading", name=f"{NAMES[0]}.csv")
    expect(first).to_be_visible(timeout=40_000)  # a new server's reading process is started by the first file
    for waiting, name in enumerate(NAMES):
        expect(page.get_by_role("heading", name=f"{name}.csv")).to_be_visible()
        expect(page.get_by_text(f"{11 - waiting} more waiting")).to_be_visible()
        design = name.rsplit(" ", 1)[0]
        expect(page.get_by_role("button", name=f"Save as pull of {design} Enter", exact=True)).to_be_focused()
        page.keyboard.press("Enter")
    for key, (name, design) in enumerate(zip(UNNAMED, CURVES, strict=True), 1):
        expect(page.get_by_role("heading", name=f"{name}.csv")).to_be_visible()
        page.keyboard.press(f"Alt+{key}")
        expect(page.get_by_role("button", name=f"Save as pull of {design} Enter", exact=True)).to_be_visible()
        page.keyboard.press("Enter")
    for design in CURVES:
        expect(page.get_by_role("row", name=re.compile(f"^{design} 4 pulls"))).to_be_visible()
    expect(page.locator(".answer")).to_contain_text(f"{COPY}: clear for circuit")
    verdict = page.get_by_label("Verdict for circuit")
    expect(verdict).to_contain_text(re.compile(r"Stage 1, clean-up, copy makes \+7\.\d hp more than stock"))
    expect(verdict).to_contain_text("As observed: the weather is part of the difference.")
    page.keyboard.press("1")
    expect(page.get_by_role("row", name=re.compile(f"^{CUT} 4 pulls −"))).to_be_visible()
    expect(page.get_by_label("Verdict for road")).to_contain_text("Stage 1, clean-up, copy makes")
