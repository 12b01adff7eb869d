"""The path by keyboard and by hand: what if, candidates and the shelf; taking in with an engine and a receipt."""

import re
from io import BytesIO
from uuid import uuid4

import pytest
from PIL import Image
from playwright.sync_api import expect

from dev.asking import get, put
from tests.browser.flows import demo_path, go, open_job, ready

_OUT = BytesIO()
Image.new("RGB", (4, 3), "grey").save(_OUT, "PNG")
PNG = _OUT.getvalue()


@pytest.fixture
def path(page):
    demo_path(page)
    return page


def cell(page, label, column):
    row = page.get_by_role("table", name="Loss ledger").get_by_role("row").filter(has_text=label)
    return row.locator("td").nth(column)


def lost(page):
    return float(page.locator(".answer .big").inner_text().split("\n")[0].split()[0])


def test_the_pinch_is_seen_and_a_wider_tube_gains_in_thought_by_key(path):
    page = path
    expect(page.get_by_role("table", name="Loss ledger").get_by_text("biggest", exact=True)).to_have_count(1)
    before = lost(page)
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("heading", name="Tube", exact=True)).to_be_visible()
    for _ in range(5):
        page.keyboard.press("ArrowUp")
    expect(page.get_by_role("button", name=re.compile("^Tube, bore 75 mm"))).to_be_visible()
    expect(page.locator(".gained")).to_contain_text(re.compile(r"\+0\.\d"))
    expect(page.get_by_label("Air path notes")).to_contain_text("What-if: +")
    assert lost(page) < before
    page.keyboard.press("z")
    expect(page.locator(".gained")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("^Tube, bore 70 mm"))).to_be_visible()


