"""What was made in error is taken back: put away and out again, deleted where nothing rests on it, undone; and of two
edits at once both are told."""

import pytest

from tests.api.test_shelf import dimension, part, read, said
from tests.shop import new_id


def board_ids(shop):
    found = shop.get("/board")
    return {card["id"] for column in found["columns"] for card in column["jobs"]}


def away(shop, path, archived, version=None):
    version = version or shop.get(path)["version"]
    return shop.post(f"{path}/away", {"version": version, "archived": archived})


def deleted(shop, path, version=None):
    version = version or shop.get(path)["version"]
    return shop.client.delete(f"/api{path}", params={"version": version})


class TestJobs:
    def test_one_that_is_put_away_leaves_the_board_and_comes_out_again(self, shop):
        job = shop.job(title="made twice")
        shop.kept(away(shop, f"/jobs/{job}", True))
        assert job not in board_ids(shop)
        assert job in {one["id"] for one in shop.get("/board")["archived"]}
        assert shop.get(f"/jobs/{job}")["archived"]
        shop.kept(away(shop, f"/jobs/{job}", False))
        assert job in board_ids(shop)

    def test_one_that_nothing_rests_on_is_deleted_with_its_parts_and_builds(self, shop):
        job = shop.job(4, "whole_job", engine={"name": "four", "layout": "inline"})
        manifold = shop.get(f"/jobs/{job}")["parts"][0]["id"]
        before = shop.get("/board")["count"]
        assert deleted(shop, f"/jobs/{job}").status_code == 204
        assert shop.client.get(f"/api/jobs/{job}").status_code == 404
        assert shop.client.get(f"/api/parts/{manifold}").status_code == 404
        assert shop.get("/board")["count"] == before - 1

    def test_what_was_measured_keeps_its_job(self, shop):
        job = shop.job()
        shop.kept(shop.put(f"/items/{new_id()}", {"person_id": shop.person, "job_id": job, "words": "gasket"}))
        state = shop.sheet(job)["before_state_id"]
        shop.series(job, shop.setup(job), state, [200, 201])
        answer = deleted(shop, f"/jobs/{job}")
        assert answer.status_code == 422
        assert answer.json()["detail"].startswith("2 readings, 1 set-up and 1 received item rest on this job.")
        assert len(shop.sheet(job)["rungs"]) == 5

    def test_a_copied_job_keeps_the_one_that_it_was_copied_from(self, shop):
        job = shop.job()
        shop.kept(shop.put(f"/job-copies/{new_id()}", {"person_id": shop.person, "copy_of": job}))
        assert deleted(shop, f"/jobs/{job}").json()["detail"].startswith("1 job copied from it rests on this job.")

    def test_an_old_version_puts_nothing_away(self, shop):
        job = shop.job()
        shop.kept(away(shop, f"/jobs/{job}", True))
        answer = away(shop, f"/jobs/{job}", False, version=1)
        assert (answer.status_code, answer.json()["code"]) == (409, "stale")
        assert deleted(shop, f"/jobs/{job}", version=1).status_code == 409


