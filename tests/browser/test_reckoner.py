"""One number, looked up by keyboard."""

import re

from playwright.sync_api import expect

from tests.browser.flows import ready


def test_a_number_is_found_typed_and_seen_with_its_formula_and_source(page):
    ready(page)
    page.keyboard.press("r")
    finder = page.get_by_label("Find a calculation")
    expect(finder).to_be_focused()
    page.keyboard.type("fast flow bore")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="How fast is this flow in this bore?")).to_be_visible()
    result = page.get_by_label("Result")
    expect(result).to_contain_text(re.compile(r"72\.9\s*m/s"))
    page.get_by_label("Bore, mm").fill("45,5")
    expect(result).to_contain_text(re.compile(r"62\.1\d?\s*m/s"))
    expect(page.get_by_text("v = Q/A")).to_be_visible()
    expect(page.get_by_text("Source: definition.")).to_be_visible()
    page.get_by_label("Bore, mm").fill("0")
    expect(page.get_by_role("alert")).to_contain_text("above 0")
    finder.focus()
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="Jobs board")).to_be_visible()