def test_a_bore_is_dragged_by_its_wall(path):
    page = path
    page.get_by_role("button", name=re.compile("^Tube, bore")).click()
    handle = page.locator(".air-path .handle").bounding_box()
    x, y = handle["x"] + handle["width"] / 2, handle["y"] + handle["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 4, steps=4)
    page.mouse.up()
    expect(page.locator(".gained")).to_contain_text("+")
    expect(cell(page, "Tube", 2)).to_contain_text(re.compile(r"[56]\d\d"))


def test_the_speed_moves_by_key_and_the_bench_has_its_own_shares(path):
    page = path
    expect(page.get_by_text("at 7000 rpm").first).to_be_visible()
    for _ in range(10):
        page.keyboard.press("[")
    expect(page.locator(".answer")).to_contain_text("at 6000 rpm")
    page.keyboard.press("x")
    expect(page.get_by_role("table", name="Loss ledger")).to_contain_text("one port on the bench")
    slider = page.get_by_role("slider")
    slider.focus()
    page.keyboard.press("PageUp")
    expect(slider).to_have_attribute("aria-valuenow", "6500")


def test_a_part_of_the_shelf_is_tried_kept_as_a_build_and_told_apart(path):
    page = path
    page.keyboard.press("k")
    expect(page.get_by_role("list", name="Candidates")).to_be_visible()
    page.get_by_role("button", name="tube", exact=True).click()
    expect(page.locator(".candidate").first).to_contain_text("fitted now")
    first = page.locator(".candidate").nth(1)
    expect(first).to_contain_text("too small to show")
    name = first.locator("strong").inner_text()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("t")
    expect(page.get_by_role("button", name=re.compile("Save as build"))).to_be_visible()
    expect(page.locator(".gained")).to_contain_text("+")
    page.keyboard.press("c")
    builds = page.get_by_role("group", name="Builds")
    expect(builds.get_by_role("button", name=re.compile(name)).last).to_have_class("on")
    expect(page.get_by_text(re.compile(r"Changes from stock: .*Tube: .* →"))).to_be_visible()


def test_weights_reorder_the_candidates_and_hard_ones_stay_last_with_their_reason(path):
    page = path
    page.keyboard.press("k")
    page.get_by_role("button", name="throttle", exact=True).click()
    hard = page.locator(".candidate.hard")
    expect(hard.filter(has_text="swings into").first).to_be_visible()
    page.get_by_role("button", name="tube", exact=True).click()
    light = page.locator(".candidate").filter(has_text="Composite tube 80")
    expect(light.locator(".rank")).to_have_text("3")
    page.keyboard.press("2")
    for _ in range(3):
        page.keyboard.press("ArrowLeft")
    expect(light.locator(".rank")).to_have_text("2")
    expect(page.locator(".candidate").filter(has_text="Ribbed hose 80")).to_contain_text("worse")


def test_a_set_goes_from_the_path_to_the_order_list_and_back_by_keyboard(path):
    """Candidates, sets, the next set, on the list, ordered, taken back: no hand leaves the keys."""
    page = path
    page.keyboard.press("k")
    expect(page.get_by_text("priorities", exact=True)).to_be_visible()
    page.keyboard.press("s")
    expect(page.get_by_role("heading", name="Sets of parts")).to_be_visible()
    page.keyboard.press("ArrowDown")
    chosen = page.locator(".set[aria-current='true']")
    expect(chosen.locator(".rank")).to_have_text("2")
    name = chosen.locator(".changed .part").first.inner_text()
    page.keyboard.press("o")
    undo = page.locator(".undo")
    expect(undo).to_contain_text("on the order list")
    go(page, "w", "orders")
    row = page.locator("tbody").filter(has_text=name)
    expect(row).to_be_visible()
    while not page.locator("tbody.on").filter(has_text=name).count():
        page.keyboard.press("ArrowDown")
    page.keyboard.press("o")
    expect(undo).to_contain_text("marked ordered")
    page.keyboard.press("Control+z")
    expect(undo).to_have_count(0)


def test_a_bore_typed_in_inches_is_asked_about_in_place(page):
    open_job(page, "Tarnholt 1.2 kit car")
    go(page, "p", "path")
    expect(page.get_by_role("table", name="Loss ledger")).to_be_visible()
    for _ in range(6):
        page.keyboard.press("ArrowRight")
    panel = page.get_by_role("region", name="Throttle")
    entry = panel.get_by_label("bore of Throttle")
    expect(entry).to_be_focused()
    page.keyboard.type("7 in")
    page.keyboard.press("Enter")
    expect(panel.get_by_role("alert")).to_contain_text("Wrong unit?")
    panel.get_by_role("button", name=re.compile("Use 7 cm")).click()
    expect(page.get_by_role("button", name=re.compile("^Throttle, bore 70 mm"))).to_be_visible()


def test_a_new_part_is_put_on_the_shelf_measured_and_flowed_by_keyboard(page):
    ready(page)
    page.keyboard.press("l")
    expect(page.get_by_role("heading", name="Shelf", exact=True)).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_label("Name")).to_be_focused()
    page.keyboard.type("Made-up throttle")
    page.keyboard.press("Tab")
    page.keyboard.press("Tab")
    page.keyboard.type("66,5 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Made-up throttle")).to_be_visible()
    expect(page.locator(".call-out").filter(has_text="Bore")).to_contain_text("66.5 mm")
    page.get_by_label("Read").focus()
    page.keyboard.type("602")
    page.keyboard.press("Enter")
    expect(page.locator(".readings li").filter(has_text="throttle flow")).to_contain_text("602.0 CFM")
    page.get_by_label("Price").fill("120")
    page.get_by_label("Price").press("Enter")
    expect(page.get_by_text("Saved.")).to_be_visible()
    page.get_by_role("link", name="◂ Shelf").click()
    expect(page.locator(".part-row").filter(has_text="Made-up throttle")).to_contain_text("602.0 CFM")


