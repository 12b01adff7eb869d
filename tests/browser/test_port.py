"""Port work by keyboard and by taps: a part from as received through its passes to finished, and where it stops."""

import re

from playwright.sync_api import expect

from tests.browser.flows import go, open_job

MARGIN = "Where to go on"
CARD = ".next"


def at_port(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "o", "port")
    expect(page.locator(CARD)).to_be_visible()
    return page


def begin_stage_3(page):
    page.keyboard.press("b")
    expect(page.get_by_text("Which stage begins?")).to_be_visible()
    page.keyboard.press("Alt+3")
    expect(page.get_by_role("button", name="B finish stage")).to_be_visible()
    expect(page.locator(CARD)).to_contain_text("stage 3, cut open")
    expect(page.get_by_label("Passes")).to_be_visible()


def type_section(page, typed):
    page.keyboard.press("s")
    field = page.get_by_label(re.compile("^Section, mm"))
    expect(field).to_be_focused()
    field.fill(typed)
    page.keyboard.press("Enter")


def gauge(page, *walls):
    """Walls from where the cut is deepest on, clockwise."""
    field = page.get_by_label("Wall, mm")
    for typed in walls:
        expect(field).to_be_focused()
        expect(field).to_have_value("")
        hour = page.get_by_label("at o'clock").input_value()
        field.fill(typed)
        page.keyboard.press("Enter")
        expect(page.get_by_label("at o'clock")).not_to_have_value(hour)
    page.keyboard.press("Escape")


def test_where_to_cut_how_much_and_what_stops_it(page):
    at_port(page)
    card = page.locator(CARD)
    expect(card).to_contain_text("Runner 3")
    expect(card).to_contain_text("135 mm in, floor")
    expect(card.locator(".depth")).to_have_text("3.0")
    expect(card).to_contain_text("off the floor")
    expect(card).to_contain_text("wall 3.3 mm left · 0.3 mm in hand")
    expect(card).to_contain_text(re.compile(r"\+1\.\d ±0\.\d CFM"))
    margin = page.get_by_label(MARGIN)
    expect(margin).to_contain_text("Aluminium dust burns")
    expect(margin).to_contain_text("The core is shifted: 4.0 mm at 12 o'clock, 6.3 mm at 6")
    expect(margin).to_contain_text("so far 1")


def test_the_arrows_walk_the_cells_and_n_comes_back(page):
    at_port(page)
    expect(page.locator(CARD)).to_contain_text("Runner 3")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowUp")
    expect(page.locator(CARD)).to_contain_text("Runner 2")
    expect(page.locator(CARD)).to_contain_text("90 mm in")
    page.keyboard.press("n")
    expect(page.locator(CARD)).to_contain_text("Runner 3")
    page.get_by_role("gridcell", name="Runner 5, 0 mm: 46.0").click()
    expect(page.locator(CARD)).to_contain_text("on the target: nothing to take")


def test_a_cut_made_moves_on_until_the_rest_is_too_small_to_show(page):
    at_port(page)
    begin_stage_3(page)
    seen = []
    for _ in range(8):
        card = page.locator(CARD)
        if not card.locator(".depth").count():
            break
        seen.append(card.locator(".at strong").inner_text())
        wanted = re.search(r"of (\d+) mm²", card.inner_text())[1]
        page.keyboard.press("Enter")
        field = page.get_by_label(re.compile("^Section, mm"))
        expect(field).to_be_focused()
        field.fill(f"{wanted} mm2")
        page.keyboard.press("Enter")
        gauge(page, "3.4", "3.4", "3.4", "3.4")
        expect(page.get_by_label("Wall, mm")).to_have_count(0)
        expect(card.locator(".at strong")).not_to_have_text(seen[-1])
    assert seen[0] == "135 mm in, floor"
    assert len(seen) >= 2
    expect(page.get_by_label(MARGIN)).to_contain_text("Stop: polish and reflow.")
    expect(page.get_by_label(MARGIN)).to_contain_text("Finish the stage, then read every runner on the bench.")


def test_two_rounds_over_all_runners_by_keyboard_to_finished(page):
    page = at_port(page)
    if page.get_by_text("begin stage").count():
        begin_stage_3(page)
    page.keyboard.press("t")
    rounds = page.get_by_label(re.compile("^Rounds in order"))
    rounds.fill("carbide 7 min, 80 grit")
    page.keyboard.press("Enter")
    passes = page.get_by_label("Passes")
    expect(passes).to_contain_text("planned 7:00")
    page.get_by_role("gridcell", name=re.compile("^Runner 1, 0 mm")).click()
    for name in ("carbide", "80 grit"):
        for _ in range(5):
            runner = page.locator(f"{CARD} h2").inner_text().lower()
            button = page.get_by_role("button", name=re.compile(f"^{name}, {runner}: "))
            page.keyboard.press("Space")
            expect(button).to_have_class(re.compile("runs"))
            page.keyboard.press("d")
            expect(button).to_have_class(re.compile("done"))
            page.keyboard.press("ArrowRight")
    page.keyboard.press("b")
    expect(page.get_by_role("button", name="B begin stage")).to_be_visible()
    expect(page.get_by_label("Passes")).to_contain_text("80 grit")
    expect(page.get_by_role("link", name=re.compile("^Port work stage 3$"))).to_be_visible()


def test_a_watch_survives_a_reload_and_taps_note_what_was_looked_at(page):
    at_port(page)
    if page.get_by_text("begin stage").count():
        begin_stage_3(page)
    page.keyboard.press("Space")
    running = page.locator(".time.runs")
    expect(running).to_have_count(1)
    page.reload()
    expect(running).to_have_count(1)
    expect(running).not_to_have_text("0:00")
    page.get_by_role("button", name="lamp").click()
    expect(page.get_by_role("button", name="✓ lamp")).to_be_visible()
    page.keyboard.press("Space")
    expect(running).to_have_count(0)


def test_a_section_that_shrank_is_asked_about_and_nothing_typed_is_lost(page):
    at_port(page)
    page.get_by_role("gridcell", name=re.compile("^Runner 2, 135 mm")).click()
    type_section(page, "38")
    asked = page.get_by_role("alert")
    expect(asked).to_contain_text("cutting makes it larger. What made it smaller?")
    expect(page.get_by_label(re.compile("^Section, mm"))).to_have_value("38")
    page.keyboard.press("Alt+3")
    expect(asked).to_have_count(0)
    page.keyboard.press("Escape")
    page.get_by_role("gridcell", name="Runner 2, 135 mm: 38").click()
    expect(page.locator(CARD)).to_contain_text("flagged: welded")
    page.keyboard.press("x")
    page.keyboard.type("wrong station")
    page.keyboard.press("Enter")
    expect(page.get_by_role("gridcell", name="Runner 2, 135 mm: 42.7")).to_be_visible()
