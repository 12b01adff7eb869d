"""The whole job: its air path to scale, and two dyno files against each other."""

import re

import numpy as np
import pytest
from playwright.sync_api import expect

from elvarn.core.dyno.correction import power_from_torque
from tests.browser.flows import demo_path, go, open_job, ready, type_and_enter
from tests.shop import new_id

RPM = np.arange(2500, 7001, 100)


def dyno_file(name, torque, headings="Engine speed, rpm;Torque [Nm];Power [kW]", power_factor=1.0):
    """A file of its own, whatever it holds: one that was kept before is asked about."""
    rows = [
        f"{n};{m:.1f};{power_from_torque(float(m), float(n)) / 1000 * power_factor:.2f}"
        for n, m in zip(RPM, torque, strict=True)
    ]
    return {"name": name, "mimeType": "text/csv", "buffer": "\n".join([f"# {new_id()}", headings, *rows]).encode()}


STOCK = 230 - ((RPM - 4600) / 300) ** 2
PORTED = 229 - ((RPM - 5000) / 310) ** 2


def test_the_demo_shows_its_air_path_to_scale_and_each_element_by_key(page):
    demo_path(page)
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("heading", name="Filter", exact=True)).to_be_visible()
    page.keyboard.press("Escape")
    tube = page.get_by_role("button", name=re.compile("^Tube, bore 70"))
    throttle = page.get_by_role("button", name=re.compile("^Throttle, bore 64.7"))
    heights = [part.locator(".body").bounding_box()["height"] for part in (tube, throttle)]
    assert abs(heights[0] / heights[1] - 70 / 64.71) < 0.01
    page.get_by_role("button", name="stock", exact=True).click()
    expect(page.get_by_role("group", name="Air path, stock")).to_be_visible()
    page.keyboard.press("v")
    expect(page.get_by_role("group", name="Air path, stage 2", exact=True)).to_be_visible()


def test_the_demo_answers_whether_the_port_work_paid(page):
    demo_path(page)
    go(page, "d", "dyno")
    margin = page.get_by_label(re.compile("^Verdict for"))
    expect(margin).to_contain_text(
        re.compile(r"Stage 2, throttle 70 makes \+\d\.\d hp more than stock, averaged over 4500 to 7000 rpm")
    )
    expect(margin).to_contain_text("loses up to")
    page.keyboard.press("b")
    page.get_by_label("From, rpm").fill("2600")
    page.get_by_label("To, rpm").fill("3600")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Verdict for chosen band")).to_contain_text("Keep stock for chosen band")


def test_each_use_has_its_design_by_one_key(page):
    demo_path(page)
    go(page, "d", "dyno")
    answer = page.locator(".answer")
    expect(answer).to_contain_text("hill climb")
    for key, words in (
        ("3", "sheet S5, throttle 70: clear for circuit"),
        ("1", "keep stock for road: too close to call"),
        ("2", "stage 2, throttle 70: clear for hill climb"),
    ):
        page.keyboard.press(key)
        expect(answer).to_contain_text(words)
    page.keyboard.press("d")
    expect(page.get_by_text("Average against stage 2, hp")).to_be_visible()
    page.keyboard.press("c")
    expect(answer).to_contain_text("as observed")
    expect(page.locator(".designs .best")).not_to_have_count(0)
    page.keyboard.press("%")
    expect(page.get_by_text("Average against stage 2, %")).to_be_visible()
    curves = page.locator(".plate path.design")
    before = curves.count()
    page.keyboard.press("ArrowDown")
    page.keyboard.press(" ")
    expect(curves).not_to_have_count(before)


