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