class TestParts:
    def test_one_that_is_put_away_is_no_candidate_and_comes_out_again(self, shop):
        identifier, _ = part(shop, "tube", f"Away {new_id()[:4]}")
        name = shop.get(f"/parts/{identifier}")["name"]
        shop.kept(away(shop, f"/parts/{identifier}", True))
        assert name not in [card["name"] for card in shop.cards(find=name)]
        assert name in [card["name"] for card in shop.cards(find=name, archived=True)]
        assert shop.get("/shelf")["put_away"] == 1
        shop.kept(away(shop, f"/parts/{identifier}", False))
        assert name in [card["name"] for card in shop.cards(find=name)]

    def test_one_that_nothing_rests_on_is_deleted(self, shop):
        identifier, _ = part(shop)
        assert deleted(shop, f"/parts/{identifier}").status_code == 204
        assert shop.client.get(f"/api/parts/{identifier}").status_code == 404

    def test_one_that_was_read_stays(self, shop):
        identifier, state = part(shop)
        shop.kept(dimension(shop, state, "throttle", "bore", "70 mm"))
        shop.kept(read(shop, state, "throttle", "610"))
        detail = deleted(shop, f"/parts/{identifier}").json()["detail"]
        assert detail.startswith("2 readings rest on")
        assert "Put it away instead" in detail

    def test_two_edits_at_once_tell_both_versions(self, shop):
        identifier, _ = part(shop)
        seen = shop.get(f"/parts/{identifier}")["version"]
        shop.kept(said(shop, identifier, price=120))
        sheet = shop.get(f"/parts/{identifier}")
        answer = shop.client.patch(
            f"/api/parts/{identifier}", json={"version": seen, "name": sheet["name"], "price": 90}
        )
        problem = answer.json()
        assert (answer.status_code, problem["code"]) == (409, "stale")
        assert (problem["current"]["price"], problem["yours"]["price"]) == (120, 90)
        assert problem["current"]["version"] == sheet["version"]


class TestReceipt:
    def test_a_line_is_taken_off_and_brought_back_as_it_was(self, shop):
        job, item = shop.job(), new_id()
        line = {"person_id": shop.person, "job_id": job, "words": "8 bolts", "condition": "broken", "note": "two bent"}
        shop.kept(shop.put(f"/items/{item}", line))
        body = shop.kept(shop.client.delete(f"/api/items/{item}", params={"version": 1}))
        assert shop.get(f"/jobs/{job}/checkin")["items"] == []
        shop.kept(shop.put(f"/items/{new_id()}", body))
        [back] = shop.get(f"/jobs/{job}/checkin")["items"]
        assert {name: back[name] for name in ("words", "condition", "note")} == {
            name: line[name] for name in ("words", "condition", "note")
        }


class TestBuilds:
    @pytest.fixture
    def job(self, shop):
        return shop.job(8, "whole_job", engine={"name": "eight", "layout": "vee", "bank_count": 2})

    def build(self, shop, job, identifier):
        return next(one for one in shop.builds(job) if one["id"] == identifier)

    def test_a_copy_says_what_it_was_copied_from(self, shop, job):
        stock = shop.builds(job)[0]["id"]
        long = shop.varied(job, stock, "tube", shop.part("tube", "long"), "long")
        wide = shop.varied(job, long, "throttle", shop.part("throttle", "wide"), "long and wide")
        assert self.build(shop, job, long)["copied_from_id"] == stock
        assert self.build(shop, job, wide)["copied_from_id"] == long

    def test_one_that_was_taken_away_comes_back_with_its_parts_under_its_name(self, shop, job):
        stock = shop.builds(job)[0]["id"]
        long = shop.varied(job, stock, "tube", shop.part("tube", "long"), "long")
        before = self.build(shop, job, long)
        body = shop.kept(shop.client.delete(f"/api/builds/{long}", params={"version": before["version"]}))
        assert long not in [one["id"] for one in shop.builds(job)]
        again = new_id()
        shop.kept(shop.put(f"/builds/{again}", body))
        back = self.build(shop, job, again)
        assert (back["name"], back["copied_from_id"]) == ("long", stock)
        assert states(back["path"]) == states(before["path"])

    def test_taking_a_build_away_leaves_what_was_copied_from_it(self, shop, job):
        stock = shop.builds(job)[0]["id"]
        long = shop.varied(job, stock, "tube", shop.part("tube", "long"), "long")
        wide = shop.varied(job, long, "throttle", shop.part("throttle", "wide"), "wide")
        shop.kept(shop.client.delete(f"/api/builds/{long}", params={"version": 1}))
        assert self.build(shop, job, wide)["copied_from_id"] is None


def states(node):
    """Labels and parts along a path, in order."""
    if node.get("element"):
        return [(node["element"]["label"], node["element"]["part_id"])]
    return [one for child in node["nodes"] for one in states(child)]
