"""A boosted engine's path over HTTP: compressor and cooler, what is stated of them, what is assumed."""

import pytest

from tests.api.test_path import ENGINE, UPSTREAM, elements, mounted, solution
from tests.shop import new_id


@pytest.fixture(scope="module")
def boosted(shop):
    """A four at 80 kPa: everything but compressor and cooler was read."""
    engine = {**ENGINE, "boosted": True, "boost_kpa": 80, "compression_ratio": 9}
    job = shop.job(4, "whole_job", engine=engine, band_low_rpm=3000, band_high_rpm=6500)
    build = shop.builds(job)[0]["id"]
    for kind, (bore, flow) in {**UPSTREAM, "tube": ("76 mm", "620")}.items():
        mounted(shop, job, build, kind, bore, flow)
    state = shop.sheet(job)["before_state_id"]
    shop.series(job, shop.setup(job), state, [215, 214, 216, 213])
    return job, build


class TestBoost:
    """A four at 80 kPa: its path has a compressor and a cooler from the start."""

    def words(self, found):
        return " ".join(piece["text"] for sentence in found["margin"] for piece in sentence["pieces"])

    def test_elements_keep_the_flows_that_they_were_read_to_have(self, shop, boosted):
        """The ledger showed the throttle's 560 CFM 1.34 times as large: in the density of the boost."""
        _, build = boosted
        flows = {row["kind"]: row["flow"]["text"] for row in solution(shop, build)["rows"] if row["flow"]}
        assert flows["throttle"] == "560.0"
        assert float(flows["runner"]) == pytest.approx(214.5, abs=0.1)
        assert "read more than" not in self.words(solution(shop, build))

    def test_what_is_not_stated_is_assumed_and_said(self, shop, boosted):
        said = self.words(solution(shop, boosted[1]))
        assert "For 80 kPa of boost at the plenum the compressor has to make" in said
        assert "compressor 70 % (assumed), cooler 70 % (assumed) effective" in said

    def test_a_better_cooler_makes_more_air_and_a_weak_compressor_is_named(self, shop, boosted):
        job, build = boosted
        before = solution(shop, build)
        state = mounted(shop, job, build, "cooler", "60 mm")
        part = next(p["id"] for p in shop.get(f"/jobs/{job}")["parts"] if p["kind"] == "cooler")
        sheet = shop.get(f"/parts/{part}")
        edit = {"version": sheet["version"], "name": "Cooler",
                "features": {"cooling_percent": "95 %", "drop_kpa": 6, "drop_at_cfm": 400}}  # fmt: skip
        assert shop.client.patch(f"/api/parts/{part}", json=edit).status_code == 200
        mounted(shop, job, build, "compressor", "50 mm")
        part = next(p["id"] for p in shop.get(f"/jobs/{job}")["parts"] if p["kind"] == "compressor")
        edit = {"version": shop.get(f"/parts/{part}")["version"], "name": "Compressor",
                "features": {"efficiency_percent": 65, "ratio_limit": "1.7"}}  # fmt: skip
        assert shop.client.patch(f"/api/parts/{part}", json=edit).status_code == 200
        found = solution(shop, build)
        assert state
        assert found["air"]["value"] > before["air"]["value"]
        cooler = next(row for row in found["rows"] if row["kind"] == "cooler")
        assert (cooler["grade"], cooler["flow"] is not None) == ("rule", True)
        said = self.words(found)
        assert "it can 1.7" in said
        assert "compressor 65 %, cooler 95 % effective" in said

    @pytest.mark.parametrize(
        ("kind", "features", "path"),
        [
            ("compressor", {"efficiency_percent": 5}, "features.efficiency_percent"),
            ("compressor", {"ratio_limit": "0.9"}, "features.ratio_limit"),
            ("cooler", {"cooling_percent": "120 %"}, "features.cooling_percent"),
        ],
    )
    def test_what_no_compressor_or_cooler_is_is_refused_in_place(self, shop, boosted, kind, features, path):
        job, build = boosted
        mounted(shop, job, build, kind, "50 mm")
        part = [p["id"] for p in shop.get(f"/jobs/{job}")["parts"] if p["kind"] == kind][-1]
        edit = {"version": shop.get(f"/parts/{part}")["version"], "name": kind, "features": features}
        answer = shop.client.patch(f"/api/parts/{part}", json=edit)
        assert (answer.status_code, answer.json()["path"]) == (422, path)

    def test_without_a_cooler_none_is_told_and_what_is_not_measured_makes_it_at_least(self, shop):
        engine = {**ENGINE, "name": "Made-up twin", "firing_order": [], "boosted": True, "boost_kpa": 50}
        job = shop.job(2, "whole_job", engine=engine, band_low_rpm=3000, band_high_rpm=6500)
        shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], [190, 191])
        build = shop.builds(job)[0]
        cooler = next(e for e in elements(build["path"]) if e["kind"] == "cooler")
        bare = new_id()
        body = {"person_id": shop.person, "copy_of": build["id"], "taken_out": cooler["node_id"]}
        shop.kept(shop.put(f"/build-copies/{bare}", body))
        said = self.words(solution(shop, bare))
        assert "has to make at least 1." in said
        assert "compressor 70 % (assumed), no cooler." in said

    def test_shapes_of_a_boosted_engine_keep_compressor_and_cooler(self, shop, boosted):
        job, _ = boosted
        identifier = new_id()
        body = {"person_id": shop.person, "job_id": job, "shape": "a throttle for each cylinder"}
        shop.kept(shop.put(f"/shaped-builds/{identifier}", body))
        made = next(b for b in shop.builds(job) if b["id"] == identifier)
        kinds = [e["kind"] for e in elements(made["path"])]
        assert kinds[:3] == ["filter", "compressor", "cooler"]
        assert kinds.count("throttle") == 4
