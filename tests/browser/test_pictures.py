"""The ladder, the plate and the margin show what the figures say, where they say it."""

import re

from playwright.sync_api import expect

from tests.browser.flows import go, open_job, rung


def middle(locator):
    box = locator.bounding_box()
    return box["x"] + box["width"] / 2


def test_marks_on_the_ladder_lie_in_proportion_to_their_figures(page):
    open_job(page, "Odrun M6 manifold")
    expect(rung(page, 4).locator(".filled")).to_be_visible()
    places, figures = [], []
    for number in (1, 2, 3, 4):
        for mark, words in ((".open", ".figure:not(.after)"), (".filled", ".figure.after")):
            places.append(middle(rung(page, number).locator(mark)))
            figures.append(float(rung(page, number).locator(words).inner_text()))
    low, high = figures.index(min(figures)), figures.index(max(figures))
    scale = (places[high] - places[low]) / (figures[high] - figures[low])
    for place, figure in zip(places, figures, strict=True):
        assert abs(place - places[low] - scale * (figure - figures[low])) < 1.5


def test_before_and_after_differ_in_shape_not_only_in_colour(page):
    open_job(page, "Odrun M6 manifold")
    fills = [
        rung(page, 1).locator(mark).evaluate("mark => getComputedStyle(mark).backgroundColor")
        for mark in (".open", ".filled")
    ]
    ground = page.evaluate("getComputedStyle(document.body).backgroundColor")
    assert fills[0] == ground
    assert fills[1] != ground


def test_pointing_at_a_sentence_lights_up_what_it_rests_on(page):
    open_job(page, "Odrun M6 manifold")
    figure = page.get_by_label("Bench notes").locator(".follow").first
    figure.hover()
    expect(page.locator(".sum.lit")).to_be_visible()
    page.mouse.move(5, 5)
    expect(page.locator(".sum.lit")).to_be_hidden()
    figure.focus()
    expect(page.locator(".sum.lit")).to_be_visible()


def test_every_sentence_carries_its_grade(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "d", "dyno")
    expect(page.locator(".plate svg")).to_be_visible()
    sentences = page.locator(".sentence")
    assert sentences.count() >= 5
    for sentence in sentences.all():
        grade = sentence.locator(".grade")
        assert grade.get_attribute("aria-label") in (
            "measured",
            "computed from measured",
            "estimated",
            "rule of thumb",
            "advice",
        )


def test_the_band_on_the_plate_lies_at_its_speeds(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "d", "dyno")
    band = page.locator(".plate rect.band")
    expect(band).to_be_visible()
    ticks = {
        int(tick.text_content()): middle(tick) for tick in page.locator(".plate .scale text[text-anchor=middle]").all()
    }
    low, high = min(ticks), max(ticks)
    per_rpm = (ticks[high] - ticks[low]) / (high - low)
    box = band.bounding_box()
    assert abs(box["x"] - (ticks[low] + per_rpm * (4500 - low))) < 2
    assert abs(box["width"] - per_rpm * 2500) < 2


def test_the_difference_can_be_of_torque_or_of_power(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "d", "dyno")
    expect(page.get_by_text("difference from stock, hp")).to_be_visible()
    page.keyboard.press("t")
    expect(page.get_by_text("difference from stock, lb·ft")).to_be_visible()


def test_a_band_that_is_none_is_refused_and_kept(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "d", "dyno")
    expect(page.locator(".plate svg")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_label("From, rpm")).to_be_focused()
    page.get_by_label("From, rpm").fill("6000")
    page.get_by_label("To, rpm").fill("5000")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("'6000' to '5000' rpm is no band")
    expect(page.get_by_label("From, rpm")).to_have_value("6000")


def test_a_pull_is_struck_out_on_its_row(page):
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "d", "dyno")
    rows = page.locator(".pulls li:not(.day)")
    expect(rows).to_have_count(14)
    rows.last.get_by_role("button", name="strike").click()
    expect(page.get_by_label("Reason")).to_be_focused()
    page.keyboard.type("wheel spin")
    page.keyboard.press("Enter")
    expect(rows.last).to_contain_text("struck out: wheel spin")
    expect(page.locator(".answer")).to_contain_text("clear")


def test_upright_the_first_sentence_stays_in_sight(open_page):
    page = open_page()
    page.set_viewport_size({"width": 800, "height": 1280})
    open_job(page, "Odrun M6 manifold")
    expect(page.locator(".in-sight")).to_be_visible()
    expect(page.locator(".in-sight")).to_contain_text(re.compile(r"^Clear gain"))


def test_a_job_handed_over_is_found_again(page):
    open_job(page, "Tarnholt 1.2 kit car")
    go(page, "h", "handover")
    page.get_by_role("button", name="Close job").click()
    expect(page.get_by_role("button", name="Reopen job")).to_be_visible()
    go(page, "s", "")
    link = page.get_by_label("Handed over").get_by_role("link", name=re.compile("Tarnholt"))
    expect(link).to_be_visible()
    link.click()
    page.get_by_role("button", name="Reopen job").click()
    expect(page.get_by_role("button", name="Close job")).to_be_visible()
