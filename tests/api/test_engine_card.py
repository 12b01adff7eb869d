"""An engine as its card says: the cam by durations or by events, compression stated or by volumes; and its versions."""

import pytest

from tests.shop import new_id

EIGHT = {"name": "eight", "layout": "vee", "bank_count": 2, "bore_mm": 84, "stroke_mm": 108.27, "limit_rpm": 6500}
CARD = {"inlet_duration_deg": 230, "exhaust_duration_deg": 236, "separation_deg": 112, "centreline_deg": 108}
VOLUMES = {"chamber_cm3": 50, "deck_mm": 0.5, "gasket_mm": 1, "gasket_bore_mm": 86}


@pytest.fixture
def job(shop):
    return shop.job(8, "whole_job", engine=EIGHT)


def edit(shop, job, **changes):
    sheet = shop.get(f"/jobs/{job}/checkin")["engine"]
    body = {"version": sheet["version"], "engine": {**EIGHT, **changes}}
    return shop.client.patch(f"/api/jobs/{job}/engine", json=body)


def engine(shop, job):
    return shop.get(f"/jobs/{job}/checkin")["engine"]


def figure(sheet, name):
    return next(one for one in sheet["following"] if one["name"] == name)


def test_a_cam_by_its_durations_is_kept_as_its_events(shop, job):
    shop.kept(edit(shop, job, cam=CARD, cam_lift_mm="0.050 in"))
    sheet = engine(shop, job)
    events = [
        sheet["engine"][f"{name}_deg"] for name in ("inlet_opens", "inlet_closes", "exhaust_opens", "exhaust_closes")
    ]
    assert events == [7, 43, 54, 2]
    assert sheet["cam"] == {"inlet_duration_deg": 230, "exhaust_duration_deg": 236, "separation_deg": 112,
                            "advance_deg": 4, "centreline_deg": 108}  # fmt: skip
    assert figure(sheet, "Intake duration")["note"] == "at 1.27 mm of lift"


def test_a_cam_by_its_events_shows_its_durations(shop, job):
    events = {"inlet_opens_deg": 7, "inlet_closes_deg": 43, "exhaust_opens_deg": 54, "exhaust_closes_deg": 2}
    shop.kept(edit(shop, job, **events))
    assert engine(shop, job)["cam"]["separation_deg"] == 112


def test_durations_and_events_that_differ_are_refused_with_both(shop, job):
    answer = edit(shop, job, cam=CARD, inlet_opens_deg=20, inlet_closes_deg=50)
    assert (answer.status_code, answer.json()["path"]) == (422, "engine.inlet_opens_deg")
    assert "at 7 and 43, by its events at 20 and 50" in answer.json()["detail"]
    shop.kept(edit(shop, job, cam=CARD, inlet_opens_deg=7.5, inlet_closes_deg=43))


@pytest.mark.parametrize(
    ("cam", "path"),
    [
        ({"inlet_duration_deg": 230}, "engine.cam.centreline_deg"),
        ({"inlet_duration_deg": 230, "separation_deg": 60}, "engine.cam.separation_deg"),
        ({"inlet_duration_deg": 230, "centreline_deg": 108, "exhaust_duration_deg": 230}, "engine.cam.separation_deg"),
    ],
)
def test_a_card_that_places_no_lobe_is_refused_in_place(shop, job, cam, path):
    answer = edit(shop, job, cam=cam)
    assert (answer.status_code, answer.json()["path"]) == (422, path)


def test_compression_by_volumes_is_the_one_that_is_kept(shop, job):
    """600 cm³ a cylinder over 58.58 cm³: 11.242, worked by hand."""
    shop.kept(edit(shop, job, card=VOLUMES))
    sheet = engine(shop, job)
    assert sheet["engine"]["compression_ratio"] == pytest.approx(11.242, abs=0.002)
    assert sheet["engine"]["card"]["chamber_cm3"] == 50
    assert figure(sheet, "Compression")["note"] == "by chamber, crown, deck and gasket"


def test_a_stated_ratio_that_the_volumes_contradict_is_refused(shop, job):
    answer = edit(shop, job, card=VOLUMES, compression_ratio=12)
    assert (answer.status_code, answer.json()["path"]) == (422, "engine.compression_ratio")
    assert "make 11.24, not 12" in answer.json()["detail"]
    shop.kept(edit(shop, job, card=VOLUMES, compression_ratio="11.2:1"))


def test_a_dome_larger_than_the_chamber_and_what_no_engine_has_are_refused(shop, job):
    dome = edit(shop, job, card={**VOLUMES, "crown_cm3": -60})
    assert "sign" in dome.json()["detail"]
    rocker = edit(shop, job, card={"rocker_ratio": 16})
    assert (rocker.json()["path"], "0.9 to 2.2" in rocker.json()["detail"]) == ("engine.card.rocker_ratio", True)


def test_valve_lift_is_lobe_lift_times_rocker_ratio(shop, job):
    shop.kept(edit(shop, job, card={"lobe_lift_mm": "0.340 in", "rocker_ratio": 1.6}))
    assert figure(engine(shop, job), "Valve lift")["text"] == "13.82 mm"


class TestVersions:
    def test_a_job_opened_again_has_another_version_and_earlier_pulls_keep_theirs(self, shop, job):
        shop.kept(edit(shop, job, cam=CARD))
        build = shop.builds(job)[0]["id"]
        rows = "rpm;torque Nm\n" + "\n".join(f"{n};{300 + n / 100:.1f}" for n in range(2000, 6000, 250))
        first = shop.kept(shop.pull(job, build, rows.encode()))["id"]
        version = shop.get(f"/jobs/{job}")["version"]
        shop.kept(shop.client.post(f"/api/jobs/{job}/closing", json={"version": version, "closed": True}))
        shop.kept(shop.client.post(f"/api/jobs/{job}/closing", json={"version": version + 1, "closed": False}))
        assert engine(shop, job)["engine_version"] == 2
        shop.kept(edit(shop, job, cam={**CARD, "inlet_duration_deg": 250}))
        second = shop.kept(shop.pull(job, build, rows.replace("300", "301").encode()))["id"]
        dyno = shop.get(f"/jobs/{job}/dyno")
        assert {first, second} <= {pull["id"] for pull in dyno["pulls"]}
        assert engine(shop, job)["cam"]["inlet_duration_deg"] == 250

    def test_pulls_of_two_versions_are_not_comparable(self, shop, job):
        stock = shop.builds(job)[0]["id"]
        copy = shop.varied(job, stock, "tube", shop.part("tube", "other"), "other tube")
        for n in range(3):
            shop.kept(shop.pull(job, stock, pull(300 + n)))
        identifier = new_id()
        shop.kept(shop.client.put(f"/api/jobs/{job}/engine-versions/{identifier}"))
        shop.kept(shop.client.put(f"/api/jobs/{job}/engine-versions/{identifier}"))
        assert engine(shop, job)["engine_version"] == 2
        for n in range(3):
            shop.kept(shop.pull(job, copy, pull(320 + n)))
        shown = str(shop.get(f"/jobs/{job}/dyno"))
        assert "not comparable: engine version" in shown.replace("Not", "not")

    def test_a_job_without_an_engine_has_no_other_version(self, shop):
        answer = shop.client.put(f"/api/jobs/{shop.job()}/engine-versions/{new_id()}")
        assert (answer.status_code, answer.json()["path"]) == (422, "engine")


def pull(torque):
    rows = "\n".join(f"{n};{torque + (n - 4000) ** 2 / -400000:.2f}" for n in range(2000, 6001, 250))
    return f"rpm;torque Nm\n{rows}\n".encode()
