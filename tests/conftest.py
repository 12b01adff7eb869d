"""One database cluster for all tests, a database a module, and a shop to work in."""

import shutil
from pathlib import Path
from tempfile import mkdtemp

import pytest
from fastapi.testclient import TestClient
from hypothesis import settings

from dev.asking import bearer
from elvarn.api.app import create_app
from elvarn.host.cluster import Cluster
from tests.databases import copies, owner_of
from tests.shop import KEY, Shop

ROOT = Path(__file__).resolve().parents[1]
FOLDER = "elvarn_folder"
RUN = pytest.StashKey[Path]()
settings.register_profile("untimed", deadline=None)  # speed is the benchmark's: a loaded machine fails no test
settings.load_profile("untimed")


def pytest_configure(config):
    """The folder of this run; a process that tests beside others is told it."""
    told = getattr(config, "workerinput", {}).get(FOLDER)
    config.stash[RUN] = Path(told or mkdtemp(prefix="elvarn-test-"))
    config.stash[RUN].chmod(0o755)  # the database's own user has to enter it


@pytest.hookimpl(optionalhook=True)
def pytest_configure_node(node):
    node.workerinput[FOLDER] = str(node.config.stash[RUN])


def pytest_collection_modifyitems(items):
    """Files whose tests start servers or browsers come first: short ones fill both processes to the end."""
    items.sort(key=lambda item: item.path.parent.name not in ("host", "browser"))


def pytest_unconfigure(config):
    if not hasattr(config, "workerinput"):
        folder = config.stash[RUN]
        if (folder / "data").exists():
            Cluster(folder / "data").stop()
        shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def run_folder(request):
    return request.config.stash[RUN]


@pytest.fixture(scope="module")
def data_folder(tmp_path_factory):
    return tmp_path_factory.mktemp("data")


@pytest.fixture(scope="module")
def engine(run_folder):
    with copies(run_folder / "data", "template_empty") as engine:
        yield engine


@pytest.fixture(scope="module")
def owner(run_folder, engine):
    """The same database for whom owns it: the application may not change its schema."""
    owner = owner_of(run_folder / "data", engine)
    yield owner
    owner.dispose()


@pytest.fixture(scope="module")
def client(engine, data_folder):
    app = create_app(engine, data_folder / "files", ROOT / "build" / "fonts", KEY, ROOT / "web" / "dist")
    with TestClient(app, base_url="http://127.0.0.1", headers=bearer(KEY)) as client:
        yield client


@pytest.fixture(scope="module")
def shop(client):
    return Shop(client)
