"""A job on a dyno of which nothing is known."""

import pytest

from tests.shop import new_id


@pytest.fixture
def job(shop, monkeypatch):
    """A whole job with a cut, so that there is stock and a ported build, and a dyno of which nothing is known; ids of
    job, stock, ported."""
    dyno = new_id()
    shop.kept(shop.put(f"/dynos/{dyno}", {"name": f"new {dyno[:8]}", "kind": "engine"}))
    monkeypatch.setattr(shop, "engine_dyno", dyno)
    identifier = shop.job(kind="whole_job", use="hill climb", band_low_rpm=4500, band_high_rpm=6800)
    shop.cut(identifier)
    stock, ported = shop.builds(identifier)
    return identifier, stock["id"], ported["id"]
