"""Benches for tests."""

import pytest

from tests.shop import new_id


@pytest.fixture
def bench(shop):
    """A bench of its own, so that no other test teaches it."""

    def made(**more):
        identifier = new_id()
        shop.kept(shop.put(f"/benches/{identifier}", {"name": f"Bench {identifier[:6]}", **more}))
        return identifier

    return made
