"""A live pull by keyboard alone, its stop, a page that is closed meanwhile; a band chosen on the plate by pointer."""

import re
import time

import numpy as np
import pytest
from playwright.sync_api import expect

from elvarn.rigs.dyno import DEMO_DESIGNS, Dyno
from elvarn.rigs.dyno_model import DynoModel
from tests.browser.flows import becomes_true, demo_path, go
from tests.loop import serving

LONG = 40_000  # ms: a pull of five seconds, and the process that reads files may have to be begun first
KEPT = ("name", "kind", "load", "repeatability_percent", "day_shift_percent")


@pytest.fixture
def rig():
    """The demo's engine on a quick dyno, without scatter."""
    model = DynoModel(DEMO_DESIGNS, time.monotonic, np.random.default_rng(2), scatter=False)
    model.rate_rpm_s = 1600.0
    return Dyno(model)


@pytest.fixture
def cell(rig, page):
    """The demo's engine cell at the rig, its dyno screen open."""
    with serving(rig) as port:
        demo_path(page)
        origin, job = re.match(r"(https?://[^/]+)/jobs/([^/]+)", page.url).groups()
        dyno = next(d for d in page.request.get(f"{origin}/api/shop").json()["dynos"] if d["name"] == "Engine cell")
        body = {"version": dyno["version"], "dyno": {**{key: dyno[key] for key in KEPT}, "line": {"port": port}}}
        answer = page.request.patch(f"{origin}/api/dynos/{dyno['id']}", data=body, headers={"origin": origin})
        assert answer.ok, answer.text()
        page.goto(page.url.replace("/path", "/dyno"))
        expect(page.locator(".answer")).to_be_visible()
        yield rig
        leave_out(page, origin, job)


def leave_out(page, origin, job):
    """What waits to be kept is left out, or the next test would find it."""
    for one in page.request.get(f"{origin}/api/jobs/{job}/dyno/beside").json()["start"]["recordings"]:
        people = page.request.get(f"{origin}/api/shop").json()["people"]
        body, headers = {"person_id": people[0]["id"]}, {"origin": origin}
        page.request.post(f"{origin}/api/recordings/{one['id']}/drop", data=body, headers=headers)


def start(page):
    """Start a pull; after a change each item is ticked."""
    page.keyboard.press("l")
    expect(page.get_by_role("heading", name=re.compile("^Live pull of"))).to_be_visible()
    for _ in range(page.locator(".looks input").count()):
        page.keyboard.press("Space")
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")


def test_a_pull_from_the_first_look_to_the_list_by_keyboard_alone(cell, page):
    page.keyboard.press("l")
    expect(page.get_by_text("Parts were changed: look before the start")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Check before the start: blade sweeps fully and snaps shut")
    page.keyboard.press("Escape")
    start(page)
    expect(page.get_by_role("button", name=re.compile("^Stop"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"SAE J1349, factor \d\.\d{3}"))).to_be_visible()
    expect(page.locator(".gauges")).to_contain_text("knock retard")
    expect(page.get_by_role("button", name=re.compile("^Save as pull of stage 2, tube 76"))).to_be_visible(timeout=LONG)
    expect(page.get_by_text(re.compile("^Kept with it: .*mixture, lambda"))).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_text("stage 2, tube 76").last).to_be_visible()
    expect(page.locator(".designs")).to_contain_text("stage 2, tube 76")


def test_space_takes_the_load_off_and_what_came_waits(cell, page):
    cell.model.rate_rpm_s = 200.0
    start(page)
    expect(page.get_by_role("button", name=re.compile("^Stop"))).to_be_visible()
    expect(page.locator(".figures")).to_contain_text(re.compile(r"2[6-9]\d\d"))
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name=re.compile("^Leave it out"))).to_be_visible(timeout=LONG)
    assert not cell.model.pulling
    page.keyboard.press("Escape")
    waiting = page.get_by_label("Recorded, not kept yet")
    expect(waiting).to_contain_text("Stopped by hand.")
    waiting.get_by_role("button", name="leave it out").click()
    expect(waiting).to_have_count(0)


def test_a_limit_is_said_in_large_and_a_closed_page_loses_nothing(cell, page):
    cell.model.faults.add("KNOCK")
    start(page)
    expect(page.get_by_role("button", name=re.compile("^Stop"))).to_be_visible()
    address = page.url
    page.goto("about:blank")
    page.wait_for_timeout(3500)
    page.goto(address)
    waiting = page.get_by_label("Recorded, not kept yet")
    expect(waiting).to_contain_text(
        re.compile(r"Stopped at \d{4} rpm: ignition taken back for knock \d\.\d°, limit 5\.0°"), timeout=LONG
    )
    page.keyboard.press("r")
    expect(page.get_by_role("button", name=re.compile("^Save as pull"))).to_be_visible(timeout=LONG)
    page.keyboard.press("Escape")
    waiting.get_by_role("button", name="leave it out").click()


def test_a_band_is_drawn_on_the_plate(page):
    demo_path(page)
    go(page, "d", "dyno")
    plate = page.locator(".plate")
    expect(plate).to_be_visible()
    box = plate.bounding_box()
    page.mouse.move(box["x"] + 200, box["y"] + 90)
    page.mouse.down()
    for step in range(1, 20):
        page.mouse.move(box["x"] + 200 + 15 * step, box["y"] + 90)
    page.mouse.up()
    expect(page.locator(".answer")).to_contain_text(re.compile(r"for chosen band"))
    becomes_true(page, "/average over \\d{4} to \\d{4} rpm/.test(document.querySelector('.answer').textContent)")
