"""The real server with the demo shop, and a real browser that asks nobody else."""

import shutil
from pathlib import Path
from tempfile import TemporaryDirectory
from urllib.parse import urlparse

import pytest
from playwright.sync_api import expect, sync_playwright

from dev.trial import running
from elvarn.api.door import cookie_name, pass_of

ROOT = Path(__file__).resolve().parents[2]
QUIET = ["--disable-gpu", "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1"]
expect.set_options(timeout=30_000)  # a loaded machine may stall for many seconds; what comes sooner is not waited for


@pytest.fixture(scope="session")
def demo_folder():
    """The data of the demo shop as nobody has worked in it yet; its server is stopped."""
    with TemporaryDirectory(prefix="elvarn-demo-") as name:
        with running(ROOT, _open(Path(name))):
            pass
        yield Path(name)


@pytest.fixture(scope="module")
def url(demo_folder):
    """Where the demo shop answers. Each file of tests has a shop of its own: what one keeps, no other finds."""
    with TemporaryDirectory(prefix="elvarn-browser-") as name:
        data = shutil.copytree(demo_folder, Path(name, "data"))
        _open(Path(name))
        with running(ROOT, _open(data)) as address:
            yield address


@pytest.fixture(scope="session")
def browser():
    with sync_playwright() as playwright:
        launched = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=QUIET)
        yield launched
        launched.close()


@pytest.fixture
def open_page(browser, url):
    """Open pages of their own; afterwards none may have asked another host or said an error."""
    contexts, asked, errors = [], [], []

    def opened(path="/", **options):
        context = browser.new_context(viewport={"width": 1280, "height": 800}, **options)
        contexts.append(context)
        context.add_cookies([{"name": cookie_name(urlparse(url).netloc), "value": pass_of(url.key), "url": url}])
        page = context.new_page()
        page.on("request", lambda request: asked.append(urlparse(request.url).netloc))
        page.on("filechooser", lambda _: None)  # asked for from the start, or the first chooser may be missed
        page.on("pageerror", lambda error: errors.append(str(error)))
        page.add_init_script("window.printed = 0; window.print = () => { window.printed += 1 }")
        page.goto(url + path)
        return page

    yield opened
    for context in contexts:
        context.close()
    assert {host for host in asked if host} <= {urlparse(url).netloc}
    assert errors == []


@pytest.fixture
def page(open_page):
    return open_page()


def _open(folder):
    """The database's own user has to enter it."""
    folder.chmod(0o755)
    return folder