def test_a_band_with_a_name_is_kept_as_a_use_and_taken_away(open_page):
    page = open_page()
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "d", "dyno")
    expect(page.locator(".answer")).to_contain_text("hill climb")
    page.keyboard.press("b")
    for label, text in (("From, rpm", "3200"), ("To, rpm", "5600"), ("Keep as a use named", "slalom")):
        page.get_by_label(label).fill(text)
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name=re.compile("slalom"), pressed=True)).to_contain_text("3200–5600")
    expect(page.get_by_label("Verdict for slalom")).to_be_visible()
    page.keyboard.press("b")
    page.get_by_role("button", name="Take slalom away").click()
    expect(page.get_by_role("button", name=re.compile("slalom"))).to_have_count(0)


def test_what_is_said_of_a_pull_is_said_anew(open_page):
    page = open_page()
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "d", "dyno")
    page.get_by_role("button", name=re.compile("^sheet S5, .*: change")).first.click()
    expect(page.get_by_label("Station pressure, kPa")).to_be_visible()
    page.get_by_label("Station pressure, kPa").fill("29.5 stone")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("'stone' isn't a unit of pressure")
    page.get_by_label("Station pressure, kPa").fill("28.9 inHg")
    page.get_by_label("Fuel").fill("95")
    page.keyboard.press("Enter")
    expect(page.locator(".designs tr", has_text="sheet S5").first).to_be_visible()
    row = page.locator(".pulls li", has_text="sheet S5").first
    expect(row).to_contain_text("97.9 kPa")
    expect(row).to_contain_text("2 things at once")


def new_whole_job(page, title):
    """Taken in by keyboard alone: what kind and what shapes it, then the questions of check-in."""
    page.keyboard.press("n")
    expect(page.get_by_label("Part", exact=True)).to_be_focused()
    page.keyboard.press("Shift+Tab")
    page.keyboard.press("ArrowDown")
    expect(page.get_by_label("Full job")).to_be_checked()
    for text in ("Cast manifold", "K. Holm", "4", "Invented four"):
        page.keyboard.press("Tab")
        page.keyboard.type(text)
    page.keyboard.press("Enter")
    for question, answers in (
        ("Bore and stroke?", ("86", "86")),
        ("Where is the rev limit?", ("7200",)),
        ("What is it used for, and which rpm band counts?", ("circuit", "4500", "6800")),
    ):
        expect(page.get_by_role("heading", name=question)).to_be_visible()
        for number, text in enumerate(answers):
            if number:
                page.keyboard.press("Tab")
            page.keyboard.type(text)
        page.keyboard.press("Enter")
    expect(
        page.get_by_role("heading", name="What does the part have to fit, and what do the rules allow?")
    ).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("o")
    page.keyboard.press("Control+a")
    page.keyboard.type(title)
    page.keyboard.press("Enter")
    expect(page.get_by_label("Job name")).to_be_hidden()
    expect(page.get_by_role("heading", name=title, level=1).first).to_be_visible()


def drop_by_key(page, *files):
    expect(page.get_by_role("button", name="O files", exact=True)).to_be_visible()
    with page.expect_file_chooser() as chooser:
        page.keyboard.press("o")
    chooser.value.set_files(list(files))


@pytest.mark.parametrize("night", [False, True])
def test_a_whole_job_by_keyboard_from_taking_in_to_the_verdict(page, night):
    """The stock pull first, before anything comes off; then cut, flow, and the second pull, mapped as the first."""
    ready(page)
    if night:
        page.keyboard.press("m")
    new_whole_job(page, f"By keyboard {'at night' if night else 'by day'}")
    go(page, "d", "dyno")
    expect(page.get_by_role("heading", name="No pulls yet.")).to_be_visible()
    drop_by_key(page, dyno_file("run 1.csv", STOCK))
    expect(page.get_by_role("heading", name="run 1.csv")).to_be_visible()
    expect(page.get_by_text("semicolon-separated, decimal point")).to_be_visible()
    expect(page.get_by_role("button", name="Save as pull of stock")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator(".answer")).to_contain_text("Only one design pulled")
    go(page, "b", "bench")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    type_and_enter(page, "201.6", "199.1", "200.2", "203.0")
    expect(page.get_by_label("Bench notes")).to_contain_text("Before is complete")
    page.keyboard.press("a")
    page.keyboard.press("Alt+1")
    expect(page.get_by_text("after · stage 1, clean-up")).to_be_visible()
    type_and_enter(page, "215.2", "213.0", "214.3", "214.1")
    expect(page.get_by_label("Bench notes")).to_contain_text("Clear gain: +13.2 CFM average over runners 1 to 4")
    go(page, "d", "dyno")
    drop_by_key(page, dyno_file("run 2.csv", PORTED))
    expect(page.get_by_text("mapped as last time")).to_be_visible()
    expect(page.get_by_role("button", name="Save as pull of stage 1")).to_be_focused()
    page.keyboard.press("Enter")
    plate = page.get_by_role("img", name=re.compile("power of stock, stage 1, clean-up from"))
    expect(plate).to_be_visible()
    expect(page.get_by_label("Verdict for circuit")).to_contain_text(re.compile("Stage 1, clean-up (makes|vs stock)"))


