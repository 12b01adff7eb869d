"""Folders for servers that run as processes of their own."""

from pathlib import Path
from tempfile import TemporaryDirectory

import pytest


@pytest.fixture
def folder():
    with TemporaryDirectory(prefix="elvarn-start-") as name:
        path = Path(name)
        path.chmod(0o755)
        yield path
