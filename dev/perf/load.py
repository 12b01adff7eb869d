"""Many at once: twenty people, a large file while somebody else works, listeners of the live stream, and the memory
that it takes."""

import json
import os
import statistics
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import asdict
from datetime import UTC, datetime
from io import BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory, TemporaryFile
from typing import Any, BinaryIO
from uuid import uuid4

import numpy as np

from dev.asking import Asking, get, put
from dev.perf.bench import bench_line
from dev.perf.door import KEY, address
from dev.perf.figure import Measured, timed
from dev.perf.served import demo_job, served
from elvarn.service.kernel.files import LARGEST_FILE

PEOPLE, SECONDS, BREATH_S, RUNNERS = 20, 60.0, 2.0, 8
CAPTURE_LIMIT, SHEET_LIMIT = 2.0, 2.0
BESIDE_LIMIT_S = 0.050
SERVER_LIMIT_MB, READER_LIMIT_MB = 300, 600
LISTENERS, HEARD_WITHIN_S = 400, 10.0
ALONE = 40  # looks, before and after
COUNT_ANEW = "5"  # to clear_refs: the most that this process held, from now on


def in_a_process_of_its_own(root: Path) -> Iterator[Measured]:
    """Everything that is measured under load, with a server that did nothing before."""
    command = [sys.executable, "-m", "dev.perf.load", str(root)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as child:
        assert child.stdout is not None
        for line in child.stdout:
            yield Measured(**json.loads(line))
    if child.returncode:
        raise RuntimeError(f"The load ended with {child.returncode}.")


def load(port: int, job: str) -> Iterator[Measured]:
    """Everything that is measured under load."""
    others = ["/api/board?units=trade", f"/api/jobs/{job}", f"/api/jobs/{job}/dyno"]
    told = _told(port, others, "/api/flow-readings/{id}")
    sheet, figure = told["sheet"], told["figure"]
    Path("/proc/self/clear_refs").write_text(COUNT_ANEW)
    alone = _after_write_alone(port, sheet, figure)
    ours = _apart("dev.perf.users", told)
    alone += _after_write_alone(port, sheet, figure)  # the sheet is longer now
    bare = _apart("dev.perf.users", _told(port, others, "/perf/capture"))
    count, failed = sum(map(len, ours.values())), len(ours["failed"])
    at = f"{PEOPLE} people, {count} requests, {failed} failed"
    yield _held(f"capture, 95 %: {at}", ours["capture"], bare["capture"], CAPTURE_LIMIT)
    yield _held("sheet meanwhile, 95 %, to its own after a write", ours["sheet"], alone, SHEET_LIMIT)
    yield from _beside_a_large_file(port)
    yield _listeners(port)
    yield _memory_of("memory of the server after all this", os.getpid(), SERVER_LIMIT_MB)


def _told(port: int, others: list[str], capture: str) -> dict[str, Any]:
    """What people are told: to look, at a job of their own half of the time, and to capture in it."""
    figure = _own_job(port)
    sheet = f"/api/jobs/{figure['job_id']}/bench"
    return {"port": port, "key": KEY, "seconds": SECONDS, "people": PEOPLE, "breath": BREATH_S,
            "looks": [*others, sheet, sheet], "sheet": sheet, "figure": figure, "runners": RUNNERS,
            "capture": capture}  # fmt: skip


def _apart(module: str, told: dict[str, Any]) -> Any:
    """What people in a process of their own found, so that they take nothing from the server's."""
    command = [sys.executable, "-m", module]
    done = subprocess.run(command, input=json.dumps(told), stdout=subprocess.PIPE, text=True, check=True)
    return json.loads(done.stdout)


def _held(name: str, ours: list[float], reference: list[float], limit: float) -> Measured:
    late, beside = (float(np.percentile(times, 95)) for times in (ours, reference))
    said = f"{limit:g} ×, is {late / beside:.1f} ×"
    return Measured(name, f"{late * 1e3:.0f} ms", f"reference {beside * 1e3:.0f} ms", said, late <= limit * beside)


def _own_job(port: int) -> dict[str, Any]:
    """A job to capture in; what every figure of it says."""
    url = address(port)
    shop, job, setup = get(url, "/shop"), str(uuid4()), str(uuid4())
    person, bench = shop["people"][0]["id"], shop["benches"][0]["id"]
    put(url, f"/jobs/{job}", {"person_id": person, "kind": "port_by_post", "part": "Load", "runner_count": RUNNERS})
    put(url, f"/setups/{setup}", {"person_id": person, "job_id": job, "bench_id": bench, "depression": "28"})
    state = get(url, f"/jobs/{job}/bench")["before_state_id"]
    return {"person_id": person, "job_id": job, "setup_id": setup, "part_state_id": state, "typed": "219.4",
            "accepted": ["already_read"]}  # fmt: skip


def _after_write_alone(port: int, sheet: str, figure: dict[str, Any]) -> list[float]:
    """The sheet after each write, with nobody else there."""
    url, connection, times = address(port), Asking(port, KEY), []

    def look() -> None:
        connection.request("GET", sheet)
        connection.getresponse().read()

    for number in range(ALONE):
        body = {**figure, "cylinder": number % RUNNERS + 1, "taken_at": datetime.now(UTC).isoformat()}
        put(url, f"/flow-readings/{uuid4()}", body)
        times.append(timed(look))
    return times


def _beside_a_large_file(port: int) -> Iterator[Measured]:
    """A small request while 20 MB are read, and the memory of who reads them; 50 MB are refused."""
    connection = Asking(port, KEY, 120)

    def send(content: BinaryIO) -> int:
        sender = Asking(port, KEY, 120)
        sender.request("POST", "/api/dyno/preview?name=large.csv", content, {"content-length": str(_length(content))})
        status = sender.getresponse().status
        sender.close()
        return status

    def small() -> None:
        connection.request("GET", "/api/health")
        connection.getresponse().read()

    send(BytesIO(b"rpm,Nm\n2000,100\n"))
    idle = statistics.median(timed(small) for _ in range(200))
    with TemporaryFile() as large:
        _write_large(large)
        status, waits = _while_it_runs(lambda: send(large), small)
    late = float(np.percentile(waits, 95))
    said = f"idle {idle * 1e3:.1f} ms; answered {status}, {len(waits)} asked, longest {max(waits) * 1e3:.0f} ms"
    limit = f"idle + {BESIDE_LIMIT_S * 1e3:.0f} ms"
    yield Measured("small request while 20 MB are read, 95 %", f"{late * 1e3:.1f} ms", said, limit,
                   late <= idle + BESIDE_LIMIT_S and status == 200)  # fmt: skip
    refused, waits = _while_it_runs(lambda: _refused(port), small)
    yield Measured(
        "50 MB are refused", f"{refused}", f"longest wait beside {max(waits) * 1e3:.0f} ms", "413", refused == 413
    )
    yield _memory_of("memory of the process that read them, at most", max(_readers()), READER_LIMIT_MB)


def _refused(port: int) -> int:
    """How 50 MB are answered; the server closes before it has read them."""
    sender = Asking(port, KEY, 120)
    sender.putrequest("POST", "/api/dyno/preview?name=large.csv")
    sender.putheader("authorization", f"Bearer {KEY}")
    sender.putheader("content-length", "50000000")
    sender.endheaders()
    status = sender.getresponse().status
    sender.close()
    return status


def _while_it_runs(work: Callable[[], int], small: Callable[[], None]) -> tuple[int, list[float]]:
    found: list[int] = []
    beside = threading.Thread(target=lambda: found.append(work()))
    beside.start()
    waits: list[float] = []
    while beside.is_alive() or not waits:
        waits.append(timed(small))
        time.sleep(0.005)
    beside.join()
    return found[0], waits


def _write_large(file: BinaryIO) -> None:
    """A log of a pull with a hundred thousand rows, just under what may be sent; never whole in this memory."""
    tail = b",".join([b"1234.5"] * 24)
    file.write(b"rpm,Nm," + b",".join(b"channel %d" % n for n in range(24)) + b"\n")
    for n in range(99_000):
        row = b"%d,%d,%b\n" % (1000 + n % 6000, n % 300, tail)
        if file.tell() + len(row) < LARGEST_FILE:
            file.write(row)


def _length(file: BinaryIO) -> int:
    length = file.seek(0, os.SEEK_END)
    file.seek(0)
    return length


def _listeners(port: int) -> Measured:
    """How many of so many listeners of one bench hear it, and how fast a small request is answered meanwhile."""
    with bench_line(port) as bench:
        told = {"port": port, "key": KEY, "listeners": LISTENERS, "seconds": HEARD_WITHIN_S,
                "stream": f"/api/benches/{bench}/live"}  # fmt: skip
        found = _apart("dev.perf.listeners", told)
    heard, late = found["heard"], float(np.percentile(found["waits"], 95))
    said = f"small request meanwhile, 95 %: {late * 1e3:.0f} ms"
    name = f"listeners of {LISTENERS} who hear the bench within {HEARD_WITHIN_S:.0f} s"
    return Measured(name, f"{heard}", said, f"{LISTENERS}", heard == LISTENERS)


def _memory_of(name: str, process: int, limit: float) -> Measured:
    """The most that a process ever held."""
    told = dict(line.split(":", 1) for line in Path(f"/proc/{process}/status").read_text().splitlines())
    held = int(told["VmHWM"].split()[0]) / 1e3
    return Measured(name, f"{held:.0f} MB", f"process {process}", f"{limit:.0f} MB", held <= limit)


def _readers() -> list[int]:
    """The processes that read files for this one."""
    found = []
    for path in Path("/proc").glob("[0-9]*"):
        try:
            if b"forkserver" in (path / "cmdline").read_bytes():
                found.append(int(path.name))
        except OSError:
            continue
    return sorted(found, key=lambda one: int((Path(f"/proc/{one}/statm")).read_text().split()[1]))


def _main(root: Path) -> None:
    with TemporaryDirectory(prefix="elvarn-perf-") as folder, served(root, Path(folder)) as (port, _, _):
        for figure in load(port, demo_job(port)):
            print(json.dumps(asdict(figure)), flush=True)


if __name__ == "__main__":
    _main(Path(sys.argv[1]))
