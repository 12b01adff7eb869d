"""Calculations on what is fitted, over HTTP: lengths, torques, drills, rings, orders, and what can't be."""

import pytest

from tests.api.test_calc import answer


def test_a_bolt_at_hand_is_held_against_its_hole(client):
    found = answer(client, "bolt-length")
    assert found["lengths_mm"] == pytest.approx([45])
    assert found["engaged_mm"] == pytest.approx([11])
    assert found["findings"] == []
    long = answer(client, "bolt-length", length_mm=50)
    assert "bottoms by 2.0 mm" in long["findings"][0]
    short = answer(client, "bolt-length", length_mm=37)
    assert "3.0 threads" in short["findings"][0]


def test_a_torque_is_computed_and_one_in_inch_pounds_is_caught(client):
    found = answer(client, "bolt-torque")
    assert found["low_n_m"] < found["torque_n_m"] < found["high_n_m"] < found["strips_at_n_m"]
    assert found["findings"] == []
    wrong = answer(client, "bolt-torque", torque_n_m=89)
    assert "89 lbf·in would be 10.1 N·m" in wrong["findings"][0]
    pasted = answer(client, "bolt-torque", bolt_class="A2-70", torque_n_m=6)
    assert "seizes" in pasted["findings"][-1]
    assert answer(client, "bolt-torque", bolt_class="A2-70", torque_n_m=6, lubrication="moly paste")["findings"] == []


def test_a_drill_too_large_leaves_less_thread(client):
    found = answer(client, "tap-drill")
    assert found["drill_mm"] == pytest.approx(5.0)
    assert found["thread_percent"] == pytest.approx(61.6, abs=0.1)


def test_a_ring_is_told_with_what_speaks_against_it(client):
    assert answer(client, "o-ring")["findings"] == []
    loose = answer(client, "o-ring", depth_mm=3.2, inside_mm=60, gland_mm=66)
    assert loose["stretch_percent"] == pytest.approx(10)
    assert len(loose["findings"]) == 2


def test_an_order_names_each_bolt_once_from_one_on(client):
    found = answer(client, "tightening-order")
    assert sorted(found["order"]) == [1, 2, 3, 4, 5, 6]
    assert found["steps_n_m"] == pytest.approx([0, 6.6, 13.2, 22])
    assert found["neighbours_in_a_row"] == 0


def test_relief_is_shared_by_what_each_wall_has_in_hand(client):
    assert answer(client, "shared-relief")["depths_mm"] == pytest.approx([1.5, 0.5])


@pytest.mark.parametrize(
    ("name", "given", "says"),
    [
        ("bolt-length", {"thread": "M9", "stack_mm": 20}, "'M9' is no thread"),
        ("shared-relief", {"short_mm": 5, "walls_mm": [6, 4], "least_mm": [3, 3]}, "in hand: part 1 3.0 mm"),
        ("shared-relief", {"short_mm": 1, "walls_mm": [6], "least_mm": []}, "as many of both"),
        ("tightening-order", {"x_mm": [0, 0], "y_mm": [0], "torque_n_m": 9}, "both"),
        ("tightening-order", {"x_mm": [0, 0], "y_mm": [0, 0], "torque_n_m": 9}, "Tap each bolt once"),
    ],
)
def test_what_can_not_be_is_refused_by_name(client, name, given, says):
    refused = client.post(f"/api/calc/{name}", json=given)
    assert refused.status_code == 422
    assert says in refused.json()["detail"]
