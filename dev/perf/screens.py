"""Speed of the screens: unchanged, first after a write, and in a shop of many jobs, beside a bare request."""

import json
import statistics
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from uuid import uuid4

from sqlalchemy import Engine, event, text

from dev.asking import Asking
from dev.perf.door import KEY
from dev.perf.figure import Measured, timed

TURNS = 60
FEW, MANY = 100, 1000  # open jobs
SHOP_OF = 10
RUNNERS = 5
UNCHANGED, AFTER_WRITE, STATEMENTS = 2.0, 15.0, 12
OF_SEVERAL = {"handover": 25.0}  # what bench and dyno and two air paths say together
BOARD_GROWS, BOARD_LIMIT, BENCH_GROWS = 1.5, 60.0, 1.2


def screens(engine: Engine, port: int, job: str) -> Iterator[Measured]:
    """Each screen's main request of the demo job."""
    fetch = _fetching(port)
    view = json.loads(fetch(f"/api/jobs/{job}"))
    manifold = next(part["id"] for part in view["parts"] if part["kind"] == "manifold")
    paths = {
        "board": "/api/board",
        "head": f"/api/jobs/{job}",
        "checkin": f"/api/jobs/{job}/checkin",
        "path": f"/api/jobs/{job}/candidates",
        "bench": f"/api/jobs/{job}/bench",
        "dyno": f"/api/jobs/{job}/dyno",
        "handover": f"/api/jobs/{job}/sheet",
        "shelf": "/api/shelf",
        "part": f"/api/parts/{manifold}",
    }
    for name, path in paths.items():
        yield from _screen(engine, fetch, name, path, job)


def many_jobs(engine: Engine, port: int) -> list[Measured]:
    """The board and a bench sheet as the shop grows, each in times of a bare request beside it: the machine is not the
    same a minute later. Every other figure is taken before: the shop is full after."""
    fetch = _fetching(port)
    person, bench = _people_and_bench(fetch)
    made = [_job(port, person, bench) for _ in range(SHOP_OF)]
    first = made[0]
    sheet_before = _after_write(engine, fetch, f"/api/jobs/{first}/bench", first)
    made += [_job(port, person, bench) for _ in range(FEW - SHOP_OF)]
    board_before = _after_write(engine, fetch, "/api/board", first)
    for _ in range(MANY - FEW):
        _job(port, person, bench)
    board = _after_write(engine, fetch, "/api/board", first)
    sheet = _after_write(engine, fetch, f"/api/jobs/{first}/bench", first)
    return [
        _grows(f"board over {MANY} jobs, to {FEW}", board, board_before, BOARD_GROWS),
        _times(f"board over {MANY} jobs, to a bare request", *board, BOARD_LIMIT),
        _grows(f"bench sheet beside {MANY} jobs, to {SHOP_OF}", sheet, sheet_before, BENCH_GROWS),
    ]


def _screen(engine: Engine, fetch: Callable[[str], bytes], name: str, path: str, job: str) -> list[Measured]:
    """By turns, so that all see the same machine."""
    unchanged, bare, written, asked = [], [], [], 0
    for _ in range(TURNS):
        fetch(path)
        unchanged.append(timed(lambda: fetch(path)))
        bare.append(timed(lambda: fetch("/perf/bare")))
        _write(engine, job)
        with _counted(engine) as statements:
            written.append(timed(lambda: fetch(path)))
        asked = max(asked, len(statements))
    plain = statistics.median(bare)
    after = _times(f"{name}, first after a write", statistics.median(written), plain, OF_SEVERAL.get(name, AFTER_WRITE))
    held = after.holds and asked <= STATEMENTS
    return [
        _times(f"{name}, unchanged", statistics.median(unchanged), plain, UNCHANGED),
        Measured(after.name, after.value, f"{after.reference}; {asked} statements of {STATEMENTS}", after.limit, held),
    ]


def _times(name: str, ours: float, reference: float, limit: float) -> Measured:
    said = f"{limit:g} ×, is {ours / reference:.1f} ×"
    return Measured(
        name, f"{ours * 1e3:.1f} ms", f"reference {reference * 1e3:.1f} ms", said, ours <= limit * reference
    )


def _grows(name: str, now: tuple[float, float], before: tuple[float, float], limit: float) -> Measured:
    (ours, bare), (ours_before, bare_before) = now, before
    grown = (ours / bare) / (ours_before / bare_before)
    reference = f"before {ours_before * 1e3:.1f} ms; bare {bare * 1e3:.1f} and {bare_before * 1e3:.1f} ms"
    return Measured(name, f"{ours * 1e3:.1f} ms", reference, f"{limit:g} ×, is {grown:.1f} ×", grown <= limit)


def _after_write(engine: Engine, fetch: Callable[[str], bytes], path: str, job: str) -> tuple[float, float]:
    """A screen first after a write, and a bare request, by turns."""

    def changed() -> float:
        _write(engine, job)
        return timed(lambda: fetch(path))

    pairs = [(changed(), timed(lambda: fetch("/perf/bare"))) for _ in range(TURNS // 2)]
    ours, bare = zip(*pairs, strict=True)
    return statistics.median(ours), statistics.median(bare)


def _write(engine: Engine, job: str) -> None:
    """As another process would."""
    with engine.begin() as connection:
        connection.execute(text("update job set title = title where id = cast(:job as uuid)"), {"job": job})


@contextmanager
def _counted(engine: Engine) -> Iterator[list[str]]:
    said: list[str] = []

    def count(_: object, __: object, statement: str, *___: object) -> None:
        said.append(statement)

    event.listen(engine, "before_cursor_execute", count)
    try:
        yield said
    finally:
        event.remove(engine, "before_cursor_execute", count)


def _fetching(port: int) -> Callable[[str], bytes]:
    connection = Asking(port, KEY)

    def fetch(path: str) -> bytes:
        status, said = connection.answer("GET", path)
        if status != 200:
            raise RuntimeError(f"{path}: {said.decode()}")
        return said

    return fetch


def _people_and_bench(fetch: Callable[[str], bytes]) -> tuple[str, str]:
    shop = json.loads(fetch("/api/shop"))
    return shop["people"][0]["id"], shop["benches"][0]["id"]


def _job(port: int, person: str, bench: str) -> str:
    """A job of its own with a set-up and every runner read before."""
    connection = Asking(port, KEY)

    def put(path: str, body: dict[str, object]) -> None:
        connection.request("PUT", f"/api{path}", json.dumps(body), {"content-type": "application/json"})
        answer = connection.getresponse()
        said = answer.read().decode()
        if answer.status != 200:
            raise RuntimeError(said)

    job, setup = str(uuid4()), str(uuid4())
    put(f"/jobs/{job}", {"person_id": person, "kind": "port_by_post", "part": "Perf", "runner_count": RUNNERS})
    put(f"/setups/{setup}", {"person_id": person, "job_id": job, "bench_id": bench, "depression": "28"})
    connection.request("GET", f"/api/jobs/{job}/bench")
    state = json.loads(connection.getresponse().read())["before_state_id"]
    for cylinder in range(1, RUNNERS + 1):
        put(
            f"/flow-readings/{uuid4()}",
            {
                "person_id": person,
                "job_id": job,
                "setup_id": setup,
                "part_state_id": state,
                "cylinder": cylinder,
                "typed": str(200 + cylinder),
                "taken_at": "2026-03-02T09:00:00+00:00",
            },
        )
    connection.close()
    return job
