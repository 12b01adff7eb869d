"""A part on the shelf: wrong figures taken back, fields typed with their units, nothing lost."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.flows import ready
from tests.shop import new_id


@pytest.fixture
def tube(page):
    """A new tube on the shelf, with its screen open."""
    ready(page)
    page.keyboard.press("l")
    expect(page.get_by_role("heading", name="Shelf", exact=True)).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_label("Name")).to_be_focused()
    page.keyboard.type("Trap tube")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Trap tube")).to_be_visible()
    return page


def read(page, figure):
    page.get_by_label("Read", exact=True).fill(figure)
    page.keyboard.press("Enter")


def test_a_wrong_flow_is_asked_about_struck_out_and_never_averaged(tube):
    read(tube, "565")
    readings = tube.locator(".readings li")
    expect(readings).to_have_count(1)
    read(tube, "5650")
    question = tube.get_by_role("alert")
    expect(question).to_contain_text("a mis-trigger, another set-up, or really so?")
    tube.keyboard.press("Alt+1")
    expect(question).to_contain_text("About 10 × what it read before")
    tube.keyboard.press("Alt+2")
    expect(question).to_contain_text("More than your largest range")
    tube.keyboard.press("Alt+1")
    expect(readings).to_have_count(2)
    expect(readings.first).to_contain_text("flagged")
    readings.first.get_by_role("button", name="strike out").click()
    tube.keyboard.type("slipped point")
    tube.keyboard.press("Enter")
    expect(readings.first).to_contain_text("struck out: slipped point")
    tube.get_by_role("link", name=re.compile("Shelf")).first.click()
    expect(tube.locator(".part-row").filter(has_text="Trap tube").last).to_contain_text("565.0 CFM")


def test_fields_keep_what_was_typed_and_refuse_in_place(tube):
    price, height = tube.get_by_label("Price"), tube.get_by_label("Height above flange, mm")
    price.fill("900")
    height.fill("10.5 in")
    tube.keyboard.press("Enter")
    expect(tube.get_by_text("Saved.")).to_be_visible()
    tube.reload()
    expect(height).to_have_value("10.5 in")
    price.fill("950 stone")
    tube.keyboard.press("Enter")
    expect(tube.get_by_role("alert")).to_contain_text("'stone' isn't a unit of this field")
    expect(price).to_be_focused()
    expect(price).to_have_value("950 stone")
    tube.reload()
    expect(price).to_have_value("950 stone")
    expect(tube.get_by_text("not saved yet")).to_be_visible()
    tube.get_by_role("button", name="Discard changes").click()
    expect(price).to_have_value("900")
    expect(height).to_have_value("10.5 in")
    price.fill("950 EUR")
    tube.keyboard.press("Enter")
    expect(tube.get_by_text("Saved.")).to_be_visible()
    expect(price).to_have_value("950 EUR")
    tube.get_by_role("button", name="undo").click()
    expect(price).to_have_value("900")
    tube.reload()
    expect(price).to_have_value("900")


def test_a_file_for_the_shelf_is_looked_at_and_taken_by_key(page):
    ready(page)
    page.keyboard.press("l")
    expect(page.get_by_role("heading", name="Shelf", exact=True)).to_be_visible()
    mark = new_id()[:6]
    rows = f"kind,name,maker,price\ntube,Tube 76,Norrvik,199\ntube,Keyed {mark},Halvex,20\n"
    page.get_by_label("Import").set_input_files({"name": "new.csv", "mimeType": "text/csv", "buffer": rows.encode()})
    panel = page.get_by_role("form", name="What the file would bring")
    expect(panel).to_contain_text("1 new, 1 that differ, 0 the same as here")
    expect(panel).to_contain_text("price 185 → 199")
    expect(page.get_by_role("button", name="Take 1 part")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("status")).to_contain_text("1 added, 0 changed.")
    page.keyboard.press("/")
    page.keyboard.type(f"halvex {mark}")
    expect(page.get_by_role("link", name=f"Keyed {mark}")).to_be_visible()
    expect(page.locator(".part-row")).to_have_count(1)
