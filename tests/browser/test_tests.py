"""A test from its first point to what it says, by keyboard; it rests and goes on; a table of old is pasted."""

import re

from playwright.sync_api import expect

from tests.browser.flows import entry, go, new_posted_part, open_job, ready, rung, type_and_enter


def at_point(page, words):
    expect(page.get_by_role("heading", name=words, exact=True)).to_be_visible()


def test_a_copy_against_its_original_by_keyboard(page):
    ready(page)
    new_posted_part(page, "Copied manifold")
    page.keyboard.press("t")
    expect(page.get_by_role("heading", name="New test")).to_be_visible()
    page.get_by_label("Kind", exact=True).click()
    page.get_by_role("option", name="Copy vs original").click()
    page.get_by_role("button", name="Start this test").click()
    at_point(page, "original")
    type_and_enter(page, "200.0", "203.0")
    at_point(page, "copy again")
    expect(page.get_by_label("Test notes")).to_contain_text("2 of 4 points read")
    page.keyboard.press("t")
    page.get_by_role("link", name="Copy vs original").click()
    at_point(page, "copy again")
    type_and_enter(page, "204.0", "201.0")
    expect(page.get_by_label("Test notes")).to_contain_text("Copy vs original: +1.5 %")


def test_what_others_save_leaves_a_new_test_alone(page, open_page):
    ready(page)
    new_posted_part(page, "Shared manifold")
    bench = "/" + page.url.split("/", 3)[3]
    page.keyboard.press("t")
    places = page.get_by_label("opening, %, in order")
    expect(places).to_have_value("25, 50, 75, 100")
    places.fill("30, 60")
    other = open_page(bench)
    expect(entry(other)).to_be_focused()
    with page.expect_response(re.compile("/bench/effects")):
        type_and_enter(other, "201.6")
    expect(places).to_have_value("30, 60")
    page.reload()
    expect(places).to_have_value("30, 60")
    page.get_by_role("button", name="Start this test").click()
    at_point(page, "as received, 30 %")
    page.go_back()
    expect(places).to_have_value("25, 50, 75, 100")


def test_a_point_that_was_read_is_asked_about_in_place(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "b", "bench")
    page.keyboard.press("t")
    page.get_by_role("link", name="Flow against valve lift").click()
    at_point(page, "with runner, 10 mm")
    page.keyboard.press("ArrowUp")
    type_and_enter(page, "151.0")
    expect(page.get_by_role("alert")).to_contain_text("already reads 150.3 CFM")
    page.keyboard.press("Escape")
    expect(page.get_by_label(re.compile("^Flow at"))).to_have_value("151.0")


def test_a_table_of_old_is_pasted_with_its_dates(page):
    ready(page)
    new_posted_part(page, "Old sheet manifold")
    table = "runner\tbefore\tdate\n1\t201.6\t2019-05-31\n2\t199.1\t2019-05-31\n"
    entry(page).evaluate(
        """(field, text) => {
            const data = new DataTransfer()
            data.setData('text', text)
            field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
        }""",
        table,
    )
    expect(rung(page, 2)).to_contain_text("199.1")
    expect(page.get_by_role("heading", name="Runner 3", exact=True)).to_be_visible()
    page.keyboard.press("ArrowUp")
    page.keyboard.press("ArrowUp")
    expect(page.get_by_text(re.compile(r"31 May"))).to_be_visible()


def test_what_a_figure_is_known_to_and_a_bench_that_can_not_be(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "b", "bench")
    expect(page.get_by_text("compared with this bench")).to_be_visible()
    page.keyboard.press("o")
    expect(page.get_by_text("not calibrated; ±3 % assumed; cancels out in before/after")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_label("Bench", exact=True)).to_be_focused()
    page.get_by_label("Ranges, CFM at inH2O").fill("120 at 300")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("can't be pulled at 300 inH2O")
    page.keyboard.press("Escape")
    expect(page.get_by_label("Ranges, CFM at inH2O")).to_be_hidden()


def test_the_last_set_up_is_repeated_by_one_key(page):
    ready(page)
    new_posted_part(page, "Repeated set-up manifold")
    page.keyboard.press("r")
    expect(page.get_by_text("Last set-up repeated")).to_be_visible()
    page.keyboard.press("Escape")
    type_and_enter(page, "201.6")
    expect(rung(page, 1)).to_contain_text("201.6")
