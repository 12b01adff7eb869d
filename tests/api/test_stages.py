"""Stages of port work: begun by mistake and taken back, what stays of them, and what they ask to be measured again."""

from tests.api.test_port import AT, LATER, pinched, port, said
from tests.shop import new_id

__all__ = ["pinched", "port"]


def test_a_stage_begun_by_mistake_is_taken_back_and_may_come_again(pinched, shop):
    builds = len(shop.builds(pinched.job))
    assert pinched.start(3).status_code == 200
    body = shop.kept(shop.client.delete(f"/api/states/{pinched.state}"))
    sheet = pinched.sheet()
    assert (sheet["in_work"], sheet["state"]) == (False, "as received")
    assert len(shop.builds(pinched.job)) == builds
    shop.kept(shop.put(f"/states/{new_id()}", body))
    assert pinched.sheet()["state"] == "stage 3, cut open"


def test_a_stage_of_which_something_was_measured_stays(pinched, shop):
    assert pinched.start().status_code == 200
    pinched.profile(3, ("44", "43", "43"), at=LATER)
    answer = shop.client.delete(f"/api/states/{pinched.state}")
    assert answer.status_code == 422
    assert "3 readings rest on stage 2" in answer.json()["detail"]
    assert pinched.sheet()["in_work"] is True


def test_a_stage_that_is_done_is_not_taken_back(pinched, shop):
    assert pinched.start().status_code == 200
    shop.kept(shop.client.post(f"/api/states/{pinched.state}/finish", json={"person_id": shop.person}))
    answer = shop.client.delete(f"/api/states/{pinched.state}")
    assert "is done: it stays in the record" in answer.json()["detail"]


def test_a_plenum_measured_before_the_stage_is_to_be_measured_again(pinched, shop):
    body = {"person_id": shop.person, "job_id": pinched.job, "part_state_id": pinched.state, "element_kind": "plenum",
            "quantity": "volume", "typed": "3.1 L", "taken_at": AT}  # fmt: skip
    shop.kept(shop.put(f"/dimensions/{new_id()}", body))
    assert any("The plenum holds 3.1" in one and "before this stage" not in one for one in said(pinched.sheet()))
    assert pinched.start().status_code == 200
    assert any("before this stage. Shaped entries enlarge it." in one for one in said(pinched.sheet()))
