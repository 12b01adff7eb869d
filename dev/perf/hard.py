"""What it withstands, tried for long: kills, requests that nobody would make, and files that something happened to."""

import tempfile
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

from scipy.stats import binom

from dev.asking import bearer
from dev.fuzz import fuzz as fuzzed
from dev.kills import kill_at_random
from dev.mutate import mutated
from dev.perf.door import KEY
from dev.perf.figure import Measured
from dev.wolf import ALARMS, BY_CHANCE, CASES, LEARNED, Case, false_alarms
from dev.wolf_dyno import DYNO_CASES, DynoCase, dyno_alarms
from elvarn.host.cluster import Cluster
from elvarn.service.kernel.apart import Apart

REQUESTS, FILES, DRAWS = 5000, 10_000, 5000
SLOWEST_S = 2.0
SHOWN = 5


def kills(root: Path, count: int) -> Iterator[Measured]:
    """So many kills at random during captures."""
    with tempfile.TemporaryDirectory(prefix="elvarn-kills-") as folder:
        Path(folder).chmod(0o755)
        tally = kill_at_random(root, Path(folder) / "data", count, seed=int(time.time()))
    back = {kind: f"{max(outages):.1f} s" for kind, outages in sorted(tally.outages.items())}
    said = f"{len(tally.acknowledged)} acknowledged; {dict(tally.kills)}; back after at most {back}"
    yield Measured(f"readings lost in {count} kills", str(tally.lost), said, "0", tally.lost == 0)
    yield Measured("readings there twice", str(tally.twice), f"{len(tally.found)} there", "0", tally.twice == 0)


def verdicts() -> Iterator[Measured]:
    """What is called real on benches on which nothing is gained."""
    most = float(binom.ppf(0.999, DRAWS, ALARMS)) / DRAWS
    drawn: list[tuple[str, Callable[[str], float]]] = [
        *((case.name, partial(_alarms, case)) for case in CASES),
        *((case.name, partial(_dyno_alarms, case)) for case in DYNO_CASES),
    ]
    for name, alarms in drawn:
        shares = {known: alarms(known) for known in LEARNED}
        said = ", ".join(f"{known} learned {share * 100:.1f} %" for known, share in shares.items())
        worst = max(shares.values())
        yield Measured(name, f"{worst * 100:.1f} %", said, f"{most * 100:.1f} %", worst <= most)


def _alarms(case: Case, known: str) -> float:
    return false_alarms(case, BY_CHANCE, known, DRAWS, seed=1)


def _dyno_alarms(case: DynoCase, known: str) -> float:
    return dyno_alarms(case, BY_CHANCE, known, DRAWS, seed=1)


def fuzz(root: Path) -> Iterator[Measured]:
    """Requests and files at random, on the made-up shop."""
    from fastapi.testclient import TestClient

    from elvarn.api.app import create_app
    from elvarn.demo import fill
    from elvarn.service.kernel.files import FileStore
    from elvarn.store.engine import open_engine
    from elvarn.store.migrate import migrate

    with tempfile.TemporaryDirectory(prefix="elvarn-fuzz-") as folder:
        data = Path(folder)
        data.chmod(0o755)
        cluster = Cluster(data)
        cluster.start()
        try:
            migrate(open_engine(cluster.owner_url))
            engine = open_engine(cluster.url)
            fill.fill_empty(engine, FileStore(data / "files"))
            app = create_app(engine, data / "files", root / "build" / "fonts", KEY)
            client = TestClient(app, "http://127.0.0.1", headers=bearer(KEY), raise_server_exceptions=False)
            tally = fuzzed(client, app.openapi(), REQUESTS, seed=int(time.time()))
            engine.dispose()
        finally:
            cluster.stop()
    said = f"of {sum(tally.answers.values())}: {dict(sorted(tally.answers.items()))} {tally.fell[:SHOWN]}"
    yield Measured("requests that made the server fall", str(len(tally.fell)), said, "0", not tally.fell)
    yield _files()


def _files() -> Measured:
    apart = Apart()
    try:
        tally = mutated(apart, FILES, seed=int(time.time()))
    finally:
        apart.end()
    said = f"of {FILES}: {dict(tally.answers)}; the slowest {tally.slowest_s:.2f} s {tally.fell[:SHOWN]}"
    holds = not tally.fell and tally.slowest_s <= SLOWEST_S
    return Measured(
        "changed files that got no answer", str(len(tally.fell)), said, f"0, none over {SLOWEST_S:g} s", holds
    )
