"""The bench that sends its figures: a series by Enter alone, a foot-switch that bounces, a line that breaks."""

import re
import time

import numpy as np
import pytest
from playwright.sync_api import expect

from elvarn.rigs.bench_model import FlowBenchModel
from elvarn.rigs.flow_bench import DEMO_PART, FlowBench
from tests.browser.flows import becomes_true, new_posted_part, ready, rung
from tests.loop import serving

RUNNERS = (1, 2, 3, 4, 5)
KEPT = ("version", "name", "repeatability_percent", "session_shift_percent", "meter", "ranges", "shop")
CUT = 1.06  # what the cut gives the simulated part


@pytest.fixture
def rig():
    """A bench that has been running for a quarter of an hour, on this machine's clock."""
    began = time.monotonic() - 900
    model = FlowBenchModel(DEMO_PART, lambda: 0.0, np.random.default_rng(5))
    model.run(True)
    model.clock = lambda: time.monotonic() - began
    return FlowBench(model)


@pytest.fixture
def line(rig, page):
    """The demo's bench given the line to the rig, and taken off it afterwards."""
    with serving(rig) as port:
        set_line(page, {"port": port})
        yield rig
        set_line(page, None)


def set_line(page, line):
    origin = re.match(r"https?://[^/]+", page.url)[0]
    bench = page.request.get(f"{origin}/api/shop").json()["benches"][0]
    body = {key: bench[key] for key in KEPT}
    answer = page.request.patch(f"{origin}/api/benches/{bench['id']}", data={**body, "line": line},
                                headers={"origin": origin})  # fmt: skip
    assert answer.ok, answer.text()
    page.reload()


def put_on(page, rig, runner):
    """Somebody puts the next runner on; the samples after that are its own."""
    rig.model.mount(runner)
    number = int(page.locator("[data-sample]").get_attribute("data-sample"))
    becomes_true(page, f"Number(document.querySelector('[data-sample]')?.dataset.sample) > {number + 24}")
    expect(page.get_by_text("● settled")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile(r"^Take [\d.]+"))).to_be_enabled()


def series(page, rig):
    for runner in RUNNERS:
        expect(page.get_by_role("heading", name=f"Runner {runner}", exact=True)).to_be_visible()
        put_on(page, rig, runner)
        page.keyboard.press("Enter")
        expect(rung(page, runner).locator(".figure").last).to_contain_text(re.compile(r"\d{3}\.\d"))


def test_before_and_after_by_enter_alone(line, page):
    ready(page)
    new_posted_part(page, "Live manifold")
    expect(page.get_by_role("img", name="Samples")).to_be_visible()
    series(page, line)
    expect(page.get_by_label("Bench notes")).to_contain_text("Before is complete")
    page.keyboard.press("a")
    page.keyboard.press("Alt+2")
    line.model.part = type(DEMO_PART)(tuple(area * CUT for area in DEMO_PART.areas))
    series(page, line)
    margin = page.get_by_label("Bench notes")
    expect(margin).to_contain_text(
        re.compile(r"Clear gain: \+1[0-3]\.\d CFM average over runners 1 to 5 \(\+[56]\.\d %\)")
    )
    page.keyboard.press("o")
    expect(page.get_by_text("scatter of the samples")).to_be_visible()


BOUNCING = """() => {
  const press = () => new KeyboardEvent('keydown', { key: 'PageDown', bubbles: true, cancelable: true })
  for (let n = 0; n < 3; n += 1) document.activeElement.dispatchEvent(press())
}"""  # a pedal's three within a moment, however slow the machine is


def test_a_pedal_that_bounces_takes_once_and_a_mis_trigger_goes_by_one_key(line, page):
    ready(page)
    new_posted_part(page, "Pedal manifold")
    put_on(page, line, 1)
    page.evaluate(BOUNCING)
    expect(rung(page, 1)).to_contain_text(re.compile(r"\d{3}\.\d"))
    expect(page.get_by_role("heading", name="Runner 2", exact=True)).to_be_visible()
    expect(rung(page, 2)).to_contain_text("no reading")
    page.keyboard.press("z")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    expect(page.get_by_text("struck out: mis-trigger")).to_be_visible()


def test_leak_is_checked_by_key_and_taken_off(line, page):
    ready(page)
    new_posted_part(page, "Checked manifold")
    line.model.blanked = True
    page.keyboard.press("c")
    page.keyboard.press("Alt+2")
    expect(page.get_by_role("heading", name="Check: leak test")).to_be_visible()
    put_on_nothing(page)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    expect(page.get_by_text(re.compile(r"0\.3\d CFM at 2\d\.\d inH2O"))).to_be_visible()


def put_on_nothing(page):
    number = int(page.locator("[data-sample]").get_attribute("data-sample"))
    becomes_true(page, f"Number(document.querySelector('[data-sample]')?.dataset.sample) > {number + 24}")
    expect(page.get_by_text("● settled")).to_be_visible()


def test_a_line_that_breaks_in_mid_series_is_told_and_what_was_taken_stays(rig, page):
    ready(page)
    with serving(rig) as port:
        set_line(page, {"port": port})
        ready(page)
        new_posted_part(page, "Broken line manifold")
        put_on(page, rig, 1)
        page.keyboard.press("Enter")
        expect(rung(page, 1).locator(".figure")).to_contain_text(re.compile(r"\d{3}\.\d"))
    status = page.locator(".live").get_by_role("status")
    expect(status).to_contain_text("No bench at")
    expect(rung(page, 1).locator(".figure")).to_contain_text(re.compile(r"\d{3}\.\d"))
    page.keyboard.type("199.1")
    page.keyboard.press("Enter")
    expect(rung(page, 2).locator(".figure")).to_contain_text("199.1")
    with serving(rig, port):
        expect(page.get_by_role("img", name="Samples")).to_be_visible()
        put_on(page, rig, 3)
        page.keyboard.press("Enter")
        expect(rung(page, 3).locator(".figure")).to_contain_text(re.compile(r"\d{3}\.\d"))
    set_line(page, None)
