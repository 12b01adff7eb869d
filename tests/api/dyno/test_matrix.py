"""Manifolds by throttles, claims and cost."""

import pytest

from tests.api.dyno.asking import AIR, STOCK, content, said
from tests.shop import new_id


class TestMatrix:
    @pytest.fixture
    def four(self, shop, job):
        """Stock and the ported build, each behind two throttles; ids by name."""
        identifier, stock, ported = job
        builds = {"stock": stock, "ported": ported}
        throttle = shop.part("throttle", "Larger throttle")
        for name, source in (("stock, larger", stock), ("ported, larger", ported)):
            builds[name] = shop.varied(identifier, source, "throttle", throttle, name)
        return identifier, builds

    def pulled(self, shop, job, builds, **shares):
        for number, (name, share) in enumerate(shares.items()):
            at = f"2026-03-02T{10 + number}:00:00Z"
            build = builds[name.replace("_", ", ")]
            shop.kept(shop.pull(job, build, content(STOCK * share), **AIR, pulled_at=at))

    def test_each_change_alone_and_together(self, shop, four):
        identifier, builds = four
        self.pulled(shop, identifier, builds, stock=1.0, ported=1.03, stock_larger=1.02, ported_larger=1.06)
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        matrix = sheet["judged"]["matrix"]
        assert [row["name"] for row in matrix["rows"]] == ["stock", "stage 2, entries and curves"]
        assert [[one["figure"]["percent"] for one in row["cells"]] for row in matrix["rows"]] == [
            ["", "+2.0 %"],
            ["+3.0 %", "+6.0 %"],
        ]
        assert matrix["rows"][1]["adds"][0]["percent"] == "+2.9 %"
        assert any("beyond their sum" in text for text in said(sheet))

    def test_an_empty_control_cell_is_named_before_a_claim(self, shop, four):
        identifier, builds = four
        self.pulled(shop, identifier, builds, stock=1.0, ported=1.03, ported_larger=1.06)
        sheet = shop.get(f"/jobs/{identifier}/dyno")
        cells = sheet["judged"]["matrix"]["rows"][0]["cells"]
        assert [one["empty"] for one in cells] == ["", "control, not pulled"]
        assert any("Stock with Larger throttle was not pulled" in text for text in said(sheet))
        assert not any("beyond their sum" in text for text in said(sheet))

    def test_one_thing_changed_makes_no_matrix(self, shop, four):
        identifier, builds = four
        self.pulled(shop, identifier, builds, stock=1.0, ported=1.03)
        assert shop.get(f"/jobs/{identifier}/dyno")["judged"]["matrix"] is None

    def test_claims_and_cost_stand_beside_what_was_measured(self, shop, job):
        identifier, stock, _ = job
        part, state = new_id(), new_id()
        body = {"person_id": shop.person, "job_id": None, "kind": "throttle", "name": "Promising"}
        shop.kept(shop.put(f"/parts/{part}", {**body, "state_id": state}))
        sheet = shop.get(f"/parts/{part}")
        claims = [{"words": "8 % more", "needs": "a tune", "gain_percent": 8}]
        kept = (
            "version",
            "name",
            "maker",
            "number",
            "material",
            "mass_kg",
            "lead_days",
            "note",
            "advertised",
            "features",
        )
        change = {**{name: sheet[name] for name in kept}, "price": 300, "claims": claims}
        shop.kept(shop.client.patch(f"/api/parts/{part}", json=change))
        larger = shop.varied(identifier, stock, "throttle", state, "stock, promising")
        for minute in (0, 1, 2):
            for build, share, hour in ((stock, 1.0, 10), (larger, 1.05, 12)):
                at = f"2026-03-02T{hour}:0{minute}:00Z"
                shop.kept(shop.pull(identifier, build, content(STOCK * share), **AIR, pulled_at=at))
        words = said(shop.get(f"/jobs/{identifier}/dyno"))
        assert (
            "Promising: claim 8 % power, with a tune. Measured with stock, promising: peak in the band +5.0 %, "
            "average +5.0 %."
        ) in words
        assert any("parts for 300 EUR" in text for text in words)
