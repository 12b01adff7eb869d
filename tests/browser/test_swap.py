"""The swap sheet in the browser, on a tablet: the demo's inline five worked through to sign-off, and a two-bank eight
that the test makes."""

import re
from types import SimpleNamespace

import pytest
from playwright.sync_api import expect

from tests.api.test_builds import ENGINES, build_body
from tests.browser.flows import go, open_job
from tests.shop import Shop, new_id

TABLET = {"width": 800, "height": 1280}


@pytest.fixture
def tablet(open_page):
    page = open_page("/", has_touch=True)
    page.set_viewport_size(TABLET)
    return page


@pytest.fixture
def at_swap(tablet):
    open_job(tablet, "Veskard 2.4 hill climb")
    go(tablet, "f", "fit")
    expect(task(tablet)).to_be_visible()
    return tablet


def task(page):
    return page.get_by_role("region", name="Task")


def title(page):
    return task(page).get_by_role("heading", level=2).first


def strand(page, words):
    return page.locator(".strand", has_text=words).first


def test_the_sheet_says_what_is_transferred_adapted_and_looped(at_swap):
    page = at_swap
    expect(title(page)).to_have_text("Flange bolts crosswise")
    for words, verb in (("brake servo", "transfer"), ("throttle coolant", "loop"), ("throttle cable", "adapt"),
                        ("vacuum nipple", "new"), ("Cast manifold F5", "transfer")):  # fmt: skip
        expect(strand(page, words).locator(".line b")).to_have_text(verb)
    expect(page.locator(".left")).to_contain_text("Throttle")
    expect(page.get_by_label("Before it runs")).to_contain_text("Not to be started: throttle shaft and screws")
    expect(page.get_by_label("Then, and what holds it up")).to_contain_text("refused: 12 open")


def test_a_label_s_code_finds_its_task_and_an_early_tick_is_asked_about(at_swap):
    page = at_swap
    page.keyboard.press("c")
    expect(page.get_by_label("Code on the label")).to_be_focused()
    page.keyboard.type("v1")
    page.keyboard.press("Enter")
    expect(title(page)).to_have_text("V1 Brake servo on")
    expect(task(page)).to_contain_text("At idle: into the manifold; at full throttle: held by its check valve.")
    page.keyboard.press(" ")
    expect(page.locator(".problem")).to_contain_text("Before it: Flange bolts crosswise.")
    with page.expect_popup() as opened:
        page.keyboard.press("l")
    assert "/labels.pdf" in opened.value.url


def test_bolts_are_tightened_and_the_rest_follows_to_the_sign_off(at_swap):
    page = at_swap
    expect(task(page).get_by_role("heading", name="Bolt 5", exact=True)).to_be_visible()
    bolt = page.locator(".bolt-now .over, .bolt-now h2")
    for left in range(6 + 3 * 10, 0, -1):  # the rest of the round at 30 %, then 60 %, 100 % and once round
        before = bolt.all_text_contents()
        page.keyboard.press(" ")
        if left > 1:
            expect(bolt).not_to_have_text(before)
    expect(task(page).get_by_role("button", name=re.compile("^Done"))).to_be_visible()
    page.keyboard.press(" ")
    expect(title(page)).not_to_have_text("Flange bolts crosswise")
    # sign-off is refused with its list as long as anything that can hurt is open
    page.get_by_label("Then, and what holds it up").get_by_text("Sign off").click()
    expect(title(page)).to_have_text("Sign off")
    page.keyboard.press(" ")
    expect(page.locator(".problem")).to_contain_text("Sign-off is refused. Open: safety: Brake servo on")
    page.keyboard.press("ArrowUp")
    page.reload()
    expect(task(page)).to_be_visible()
    work_through(page)
    expect(page.get_by_role("link", name=re.compile("Fit signed off"))).to_be_visible()


def work_through(page):
    """Every task that is left, by Space; what is measured is typed."""
    for _ in range(90):
        now = title(page).inner_text()
        if task(page).locator(".over").inner_text().startswith("Done"):
            return
        field = task(page).get_by_label(re.compile("^idle"))
        if field.count():
            field.fill("830 rpm")
            field.press("Enter")
        else:
            page.keyboard.press(" ")
        if now == "Sign off":
            return
        expect(title(page)).not_to_have_text(now)


