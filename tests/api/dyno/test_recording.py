"""Pulls recorded live from the simulated dyno, with what stops them and what survives."""

import time
from datetime import UTC, datetime

import numpy as np
import pytest

from elvarn.rigs.dyno import DEMO_DESIGNS, Dyno
from elvarn.rigs.dyno_model import DynoModel
from tests.loop import serving
from tests.shop import new_id

EVERYTHING = ["blade", "hoses", "inside", "bolts", "straps"]


class SteadyClock:
    """A clock [s] that runs some times faster, and never jumps: where the machine stalls, it stands meanwhile."""

    STEP = 0.02  # s at most from one look at it to the next

    def __init__(self, times: float) -> None:
        self.times = times
        self.now = 0.0
        self._looked = time.monotonic()

    def __call__(self) -> float:
        at = time.monotonic()
        self.now += min(self.times * (at - self._looked), self.STEP)
        self._looked = at
        return self.now


def quick_dyno(*faults, times=3.0):
    """A dyno whose clock runs faster, without scatter, so that a pull takes two seconds."""
    model = DynoModel(DEMO_DESIGNS, SteadyClock(times), np.random.default_rng(1), scatter=False)
    model.rate_rpm_s, model.faults = 2000.0, set(faults)
    dyno = Dyno(model)
    dyno.rate = 200.0
    return dyno


def connected(shop, port, **more):
    identifier = new_id()
    body = {"name": f"live {identifier[:8]}", "kind": "engine", "line": {"port": port, **more}}
    shop.kept(shop.put(f"/dynos/{identifier}", body))
    return identifier


def begin(shop, job, dyno, build=1, **more):
    identifier = new_id()
    body = {
        "person_id": shop.person,
        "job_id": job[0],
        "build_id": job[build],
        "dyno_id": dyno,
        "started_at": datetime.now(UTC).isoformat(),
    }
    return identifier, shop.put(f"/recordings/{identifier}", {**body, "checked": EVERYTHING, **more})


def waiting(shop, job):
    return shop.get(f"/jobs/{job[0]}/dyno/beside")["start"]["recordings"]


def ended(shop, job, seconds=15.0):
    """The recording once it is over."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        found = waiting(shop, job)[-1]
        if not found["open"]:
            return found
        time.sleep(0.1)
    raise AssertionError("it never ended")


def goes_off(dyno, seconds=3.0):
    """Whether the load goes off before the pull would be over."""
    until = time.monotonic() + seconds
    while dyno.model.pulling and time.monotonic() < until:
        time.sleep(0.02)
    return dyno.model._began is None


def test_a_pull_is_recorded_by_itself_and_reads_as_a_file(shop, client, job):
    """The known curve of the model comes back within half a per cent, in the standard's air."""
    with serving(quick_dyno(times=1.0)) as port:
        dyno = connected(shop, port)
        identifier, answer = begin(shop, job, dyno)
        shop.kept(answer)
        over = ended(shop, job)
    assert (over["ended_how"], over["ended_words"]) == ("swept", "")
    look = client.post(f"/api/recordings/{identifier}/preview").json()
    assert [one["channel"] for one in look["columns"]].count("") == 2
    assert len(look["runs"]) == 1
    assert look["stated"]["air"]["air_pressure_kpa"] == "98.4 kPa"
    run = look["runs"][0]
    new = {
        "person_id": shop.person,
        "job_id": job[0],
        "file_digest": look["digest"],
        "mapping": look["mapping"],
        "first_row": run["first_row"],
        "last_row": run["last_row"],
        "facts": {
            "build_id": job[1],
            "dyno_id": dyno,
            "pulled_at": datetime.now(UTC).isoformat(),
            **look["stated"]["air"],
        },
    }
    pull = new_id()
    shop.kept(shop.put(f"/pulls/{pull}", new))
    assert waiting(shop, job) == []
    curve = shop.get(f"/jobs/{job[0]}/dyno", units="metric")["plate"]["curves"][0]
    for speed in (3500, 5000, 6500):
        at = float(np.interp(speed, curve["engine_speed_rpm"], curve["torque"]))
        assert at == pytest.approx(DEMO_DESIGNS[0].torque_at(speed), rel=0.005)
    again = client.get(f"/api/pulls/{pull}.csv").text
    assert "mixture" in again
    assert "oil pressure" in again


