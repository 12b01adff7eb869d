"""Engines of every shape as trees of part states, drawn and guarded by the database."""

import pytest
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

from tests.shop import new_id


def element(kind, cylinder=None, bank=None):
    return {"type": "element", "kind": kind, "label": f"{kind} {cylinder or bank or ''}".strip(), "cylinder": cylinder,
            "bank": bank}  # fmt: skip


def series(*nodes):
    return {"type": "series", "nodes": list(nodes)}


def branches(*nodes):
    return {"type": "branches", "nodes": list(nodes)}


def runners(numbers, bank=None):
    return branches(*[element("runner", number, bank) for number in numbers])


ENGINES = {
    "two-bank eight on one plenum": (
        8,
        series(element("filter"), element("tube"), element("throttle"), element("plenum"),
               branches(runners((1, 3, 5, 7), 1), runners((2, 4, 6, 8), 2))),
    ),
    "flat six with two plenums": (
        6,
        series(element("filter"), element("throttle"),
               branches(series(element("plenum", bank=1), runners((1, 2, 3), 1)),
                        series(element("plenum", bank=2), runners((4, 5, 6), 2)))),
    ),
    "single with throttle and no plenum": (1, series(element("filter"), element("throttle"), element("runner", 1))),
    "twin on one tube": (2, series(element("filter"), element("throttle"), runners((1, 2)))),
    "throttle for each of four": (
        4,
        branches(*[series(element("inlet", n), element("throttle", n), element("runner", n)) for n in (1, 2, 3, 4)]),
    ),
    "two ducts into one box": (
        3,
        series(branches(element("inlet"), element("inlet")), element("filter"), element("plenum"), runners((1, 2, 3))),
    ),
}  # fmt: skip


def build_body(shop, job, tree, count, **more):
    return {"person_id": shop.person, "job_id": job, "name": f"as designed {new_id()[:4]}", "cylinder_count": count,
            "tree": tree, **more}  # fmt: skip


def outline(node):
    if node["type"] == "element":
        return node["element"]["kind"], node["element"]["cylinder"]
    return [node["type"], *map(outline, node["nodes"])]


def wanted(node):
    if node["type"] == "element":
        return node["kind"], node["cylinder"]
    return [node["type"], *map(wanted, node["nodes"])]


@pytest.mark.parametrize("name", ENGINES)
def test_every_engine_is_kept_and_given_back_as_its_tree(shop, name):
    count, tree = ENGINES[name]
    job = shop.job(runners=count)
    body, identifier = build_body(shop, job, tree, count), new_id()
    for _ in range(2):
        shop.kept(shop.put(f"/builds/{identifier}", body))
    kept = next(build for build in shop.builds(job) if build["id"] == identifier)
    assert outline(kept["path"]) == wanted(tree)


@pytest.mark.parametrize(
    ("tree", "words"),
    [
        (series(element("filter"), runners((1, 1))), "fed twice"),
        (series(element("filter"), runners((1,))), "Cylinder 2 is not fed"),
        (series(element("filter"), branches(element("runner", 1), element("tube"))), "ends at no cylinder"),
        (series(element("filter"), branches()), "is empty"),
        ({"type": "element", "kind": "carpet"}, "'carpet' is no kind"),
        ({"type": "loop", "nodes": []}, "'loop' is no node"),
    ],
)
def test_a_path_that_feeds_no_engine_is_refused(shop, tree, words):
    job = shop.job(runners=2)
    answer = shop.put(f"/builds/{new_id()}", build_body(shop, job, tree, 2))
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_a_job_has_one_stock_build(shop, engine):
    job = shop.job(kind="whole_job", runners=2)
    tree = series(element("filter"), runners((1, 2)))
    answer = shop.put(f"/builds/{new_id()}", build_body(shop, job, tree, 2, is_stock=True))
    assert (answer.status_code, answer.json()["code"]) == (422, "contradicts")
    assert "uq_build_one_stock" in answer.json()["detail"]


@pytest.mark.parametrize(
    ("statement", "constraint"),
    [
        ("update build_node set parent_type = 'element' where parent_id is not null", "parent_type"),
        ("update build_node set element_kind = null where node_type = 'element'", "element_has_kind"),
        ("update build_node set cylinder = 99 where cylinder is not null", "cylinder"),
        ("update build_node set parent_id = null, parent_type = null", "one_root"),
        ("update part_state set sequence = 0", "sequence"),
        ("update job set band_low_rpm = 7000, band_high_rpm = 4000", "band"),
        ("update job_kind set rail = '{}'", "rail_filled"),
        ("update step set rail_step = 'takein'", "rail_step"),
        ("update step set state = 'done', done_at = null", "done_when"),
        ("insert into part_piece (part_id, piece_id, position, role) select id, id, 1, '' from part", "not_itself"),
    ],
)
def test_the_database_guards_what_must_hold(shop, engine, statement, constraint):
    job = shop.job()
    step = {"person_id": shop.person, "job_id": job, "rail_step": "port", "title": "80 grit"}
    shop.kept(shop.put(f"/steps/{new_id()}", step))
    with engine.connect() as connection, pytest.raises(IntegrityError, match=constraint):
        connection.execute(text(statement))


