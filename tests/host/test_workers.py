"""Several processes on one database: each sees at once what another wrote, and one of them holds the benches' lines."""

import asyncio
import json
import threading
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack, closing, contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from time import monotonic

import pytest
import uvicorn
from httpx2 import Client

from dev.asking import Asking, bearer, get, put
from dev.trial import running
from elvarn.api.app import create_app
from elvarn.host.cluster import free_port
from elvarn.rigs.serving import RigServer
from tests.service.bench.test_live import warm_bench
from tests.shop import KEY, Shop, new_id

ROOT = Path(__file__).resolve().parents[2]
A_WHILE = 20


class Listening(uvicorn.Server):
    """A server in a thread that says when it serves."""

    def __init__(self, config):
        super().__init__(config)
        self.serves = threading.Event()

    async def startup(self, sockets=None):
        await super().startup(sockets)
        self.serves.set()


@contextmanager
def serving(engine, folder):
    """A server with memories and lines of its own on this database; its port."""
    port = free_port()
    app = create_app(engine, folder / "files", ROOT / "build" / "fonts", KEY)
    app.openapi()  # routes are built at first use, with warnings caught: not for two servers of one process at a time
    server = Listening(uvicorn.Config(app, port=port, log_level="warning", timeout_graceful_shutdown=1))
    thread = threading.Thread(target=server.run)
    thread.start()
    assert server.serves.wait(A_WHILE)
    try:
        yield port
    finally:
        server.should_exit = True
        thread.join()


@pytest.fixture
def ports(engine, data_folder):
    """Two servers; the first holds the lines."""
    with serving(engine, data_folder) as one, serving(engine, data_folder) as two:
        yield one, two


@pytest.fixture
def shop(ports):
    """A shop that works through the second server."""
    with Client(base_url=f"http://127.0.0.1:{ports[1]}", headers=bearer(KEY)) as client:
        yield Shop(client)


@contextmanager
def simulated_bench():
    """A bench that runs; the port at which it answers."""
    loop = asyncio.new_event_loop()
    thread = threading.Thread(target=loop.run_forever)
    thread.start()
    server = RigServer(warm_bench())
    try:
        yield asyncio.run_coroutine_threadsafe(server.start(0), loop).result(A_WHILE)
    finally:
        asyncio.run_coroutine_threadsafe(server.stop(), loop).result(A_WHILE)
        loop.call_soon_threadsafe(loop.stop)
        thread.join()
        loop.close()


def ask(port, method, path, body=None):
    with closing(Asking(port, KEY, A_WHILE)) as connection:
        connection.request(method, f"/api{path}", json.dumps(body), {"content-type": "application/json"})
        answer = connection.getresponse()
        said = json.loads(answer.read())
        assert answer.status == 200, said
        return said


def states(port, bench):
    """What a server tells of a bench's line, as it comes."""
    with closing(Asking(port, KEY, A_WHILE)) as connection:
        connection.request("GET", f"/api/benches/{bench}/live")
        until = monotonic() + A_WHILE
        for line in connection.getresponse():
            assert monotonic() < until
            if line.startswith(b"data: "):
                yield json.loads(line[6:])


def first_figure(port, bench):
    return next(state for state in states(port, bench) if state["taken"] and state["count"] == 10)


def test_what_one_server_writes_the_other_shows_at_once(ports, shop):
    job = shop.job()
    setup, state = shop.setup(job), shop.sheet(job)["before_state_id"]
    for number in range(12):
        writer, reader = ports[number % 2], ports[(number + 1) % 2]
        assert ask(reader, "GET", f"/jobs/{job}/bench")["rungs"][0]["before"]["readings"][number:] == []
        body = {"person_id": shop.person, "job_id": job, "setup_id": setup, "part_state_id": state, "cylinder": 1,
                "typed": f"{200 + number}", "accepted": ["already_read", "far_repeat"],
                "taken_at": "2026-03-02T09:00:00Z"}  # fmt: skip
        ask(writer, "PUT", f"/flow-readings/{new_id()}", body)
        shown = ask(reader, "GET", f"/jobs/{job}/bench")["rungs"][0]["before"]["readings"]
        assert len(shown) == number + 1


def test_builds_made_at_the_same_time_each_get_a_number(ports, shop):
    job = shop.job()
    source = shop.get(f"/jobs/{job}")["builds"][0]["id"]

    def copy(number):
        body = {"person_id": shop.person, "copy_of": source, "name": f"Variant {number}"}
        return ask(ports[number % 2], "PUT", f"/build-copies/{new_id()}", body)

    with ThreadPoolExecutor(8) as several:
        list(several.map(copy, range(8)))
    names = [build["name"] for build in shop.get(f"/jobs/{job}")["builds"]]
    assert {f"Variant {number}" for number in range(8)} <= set(names)


def test_one_server_holds_the_line_and_both_show_it(ports, shop):
    with simulated_bench() as port:
        bench = new_id()
        ask(ports[0], "PUT", f"/benches/{bench}", {"name": f"Shared {bench[:5]}", "line": {"port": port}})
        with ThreadPoolExecutor(2) as both:
            found = list(both.map(lambda server: first_figure(server, bench), ports))
    for state in found:
        assert state["state"] == "speaking"
        assert 25 < state["taken"]["depression_inh2o"] < 28


def test_another_server_takes_the_lines_where_their_holder_ends(engine, data_folder):
    with simulated_bench() as port, ExitStack() as stays:
        with serving(engine, data_folder) as holder:
            follower = stays.enter_context(serving(engine, data_folder))
            bench = new_id()
            ask(follower, "PUT", f"/benches/{bench}", {"name": "Left alone", "line": {"port": port}})
            told = states(follower, bench)
            stays.callback(told.close)
            last = next(state["new"][-1]["number"] for state in told if state["count"] == 10)
            assert first_figure(holder, bench)
        anew = next(state for state in told if state["new"] and state["new"][0]["number"] < last)
        assert anew["state"] == "speaking"


def test_a_start_with_several_workers_serves_and_stops():
    with TemporaryDirectory(prefix="elvarn-workers-") as name:
        folder = Path(name)
        folder.chmod(0o755)
        with running(ROOT, folder, "--empty", "--workers", "2") as url:
            put(url, f"/people/{new_id()}", {"name": "Tester"})
            for _ in range(20):
                assert [person["name"] for person in get(url, "/shop")["people"]] == ["Tester"]
        assert not (folder / "postgres" / "postmaster.pid").exists()