def test_room_codes_and_causes_are_noted(at_swap):
    page = at_swap
    page.keyboard.press("k")
    expect(page.get_by_label("Room")).to_contain_text("mm off bracket tab")
    page.keyboard.press("3")
    causes = page.get_by_label("Runs badly").get_by_role("listitem")
    expect(causes.first).to_contain_text("the flange gasket or a port seal")
    causes.first.get_by_role("button", name="not it").click()
    expect(causes.first.get_by_role("button", name="✓ not it")).to_be_visible()
    page.keyboard.press("6")
    expect(page.get_by_label("Runs badly")).to_contain_text("stop the engine")
    page.get_by_role("button", name="P0171", exact=True).click()
    code = page.get_by_label("Fault codes").locator(".row", has_text="P0171")
    code.get_by_role("button", name="cleared").click()
    expect(code.get_by_role("button", name="✓ cleared")).to_be_visible()
    code.get_by_role("button", name="back").click()
    expect(code).to_contain_text("Genuine: it came back.")
    page.keyboard.press("Escape")
    expect(page.get_by_label("Then, and what holds it up")).to_contain_text("refused")
    page.keyboard.press("v")
    expect(page.get_by_role("heading", name="For the tuner")).to_be_visible()
    expect(page.get_by_role("article")).to_contain_text("Throttle's bore 64.7 → 68.7 mm")


class Asked:
    """The server's API as the tests' shop asks it, past the browser's pages."""

    def __init__(self, request, url):
        self.request, self.url = request, url
        self.headers = {"Authorization": f"Bearer {url.key}"}

    def _answer(self, answer):
        return SimpleNamespace(status_code=answer.status, text=answer.text(), json=answer.json)

    def get(self, path, params=None):
        return self._answer(self.request.get(self.url + path, params=params or {}, headers=self.headers))

    def put(self, path, json):
        return self._answer(self.request.put(self.url + path, data=json, headers=self.headers))

    def patch(self, path, json):
        return self._answer(self.request.patch(self.url + path, data=json, headers=self.headers))


def two_bank(page, url):
    """A job of a two-bank eight whose manifold is exchanged; returns its id."""
    shop = Shop(Asked(page.request, url))
    job = shop.job(8, "whole_job", title="Two-bank eight", surroundings={"ports": ["brake servo", "breather"]})
    count, tree = ENGINES["two-bank eight on one plenum"]
    for name, part in (("cast", "Cast eight"), ("tall", "Tall eight")):
        build, state = new_id(), shop.part("manifold", part)
        shop.kept(shop.put(f"/builds/{build}", {**build_body(shop, job, tree, count), "name": name}))
        view = next(one for one in shop.builds(job) if one["id"] == build)
        node = next(e["node_id"] for e in elements(view["path"]) if e["kind"] == "plenum")
        body = {"version": view["version"], "node_id": node, "part_state_id": state}
        shop.kept(shop.client.patch(f"/api/builds/{build}", json=body))
    return job


def elements(node):
    return [node["element"]] if node.get("element") else [e for n in node["nodes"] for e in elements(n)]


def test_a_two_bank_eight_is_planned_decided_and_counted(tablet, url):
    page = tablet
    page.goto(f"{url}/jobs/{two_bank(page, url)}/fit")
    expect(page.get_by_role("heading", name="Fitting", exact=True)).to_be_visible()
    page.keyboard.press("w")
    expect(page.get_by_role("heading", name="What comes off, and what goes on?")).to_be_visible()
    for label, build in (("Comes off", "cast"), ("Goes on", "tall")):
        page.get_by_label(label, exact=True).click()
        page.get_by_role("option", name=build, exact=True).click()
        expect(page.get_by_role("option")).to_have_count(0)
    page.get_by_label("Engine family, empty for none").fill("Test eight")
    page.get_by_label("Engine family, empty for none").press("Enter")
    expect(title(page)).to_have_text("Count the kit against its list")
    expect(strand(page, "Cast eight").locator(".on")).to_have_text("Tall eight")
    # what nobody noted is decided by a key
    strand(page, "brake servo").click()
    expect(task(page)).to_contain_text("Nobody noted whether the new one has a place for the brake servo")
    page.keyboard.press("1")
    expect(strand(page, "brake servo").locator(".line b")).to_have_text("transfer")
    page.keyboard.press("e")
    kit = page.get_by_label("Kit", exact=True)
    expect(kit.locator(".row", has_text="flange gasket")).to_contain_text("2 ×")
    page.get_by_role("button", name="all there").click()
    way = page.get_by_label("In the way", exact=True)
    way.get_by_label("What").fill("seat")
    way.get_by_label("Minutes").fill("20 min")
    way.get_by_label("Minutes").press("Enter")
    expect(way).to_contain_text("20 min, off and on")
    page.keyboard.press("Escape")
    strand(page, "breather").click()
    page.keyboard.press("4")
    expect(strand(page, "breather").locator(".line b")).to_have_text("drill and tap")
    page.keyboard.press("e")
    page.get_by_role("button", name="all there").click()
    expect(kit.locator(".row", has_text="barb 1/8-27 NPT")).to_contain_text("there")
    expect(kit.locator(".row", has_text="not counted")).to_have_count(0)
    page.keyboard.press("e")
    page.reload()
    work_through(page)
    expect(page.get_by_role("link", name=re.compile("Fit signed off"))).to_be_visible()
