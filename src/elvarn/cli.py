"""The commands, and what they wire together."""

import argparse
import fcntl
import json
import os
import signal
import socket
import sys
import time
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy import Engine

ROOT = Path(os.environ.get("ELVARN_ROOT", Path(__file__).resolve().parents[2]))
PORT = 8640


def main() -> None:
    options = _parser().parse_args()
    options.run(options)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="elvarn", description="Flow bench and dyno work for intake porting.")
    commands = parser.add_subparsers(metavar="COMMAND", required=True)

    start = commands.add_parser("start", help="set up what is missing, start Elvarn and print its address")
    start.add_argument("--port", type=int, default=PORT, help=f"port on 127.0.0.1 (default {PORT})")
    start.add_argument("--data", type=Path, help="data folder (default: data/ beside this command)")
    start.add_argument("--empty", action="store_true", help="start without the demo shop")
    start.set_defaults(run=_start)

    test = commands.add_parser("test", help="run lint, types, import contracts and all tests")
    test.add_argument("pytest", nargs="*", help="tests to run alone, without the checks before them")
    test.set_defaults(run=_test)

    calc = commands.add_parser("calc", help="run one calculation: JSON in, JSON out")
    calc.add_argument("name", nargs="?")
    calc.add_argument("--list", action="store_true", help="name the calculations, with an example of each")
    calc.set_defaults(run=_calc)

    bench = commands.add_parser("bench", help="start a simulated flow bench that speaks SCPI over TCP")
    bench.add_argument("--port", type=int, default=5125, help="port on 127.0.0.1 (default 5125)")
    bench.add_argument("--seed", type=int, default=1, help="seed of its noise")
    bench.set_defaults(run=_bench)

    perf = commands.add_parser("perf", help="measure speed beside reference runs")
    perf.add_argument("--soak", type=float, default=0, metavar="MINUTES", help="and a bench at ten times its rate")
    perf.set_defaults(run=_perf)

    types = commands.add_parser("types", help="write the front end's types from the API")
    types.set_defaults(run=_types)
    return parser


def _bench(options: argparse.Namespace) -> None:
    import asyncio

    from elvarn.rigs.flow_bench import serve_until_stopped

    with suppress(KeyboardInterrupt):
        asyncio.run(serve_until_stopped(options.port, options.seed))


def _start(options: argparse.Namespace) -> None:
    import uvicorn

    from elvarn.api.app import create_app
    from elvarn.cluster import Cluster, ClusterError, default_data_folder
    from elvarn.store.engine import open_engine
    from elvarn.store.migrate import migrate

    try:
        data = (options.data or default_data_folder(ROOT)).resolve()
        data.mkdir(parents=True, exist_ok=True)
        with _alone(data, options.port), _listening(options.port) as listener:
            cluster = Cluster(data)
            with _said("database"):
                cluster.start()
            try:
                engine = open_engine(cluster.url)
                with _said("schema"):
                    migrate(engine)
                if not options.empty:
                    _fill_demo(engine, data)
                app = create_app(engine, data / "files", ROOT / "build" / "fonts", ROOT / "web" / "dist")
                config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=2)
                _serve(uvicorn.Server(config), listener, options.port)
            finally:
                cluster.stop()
                print("Elvarn has stopped.", flush=True)
    except (ClusterError, OSError) as error:
        _fail(str(error))


def _fill_demo(engine: "Engine", data: Path) -> None:
    from elvarn.demo import fill
    from elvarn.service.files import FileStore

    with _said("demo shop"):
        fill.fill_empty(engine, FileStore(data / "files"))


def _serve(server: Any, listener: socket.socket, port: int) -> None:
    """Serve until SIGTERM or Ctrl-C; the address is printed once pages are served."""
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: None)  # uvicorn raises them again when it has ended; the database comes after
    begin = server.startup

    async def startup(sockets: list[socket.socket] | None = None) -> None:
        await begin(sockets=sockets)
        print(f"Elvarn is at http://127.0.0.1:{port}  (Ctrl-C stops it)", flush=True)

    server.startup = startup
    server.run(sockets=[listener])


@contextmanager
def _alone(data: Path, port: int) -> "Iterator[None]":
    """Hold the data folder: two servers on one folder would fight over the database."""
    with (data / "lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            lock.seek(0)
            _fail(f"Elvarn already runs on {data}, at {lock.read().strip()}. Stop it first, or choose another --data.")
        lock.truncate(0)
        lock.write(f"http://127.0.0.1:{port}")
        lock.flush()
        yield


@contextmanager
def _listening(port: int) -> "Iterator[socket.socket]":
    listener = socket.socket(
        socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP
    )  # named, or delays are not turned off
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind(("127.0.0.1", port))
    except OSError:
        listener.close()
        _fail(f"Port {port} is taken by another program. Choose another: ./elvarn start --port {port + 1}")
    with listener:
        yield listener


def _test(options: argparse.Namespace) -> None:
    from elvarn.checks import run

    run(ROOT, options.pytest)


def _calc(options: argparse.Namespace) -> None:
    from pydantic import ValidationError

    from elvarn.core.errors import CoreError
    from elvarn.service.calc import CALCULATIONS, run

    if options.list or not options.name:
        for calculation in CALCULATIONS.values():
            print(f"{calculation.name:20} {calculation.answers}\n{'':20} {json.dumps(calculation.example)}")
        return
    if options.name not in CALCULATIONS:
        _fail(f"There is no calculation '{options.name}'. Known: {', '.join(CALCULATIONS)}.")
    try:
        print(json.dumps(run(options.name, json.load(sys.stdin)), indent=2))
    except json.JSONDecodeError as error:
        _fail(f"The input is no JSON: {error}. An example: ./elvarn calc --list")
    except ValidationError as error:
        _fail("\n".join(f"{'.'.join(map(str, e['loc']))}: {e['msg']}" for e in error.errors()))
    except CoreError as error:
        _fail(str(error))


def _perf(options: argparse.Namespace) -> None:
    from elvarn.perf import run

    run(ROOT, options.soak)


def _types(_: argparse.Namespace) -> None:
    from elvarn.checks import write_types

    write_types(ROOT)


@contextmanager
def _said(what: str) -> "Iterator[None]":
    print(f"· {what} …", end="", flush=True)
    began = time.monotonic()
    yield
    print(f" {time.monotonic() - began:.1f} s", flush=True)


def _fail(message: str) -> NoReturn:
    print(f"elvarn: {message}", file=sys.stderr)
    raise SystemExit(1)
