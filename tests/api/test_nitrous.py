"""A nitrous plate in a path: what it takes off, what is only stated of it on, and the caution that always stands."""

import pytest

from tests.api.test_path import ENGINE, UPSTREAM, mounted, solution
from tests.shop import new_id


def words(found):
    return " ".join(piece["text"] for one in found["margin"] for piece in one["pieces"])


@pytest.fixture(scope="module")
def plated(shop):
    """A flat four with a plate put in behind its throttle; ids of job and build."""
    job = shop.job(4, "whole_job", engine={**ENGINE, "layout": "flat", "bank_count": 2}, band_low_rpm=3000,
                   band_high_rpm=6500)  # fmt: skip
    stock = shop.builds(job)[0]
    for kind, (bore, flow) in {**UPSTREAM, "tube": ("76 mm", "620")}.items():
        mounted(shop, job, stock["id"], kind, bore, flow)
    shop.series(job, shop.setup(job), shop.sheet(job)["before_state_id"], [215, 214, 216, 213])
    throttle = next(e for e in elements(stock["path"]) if e["kind"] == "throttle")
    build = new_id()
    body = {"person_id": shop.person, "copy_of": stock["id"], "name": "with plate",
            "put_in": {"node_id": throttle["node_id"], "kind": "nitrous"}}  # fmt: skip
    shop.kept(shop.put(f"/build-copies/{build}", body))
    return job, build


def elements(node):
    return [node["element"]] if node.get("element") else [e for n in node["nodes"] for e in elements(n)]


def test_what_nobody_measured_or_stated_of_it_is_not_pretended(shop, plated):
    said = words(solution(shop, plated[1]))
    assert "what its plate or nozzles take isn't known" in said
    assert "nobody stated what its jets give" in said
    assert "by a qualified person" in said


def test_off_it_costs_a_drop_and_on_it_is_what_its_maker_says(shop, plated):
    job, build = plated
    before = solution(shop, build, rpm=6000)["to_plenum"]
    mounted(shop, job, build, "nitrous", "62 mm", "540")
    part = next(one["id"] for one in shop.get(f"/jobs/{job}")["parts"] if one["kind"] == "nitrous")
    edit = {"version": shop.get(f"/parts/{part}")["version"], "name": "Plate", "features": {"nitrous_kw": "100 hp"}}
    shop.kept(shop.client.patch(f"/api/parts/{part}", json=edit))
    after = solution(shop, build, rpm=6000)
    assert after["to_plenum"]["value"] > before["value"]
    row = next(row for row in after["rows"] if row["kind"] == "nitrous")
    assert f"its plate or nozzles take {row['drop']['value']:.2f} kPa at 6000 rpm" in words(after)
    assert "said to give 75 kW; that is not computed here" in words(after)
    caution = next(one for one in after["margin"] if "qualified person" in "".join(p["text"] for p in one["pieces"]))
    assert caution["tone"] == "harm"
