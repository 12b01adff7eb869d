"""Logs of the engine computer, without torque: looked at, kept, held against each other, and told on the path."""

import numpy as np
import pytest

from tests.api.dyno.asking import STOCK, content, said
from tests.api.test_path import ENGINE, UPSTREAM, mounted, solution
from tests.shop import new_id

SWEEP = np.linspace(2500, 7000, 226)


def log(most_drop, rest=20, error=0.6):
    """A log with the engine off first; its sensor reads `error` kPa high all along. The drop goes with the square."""
    speed = np.concatenate((np.zeros(rest), np.full(40, 900.0), SWEEP))
    throttle = np.concatenate((np.zeros(rest), np.full(40, 4.0), np.full(len(SWEEP), 98.0)))
    manifold = 99.0 + error - np.where(throttle > 90, most_drop * (speed / 7000) ** 2, np.where(speed > 0, 62.0, 0.0))
    lines = [
        f"{i * 0.05:.2f},{n:.0f},{t:.0f},{m:.3f},0.88,{60 + n / 350:.1f}"
        for i, (n, t, m) in enumerate(zip(speed, throttle, manifold, strict=True))
    ]
    return "\n".join(["time [s],rpm,TPS [%],MAP [kPa],lambda,Duty [%]", *lines]).encode()


def kept(shop, job, build, data, **more):
    seen = shop.kept(shop.preview(data))
    found = seen["log"]
    body = {
        "person_id": shop.person,
        "job_id": job,
        "build_id": build,
        "file_digest": seen["digest"],
        "speed_column": found["speed_column"],
        "stretches": [{"first_row": s["first"], "last_row": s["last"]} for s in found["stretches"]],
        "taken_at": "2026-03-02T10:00:00Z",
        "outside_kpa": found["outside_kpa"],
        "outside_from": found["outside_from"],
        **more,
    }
    identifier = new_id()
    return identifier, shop.put(f"/logs/{identifier}", body)


def test_it_is_known_as_a_log_with_its_stretch_and_its_rest(shop):
    seen = shop.kept(shop.preview(log(4.0)))
    assert seen["mapping"] is None
    assert seen["findings"] == []
    found = seen["log"]
    (stretch,) = found["stretches"]
    assert (stretch["first"], stretch["low"], stretch["high"]) == (60, 2500, 7000)
    assert (found["outside_kpa"], found["outside_from"]) == (pytest.approx(99.6), "at_rest")
    assert shop.kept(shop.preview(content(STOCK)))["log"] is None
    assert shop.kept(shop.preview(b"rpm,gear\n1000,1\n2000,2\n3000,3\n"))["log"] is None


def test_its_drop_by_speed_is_free_of_its_sensors_error(shop, job):
    shop.kept(kept(shop, job[0], job[1], log(4.0))[1])
    (one,) = shop.get(f"/jobs/{job[0]}/dyno/beside")["logs"]
    assert one["outside"] == "outside 99.6 kPa, engine off"
    last = one["rows"][-1]
    assert (last["engine_speed_rpm"], last["drop"], last["mixture"], last["duty"]) == (7000, "4.0 kPa", "0.88", "80 %")
    assert [row["engine_speed_rpm"] for row in one["rows"]][:2] == [2500, 3000]


def test_two_logs_are_held_against_each_other(shop, job):
    shop.kept(kept(shop, job[0], job[1], log(4.0))[1])
    shop.kept(kept(shop, job[0], job[2], log(2.5, error=-0.4))[1])
    told = said({"margin": shop.get(f"/jobs/{job[0]}/dyno/beside")["said"], "judged": {"said": []}, "trust": []})
    (words,) = [one for one in told if "In the logs" in one]
    assert "at 7000 rpm: Stock 4.0 kPa, Stage 2, entries and curves 2.5 kPa" in words
    assert "about 1.6 % more air" in words
    assert "engine off" not in words


def test_where_boost_comes_in_no_drop_is_told(shop, job):
    """The manifold rises above outside: what a drop would say of the intake it does not."""
    shop.kept(kept(shop, job[0], job[1], log(-60.0))[1])
    shop.kept(kept(shop, job[0], job[2], log(-52.0))[1])
    found = shop.get(f"/jobs/{job[0]}/dyno/beside")
    assert found["said"] == []
    assert {row["drop"] for one in found["logs"] for row in one["rows"]} == {""}


