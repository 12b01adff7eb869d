"""One number, looked up by keyboard."""

import re

from playwright.sync_api import expect

from tests.browser.flows import entry, new_posted_part, ready, rung, type_and_enter


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


def test_it_opens_with_what_the_bench_shows_and_hands_its_result_back(page):
    ready(page)
    new_posted_part(page, "Reckoned manifold")
    type_and_enter(page, "201.6")
    expect(rung(page, 1)).to_contain_text("201.6")
    page.keyboard.press("ArrowUp")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    expect(page.locator(".readings")).to_contain_text("201.6")
    page.keyboard.press("g")
    page.keyboard.press("r")
    expect(page.get_by_label("Find a calculation")).to_be_focused()
    page.keyboard.type("another depression")
    page.keyboard.press("Enter")
    expect(page.get_by_text("With the figures of runner 1 on the bench")).to_be_visible()
    expect(page.get_by_label("Flow, CFM")).to_have_value("201.6")
    expect(page.get_by_label("Measured, inH2O")).to_have_value("28")
    page.get_by_label("Measured, inH2O").fill("15")
    result = page.get_by_label("Result")
    expect(result).to_contain_text(re.compile(r"275\.4\s*CFM"))
    page.get_by_label("Measured, inH2O").press("Enter")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    expect(entry(page)).to_have_value("275.4 CFM")
