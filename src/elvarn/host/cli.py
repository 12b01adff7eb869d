"""The commands, and what they wire together."""

import argparse
import json
import os
import sys
from contextlib import suppress
from pathlib import Path
from typing import NoReturn

ROOT = Path(os.environ.get("ELVARN_ROOT", Path(__file__).resolve().parents[3]))
PORT = 8640
MOST_WORKERS = 16


def main() -> None:
    options = _parser().parse_args()
    options.run(options)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="elvarn", description="Flow bench and dyno work for intake porting.")
    commands = parser.add_subparsers(metavar="COMMAND", required=True)

    start = commands.add_parser("start", help="set up what is missing, start Elvarn and print its address")
    start.add_argument("--port", type=int, default=PORT, help=f"port on 127.0.0.1 (default {PORT}; 0: any free)")
    start.add_argument("--data", type=Path, help="data folder (default: data/ beside this command)")
    start.add_argument("--empty", action="store_true", help="start without the demo shop")
    start.add_argument("--workers", type=_count, default=1, help="processes that serve (default 1)")
    start.add_argument("--as-root", action="store_true", help="where root starts it, stay root")
    start.add_argument("--watch", type=Path, metavar="DIR", help="offer dyno files that come into this folder")
    start.set_defaults(run=_start)

    keep = commands.add_parser("backup", help="copy all that is kept into one file, also while Elvarn runs")
    keep.add_argument("file", type=Path, metavar="FILE", help="a new file, for example shop.zip")
    keep.add_argument("--data", type=Path, help="data folder (default: data/ beside this command)")
    keep.set_defaults(run=_backup)

    back = commands.add_parser("restore", help="read a copy back into an empty data folder")
    back.add_argument("file", type=Path, metavar="FILE")
    back.add_argument("--data", type=Path, help="a new or empty folder (default: data/ beside this command)")
    back.set_defaults(run=_restore)

    doctor = commands.add_parser("doctor", help="look at machine, folder, database and disk, and say what to do")
    doctor.add_argument("--data", type=Path, help="data folder (default: data/ beside this command)")
    doctor.set_defaults(run=_doctor)

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

    dyno = commands.add_parser("dyno", help="start a simulated dyno that speaks SCPI over TCP")
    dyno.add_argument("--port", type=int, default=5126, help="port on 127.0.0.1 (default 5126)")
    dyno.add_argument("--seed", type=int, default=1, help="seed of its scatter")
    dyno.set_defaults(run=_dyno)

    perf = commands.add_parser("perf", help="measure speed beside reference runs")
    perf.add_argument("--soak", type=float, default=0, metavar="MINUTES", help="and a bench at ten times its rate")
    perf.add_argument("--kills", type=int, nargs="?", const=100, default=0, metavar="N", help="kill it N times instead")
    perf.add_argument("--fuzz", action="store_true", help="send it what nobody would send instead")
    perf.add_argument("--verdicts", action="store_true", help="draw benches without a gain and count alarms instead")
    perf.set_defaults(run=_perf)

    types = commands.add_parser("types", help="write the front end's types from the API")
    types.set_defaults(run=_types)
    return parser


def _count(text: str) -> int:
    if not text.isdigit() or not 1 <= int(text) <= MOST_WORKERS:
        raise argparse.ArgumentTypeError(f"'{text}' is no count of processes from 1 to {MOST_WORKERS}")
    return int(text)


def _bench(options: argparse.Namespace) -> None:
    import asyncio

    from elvarn.rigs.flow_bench import demo_bench
    from elvarn.rigs.serving import serve_until_stopped

    hint = "ROUT:PORT 2 puts the second runner on."
    with suppress(KeyboardInterrupt):
        asyncio.run(serve_until_stopped(demo_bench(options.seed), options.port, "flow bench", hint))


def _dyno(options: argparse.Namespace) -> None:
    import asyncio

    from elvarn.rigs.dyno import demo_dyno
    from elvarn.rigs.serving import serve_until_stopped

    hint = "ROUT:DES 2 mounts the second design, SIM:FAUL SLIP lets the roller slip."
    with suppress(KeyboardInterrupt):
        asyncio.run(serve_until_stopped(demo_dyno(options.seed), options.port, "dyno", hint))


def _start(options: argparse.Namespace) -> None:
    from elvarn.host.serve import start
    from elvarn.host.user import default_data_folder

    data = (options.data or default_data_folder(ROOT)).resolve()
    watch = options.watch.resolve() if options.watch else None
    if watch is not None and not watch.is_dir():
        _fail(f"{watch} is no folder. Make it, or watch another.")
    start(ROOT, data, options.port, empty=options.empty, workers=options.workers, as_root=options.as_root, watch=watch)


def _backup(options: argparse.Namespace) -> None:
    from elvarn.host.safekeeping import backup_by_hand

    backup_by_hand(ROOT, options.data, options.file.resolve())


def _restore(options: argparse.Namespace) -> None:
    from elvarn.host.safekeeping import restore_by_hand

    restore_by_hand(ROOT, options.data, options.file.resolve())


def _doctor(options: argparse.Namespace) -> None:
    from elvarn.host.doctor import examine
    from elvarn.host.user import default_data_folder

    raise SystemExit(examine(ROOT, (options.data or default_data_folder(ROOT)).resolve()))


def _test(options: argparse.Namespace) -> None:
    from dev.verify import run

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
    from dev.perf.run import run

    run(ROOT, options.soak, options.kills, options.fuzz, options.verdicts)


def _types(_: argparse.Namespace) -> None:
    from dev.verify import write_types

    write_types(ROOT)


def _fail(message: str) -> NoReturn:
    print(f"elvarn: {message}", file=sys.stderr)
    raise SystemExit(1)
