"""The shop's own lines: kept on the version that was seen; one that can't be read takes no other along."""

import json

from sqlalchemy import text


def test_one_line_that_can_not_be_read_leaves_the_others_as_they_were_set(shop, engine):
    seen = shop.get("/settings/path")
    body = {"version": seen["version"], "settings": {**seen["settings"], "hourly_rate": 81.0}}
    shop.kept(shop.client.patch("/api/settings/path", json=body))
    broken = {**body["settings"], "plenum_drop_kpa": "a lot", "gone": 1}
    with engine.begin() as connection:
        connection.execute(text("update setting set value = cast(:value as jsonb)"), {"value": json.dumps(broken)})
    found = shop.get("/settings/path")["settings"]
    assert (found["hourly_rate"], found["plenum_drop_kpa"]) == (81.0, seen["settings"]["plenum_drop_kpa"])


def test_what_matters_is_the_shops_own_and_the_bench_goes_by_it(shop):
    """A change of nothing is no larger than 4 %, where a shop cares about no less; usually it is too close to call."""
    job = shop.job(1)
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    shop.series(job, setup, state, (200,))
    shop.series(job, setup, shop.cut(job), (200.2,))
    assert shop.sheet(job)["mean"]["gain"]["words"].startswith("too close to call")
    view = shop.get("/settings/path")
    for percent, words in (("4 %", "no difference larger than 4 %"), ("1.5", "too close to call")):
        change = {"version": view["version"], "settings": {**view["settings"], "matters_percent": percent}}
        view = shop.kept(shop.client.patch("/api/settings/path", json=change))
        assert shop.sheet(job)["mean"]["gain"]["words"].startswith(words)
    change = {"version": view["version"], "settings": {**view["settings"], "matters_percent": "0"}}
    refused = shop.client.patch("/api/settings/path", json=change)
    assert (refused.status_code, refused.json()["path"]) == (422, "settings.matters_percent")


def test_stages_are_called_as_the_shop_calls_them(shop):
    view = shop.get("/settings/path")
    change = {"version": view["version"], "settings": {**view["settings"], "stage_3": "long shape"}}
    view = shop.kept(shop.client.patch("/api/settings/path", json=change))
    assert {one["stage"]: one["words"] for one in shop.get("/shop")["stages"]}[3] == "long shape"
    job = shop.job()
    shop.cut(job, stage=3)
    assert shop.get(f"/jobs/{job}/port")["state"] == "stage 3, long shape"
    nameless = {"version": view["version"], "settings": {**view["settings"], "stage_1": " "}}
    refused = shop.client.patch("/api/settings/path", json=nameless)
    assert "Name stage 1" in refused.json()["detail"]
