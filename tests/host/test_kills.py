"""Being killed: nothing that was acknowledged is lost, and nothing is there twice."""

import os
import signal
import threading
from pathlib import Path
from urllib.error import HTTPError, URLError
from uuid import uuid4

from dev.asking import get, put
from dev.trial import TrialServer

ROOT = Path(__file__).resolve().parents[2]
CAPTURES = 200
RUNNERS = 16


def postmaster(folder):
    return int((folder / "postgres" / "postmaster.pid").read_text().splitlines()[0])


def make_job(url):
    """Person, bench, job and set-up; what a capture needs."""
    person, bench, job, setup = (str(uuid4()) for _ in range(4))
    put(url, f"/people/{person}", {"name": "Tester"})
    put(url, f"/benches/{bench}", {"name": "Bench"})
    put(url, f"/jobs/{job}", {"person_id": person, "kind": "port_by_post", "part": "M", "runner_count": RUNNERS})
    put(url, f"/setups/{setup}", {"person_id": person, "job_id": job, "bench_id": bench, "depression": "28"})
    state = get(url, f"/jobs/{job}/bench")["before_state_id"]
    return {"person_id": person, "job_id": job, "setup_id": setup, "part_state_id": state, "accepted": ["already_read"]}


class Capturing(threading.Thread):
    """Sends captures one after the other, as the browser's outbox does: where none answers, the same one again once the
    server is back."""

    def __init__(self, server, base):
        super().__init__()
        self.server, self.base = server, base
        self.acknowledged = []
        self.progress = threading.Condition()
        self.back = threading.Event()

    def run(self):
        for number in range(CAPTURES):
            identifier = str(uuid4())
            body = {**self.base, "cylinder": number % RUNNERS + 1, "typed": f"{200 + number / 100:.2f}",
                    "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
            while not self.sent(identifier, body):
                assert self.back.wait(60)
            with self.progress:
                self.acknowledged.append(identifier)
                self.progress.notify_all()

    def sent(self, identifier, body):
        try:
            put(self.server.url, f"/flow-readings/{identifier}", body)
        except HTTPError as error:
            error.close()
            if error.code < 500:
                raise
            return False
        except (URLError, OSError):
            return False
        return True

    def wait_for(self, count):
        with self.progress:
            assert self.progress.wait_for(lambda: len(self.acknowledged) >= count, timeout=60)
            return list(self.acknowledged)


def kept(url, job):
    rungs = get(url, f"/jobs/{job}/bench")["rungs"]
    return [reading["id"] for rung in rungs for reading in rung["before"]["readings"]]


def test_every_acknowledged_reading_is_there_once_after_server_and_database_were_killed(folder):
    server = TrialServer(ROOT, folder, "--empty")
    base = make_job(server.start())
    capturing = Capturing(server, base)
    capturing.start()
    for count, with_database in ((50, False), (120, True)):
        acknowledged = capturing.wait_for(count)
        capturing.back.clear()
        if with_database:
            os.kill(postmaster(folder), signal.SIGKILL)
        server.stop(signal.SIGKILL)
        url = server.start()
        capturing.back.set()
        assert set(acknowledged) <= set(kept(url, base["job_id"]))
    capturing.wait_for(CAPTURES)
    capturing.join()
    found = kept(server.url, base["job_id"])
    assert server.stop() == 0
    assert len(found) == len(set(found)) == CAPTURES
    assert set(found) == set(capturing.acknowledged)
