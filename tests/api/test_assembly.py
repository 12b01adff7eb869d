"""Pieces of an assembly over the API: each at its own stage, named along the runner, and what can hardly be."""

import pytest

from tests.api.test_port import Porting
from tests.shop import new_id

HALVES = [{"role": "upper half", "to_mm": 120}, {"role": "lower half", "to_mm": 310}]


@pytest.fixture
def port(shop):
    found = Porting(shop, runners=4)
    found.shop.kept(found.plan(pieces=HALVES)[1])
    return found


def pieces(port):
    return {one["role"]: one for one in port.sheet()["pieces"]}


def begin(port, role, stage=2):
    identifier = new_id()
    body = {"person_id": port.shop.person, "part_id": port.sheet()["part_id"], "stage": stage, "in_work": True,
            "piece_id": pieces(port)[role]["part_id"]}  # fmt: skip
    return identifier, port.shop.put(f"/states/{identifier}", body)


def test_pieces_that_are_named_lie_along_the_runner_from_the_entry_on(port):
    found = port.sheet()["pieces"]
    assert [(one["role"], one["from_mm"], one["to_mm"]) for one in found] == [
        ("upper half", 0, 120), ("lower half", 120, 310),
    ]  # fmt: skip
    assert {one["state"] for one in found} == {"as received"}
    assert port.sheet()["plan"]["pieces"] == HALVES


def test_each_piece_may_stand_at_another_stage(port):
    identifier, answer = begin(port, "upper half", 2)
    port.shop.kept(answer)
    sheet = port.sheet()
    assert sheet["state"].endswith(": upper half")
    assert sheet["in_work"]
    now = pieces(port)
    assert (now["upper half"]["stage"], now["upper half"]["in_work"]) == (2, True)
    assert (now["lower half"]["state"], now["lower half"]["in_work"]) == ("as received", False)
    port.shop.kept(port.shop.post(f"/states/{identifier}/finish", {"person_id": port.shop.person}))
    port.shop.kept(begin(port, "lower half", 1)[1])
    now = pieces(port)
    assert (now["upper half"]["stage"], now["upper half"]["in_work"]) == (2, False)
    assert (now["lower half"]["stage"], now["lower half"]["in_work"]) == (1, True)


def test_a_stage_of_a_piece_is_taken_back_with_the_assembly_s(port):
    identifier, answer = begin(port, "upper half")
    port.shop.kept(answer)
    again = port.shop.client.delete(f"/api/states/{identifier}")
    assert pieces(port)["upper half"]["state"] == "as received"
    port.shop.kept(port.shop.put(f"/states/{new_id()}", port.shop.kept(again)))
    assert pieces(port)["upper half"]["in_work"]
    assert port.sheet()["state"].count("upper half") == 1


def test_a_piece_is_named_once_and_kept(port):
    plan = port.sheet()["plan"]
    first = pieces(port)
    body = {"version": plan["version"], "plan": {"material": "aluminium", "stations": ["0", "90"], "pieces": [
        {"role": "Upper half", "to_mm": 100}, {"role": "lower half", "to_mm": 310}]}}  # fmt: skip
    port.shop.kept(port.shop.client.patch(f"/api/port-plans/{plan['id']}", json=body))
    assert pieces(port)["upper half"]["part_id"] == first["upper half"]["part_id"]
    assert pieces(port)["upper half"]["to_mm"] == 100
    assert len(port.sheet()["pieces"]) == 2


@pytest.mark.parametrize(
    ("given", "path", "says"),
    [
        ([{"role": "upper half", "to_mm": 0}], "plan.pieces.0", "where it ends"),
        ([{"role": "a", "to_mm": 200}, {"role": "b", "to_mm": 120}], "plan.pieces.1", "from the entry on"),
        ([{"role": "half", "to_mm": 100}, {"role": "Half", "to_mm": 120}], "plan.pieces", "one name"),
        ([{"role": f"p{n}", "to_mm": n * 10} for n in range(1, 8)], "plan.pieces", "6 at most"),
    ],
)
def test_pieces_that_can_not_be_are_refused_in_place(shop, given, path, says):
    port = Porting(shop, runners=2)
    answer = port.plan(pieces=given)[1]
    assert answer.status_code == 422
    assert says in answer.json()["detail"]
    assert answer.json()["path"] == path


def test_a_piece_of_another_part_is_refused(port):
    body = {"person_id": port.shop.person, "part_id": port.sheet()["part_id"], "stage": 1, "in_work": True,
            "piece_id": new_id()}  # fmt: skip
    answer = port.shop.put(f"/states/{new_id()}", body)
    assert answer.status_code == 422
    assert "no piece of this part" in answer.json()["detail"]