def test_two_files_dropped_together_are_mapped_once(page):
    open_job(page, "Tarnholt 1.2 kit car")
    go(page, "b", "bench")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    page.keyboard.press("a")
    page.keyboard.press("Alt+1")
    expect(page.get_by_text("after · stage 1, clean-up")).to_be_visible()
    go(page, "d", "dyno")
    names = "Speed log;Moment log;Leistung log"
    drop_by_key(page, dyno_file("stock.csv", STOCK, names), dyno_file("ported.csv", PORTED, names))
    expect(page.get_by_role("heading", name="stock.csv")).to_be_visible()
    expect(page.get_by_text("1 more waiting")).to_be_visible()
    page.keyboard.press("Enter")
    for quantity, answer in (("speed", "Alt+1"), ("torque", "Alt+1"), ("power", "Alt+1")):
        expect(page.get_by_role("alert")).to_contain_text(f"doesn't say the unit of its {quantity}")
        page.keyboard.press(answer)
    expect(page.get_by_role("heading", name="ported.csv")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_label(re.compile("^Verdict"))).to_contain_text("the ± is")


def test_files_that_contradict_themselves_are_asked_about(page):
    demo_path(page)
    go(page, "d", "dyno")
    file = dyno_file("odd.csv", STOCK, headings="Odd speed rpm;Odd torque Nm;Odd power kW", power_factor=1.341)
    page.get_by_label("Dyno files").set_input_files(file)
    expect(page.get_by_role("heading", name="odd.csv")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("power is +34 % off what torque gives")
    page.get_by_role("button", name="leave this file out").click()
    expect(page.get_by_label("Verdict for hill climb")).to_contain_text("more than stock")


def test_a_bore_is_measured_as_typed(open_page):
    page = open_page()
    open_job(page, "Tarnholt 1.2 kit car")
    go(page, "p", "path")
    expect(page.get_by_role("button", name="Filter, not measured")).to_be_visible()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_label("bore of Filter")).to_be_focused()
    type_and_enter(page, "3 1/2 in")
    expect(page.get_by_role("button", name="Filter, bore 88.9 mm")).to_be_visible()
    page.get_by_label(re.compile("of Filter")).fill("-3 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("A dimension of -3 mm can't be: it must be above 0.")


def test_steps_are_noted_and_done_by_key_beside_their_cautions(page):
    demo_path(page)
    go(page, "f", "fit")
    expect(page.get_by_role("region", name="Task")).to_be_visible()
    page.keyboard.press("o")
    expect(page.get_by_label("Cautions")).to_contain_text("brake servo")
    page.keyboard.press("n")
    type_and_enter(page, "Clay under the floor checked")
    row = page.get_by_role("button", name=re.compile("Clay under the floor checked"))
    row.press("Enter")
    expect(page.get_by_label("Minutes")).to_be_focused()
    type_and_enter(page, "12")
    expect(row).to_contain_text("done")
    expect(row).to_contain_text("12 min")
