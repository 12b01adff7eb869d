"""A connection lost while typing loses nothing: entries wait in the browser and go out in order."""

import time

from playwright.sync_api import expect

from elvarn.api.door import address_with_key
from tests.browser.flows import new_posted_part, ready, rung, type_and_enter


def captured(page):
    """Typed figures of the requests that the server has answered, in order."""
    sent = []

    def note(response):
        if "/flow-readings/" in response.url and response.ok:
            sent.append(response.request.post_data_json["typed"])

    page.on("response", note)
    return sent


def all_answered(page, sent, *figures):
    """The sheet may tell of a figure before its own answer is noted here."""
    until = time.monotonic() + 10
    while len(sent) < len(figures) and time.monotonic() < until:
        page.wait_for_timeout(20)
    assert sent == list(figures)


def test_figures_wait_while_the_connection_is_gone_and_go_out_in_order(page):
    ready(page)
    new_posted_part(page, "Offline manifold")
    type_and_enter(page, "201.6")
    expect(rung(page, 1).locator(".figure")).to_contain_text("201.6")
    sent = captured(page)
    page.context.set_offline(True)
    type_and_enter(page, "199.1", "191.4", "203.0")
    expect(rung(page, 2)).to_contain_text("199.1 waiting")
    expect(page.get_by_role("status")).to_contain_text("no connection · 3 waiting")
    page.context.set_offline(False)
    expect(rung(page, 4).locator(".figure")).to_contain_text("203.0")
    expect(page.get_by_role("status")).to_be_hidden()
    all_answered(page, sent, "199.1", "191.4", "203.0")


def test_figures_survive_a_reload_before_they_went_out(page):
    ready(page)
    new_posted_part(page, "Closed manifold")
    type_and_enter(page, "201.6")
    expect(rung(page, 1).locator(".figure")).to_contain_text("201.6")
    page.route("**/api/flow-readings/**", lambda route: route.abort())
    type_and_enter(page, "199.1", "191.4")
    expect(rung(page, 3)).to_contain_text("191.4 waiting")
    sent = captured(page)
    page.unroute_all()
    page.reload()
    expect(rung(page, 3).locator(".figure")).to_contain_text("191.4")
    all_answered(page, sent, "199.1", "191.4")


def test_an_answer_that_was_lost_counts_once(page):
    """The server keeps the figure, the answer is lost, the browser sends it again: one reading."""
    ready(page)
    new_posted_part(page, "Echoed manifold")
    type_and_enter(page, "201.6")
    expect(rung(page, 1).locator(".figure")).to_contain_text("201.6")
    lost = []

    def lose(route):
        if not lost:
            lost.append(route.fetch().status)
            route.abort()
        else:
            route.continue_()

    page.route("**/api/flow-readings/**", lose)
    type_and_enter(page, "199.1")
    expect(rung(page, 2).locator(".figure")).to_contain_text("199.1")
    assert lost == [200]
    page.keyboard.press("ArrowUp")
    expect(page.locator(".readings li")).to_have_count(1)


def test_two_tabs_without_a_connection_deliver_each_figure_once(page):
    ready(page)
    new_posted_part(page, "Shared manifold")
    type_and_enter(page, "201.6")
    expect(rung(page, 1).locator(".figure")).to_contain_text("201.6")
    other = page.context.new_page()
    other.goto(page.url)
    expect(rung(other, 1).locator(".figure")).to_contain_text("201.6")
    sent, also = captured(page), captured(other)
    page.context.set_offline(True)
    type_and_enter(page, "199.1", "191.4")
    expect(rung(page, 3)).to_contain_text("191.4 waiting")
    expect(rung(other, 3)).to_contain_text("191.4 waiting")
    rung(other, 4).click()
    type_and_enter(other, "203.0", "198.2")
    expect(rung(page, 5)).to_contain_text("198.2 waiting")
    page.context.set_offline(False)
    for tab in (page, other):
        for number, figure in ((2, "199.1"), (3, "191.4"), (4, "203.0"), (5, "198.2")):
            expect(rung(tab, number).locator(".figure")).to_contain_text(figure)
        expect(tab.get_by_role("status")).to_be_hidden()
    # A tab may look at what waits a moment before the other's deletion reaches it: what goes out twice counts once.
    assert set(sent + also) == {"191.4", "198.2", "199.1", "203.0"}
    for number in (2, 3, 4, 5):
        rung(page, number).click()
        expect(page.locator(".readings li")).to_have_count(1)


def test_what_the_server_falls_over_is_set_aside_shown_and_sent_again(page):
    ready(page)
    new_posted_part(page, "Poisoned manifold")
    falls = True

    def fall(route):
        if falls and route.request.post_data_json["typed"] == "199.1":
            route.fulfill(status=500, json={"detail": "It fell.", "code": "failed"})
        else:
            route.continue_()

    page.route("**/api/flow-readings/**", fall)
    type_and_enter(page, "201.6", "199.1", "191.4")
    expect(rung(page, 3).locator(".figure")).to_contain_text("191.4")
    page.keyboard.press("g")
    page.keyboard.press("s")
    expect(page.get_by_role("button", name="1 not delivered")).to_be_visible()
    page.keyboard.press("j")
    tray = page.get_by_role("dialog", name="Not delivered")
    expect(tray).to_contain_text("a figure of runner 2: 199.1")
    expect(tray).to_contain_text("fell over this")
    falls = False
    tray.get_by_role("button", name="Send again").click()
    expect(tray).to_be_hidden()
    page.go_back()
    expect(rung(page, 2).locator(".figure")).to_contain_text("199.1")


def test_a_browser_that_was_not_let_in_is_told_and_the_printed_address_lets_it_in(browser, url):
    context = browser.new_context()
    page = context.new_page()
    page.goto(url)
    expect(page.get_by_role("alert")).to_contain_text("not let in yet. Open Elvarn once at the address that it printed")
    page.goto(address_with_key(url, url.key))
    expect(page.get_by_role("heading", name="Jobs board")).to_be_visible()
    expect(page.get_by_text("Veskard 2.4 hill climb")).to_be_visible()
    assert url.key not in page.url
    context.close()