@pytest.mark.parametrize(
    ("fault", "words"),
    [
        ("LEAN", "mixture"),
        ("CYLINDER", "mixture"),
        ("KNOCK", "ignition taken back for knock"),
        ("OIL", "oil pressure 85 kPa, limit 150 kPa"),
    ],
)
def test_a_limit_takes_the_load_off(shop, job, fault, words):
    dyno = quick_dyno(fault)
    with serving(dyno) as port:
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        over = ended(shop, job)
        assert over["ended_how"] == "limit"
        assert words in over["ended_words"]
        assert over["file_digest"] is not None
        assert goes_off(dyno)
    shop.kept(shop.post(f"/recordings/{identifier}/drop", {"person_id": shop.person}))
    assert waiting(shop, job) == []


def test_a_limit_that_is_empty_stops_nothing(shop, job):
    with serving(quick_dyno("KNOCK")) as port:
        _, answer = begin(shop, job, connected(shop, port), limits={"most_retard": None})
        shop.kept(answer)
        assert ended(shop, job)["ended_how"] == "swept"


def test_stop_takes_the_load_off_and_keeps_what_came(shop, job):
    dyno = quick_dyno(times=0.2)
    with serving(dyno) as port:
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        time.sleep(0.6)
        shop.kept(shop.post(f"/recordings/{identifier}/stop", {"person_id": shop.person}))
        over = ended(shop, job, 3)
        assert (over["ended_how"], over["ended_words"]) == ("stopped", "Stopped by hand.")
        assert over["file_digest"] is not None
        assert goes_off(dyno)


def test_a_broken_connection_is_joined_and_no_second_pull_begins(shop, job):
    """The dyno goes on; only what it sent meanwhile is missing."""
    dyno = quick_dyno(times=1.0)
    with serving(dyno) as port:
        identifier, answer = begin(shop, job, connected(shop, port))
        shop.kept(answer)
        time.sleep(1.0)
    assert waiting(shop, job)[-1]["open"]
    with serving(dyno, port):
        assert ended(shop, job)["ended_how"] == "swept"
    assert len(dyno.model._pulls) == 1
    assert waiting(shop, job)[-1]["id"] == identifier


def test_a_dyno_records_one_pull_at_a_time(shop, job):
    with serving(quick_dyno(times=0.1)) as port:
        dyno = connected(shop, port)
        identifier, answer = begin(shop, job, dyno)
        shop.kept(answer)
        _, second = begin(shop, job, dyno)
        assert second.status_code == 422
        assert "recording a pull already" in second.json()["detail"]
        shop.kept(shop.post(f"/recordings/{identifier}/stop", {"person_id": shop.person}))
        ended(shop, job)


def test_a_start_after_a_change_is_looked_at_first(shop, job):
    with serving(quick_dyno()) as port:
        dyno = connected(shop, port)
        _, missing = begin(shop, job, dyno, checked=["blade"])
        assert missing.status_code == 422
        assert missing.json()["path"] == "checked"
        assert "injectors, rail and hoses on and tight" in missing.json()["detail"]
        _, high = begin(shop, job, dyno, idle_rpm=1700)
        assert high.json()["code"] == "idle"
        assert "1700 rpm; the shop's highest is 1500 rpm" in high.json()["detail"]
        _, answer = begin(shop, job, dyno, idle_rpm=1700, accepted=["idle"])
        shop.kept(answer)
        ended(shop, job)
        _, unchanged = begin(shop, job, dyno, checked=[])
        shop.kept(unchanged)
        ended(shop, job)
        start = shop.get(f"/jobs/{job[0]}/dyno/beside")["start"]
        assert (job[1] in start["changed"], job[2] in start["changed"]) == (False, True)
        _, other = begin(shop, job, dyno, build=2, checked=[])
        assert other.json()["path"] == "checked"


def test_a_dyno_without_an_address_records_nothing(shop, job):
    _, answer = begin(shop, job, shop.engine_dyno)
    assert (answer.status_code, answer.json()["path"]) == (422, "dyno_id")


@pytest.mark.parametrize(
    ("line", "path"),
    [
        ({"port": 70000}, "line.port"),
        ({"host": "8.8.8.8"}, "line.host"),
        ({"pattern": "{speed}"}, "line.pattern"),
        ({"pattern": "{speed};{torque};{colour}"}, "line.pattern"),
        ({"farewell": "SYST:SHUT\n"}, "line.greeting"),
    ],
)
def test_a_line_that_can_not_be_is_refused(shop, line, path):
    answer = shop.put(f"/dynos/{new_id()}", {"name": "x", "kind": "engine", "line": line})
    assert (answer.status_code, answer.json()["path"]) == (422, path)
