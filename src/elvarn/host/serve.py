"""Serving Elvarn: from an empty data folder to pages, in one process or several."""

import ctypes
import logging
import os
import signal
import socket
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NoReturn

import uvicorn
from fastapi import FastAPI
from uvicorn.supervisors import Multiprocess

from elvarn.api.app import create_app
from elvarn.api.door import address_with_key
from elvarn.demo import fill
from elvarn.host.alone import TakenError, alone
from elvarn.host.cluster import Cluster, ClusterError, secret_in
from elvarn.host.safekeeping import daily
from elvarn.host.user import UserError, claim, close_to_others, step_down
from elvarn.host.watchdog import watched
from elvarn.service.kernel import log
from elvarn.service.kernel.files import FileStore
from elvarn.store.engine import open_engine
from elvarn.store.migrate import migrate

DATA, ROOT, WATCH = "ELVARN_DATA", "ELVARN_ROOT", "ELVARN_WATCH"  # in the environment of every process that serves
KEY_FILE = "key"
STOP_SECONDS = 2
IDLE_SECONDS = 75  # closed sooner, a line could meet the next request of whoever thinks for a moment
READY_SECONDS = 60.0
DIES_WITH_ITS_PARENT = 1  # prctl's PR_SET_PDEATHSIG


def start(
    root: Path, data: Path, port: int, *, empty: bool, workers: int, as_root: bool = False, watch: Path | None = None
) -> None:
    """Set up what is missing, and serve until a signal comes."""
    os.environ |= {DATA: str(data), ROOT: str(root), WATCH: str(watch or "")}
    try:
        claim(data)
        if os.geteuid() == 0 and not as_root:
            step_down(root, data)
        close_to_others(data)
        with alone(data) as say_where, _listening(port) as listener:
            address = f"http://127.0.0.1:{listener.getsockname()[1]}"
            say_where(address)
            cluster = Cluster(data)
            with _said("database"):
                cluster.start()
            try:
                _prepare(cluster, data, empty=empty)
                with watched(cluster), daily(cluster):
                    _serve(listener, address_with_key(address, key_of(data)), workers)
            finally:
                cluster.stop()
                print("Elvarn has stopped.", flush=True)
    except (ClusterError, TakenError, UserError) as error:
        _fail(str(error))
    except OSError as error:
        _fail(f"{error.filename or data}: {error.strerror}. Elvarn has to write in its data folder {data}.")


def application() -> FastAPI:
    """The application as each process that serves makes it, by the environment."""
    root, data = Path(os.environ[ROOT]), Path(os.environ[DATA])
    log.open_log(data / "elvarn.log")
    logging.getLogger("uvicorn.error").addFilter(_not_told_twice)
    engine = open_engine(Cluster(data).url)
    watch = Path(os.environ[WATCH]) if os.environ.get(WATCH) else None
    return create_app(engine, data / "files", root / "build" / "fonts", key_of(data), root / "web" / "dist", watch)


def _not_told_twice(record: logging.LogRecord) -> bool:
    """A fault of ours is in our log, without anybody's name; the server would print all that it said."""
    return not record.getMessage().startswith("Exception in ASGI application")


def key_of(data: Path) -> str:
    """The key to this data folder's Elvarn; programs of its owner read it there."""
    return secret_in(data / KEY_FILE)


def worker() -> FastAPI:
    """The application in one process of several, which ends with the one that began it."""
    ctypes.CDLL(None).prctl(DIES_WITH_ITS_PARENT, signal.SIGTERM)
    return application()


def _prepare(cluster: Cluster, data: Path, *, empty: bool) -> None:
    with _said("schema"):
        owner = open_engine(cluster.owner_url)
        migrate(owner)
        owner.dispose()
    if not empty:
        with _said("demo shop"):
            engine = open_engine(cluster.url)
            fill.fill_empty(engine, FileStore(data / "files"))
            engine.dispose()


def _serve(listener: socket.socket, address: str, workers: int) -> None:
    """Serve until SIGTERM or Ctrl-C; the address is printed once pages are served."""
    said = f"Elvarn is at {address}  (Ctrl-C stops it)"
    if workers > 1:
        config = uvicorn.Config(
            "elvarn.host.serve:worker",
            factory=True,
            workers=workers,
            log_level="warning",
            timeout_graceful_shutdown=STOP_SECONDS,
            timeout_keep_alive=IDLE_SECONDS,
        )
        _Workers(config, [listener], said).run()
        return
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: None)  # uvicorn raises them again when it has ended; the database comes after
    config = uvicorn.Config(
        application(), log_level="warning", timeout_graceful_shutdown=STOP_SECONDS, timeout_keep_alive=IDLE_SECONDS
    )
    _Server(config, said).run(sockets=[listener])


class _Server(uvicorn.Server):
    def __init__(self, config: uvicorn.Config, address: str) -> None:
        super().__init__(config)
        self._address = address

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        await super().startup(sockets=sockets)
        print(self._address, flush=True)


class _Workers(Multiprocess):
    def __init__(self, config: uvicorn.Config, sockets: list[socket.socket], address: str) -> None:
        super().__init__(config, sockets)
        self._address = address

    def init_processes(self) -> None:
        super().init_processes()
        if all(process.wait_until_ready(READY_SECONDS, self.should_exit) for process in self.processes):
            print(self._address, flush=True)


@contextmanager
def _listening(port: int) -> Iterator[socket.socket]:
    listener = socket.socket(
        socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP
    )  # named, or delays are not turned off
    if port:  # one that the system chooses is nobody else's; one that is named may be that of a server just ended
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind(("127.0.0.1", port))
    except OSError:
        listener.close()
        _fail(f"Port {port} is taken by another program. Choose another: ./elvarn start --port {port + 1}")
    with listener:
        yield listener


@contextmanager
def _said(what: str) -> Iterator[None]:
    print(f"· {what} …", end="", flush=True)
    began = time.monotonic()
    yield
    print(f" {time.monotonic() - began:.1f} s", flush=True)


def _fail(message: str) -> NoReturn:
    print(f"elvarn: {message}", file=sys.stderr)
    raise SystemExit(1)
