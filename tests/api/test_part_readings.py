"""What is read of a part by itself, on the shelf or its path: the same questions as at the bench, strikes, and the
choice of which set-up counts."""

import pytest

from tests.shop import new_id

REPEAT = ["already_read", "far_repeat"]
LATER = "2026-03-02T09:20:00+00:00"


@pytest.fixture
def part(shop):
    """A throttle on the shelf; returns its id and its state's."""
    identifier, state = new_id(), new_id()
    body = {"person_id": shop.person, "job_id": None, "kind": "throttle", "name": "Throttle 68", "state_id": state}
    shop.kept(shop.put(f"/parts/{identifier}", body))
    return identifier, state


def flow(shop, state, typed, **more):
    body = {
        "person_id": shop.person, "part_state_id": state, "element_kind": "throttle", "bench_id": shop.bench,
        "depression": "28", "typed": typed, "taken_at": "2026-03-02T09:00:00+00:00", **more,
    }  # fmt: skip
    return shop.put(f"/part-flows/{new_id()}", body)


def bore(shop, state, typed):
    body = {"person_id": shop.person, "job_id": None, "part_state_id": state, "element_kind": "throttle",
            "quantity": "bore", "typed": typed, "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
    identifier = new_id()
    shop.kept(shop.put(f"/dimensions/{identifier}", body))
    return identifier


def card(shop, part):
    return next(one for one in shop.cards() if one["id"] == part)


class TestQuestions:
    @pytest.mark.parametrize(
        ("typed", "accepted", "code"),
        [("8650", REPEAT, "ten_times"), ("86.5", REPEAT, "a_tenth"), ("1470", REPEAT, "cubic_metres_per_hour"),
         ("400", REPEAT, "unlike_others"), ("905", [], "far_repeat"), ("867", [], "already_read")],
    )  # fmt: skip
    def test_a_second_figure_is_asked_about_as_at_the_bench(self, shop, part, typed, accepted, code):
        shop.kept(flow(shop, part[1], "865"))
        asked = flow(shop, part[1], typed, accepted=accepted)
        assert (asked.status_code, asked.json()["code"], asked.json()["path"]) == (422, code, "typed")
        assert asked.json()["offers"]

    def test_more_than_the_bore_can_pass(self, shop, part):
        bore(shop, part[1], "68 mm")
        asked = flow(shop, part[1], "1400")
        assert (asked.status_code, asked.json()["code"]) == (422, "above_ceiling")
        shop.kept(flow(shop, part[1], "1400", accepted=["above_ceiling"]))
        assert shop.get(f"/parts/{part[0]}")["readings"][0]["marks"] == ["more than the bore can pass"]

    def test_what_its_maker_states_is_held_against_the_first_figure(self, shop, part):
        sheet = shop.get(f"/parts/{part[0]}")
        edit = {"version": sheet["version"], "name": sheet["name"], "advertised": {"flow_cfm": "865"}}
        shop.kept(shop.client.patch(f"/api/parts/{part[0]}", json=edit))
        asked = flow(shop, part[1], "8650")
        assert "About 10 × what its maker states" in asked.json()["detail"]

    def test_sent_twice_is_kept_once_and_not_asked_again(self, shop, part):
        body = {"person_id": shop.person, "part_state_id": part[1], "element_kind": "throttle",
                "bench_id": shop.bench, "depression": "28", "typed": "865",
                "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
        identifier = new_id()
        for _ in range(2):
            shop.kept(shop.put(f"/part-flows/{identifier}", body))
        assert len(shop.get(f"/parts/{part[0]}")["readings"]) == 1


class TestStrikes:
    def test_a_wrong_figure_is_replaced_and_no_mean_is_taken(self, shop, part):
        first = shop.kept(flow(shop, part[1], "8650"))["id"]
        shop.kept(flow(shop, part[1], "865", replaces=[first], taken_at=LATER))
        readings = shop.get(f"/parts/{part[0]}")["readings"]
        assert [(one["words"], one["counts"], bool(one["struck"])) for one in readings] == [
            ("865.0 CFM", True, False),
            ("8,650 CFM", False, True),
        ]
        assert card(shop, part[0])["flow"]["text"] == "865.0"

    def test_a_dimension_is_struck_out_and_the_one_before_counts_again(self, shop, part):
        bore(shop, part[1], "68 mm")
        wrong = bore(shop, part[1], "86 mm")
        strike = {"person_id": shop.person, "reason": "wrong jaw", "struck_at": "2026-03-02T10:00:00+00:00"}
        shop.kept(shop.put(f"/strikes/{wrong}", strike))
        sheet = shop.get(f"/parts/{part[0]}")
        assert sheet["dimensions"][0]["measured"]["text"] == "68.0"
        struck = next(one for one in sheet["readings"] if one["struck"])
        assert (struck["what"], struck["words"], struck["struck"]["reason"]) == ("bore", "86 mm", "wrong jaw")

    def test_only_its_own_readings_are_replaced(self, shop, part):
        asked = flow(shop, part[1], "865", replaces=[new_id()])
        assert (asked.status_code, asked.json()["path"]) == (422, "replaces")


class TestWhatCounts:
    def test_unlike_set_ups_are_never_averaged_and_one_is_chosen(self, shop, part):
        shop.kept(flow(shop, part[1], "800", entry_radius="none"))
        shop.kept(flow(shop, part[1], "860", accepted=["already_read"], taken_at=LATER))
        sheet = shop.get(f"/parts/{part[0]}")
        assert sheet["unlike"]
        assert [one["counts"] for one in sheet["readings"]] == [True, False]
        assert card(shop, part[0])["flow"]["text"] == "860.0"
        bare = sheet["readings"][1]["setup_id"]
        choice = {"person_id": shop.person, "setup_id": bare}
        shop.kept(shop.client.post(f"/api/states/{part[1]}/counting", json=choice))
        assert card(shop, part[0])["flow"]["text"] == "800.0"
        shop.kept(shop.client.post(f"/api/states/{part[1]}/counting", json={"person_id": shop.person}))
        assert card(shop, part[0])["flow"]["text"] == "860.0"

    def test_a_set_up_in_which_nothing_was_read_is_refused(self, shop, part):
        choice = {"person_id": shop.person, "setup_id": new_id()}
        answer = shop.client.post(f"/api/states/{part[1]}/counting", json=choice)
        assert (answer.status_code, answer.json()["path"]) == (422, "setup_id")


def test_a_figure_of_a_part_is_no_set_up_of_the_next_series(shop):
    """A throttle typed on the path at 7 kPa leaves the bench's set-up alone."""
    job = shop.job(kind="whole_job")
    setup = shop.setup(job)
    runner = shop.sheet(job)["before_state_id"]
    body = {"person_id": shop.person, "job_id": job, "part_state_id": runner, "element_kind": "runner", "cylinder": 1,
            "bench_id": shop.bench, "depression": "7 kPa", "typed": "200",
            "taken_at": "2026-03-02T09:00:00+00:00"}  # fmt: skip
    shop.kept(shop.put(f"/part-flows/{new_id()}", body))
    assert shop.sheet(job)["setup"]["id"] == setup
