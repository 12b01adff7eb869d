"""One database cluster for all tests, and a shop to work in."""

from pathlib import Path
from tempfile import TemporaryDirectory

import pytest
from fastapi.testclient import TestClient

from elvarn.api.app import create_app
from elvarn.cluster import Cluster
from elvarn.store.engine import open_engine
from elvarn.store.migrate import migrate
from tests.shop import Shop

ROOT = Path(__file__).resolve().parents[1]


@pytest.fixture(scope="session")
def data_folder():
    with TemporaryDirectory(prefix="elvarn-test-") as name:
        folder = Path(name)
        folder.chmod(0o755)  # the database's own user has to enter it
        yield folder


@pytest.fixture(scope="session")
def engine(data_folder):
    cluster = Cluster(data_folder)
    cluster.start()
    engine = open_engine(cluster.url)
    migrate(engine)
    yield engine
    engine.dispose()
    cluster.stop()


@pytest.fixture(scope="session")
def client(engine, data_folder):
    app = create_app(engine, data_folder / "files", ROOT / "build" / "fonts", ROOT / "web" / "dist")
    with TestClient(app, base_url="http://127.0.0.1") as client:
        yield client


@pytest.fixture(scope="session")
def shop(client):
    return Shop(client)
