"""A connection lost while typing loses nothing: entries wait in the browser and go out in order."""

from playwright.sync_api import expect

from tests.browser.flows import new_posted_part, ready, rung, type_and_enter


def captured(page):
    """Typed figures of the requests that the server has answered, in order."""
    sent = []

    def note(response):
        if "/flow-readings/" in response.url and response.ok:
            sent.append(response.request.post_data_json["typed"])

    page.on("response", note)
    return sent


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
    assert sent == ["199.1", "191.4", "203.0"]


def test_figures_survive_a_reload_before_they_went_out(page):
    ready(page)
    new_posted_part(page, "Closed manifold")
    type_and_enter(page, "201.6")
    expect(rung(page, 1).locator(".figure")).to_contain_text("201.6")
    page.route("**/api/flow-readings/**", lambda route: route.abort())
    type_and_enter(page, "199.1", "191.4")
    expect(rung(page, 3)).to_contain_text("191.4 waiting")
    page.unroute_all()
    sent = captured(page)
    page.reload()
    expect(rung(page, 3).locator(".figure")).to_contain_text("191.4")
    assert sent == ["199.1", "191.4"]


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
