"""A boosted engine's path over HTTP: compressor and cooler, what is stated of them, what is assumed."""

import pytest

from tests.api.test_path import ENGINE, UPSTREAM, elements, mounted, solution
from tests.api.test_shelf import dimension, part, read
from tests.shop import new_id

MAP = "corrected flow [kg/s],pressure ratio,efficiency [%]\n" + "\n".join(
    f"{flow},{ratio},62" for ratio in (1.2, 1.6, 2.2, 3.0) for flow in (0.02, 0.1, 0.3, 0.6)
)


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

    def test_what_ends_the_boost_is_the_part_that_is_rated_for_least_and_knock_is_not_pretended(self, shop):
        engine = {**ENGINE, "boosted": True, "boost_kpa": 80, "compression_ratio": 9, "card": {"octane": 98}}
        job = shop.job(4, "whole_job", engine=engine, band_low_rpm=3000, band_high_rpm=6500)
        build = shop.builds(job)[0]["id"]
        for kind in ("throttle", "cooler"):
            mounted(shop, job, build, kind, "60 mm", "600")
        parts = {one["kind"]: one["id"] for one in shop.get(f"/jobs/{job}")["parts"]}
        said = self.words(solution(shop, build))
        assert "Not rated for pressure:" in said
        assert "compression 9, 98 octane" in said
        for kind, rating in (("throttle", 150), ("cooler", 110), ("manifold", 200)):
            version = shop.get(f"/parts/{parts[kind]}")["version"]
            edit = {"version": version, "name": kind, "features": {"boost_kpa": rating}}
            shop.kept(shop.client.patch(f"/api/parts/{parts[kind]}", json=edit))
        said = self.words(solution(shop, build))
        assert "Of the parts that are rated, cooler is for least: 110 kPa." in said
        assert "Not rated" not in said
        version = shop.get(f"/parts/{parts['cooler']}")["version"]
        edit = {"version": version, "name": "cooler", "features": {"boost_kpa": 81}}
        shop.kept(shop.client.patch(f"/api/parts/{parts['cooler']}", json=edit))
        assert "cooler is rated 81 kPa; up to" in self.words(solution(shop, build))  # 80 at the plenum, and the drops

    def test_the_compressors_map_tells_its_efficiency_or_that_it_is_left(self, shop):
        engine = {**ENGINE, "boosted": True, "boost_kpa": 80, "compression_ratio": 9}
        job = shop.job(4, "whole_job", engine=engine, band_low_rpm=3000, band_high_rpm=6500)
        build = shop.builds(job)[0]["id"]
        mounted(shop, job, build, "compressor", "60 mm")
        part = next(one["id"] for one in shop.get(f"/jobs/{job}")["parts"] if one["kind"] == "compressor")
        shop.kept(self.took(shop, part, MAP))
        said = self.words(solution(shop, build, rpm=6000))
        assert "compressor 62 % by its map" in said
        shop.kept(self.took(shop, part, MAP.replace(",62", ",78")))
        assert "compressor 78 % by its map" in self.words(solution(shop, build, rpm=6000))
        small = "\n".join(f"{float(line.split(',')[0]) / 20},{line.split(',', 1)[1]}" for line in MAP.splitlines()[1:])
        shop.kept(self.took(shop, part, MAP.splitlines()[0] + "\n" + small))
        assert "Beside its map at 6000 rpm" in self.words(solution(shop, build, rpm=6000))

    def took(self, shop, part, content):
        version = shop.get(f"/parts/{part}")["version"]
        return shop.client.post(f"/api/parts/{part}/map", params={"version": version}, content=content.encode())

    def test_coolers_and_compressors_are_ranked_by_how_warm_they_leave_the_air(self, shop):
        """At the ratio that the path takes: ρ goes with 1/T, T = T₁ (1 + (1 − ε)(r^0.2857 − 1)/η) (Heywood, 6.8)."""
        engine = {**ENGINE, "boosted": True, "boost_kpa": 80, "compression_ratio": 9}
        job = shop.job(4, "whole_job", engine=engine, band_low_rpm=3000, band_high_rpm=6500)
        build = shop.builds(job)[0]["id"]
        for kind, (bore, flow) in {**UPSTREAM, "cooler": ("60 mm", "500"), "compressor": ("60 mm", None)}.items():
            mounted(shop, job, build, kind, bore, flow)
        shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], [215, 214, 216, 213])
        own = {one["kind"]: one["id"] for one in shop.get(f"/jobs/{job}")["parts"]}
        assert "has no effectiveness at" in self.told(shop, job, "cooler")
        assert "has no efficiency or map at" in self.told(shop, job, "compressor")
        self.states(shop, own["cooler"], cooling_percent=60)
        self.states(shop, own["compressor"], efficiency_percent=62)
        better = self.on_shelf(shop, "cooler", "Larger cooler", cooling_percent=85)
        strong = self.on_shelf(shop, "compressor", "Other compressor", efficiency_percent=74, ratio_limit=2.6)
        self.on_shelf(shop, "compressor", "Short of breath", efficiency_percent=76, ratio_limit=1.5)
        self.on_shelf(shop, "compressor", "Never said")
        ratio = self.ratio(shop, job)
        rise = ratio ** (0.4 / 1.4) - 1
        warm = {(eta, eps): 1 + (1 - eps) * rise / eta for eta in (0.62, 0.74) for eps in (0.6, 0.85)}
        row = self.row(shop, job, "cooler", better)
        wanted = 100 * (warm[0.62, 0.6] / warm[0.62, 0.85] - 1)
        assert wanted - 1.6 < row["gain_low_percent"] < wanted  # the more air loses more on its way
        build_id = shop.builds(job)[0]["id"]
        node = next(e for e in elements(shop.builds(job)[0]["path"]) if e["kind"] == "cooler")
        change = {"node_id": node["node_id"], "part_state_id": row["state_id"]}
        for rpm, apart in ((3000, 0.1), (6500, 0.5)):  # the path draws what its boost alone, without the drops, heats
            thought = solution(shop, build_id, rpm=rpm, changes=[change])
            point = next(one for one in row["curve"] if one["rpm"] == rpm)
            assert thought["gained_high_percent"] == pytest.approx(point["high_percent"], abs=apart)
        row = self.row(shop, job, "compressor", strong)
        wanted = 100 * (warm[0.62, 0.6] / warm[0.74, 0.6] - 1)
        assert wanted - 0.6 < row["gain_high_percent"] < wanted
        rows = {one["name"]: one for one in shop.get(f"/jobs/{job}/candidates", kind="compressor")["candidates"]}
        assert rows["Short of breath"]["suits"] == "ruled_out"
        assert "it makes 1.5" in rows["Short of breath"]["conflicts"][0]["text"]
        assert rows["Never said"]["suits"] == "not_known"
        assert "the highest pressure ratio" in rows["Never said"]["unchecked"]

    def told(self, shop, job, kind):
        return self.words(shop.get(f"/jobs/{job}/candidates", kind=kind))

    def row(self, shop, job, kind, part):
        rows = shop.get(f"/jobs/{job}/candidates", kind=kind)["candidates"]
        return next(one for one in rows if one["part_id"] == part)

    def ratio(self, shop, job):
        """The ratio in the middle of the band, as the path says it."""
        said = self.words(solution(shop, shop.builds(job)[0]["id"], rpm=4750))
        return float(said.split("the compressor has to make ")[1].split(" to 1")[0])

    def states(self, shop, part_id, **features):
        sheet = shop.get(f"/parts/{part_id}")
        edit = {"version": sheet["version"], "name": sheet["name"], "features": features}
        shop.kept(shop.client.patch(f"/api/parts/{part_id}", json=edit))

    def on_shelf(self, shop, kind, name, **features):
        made, state = part(shop, kind, name)
        shop.kept(dimension(shop, state, kind, "bore", "60 mm"))
        if kind == "cooler":
            shop.kept(read(shop, state, kind, "500"))
        self.states(shop, made, **features)
        return made

    @pytest.mark.parametrize(
        ("content", "words"),
        [
            ("flow [kg/s],ratio\n0.1,1.5\n", "no column 'efficiency'"),
            ("flow,ratio,efficiency\n0.1,1.5,70\n", "has no unit"),
            ("flow [kg/s],ratio,efficiency\n0.1,1.5,70\n0.2,1.5,70\n", "2 points"),
            ("flow [kg/s],ratio,efficiency\n0.1,0.5,70\n0.2,1.5,70\n", "Point 1: a pressure ratio of 0.5"),
            ("flow [lb/min],ratio,efficiency\n10,1.5,7\n", "an efficiency of 7 %"),
        ],
    )
    def test_a_map_that_is_none_is_refused_with_its_row(self, shop, boosted, content, words):
        job, build = boosted
        mounted(shop, job, build, "compressor", "50 mm")
        part = [p["id"] for p in shop.get(f"/jobs/{job}")["parts"] if p["kind"] == "compressor"][-1]
        answer = self.took(shop, part, content)
        assert answer.status_code == 422
        assert words in answer.json()["detail"]

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
