"""Kills at random while figures are captured: server, database, or both. What was acknowledged is to be there, once."""

import os
import random
import signal
import threading
import time
from collections import Counter
from dataclasses import dataclass, field
from http.client import HTTPException
from pathlib import Path
from typing import Any
from urllib.error import HTTPError, URLError
from uuid import uuid4

from dev.asking import Address, get, put
from dev.trial import TrialServer
from elvarn.host.postmaster import postmaster

RUNNERS = 16
FEWEST, MOST = 3, 15  # captures between two kills
PATIENCE_S = 60.0


@dataclass
class Tally:
    """What came of it: kills by kind, what was acknowledged, what is there, and how long each outage lasted [s]."""

    kills: Counter[str] = field(default_factory=Counter)
    acknowledged: list[str] = field(default_factory=list)
    found: list[str] = field(default_factory=list)
    outages: dict[str, list[float]] = field(default_factory=dict)

    @property
    def lost(self) -> int:
        return len(set(self.acknowledged) - set(self.found))

    @property
    def twice(self) -> int:
        return len(self.found) - len(set(self.found))


def kill_at_random(root: Path, folder: Path, kills: int, seed: int = 1) -> Tally:
    """Capture figures on an empty shop in this folder and kill so often meanwhile; the same seed kills the same."""
    chance, tally = random.Random(seed), Tally()
    server = TrialServer(root, folder, "--empty")
    job = make_job(server.start())
    capturing = Capturing(server, job, tally.acknowledged)
    capturing.start()
    for kind in chance.choices(("server", "database", "both"), weights=(1, 2, 1), k=kills):
        capturing.wait_for(chance.randint(FEWEST, MOST))
        began = time.monotonic()
        killed = _postmaster(folder)
        if kind != "server":
            os.kill(killed, signal.SIGKILL)
        if kind != "database":
            server.stop(signal.SIGKILL)
            server.start()
        while kind != "server" and _postmaster(folder) == killed:  # its children may take a figure yet
            time.sleep(0.02)
        capturing.wait_for(1)
        tally.kills[kind] += 1
        tally.outages.setdefault(kind, []).append(time.monotonic() - began)
    capturing.over.set()
    capturing.join()
    tally.found = kept(server.url, job["job_id"])
    assert server.stop() == 0
    return tally


def _postmaster(folder: Path) -> int:
    """The process that serves this folder; waits for one."""
    began = time.monotonic()
    while (found := postmaster(folder / "postgres")) is None:
        if time.monotonic() - began > PATIENCE_S:
            raise TimeoutError(f"no database was there for {PATIENCE_S:g} s")
        time.sleep(0.02)
    return found


def make_job(url: Address) -> dict[str, Any]:
    """Person, bench, job and set-up; what a capture needs."""
    person, bench, job, setup = (str(uuid4()) for _ in range(4))
    put(url, f"/people/{person}", {"name": "Tester"})
    put(url, f"/benches/{bench}", {"name": "Bench"})
    put(url, f"/jobs/{job}", {"person_id": person, "kind": "port_by_post", "part": "M", "runner_count": RUNNERS})
    put(url, f"/setups/{setup}", {"person_id": person, "job_id": job, "bench_id": bench, "depression": "28"})
    state = get(url, f"/jobs/{job}/bench")["before_state_id"]
    return {"person_id": person, "job_id": job, "setup_id": setup, "part_state_id": state, "accepted": ["already_read"]}


def kept(url: Address, job: str) -> list[str]:
    """The readings of a job, by id."""
    rungs = get(url, f"/jobs/{job}/bench")["rungs"]
    return [reading["id"] for rung in rungs for reading in rung["before"]["readings"]]


class Capturing(threading.Thread):
    """Sends captures one after the other, as the browser's outbox does: the same one again until it is acknowledged."""

    def __init__(self, server: TrialServer, job: dict[str, Any], acknowledged: list[str]) -> None:
        super().__init__(daemon=True)
        self.over = threading.Event()
        self._server, self._job, self._acknowledged = server, job, acknowledged
        self._progress = threading.Condition()
        self._ended_by: Exception | None = None

    def run(self) -> None:
        try:
            self._capture()
        except Exception as error:
            self._ended_by = error  # told to whoever waits

    def _capture(self) -> None:
        number = 0
        while not self.over.is_set():
            number += 1
            identifier = str(uuid4())
            body = {**self._job, "cylinder": number % RUNNERS + 1, "typed": f"{200 + number / 100:.2f}",
                    "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
            while not self._sent(identifier, body):
                time.sleep(0.05)
            with self._progress:
                self._acknowledged.append(identifier)
                self._progress.notify_all()

    def wait_for(self, more: int) -> None:
        """Wait until so many more are acknowledged."""
        with self._progress:
            wanted = len(self._acknowledged) + more
            if not self._progress.wait_for(lambda: len(self._acknowledged) >= wanted, timeout=PATIENCE_S):
                raise TimeoutError(f"no capture was acknowledged for {PATIENCE_S:g} s") from self._ended_by

    def _sent(self, identifier: str, body: dict[str, Any]) -> bool:
        try:
            put(self._server.url, f"/flow-readings/{identifier}", body)
        except HTTPError as error:
            error.close()
            if error.code < 500:
                raise
            return False
        except (URLError, OSError, HTTPException, ValueError):  # it broke off in the middle of its answer
            return False
        return True
