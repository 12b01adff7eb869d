"""Day and night, units, two people at once, an empty shop, odd engines, a tablet."""

import re
from uuid import uuid4

import pytest
from playwright.sync_api import expect

from dev.asking import get, put
from tests.api.test_builds import ENGINES
from tests.browser.flows import go, open_job, ready, rung, type_and_enter

AA = 4.5
PAIRS = [(ink, ground) for ink in ("ink", "quiet", "dye", "cut", "doubt", "harm") for ground in ("ground", "sheet")]
PAIRS += [("ink", "dye-wash"), ("cut", "cut-wash"), ("doubt", "doubt-wash"), ("harm", "harm-wash"), ("on-dye", "dye")]


def luminance(colour):
    channels = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    r, g, b = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(one, other):
    """WCAG 2.1, contrast ratio."""
    low, high = sorted((luminance(one), luminance(other)))
    return (high + 0.05) / (low + 0.05)


def colour(page, name):
    value = page.evaluate(
        "name => getComputedStyle(document.documentElement).getPropertyValue(name)", f"--{name}"
    ).strip()
    return value if len(value) == 7 else "#" + "".join(c * 2 for c in value[1:])


@pytest.mark.parametrize("night", [False, True])
def test_every_text_colour_reads_on_its_ground(page, night):
    ready(page)
    if night:
        page.keyboard.press("m")
        expect(page.locator("html.night")).to_be_attached()
    for ink, ground in PAIRS:
        assert contrast(colour(page, ink), colour(page, ground)) >= AA, f"{ink} on {ground}"


def test_units_are_switched_by_key_and_remembered(page):
    open_job(page, "Odrun M6 manifold")
    expect(rung(page, 1)).to_contain_text("231.")
    page.keyboard.press("y")
    expect(rung(page, 1)).to_contain_text("393.")
    page.reload()
    expect(rung(page, 1)).to_contain_text("393.")


def test_two_people_editing_one_job_see_both_versions(open_page):
    first, second = open_page(), open_page()
    for page in (first, second):
        open_job(page, "Tarnholt 1.2 kit car")
        go(page, "t", "checkin")
        page.get_by_role("button", name=re.compile("^Use and band")).click()
        expect(page.get_by_label("Use", exact=True)).to_have_value("road")
    second.get_by_label("Use", exact=True).fill("touring")
    first.get_by_label("Use", exact=True).fill("track days")
    first.keyboard.press("Enter")
    expect(first.get_by_role("status")).to_contain_text("Saved")
    second.keyboard.press("Enter")
    stale = second.get_by_role("alert")
    expect(stale).to_contain_text("Someone else changed this job")
    expect(stale).to_contain_text("track days")
    expect(stale).to_contain_text("touring")
    second.get_by_role("button", name="Keep mine").click()
    expect(second.get_by_role("status")).to_contain_text("Saved")


@pytest.mark.parametrize("name", ENGINES)
def test_odd_engines_are_drawn_with_every_port(open_page, url, name):
    count, tree = ENGINES[name]
    person = get(url, "/shop")["people"][0]["id"]
    job, build = str(uuid4()), str(uuid4())
    part = {"person_id": person, "kind": "development", "part": name, "runner_count": count}
    put(url, f"/jobs/{job}", part)
    body = {"person_id": person, "job_id": job, "name": "odd", "cylinder_count": count, "tree": tree}
    put(url, f"/builds/{build}", body)
    page = open_page(f"/jobs/{job}/path")
    drawing = page.get_by_role("group", name="Air path, odd")
    expect(drawing.locator(".port")).to_have_count(count)
    expect(page.get_by_role("table", name="Loss ledger")).to_be_visible()
    box, *ports = drawing.evaluate("""drawing => [drawing, ...drawing.querySelectorAll('.port line')]
        .map(one => one.getBoundingClientRect()).map(({top, bottom}) => [top, bottom])""")  # at one moment
    assert len(ports) >= count
    for top, bottom in ports:
        assert box[0] - 1 <= top
        assert bottom <= box[1] + 1


def test_the_bench_fits_a_tablet_upright(open_page):
    page = open_page("/")
    page.set_viewport_size({"width": 800, "height": 1280})
    open_job(page, "Odrun M6 manifold")
    expect(rung(page, 6)).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 800


def test_no_screen_scrolls_sideways(page):
    open_job(page, "Veskard 2.4 hill climb")
    for letter, place in (
        ("t", "checkin"),
        ("p", "path"),
        ("b", "bench"),
        ("o", "port"),
        ("f", "fit"),
        ("d", "dyno"),
        ("h", "handover"),
    ):
        go(page, letter, place)
        page.wait_for_load_state("networkidle")
        assert page.evaluate("document.documentElement.scrollWidth") <= 1280, place


def test_somebody_new_says_who_they_are(page):
    ready(page)
    page.get_by_label("Who is at the bench").click()
    page.get_by_role("option", name="somebody else").click()
    expect(page.get_by_label("Your name")).to_be_focused()
    type_and_enter(page, "Runa")
    expect(page.get_by_text("Runa", exact=True)).to_be_visible()