def test_without_a_rest_it_is_told_what_would_take_the_error_out(shop, job):
    shop.kept(kept(shop, job[0], job[1], log(4.0, rest=0), outside_kpa="99 kPa", outside_from="typed")[1])
    shop.kept(kept(shop, job[0], job[2], log(3.9, rest=0), outside_kpa="29.23 inHg", outside_from="typed")[1])
    told = said({"margin": shop.get(f"/jobs/{job[0]}/dyno/beside")["said"], "judged": {"said": []}, "trust": []})
    (words,) = [one for one in told if "In the logs" in one]
    assert "Alike within 0.5 kPa" in words
    assert "with the engine off" in words


def test_the_drop_stands_on_the_path_beside_what_it_computes(shop):
    job = shop.job(4, "whole_job", engine=ENGINE, band_low_rpm=4000, band_high_rpm=7000)
    shop.setup(job)
    build = shop.builds(job)[0]["id"]
    for kind, (bore, flow) in UPSTREAM.items():
        mounted(shop, job, build, kind, bore, flow)
    computed = told_on_path(shop, build, "Pressure drop to the plenum")
    shop.kept(kept(shop, job, build, log(9.0))[1])
    words = told_on_path(shop, build, "Measured in the log of 2 Mar 2026")
    assert "8.9 kPa from outside to the manifold at 7000 rpm" in words
    assert f"The path computes {computed.split(' kPa')[0].split()[-1]} kPa to the plenum" in words
    assert "not as measured, or not measured" in words


def told_on_path(shop, build, words):
    every = solution(shop, build, rpm=7000)["margin"]
    texts = ["".join(piece["text"] for piece in one["pieces"]) for one in every]
    found = [text for text in texts if words in text]
    assert len(found) == 1, texts
    return found[0]


def test_what_can_not_be_a_log_is_refused(shop, job):
    for more, path, words in (
        ({"stretches": []}, "stretches", "No stretch"),
        ({"stretches": [{"first_row": 5, "last_row": 9000}]}, "stretches", "not in the file"),
        ({"outside_kpa": 20.0}, "outside_kpa", "no pressure outside"),
        ({"outside_from": "guessed"}, "outside_from", "not where a pressure is from"),
        ({"speed_column": 40}, "stretches", "no column 41"),
    ):
        problem = kept(shop, job[0], job[1], log(4.0), **more)[1].json()
        assert (problem["path"], words in problem["detail"]) == (path, True), problem


def test_the_same_log_twice_is_asked_about_and_a_struck_one_is_gone(shop, job):
    identifier, answer = kept(shop, job[0], job[1], log(4.0))
    shop.kept(answer)
    assert kept(shop, job[0], job[1], log(4.0))[1].json()["code"] == "seen_before"
    shop.kept(shop.put(f"/strikes/{identifier}", {"person_id": shop.person, "reason": "boost leak",
                                                  "struck_at": "2026-03-02T10:00:00Z"}))  # fmt: skip
    shop.kept(kept(shop, job[0], job[1], log(4.0))[1])
    assert [one["struck"] is None for one in shop.get(f"/jobs/{job[0]}/dyno/beside")["logs"]] == [False, True]


@pytest.mark.parametrize(("with_other", "told"), [(3.9, True), (3.0, False)])
def test_a_throttle_that_changed_no_drop_is_not_the_restriction(shop, with_other, told):
    """Two throttles on one path, both logged: the path says that it did not change, and looks elsewhere."""
    job = shop.job(4, "whole_job", engine=ENGINE, band_low_rpm=4500, band_high_rpm=6800)
    stock = shop.builds(job)[0]["id"]
    other = shop.varied(job, stock, "throttle", shop.part("throttle", "wide"), "wide throttle")
    shop.kept(kept(shop, job, stock, log(4.0))[1])
    shop.kept(kept(shop, job, other, log(with_other))[1])
    words = " ".join(p["text"] for s in solution(shop, other, rpm=6500)["margin"] for p in s["pieces"])
    assert ("Another throttle changed nothing" in words) == told
    assert ("The restriction is elsewhere." in words) == told