def test_taking_in_lists_what_came_shows_pictures_and_what_follows_from_the_engine(page):
    open_job(ready(page), "Tarnholt 1.2 kit car")
    go(page, "t", "checkin")
    expect(page.get_by_role("textbox", name="Received item")).to_be_visible()
    page.keyboard.press("a")
    page.keyboard.type("Manifold, two studs missing")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Manifold, two studs missing")).to_be_visible()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name=re.compile("Add photo")).click()
    chooser.value.set_files({"name": "box.png", "mimeType": "image/png", "buffer": PNG})
    expect(page.locator(".photo img")).to_have_count(1)
    page.get_by_role("button", name=re.compile("Bore × stroke")).click()
    engine = page.get_by_role("form", name="Bore × stroke")
    follows = page.locator("dl[aria-label='Calculated']")
    expect(follows).to_contain_text("1.20 L")
    engine.get_by_label("Bore, mm").fill("80")
    expect(follows).to_contain_text("1.36 L")
    engine.get_by_label("Bore, mm").fill("8")
    expect(engine.get_by_role("alert")).to_contain_text("Did you mean 8 cm?")
    engine.get_by_label("Bore, mm").fill("75")
    expect(engine.get_by_role("alert")).to_have_count(0)


def test_check_in_asks_one_question_after_another_by_keyboard_alone(page, url):
    """A flat six in a shop of its own: from a name alone to the board's next step, and back to a line."""
    person = get(url, "/shop")["people"][0]["id"]
    body = {"person_id": person, "kind": "whole_job", "part": "Manifold", "title": "Flat six to be asked about",
            "runner_count": 6, "engine": {"name": "Made-up six", "layout": "flat", "bank_count": 2}}  # fmt: skip
    put(url, f"/jobs/{uuid4()}", body)
    page.reload()
    open_job(page, "Flat six to be asked about")
    expect(page.get_by_role("heading", name=re.compile("Bore and stroke"))).to_be_visible()
    expect(page.get_by_label("Bore, mm")).to_be_focused()
    page.keyboard.type("92")
    page.keyboard.press("Tab")
    page.keyboard.type("7 in")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Rev limit, rpm")).to_be_focused()
    page.keyboard.type("8")
    expect(page.get_by_role("alert")).to_contain_text("The limit can't be 8.")  # noticed on the way to 8000
    page.keyboard.type("000")
    expect(page.get_by_label("Rev limit, rpm")).to_have_value("8000")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=re.compile("which rpm band counts"))).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Bore × stroke"))).to_contain_text("7.09 L")
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    page.keyboard.press("k")
    page.get_by_label("Intake duration").fill("250")
    page.get_by_label("Lobe separation").fill("110")
    page.keyboard.press("Enter")
    cam = page.get_by_role("button", name=re.compile("^K Cam"))
    expect(cam).to_contain_text("250°")
    page.get_by_role("button", name=re.compile("Bore × stroke")).click()
    page.get_by_label("Bore, mm").fill("920 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("is outside 30 to 200 mm")


def test_a_job_like_an_earlier_one_opens_at_take_in(page, url):
    person = get(url, "/shop")["people"][0]["id"]
    body = {"person_id": person, "kind": "port_by_post", "part": "Box to be copied", "runner_count": 4}
    put(url, f"/jobs/{uuid4()}", body)
    page.reload()
    open_job(page, "Box to be copied")
    go(page, "t", "checkin")
    page.get_by_role("button", name=re.compile("New job from this one")).click()
    expect(page.get_by_text("copied from Box to be copied")).to_be_visible()
    page.keyboard.press("o")
    expect(page.get_by_label("Job name")).to_have_value("Box to be copied, again")


def test_a_build_is_named_anew_and_taken_away_by_key(page):
    open_job(page, "Tarnholt 1.2 kit car")
    go(page, "p", "path")
    expect(page.get_by_role("group", name="Air path, stock", exact=True)).to_be_visible()
    page.keyboard.press("c")
    builds = page.get_by_role("group", name="Builds")
    expect(builds.get_by_role("button")).to_have_count(2)
    page.keyboard.press("n")
    expect(page.get_by_label("Name of this build")).to_be_focused()
    page.keyboard.press("Control+a")
    page.keyboard.type("larger cooler")
    page.keyboard.press("Enter")
    expect(builds.get_by_role("button", name="larger cooler")).to_have_class("on")
    expect(page.get_by_label("Name of this build")).to_be_hidden()
    page.keyboard.press("n")
    page.get_by_role("button", name="Take this build away").press("Enter")
    expect(builds.get_by_role("button")).to_have_count(1)
