"""What the tests do by keyboard, as a person with oily hands would."""

import re
import time

from playwright.sync_api import expect


def becomes_true(page, question):
    """Wait until a question about the page is answered with yes; asked from outside, for a page evaluates no text."""
    until = time.monotonic() + 20
    while not page.evaluate(question):
        assert time.monotonic() < until, question
        page.wait_for_timeout(20)


def type_and_enter(page, *texts):
    for text in texts:
        page.keyboard.type(text)
        page.keyboard.press("Enter")


def new_posted_part(page, part, customer="K. Holm", runners="5"):
    """From the board to the bench: three fields."""
    page.keyboard.press("n")
    expect(page.get_by_label("Part", exact=True)).to_be_focused()
    page.keyboard.type(part)
    page.keyboard.press("Tab")
    page.keyboard.type(customer)
    page.keyboard.press("Tab")
    page.keyboard.type(runners)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Runner 1", exact=True)).to_be_visible()
    expect(entry(page)).to_be_focused()


def entry(page):
    return page.get_by_label(re.compile("^Flow of runner"))


def rung(page, number):
    return page.locator(f"[data-rung='{number}']")


def ready(page):
    """The board is there, and somebody is at the bench."""
    expect(page.get_by_role("heading", name="Jobs board")).to_be_visible()
    expect(page.get_by_text("Tove", exact=True)).to_be_visible()
    return page


def open_job(page, title):
    """From the board to a job's screen."""
    ready(page)
    page.get_by_role("link", name=re.compile(title)).click()
    expect(page.get_by_role("heading", name=title, level=1).first).to_be_visible()


def demo_path(page):
    """The hill-climb five's path, stage 2, where the tube is the biggest restriction ahead of the manifold."""
    open_job(page, "Veskard 2.4 hill climb")
    go(page, "p", "path")
    page.get_by_role("group", name="Builds").get_by_role("button", name="stage 2", exact=True).click()
    expect(page.get_by_role("group", name="Air path, stage 2", exact=True)).to_be_visible()
    expect(page.get_by_label("Air path notes")).to_contain_text("the tube is the biggest restriction")


def go(page, letter, place):
    """To another screen of the job."""
    page.keyboard.press("g")
    page.keyboard.press(letter)
    expect(page).to_have_url(re.compile(f"/{place}$"))
