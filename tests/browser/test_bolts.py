"""Bolts of a flange in the browser: mapped, ticked off by keys on a tablet, taken back, and what is asked about."""

import pytest
from playwright.sync_api import expect

from tests.browser.flows import go, open_job

TABLET = {"width": 800, "height": 1280}
LINE = "-80 -45, -40 -45, 0 -45, 40 -45, 80 -45, -80 45, -40 45, 0 45, 40 45, 80 45"


@pytest.fixture
def tablet(open_page):
    page = open_page("/", has_touch=True)
    page.set_viewport_size(TABLET)
    return page


def at_bolts(page):
    open_job(page, "Tarnholt 1.2 kit car")
    go(page, "f", "fit")
    expect(page.get_by_role("heading", name="Fitting", exact=True)).to_be_visible()
    page.keyboard.press("b")


def test_a_flange_is_mapped_and_its_bolts_ticked_off(tablet):
    page = tablet
    at_bolts(page)
    expect(page.get_by_text("No flange mapped yet")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_label("Flange", exact=True)).to_be_focused()
    page.get_by_label("Or typed: x y of each in mm, a comma between").fill(LINE)
    page.get_by_label("Stack clamped, mm").fill("20")
    page.get_by_label("Thread in its hole, mm").fill("18")
    page.get_by_label("Bolt, mm under its head").fill("45")
    page.get_by_label("Torque: 22 N·m, 18 lbf·ft").fill("89 N·m")
    page.get_by_label("Whose torque").fill("sheet F5-3")
    page.keyboard.press("Enter")
    expect(page.locator(".problem")).to_contain_text("bottoms by 7.0 mm")
    page.get_by_role("button", name="Use 35 mm").click()
    expect(page.locator(".problem")).to_contain_text("89 lbf·in would be 10.1 N·m")
    page.get_by_label("Torque: 22 N·m, 18 lbf·ft").fill("22 N·m")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Bolt 1", exact=True)).to_be_visible()
    expect(page.locator(".stage")).to_have_text("round 1 of 5: by hand")
    for number in range(1, 11):
        expect(page.get_by_role("heading", name=f"Bolt {number}", exact=True)).to_be_visible()
        page.keyboard.press(" ")
    expect(page.locator(".stage")).to_have_text("round 2 of 5: 30 %")
    page.keyboard.press("u")
    expect(page.locator(".stage")).to_have_text("round 1 of 5: by hand")
    expect(page.get_by_role("heading", name="Bolt 10", exact=True)).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.locator(".stage")).to_have_text("round 2 of 5: 30 %")


def test_a_tap_on_another_bolt_is_asked_about(tablet):
    """After the test before: the second round begins."""
    page = tablet
    at_bolts(page)
    expect(page.get_by_role("heading", name="Bolt 1", exact=True)).to_be_visible()
    page.locator("svg .bolt", has_text="4").first.click()
    expect(page.locator(".problem")).to_contain_text("Number 1 is next")
    page.get_by_role("button", name="Number 1 is tight").click()
    expect(page.get_by_role("heading", name="Bolt 2", exact=True)).to_be_visible()
    expect(page.get_by_label("What holds")).to_contain_text("is sheet F5-3's")


def test_bolts_are_mapped_by_taps(tablet):
    page = tablet
    at_bolts(page)
    expect(page.get_by_role("heading", name="Bolt 2", exact=True)).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_label("Flange", exact=True)).to_be_focused()
    plate = page.get_by_role("img", name="The flange, its bolts numbered in their order")
    box = plate.bounding_box()
    for x, y in ((0.3, 0.5), (0.7, 0.5)):
        plate.click(position={"x": x * box["width"], "y": y * box["height"]})
    expect(page.locator("svg .bolt")).to_have_count(2)
    page.locator("svg .bolt").first.click()
    page.get_by_label("Reached with").fill("crow foot 13 mm")
    page.get_by_label("Its length, mm, where another").fill("45")
    expect(page.locator("svg .bolt .long")).to_have_text("45 mm")
    page.get_by_role("button", name="Take it away").click()
    expect(page.locator("svg .bolt")).to_have_count(1)
