"""Outlines in the browser: what stands in the stream, a port traced by taps and by keys, what is no picture."""

import re
from urllib.parse import urljoin

import pytest
from playwright.sync_api import expect

from elvarn.core.port.outline import shape_outline
from elvarn.core.port.section import Round, RoundedRectangle
from elvarn.rigs.flatbed import Cut, as_png, scan
from tests.browser.flows import go, open_job

DPI = 200
DOTS = DPI / 25.4
PAGE = (220.0, 130.0)  # mm
PORTS, HOLES = ((45, 60), (107, 60), (169, 60)), ((16, 30), (78, 30), (140, 30), (202, 30))


@pytest.fixture(scope="module")
def head(tmp_path_factory):
    """A scan of three ports of a head with their bolt holes."""
    port = shape_outline(RoundedRectangle(0.043, 0.037, 0.015)).points * 1000
    hole = shape_outline(Round(0.0085)).points * 1000
    cuts = [Cut(port, *at) for at in PORTS] + [Cut(hole, *at) for at in HOLES]
    path = tmp_path_factory.mktemp("scans") / "head.png"
    path.write_bytes(as_png(scan(cuts, *PAGE, DPI, "metal"), DPI))
    return path


def at_outlines(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "o", "port")
    expect(page.locator(".next")).to_be_visible()
    page.keyboard.press("l")
    expect(page.get_by_label("What the outlines say")).to_be_visible()
    return page


def opened(page, path):
    page.keyboard.press("a")
    page.get_by_label("Scan, photo or drawing").set_input_files(path)
    # The first picture loads what finds outlines, in a process of its own.
    expect(page.locator("svg.picture .found").first).to_be_visible(timeout=60_000)


def place(page, x, y):
    """Where a place of the scanned page [mm] is on the screen."""
    box = page.locator("svg.picture").bounding_box()
    size = min(box["width"] / PAGE[0], box["height"] / PAGE[1])
    return (
        box["x"] + (box["width"] - PAGE[0] * size) / 2 + x * size,
        box["y"] + (box["height"] - PAGE[1] * size) / 2 + y * size,
    )


def chosen(page):
    return page.locator("svg.picture path.chosen")


def test_the_lip_is_the_answer_with_its_hour_and_what_to_do(page):
    at_outlines(page)
    expect(page.locator(".told .lip")).to_have_text("0.5")
    expect(page.locator(".told .figure")).to_contain_text("lip in the stream")
    expect(page.locator(".told .figure")).to_contain_text("at 4 o'clock, 3:")
    margin = page.get_by_label("What the outlines say")
    expect(margin).to_contain_text("The gasket of runner 3 stands 0.5 mm in the stream at 4 o'clock")
    expect(margin).to_contain_text("Open the gasket at 4 o'clock")
    # round the clock by keys, and to the next runner
    told = page.locator(".told h3 .mono")
    expect(told).to_contain_text("−0.5 mm")
    for _ in range(8):
        page.keyboard.press("ArrowRight")
    expect(told).to_contain_text("+0.5 mm")
    page.keyboard.press("ArrowDown")
    expect(page.locator(".told h3").first).to_contain_text("runner 4")
    page.keyboard.press("ArrowDown")
    expect(page.locator(".told .figure")).to_contain_text("no lip")
    page.keyboard.press("o")
    expect(page.locator(".told h3").first).to_contain_text("alone")


def test_the_template_and_the_drawings_come_as_files(page):
    at_outlines(page)
    for name, kind in (("Print template 1:1", "application/pdf"), ("DXF", "vnd.dxf"), ("SVG", "image/svg+xml")):
        link = page.get_by_role("link", name=re.compile(name)).get_attribute("href")
        answer = page.request.get(urljoin(page.url, link))
        assert answer.ok
        assert kind in answer.headers["content-type"]


def test_ports_are_traced_by_taps_and_laid_behind_the_gasket(page, head):
    at_outlines(page)
    opened(page, head)
    expect(page.get_by_role("button", name="Keep outline")).to_be_disabled()
    page.mouse.click(*place(page, *PORTS[0]))
    expect(chosen(page)).to_be_visible()
    expect(page.get_by_text("none yet: no millimetre without one")).to_be_visible()
    page.keyboard.press("k")
    page.mouse.click(*place(page, 10, 121))
    page.mouse.click(*place(page, 110, 121))
    page.get_by_label("Apart: 100 mm, 4 in").fill("100 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile(r"1 known, \d+ dpi; the file says 200"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"about 1[34]\d\d mm²"))).to_be_visible()
    page.keyboard.press("h")
    for at in HOLES[:2]:
        page.mouse.click(*place(page, *at))
    expect(page.locator("svg.picture .mark")).to_have_count(2)
    page.get_by_role("combobox", name="It is of").click()
    page.get_by_role("option", name="head's port").click()
    page.get_by_role("button", name="Keep outline").click()
    expect(page.get_by_text("head's port 1 kept.")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("o")
    expect(page.locator(".told h3").first).to_contain_text("Head's port behind gasket, runner 1")
    # a mistaken one is struck out, with a reason
    page.keyboard.press("x")
    page.get_by_role("combobox", name="Reading").click()
    page.get_by_role("option", name=re.compile("^head's port 1")).click()
    page.get_by_label("Reason").fill("the wrong head")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Reason")).to_be_hidden()
    expect(page.get_by_text("Head's port behind gasket")).to_have_count(0)


def test_a_port_is_traced_with_keys_alone(page, head):
    at_outlines(page)
    opened(page, head)
    for _ in range(40):  # from the middle of the page to the left port
        page.keyboard.press("ArrowLeft")
        if page.locator("svg.picture .cross").count() and page.locator("svg.picture .chosen").count() == 0:
            page.keyboard.press("Enter")
        if chosen(page).count():
            break
    expect(chosen(page)).to_be_visible()
    page.keyboard.press("k")
    page.get_by_role("button", name="Take the file's 200 dpi").press("Enter")
    expect(page.get_by_role("button", name="Keep outline")).to_be_enabled()
    page.keyboard.press("e")
    expect(page.locator("svg.picture .handle").first).to_be_visible()
    before = chosen(page).get_attribute("d")
    page.keyboard.press("n")
    page.keyboard.press("ArrowUp")
    expect(chosen(page)).not_to_have_attribute("d", before)
    page.get_by_role("combobox", name="It is of").focus()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.get_by_role("combobox", name="It is of")).to_contain_text("head's port")
    page.get_by_role("button", name="Keep outline").press("Enter")
    expect(page.get_by_text(re.compile("head's port 1 kept"))).to_be_visible()


def test_what_is_no_picture_is_refused_and_the_screen_stays(page, tmp_path):
    at_outlines(page)
    path = tmp_path / "notes.png"
    path.write_text("no picture")
    page.keyboard.press("a")
    page.get_by_label("Scan, photo or drawing").set_input_files(path)
    expect(page.get_by_role("alert")).to_contain_text("notes.png", timeout=60_000)
    page.keyboard.press("Escape")
    expect(page.locator(".told .lip")).to_be_visible()