def test_parts_consist_of_pieces(shop, engine):
    job = shop.job()
    whole = shop.get(f"/jobs/{job}")["parts"][0]["id"]
    for role in ("upper", "lower"):
        piece = {"kind": "manifold", "name": f"{role} half", "state_id": new_id(), "piece_of": whole, "role": role}
        shop.kept(shop.put(f"/parts/{new_id()}", {"person_id": shop.person, "job_id": job, **piece}))
    question = text("select role from part_piece where part_id = :id order by position")
    with engine.connect() as connection:
        assert [row.role for row in connection.execute(question, {"id": whole})] == ["upper", "lower"]


def test_a_cut_makes_a_state_and_the_build_that_has_it(shop):
    job = shop.job(kind="whole_job", runners=3)
    state = shop.cut(job, stage=1)
    stock, cut = shop.builds(job)
    assert (stock["is_stock"], cut["is_stock"], cut["name"]) == (True, False, "stage 1, clean-up")
    assert [node["element"]["part_state_id"] for node in cut["path"]["nodes"][-1]["nodes"]] == [state] * 3
    part = shop.get(f"/jobs/{job}")["parts"][0]
    again = shop.put(f"/states/{state}", {"person_id": shop.person, "part_id": part["id"], "stage": 1})
    assert again.status_code == 200
    assert len(shop.builds(job)) == 2


def test_a_part_is_mounted_on_the_version_that_was_seen(shop, client):
    job = shop.job(kind="whole_job", runners=2)
    build, state = shop.builds(job)[0], new_id()
    node = build["path"]["nodes"][0]["element"]["node_id"]
    part = {"person_id": shop.person, "job_id": job, "kind": "filter", "name": "Box", "state_id": state}
    shop.kept(shop.put(f"/parts/{new_id()}", part))
    body = {"version": build["version"], "node_id": node, "part_state_id": state}
    shop.kept(client.patch(f"/api/builds/{build['id']}", json=body))
    assert client.patch(f"/api/builds/{build['id']}", json=body).json()["code"] == "stale"
    assert shop.builds(job)[0]["path"]["nodes"][0]["element"]["part_state_id"] == state


def test_an_unmeasured_element_is_told_from_a_measured_one(shop):
    job = shop.job(kind="whole_job", runners=2)
    state = shop.sheet(job)["before_state_id"]
    stamp = {"person_id": shop.person, "job_id": job, "taken_at": "2026-03-02T08:00:00Z", "part_state_id": state}
    measured = {**stamp, "element_kind": "plenum", "quantity": "bore", "typed": "3 1/2 in"}
    shop.kept(shop.put(f"/dimensions/{new_id()}", measured))
    bore = {**stamp, "element_kind": "runner", "cylinder": 1, "quantity": "bore", "typed": "40 mm"}
    shop.kept(shop.put(f"/dimensions/{new_id()}", bore))
    nodes = shop.builds(job)[0]["path"]["nodes"]
    plenum = next(node["element"] for node in nodes if node["element"] and node["element"]["kind"] == "plenum")
    assert plenum["bore_mm"] == pytest.approx(88.9)
    assert plenum["ceiling"] is None  # a plenum has no loss of its own
    first, second = (node["element"] for node in nodes[-1]["nodes"])
    assert (first["ceiling"]["text"], second["ceiling"]) == ("276", None)
    assert nodes[0]["element"]["bore_mm"] is None
    assert nodes[0]["element"]["ceiling"] is None


class TestTakingBack:
    def copy(self, shop, job):
        stock, identifier = shop.builds(job)[0], new_id()
        shop.kept(shop.put(f"/build-copies/{identifier}", {"person_id": shop.person, "copy_of": stock["id"]}))
        return next(b for b in shop.builds(job) if b["id"] == identifier)

    def test_a_build_is_named_anew_on_the_version_that_was_seen(self, shop):
        job = shop.job(4, "whole_job")
        build = self.copy(shop, job)
        rename = {"version": build["version"], "name": "  with   the box "}
        assert shop.client.patch(f"/api/builds/{build['id']}/name", json=rename).status_code == 200
        assert shop.builds(job)[1]["name"] == "with the box"
        assert shop.client.patch(f"/api/builds/{build['id']}/name", json=rename).status_code == 409
        taken = {"version": shop.builds(job)[1]["version"], "name": "STOCK"}
        refused = shop.client.patch(f"/api/builds/{build['id']}/name", json=taken)
        assert (refused.status_code, refused.json()["path"]) == (422, "name")

    def test_one_that_nothing_rests_on_is_taken_away(self, shop):
        job = shop.job(4, "whole_job")
        build = self.copy(shop, job)
        gone = shop.client.delete(f"/api/builds/{build['id']}", params={"version": build["version"]})
        assert gone.status_code == 200
        assert [b["name"] for b in shop.builds(job)] == ["stock"]
        assert shop.client.delete(f"/api/builds/{build['id']}", params={"version": 1}).status_code == 404

    def test_stock_stays_and_so_does_what_was_measured_with(self, shop):
        job = shop.job(4, "whole_job")
        stock = shop.builds(job)[0]
        refused = shop.client.delete(f"/api/builds/{stock['id']}", params={"version": stock["version"]})
        assert "held against" in refused.json()["detail"]
        cut = shop.cut(job)
        shop.series(job, shop.setup(job), cut, [200])
        ported = shop.builds(job)[1]
        refused = shop.client.delete(f"/api/builds/{ported['id']}", params={"version": ported["version"]})
        assert refused.status_code == 422
        assert "1 reading rests on" in refused.json()["detail"]
        assert len(shop.builds(job)) == 2
